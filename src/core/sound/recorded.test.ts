import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plainSpeech, speechSeconds } from '../messages/ssml';
import { type FindRecorded, mixedVoices, saidSeconds, sameWords, spokenParts } from './recorded';

const there = (...words: readonly string[]): FindRecorded => {
  const set = new Map(words.map((w, i) => [w, { id: `r${i}`, seconds: 2 }]));
  return (language, text) => (language === 'en' ? (set.get(text) ?? null) : null);
};
const heard = (text: string, find: FindRecorded, language = 'en') =>
  spokenParts(text, language, find).map((p) => (p.recorded ? `[${p.text}]` : p.text));

describe('words that were recorded', () => {
  it('are played where exactly these are said, sentence by sentence, the longest run first', () => {
    expect(heard('Hello there.  Which one?', there('Which one?'))).toEqual(['Hello there.', '[Which one?]']);
    expect(heard('A. B. C. D.', there('B.', 'B. C.', 'C.'))).toEqual(['A.', '[B. C.]', 'D.']);
    expect(heard('Which one?', there('Which one'))).toEqual(['Which one?']);
    expect(heard('Which one?', there('Which one?'), 'es')).toEqual(['Which one?']);
    expect(heard('', there('x'))).toEqual([]);
  });
  it('last as long as their file, the rest as it is spoken', () => {
    const find = there('Which one?');
    expect(saidSeconds(plainSpeech('Which one?'), 'en', find)).toBe(2);
    expect(saidSeconds(plainSpeech('Hello. Which one?'), 'en', find)).toBe(2 + speechSeconds(plainSpeech('Hello.')));
    const tagged = { text: 'Hello <break time="2s"/>', tagged: true };
    expect(saidSeconds(tagged, 'en', find)).toBe(speechSeconds(tagged));
  });
  it('mixed with spoken ones in a language are two voices', () => {
    const words = [
      { language: 'en', text: 'A.' },
      { language: 'en', text: 'B.' },
      { language: 'es', text: 'A.' },
    ];
    expect(mixedVoices(words, there('A.'))).toEqual([{ language: 'en', recorded: 1, of: 2 }]);
    expect(mixedVoices(words, there('A.', 'B.'))).toEqual([]);
    expect(mixedVoices(words, there())).toEqual([]);
  });
  it('whatever is recorded, what is heard is what is written', () => {
    const sentence = fc.constantFrom('A.', 'B?', 'C!', 'D', 'E… F.');
    fc.assert(
      fc.property(fc.array(sentence, { maxLength: 8 }), fc.array(sentence, { maxLength: 4 }), (said, recorded) => {
        const text = said.join('  ');
        const parts = spokenParts(text, 'en', there(...recorded, recorded.slice(0, 2).join(' ')));
        expect(parts.map((p) => p.text).join(' ')).toBe(sameWords(text));
      }),
    );
  });
});
