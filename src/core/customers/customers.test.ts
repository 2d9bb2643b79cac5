import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { joinedWith, type Tie } from './joining';
import { withoutTexts } from './without';

const ids = ['a', 'b', 'c', 'd', 'e', 'f'];
const tie = fc
  .tuple(fc.constantFrom(...ids), fc.constantFrom(...ids))
  .map(([customerId, otherId]): Omit<Tie, 'id'> => ({ customerId, otherId }));

describe('who is one with whom', () => {
  it('everybody is in one group, whichever of it is asked, and nobody in two', () =>
    fc.assert(
      fc.property(fc.array(tie, { maxLength: 8 }), (all) => {
        const ties = all.map((t, i) => ({ ...t, id: String(i) }));
        const groups = ids.map((id) => joinedWith(id, ties).sort().join());
        for (const [i, id] of ids.entries())
          for (const other of groups[i]?.split(',') ?? []) {
            expect(groups[ids.indexOf(other)]).toBe(groups[i]);
            expect(groups[i]?.split(',')).toContain(id);
          }
        expect([...new Set(groups)].join().split(',').sort()).toEqual(ids);
        for (const { customerId, otherId } of ties)
          expect(groups[ids.indexOf(customerId)]).toBe(groups[ids.indexOf(otherId)]);
      }),
    ));
  it('without ties everybody is alone, and the first named is whoever is asked', () => {
    expect(joinedWith('b', [])).toEqual(['b']);
    expect(joinedWith('b', [{ id: '1', customerId: 'a', otherId: 'b' }])).toEqual(['b', 'a']);
  });
});

describe('taking texts out', () => {
  const gone = new Set(['my own words']);
  it('drops them from lists, and what has them as its text; elsewhere they become empty', () => {
    const kept = {
      v: 3,
      intents: [{ id: 'x', examples: { en: ['hello', 'my own words'] } }],
      aside: [
        { text: 'my own words', language: 'en' },
        { text: 'others', language: 'en' },
      ],
      note: 'my own words',
      about: 'my own words, and more',
    };
    expect(withoutTexts(kept, gone)).toEqual({
      v: 3,
      intents: [{ id: 'x', examples: { en: ['hello'] } }],
      aside: [{ text: 'others', language: 'en' }],
      note: '',
      about: 'my own words, and more',
    });
  });
  it('leaves no trace of any text in any JSON, and what has none of them as it is', () =>
    fc.assert(
      fc.property(fc.jsonValue(), fc.string({ minLength: 1 }), (value, text) => {
        const left = withoutTexts(value, new Set([text]));
        const strings: string[] = [];
        JSON.stringify(left, (_name, one: unknown) => {
          if (typeof one === 'string') strings.push(one);
          return one;
        });
        expect(strings).not.toContain(text);
        if (!JSON.stringify(value).includes(JSON.stringify(text))) expect(left).toBe(value);
      }),
    ));
});
