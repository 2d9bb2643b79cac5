import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lexiconOf } from '../../data/lexicons';
import { feelingOf, type Lexicon, moodOf, MOODS } from './mood';

const lexicon: Lexicon = {
  feels: new Map([
    ['awful', -3],
    ['great', 3],
    ['cold', -1],
    ['superb', 5],
    ['🙂', 2],
  ]),
  turns: new Set(['not']),
};
const word = fc.constantFrom('awful', 'great', 'cold', 'superb', '🙂', 'not', 'the', 'parcel', 'Été', '12');
const text = fc.array(word, { maxLength: 12 }).map((words) => words.join(' '));

describe('how a text feels', () => {
  it('is the sum of its words, levelled off; what stands behind a word that turns it is turned, though less strongly', () => {
    expect(feelingOf('It was GREAT.', lexicon)).toBeCloseTo(3 / Math.sqrt(9 + 15), 9);
    expect(feelingOf('not awful', lexicon)).toBeCloseTo(2.22 / Math.sqrt(2.22 ** 2 + 15), 9);
    expect(feelingOf('not the very awful', lexicon)).toBeGreaterThan(0);
    expect(feelingOf('not a word of the awful', lexicon)).toBeLessThan(0);
    expect(feelingOf('superb 🙂', lexicon)).toBeCloseTo(7 / 8, 9);
  });
  it('says nothing where no word does, or only what something is about', () => {
    expect(feelingOf('the parcel is cold', lexicon)).toBeNull();
    expect(feelingOf('', lexicon)).toBeNull();
  });
  it('lies between −1 and 1, and is the other way round where all words are', () => {
    const other: Lexicon = { ...lexicon, feels: new Map([...lexicon.feels].map(([name, n]) => [name, -n])) };
    fc.assert(
      fc.property(text, (one) => {
        const [there, back] = [feelingOf(one, lexicon), feelingOf(one, other)];
        expect(back === null).toBe(there === null);
        expect(Math.abs(there ?? 0)).toBeLessThan(1);
        expect(back ?? 0).toBeCloseTo(-(there ?? 0), 9);
      }),
    );
  });
});

describe('the mood of a conversation', () => {
  it('is by all that the customer said; the last words count for more', () => {
    expect(moodOf(['awful great', 'great awful'], lexicon)).toBe('even');
    expect(moodOf(['awful', 'great', 'great'], lexicon)).toBe('pleased');
    expect(moodOf(['awful', 'the parcel', 'great', 'great'], lexicon)).toBe('pleased');
    expect(moodOf(['great', 'awful', 'awful'], lexicon)).toBe('upset');
    expect(moodOf(['where is the parcel?'], lexicon)).toBe('even');
    // One word alone says what it is about, unless it is called out.
    expect([moodOf(['the awful noise'], lexicon), moodOf(['awful!'], lexicon)]).toEqual(['even', 'upset']);
  });
  it('is not known of somebody who said no word', () => {
    expect(moodOf([], lexicon)).toBeNull();
    expect(moodOf(['1', '  ', '4711'], lexicon)).toBeNull();
  });
  it('never gets worse by another kind word at the end, nor better by an unkind one', () => {
    fc.assert(
      fc.property(fc.array(text, { minLength: 1, maxLength: 6 }), (said) => {
        const before = moodOf(said, lexicon);
        if (before === null) return;
        const rank = (mood: ReturnType<typeof moodOf>) => (mood === null ? 1 : MOODS.indexOf(mood));
        const last = said.at(-1) ?? '';
        const [kinder, unkinder] = ['superb', 'awful'].map((one) => [
          ...said.slice(0, -1),
          `${last} the the the ${one} ${one}`,
        ]);
        expect(rank(moodOf(kinder ?? [], lexicon))).toBeGreaterThanOrEqual(Math.min(rank(before), 1));
        expect(rank(moodOf(unkinder ?? [], lexicon))).toBeLessThanOrEqual(Math.max(rank(before), 1));
      }),
    );
  });
  it('in languages of the world, by their own words', () => {
    const mood = (language: string, ...said: string[]) => {
      const words = lexiconOf(language);
      return words && moodOf(said, words);
    };
    expect(mood('en-GB', 'I am very unhappy with this, it is a disgrace')).toBe('upset');
    expect(mood('en', 'Thank you so much, that was brilliant')).toBe('pleased');
    expect(mood('en', 'not happy at all, and I am not satisfied')).toBe('upset');
    expect(mood('en', 'half the keys of it are dead')).toBe('even');
    expect(mood('fr', 'C’est une honte, c’est terrible')).toBe('upset');
    expect(mood('fr', 'Merci beaucoup, parfait')).toBe('pleased');
    expect(mood('es', 'Es un desastre, es horrible')).toBe('upset');
    expect(mood('de', 'Ich bin enttäuscht und wütend')).toBe('upset');
    expect(mood('pl', 'Jestem bardzo niezadowolony!')).toBe('upset');
  });
  it('is not judged where there is no lexicon', () => {
    expect([lexiconOf('tlh'), lexiconOf(''), lexiconOf('../..'), lexiconOf('en')?.feels.get('happy')]).toEqual([
      null,
      null,
      null,
      3,
    ]);
  });
});
