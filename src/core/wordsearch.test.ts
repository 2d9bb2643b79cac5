import { describe, expect, it } from 'vitest';
import { around, haveWords, searchedDigits, searchedWords } from './wordsearch';

describe('what is looked for in words', () => {
  it('is each word, without case and accents; what is in quotation marks stays together', () => {
    expect(searchedWords('  Bridge  “snapped in two”  É ')).toEqual(['bridge', 'snapped in two', 'e']);
    expect(searchedWords('"open')).toEqual(['open']);
    expect(searchedWords('  ')).toEqual([]);
  });
  it('is found when all words are, in one text or several', () => {
    const said = ['The BRIDGE of my cello', 'it snapped', 'número'];
    expect(haveWords(said, searchedWords('cello snapped NUMERO'))).toBe(true);
    expect(haveWords(said, searchedWords('"cello snapped"'))).toBe(false);
    expect(haveWords(said, searchedWords('violin bridge'))).toBe(false);
  });
  it('is shown with what stands around it', () => {
    expect(around('The bridge of the cello snapped yesterday evening', ['snapped'], 10)).toBe('…the cello snapped ye…');
    expect(around('snapped', ['snapped'])).toBe('snapped');
    expect(around('nothing', ['snapped'])).toBeNull();
  });
});

describe('a number in any spelling', () => {
  it('is its digits; a name or an address is none', () => {
    expect(searchedDigits('+353 (20) 913-1234')).toBe('353209131234');
    expect(searchedDigits('020 9131234')).toBe('209131234');
    expect(searchedDigits('visitor-12@chat.example')).toBe('');
    expect(searchedDigits('12')).toBe('');
  });
});
