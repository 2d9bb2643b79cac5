import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Asked, groupsOf, stemsOf } from './questions';

const asked = (text: string, times = 1, language = 'en'): Asked => ({ text, language, times });

describe('questions put to articles', () => {
  it('are looked up by the beginnings of the words that say something', () => {
    expect(stemsOf('When do I get my deposit back?', 'en')).toContain('depos');
    expect(stemsOf('the and of', 'en')).toEqual([]);
    expect(stemsOf('', 'en')).toEqual([]);
  });
  it('are put together by what they ask for, in their language, the most frequent first', () => {
    const groups = groupsOf([
      asked('where can I park my van'),
      asked('do you have wifi', 3),
      asked('can I park a van there', 2),
      asked('wifi please', 1),
      asked('wifi', 1, 'es'),
    ]);
    expect(groups.map((g) => [g.times, g.questions.map((q) => q.text)])).toEqual([
      [4, ['do you have wifi', 'wifi please']],
      [3, ['can I park a van there', 'where can I park my van']],
      [1, ['wifi']],
    ]);
  });
  it('are each in one group, and none is lost', () => {
    const words = fc.subarray(['parking', 'ticket', 'window', 'garden', 'lamp', 'the', 'my'], { minLength: 1 });
    const question = fc.record({
      text: words.map((w) => w.join(' ')),
      language: fc.constantFrom('en', 'es'),
      times: fc.integer({ min: 1, max: 9 }),
    });
    fc.assert(
      fc.property(fc.uniqueArray(question, { selector: (q) => `${q.language} ${q.text}`, maxLength: 30 }), (all) => {
        const groups = groupsOf(all);
        expect(groups.flatMap((g) => g.questions).toSorted(byText)).toEqual(all.toSorted(byText));
        for (const { language, times, questions } of groups) {
          expect(questions.every((q) => q.language === language)).toBe(true);
          expect(times).toBe(questions.reduce((n, q) => n + q.times, 0));
        }
        // In whatever order they come, they come out the same.
        expect(groupsOf(all.toReversed())).toEqual(groups);
      }),
    );
  });
});
const byText = (a: Asked, b: Asked) => (`${a.language} ${a.text}` < `${b.language} ${b.text}` ? -1 : 1);
