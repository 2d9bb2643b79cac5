import { describe, expect, it } from 'vitest';
import { type OfferedBy, type Option, withOptions } from './options';
import { plainSpeech, speechParts, withoutTags, wordingSpeech } from './ssml';

const OPTIONS: readonly Option[] = [
  { key: '1', label: 'a hire' },
  { key: '2', label: 'a repair' },
];
const onCall = (question: string, by: OfferedBy = 'keys', options = OPTIONS, language = 'en') =>
  withoutTags(withOptions('voice', language, wordingSpeech(question), options, by));

describe('what can be answered', () => {
  it.each<[OfferedBy, string]>([
    ['keys', 'Which? For a hire, press 1. For a repair, press 2.'],
    ['words', 'Which? You can say: a hire, a repair.'],
    ['both', 'Which? For a hire, say so or press 1. For a repair, say so or press 2.'],
  ])('on a call, told by %s', (by, said) => expect(onCall('Which?', by)).toBe(said));
  it('says each key once: one that the words tell to press is not told again', () => {
    expect(onCall('For a hire press 1.')).toBe('For a hire press 1. For a repair, press 2.');
    expect(onCall('Press 1 or press 2.', 'both')).toBe('Press 1 or press 2.');
    expect(onCall('Pulse 2 para eso.', 'keys', OPTIONS, 'es')).toBe('Pulse 2 para eso. Para a hire, pulse 1.');
    // A number is not a key that is told: neither in passing, nor as the beginning of another.
    expect(onCall('Within 1 or 2 days?')).toContain('press 1');
    expect(onCall('Press 12 later.')).toContain('press 1');
  });
  it('what has no key is offered by words alone, or by nobody', () => {
    const unkeyed = OPTIONS.map((o) => ({ ...o, key: '' }));
    expect(onCall('Which?', 'keys', unkeyed)).toBe('Which?');
    expect(onCall('Which?', 'both', unkeyed)).toBe('Which? You can say: a hire, a repair.');
  });
  it('a language is offered in that language, and spoken in it', () => {
    const languages = [...OPTIONS, { key: '8', label: 'español', language: 'es' }];
    for (const by of ['keys', 'both'] as const) {
      const speech = withOptions('voice', 'en', plainSpeech('A < B?'), languages, by);
      expect(withoutTags(speech)).toContain('A < B? For a hire');
      const spanish = speechParts(speech).find((p) => 'say' in p && p.language === 'es');
      expect(spanish).toMatchObject({ say: expect.stringMatching(/^Para español, .*pulse 8\.$/) });
    }
    expect(onCall('Which?', 'words', languages)).toBe('Which? You can say: a hire, a repair. Puede decir: español.');
    expect(onCall('¿Cuál?', 'keys', languages, 'es')).toContain('Para español, pulse 8.');
  });
  it('in writing each stands on a line with its number; in chat it is there to be pressed', () => {
    expect(withOptions('sms', 'en', plainSpeech('Press 1?'), OPTIONS, 'words').text).toBe(
      'Press 1?\n1 a hire\n2 a repair',
    );
    expect(withOptions('chat', 'en', plainSpeech('Which?'), OPTIONS, 'keys')).toEqual(plainSpeech('Which?'));
  });
});
