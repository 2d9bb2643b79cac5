import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clashesOf, merged, type Side } from './merging';
import { laidOn, ORDER, partsOf, standingAt } from './parts';

const id = fc.constantFrom('a', 'b', 'c', 'd');
/** Things as settings are: fields, lists of named things in an order, lists of plain values. */
const thing = fc.record(
  {
    name: fc.constantFrom('Repairs', 'Strings', 'Billing'),
    goal: fc.record({ percent: fc.nat(3), seconds: fc.nat(3) }),
    rows: fc.uniqueArray(
      fc.record({
        id,
        band: fc.nat(2),
        words: fc.dictionary(fc.constantFrom('en', 'fr'), fc.constantFrom('x', 'y'), { maxKeys: 2 }),
      }),
      { selector: (row) => row.id, maxLength: 4 },
    ),
    sides: fc.uniqueArray(fc.record({ queueId: id, channel: fc.constantFrom('chat', 'voice'), delay: fc.nat(2) }), {
      selector: (side) => `${side.queueId} ${side.channel}`,
      maxLength: 4,
    }),
    order: fc.array(fc.constantFrom('longest', 'level'), { maxLength: 3 }),
    days: fc.uniqueArray(fc.record({ date: id, note: fc.constantFrom('', 'x') }), {
      selector: (d) => d.date,
      maxLength: 3,
    }),
    mixed: fc.array(fc.oneof(fc.record({ id }), fc.nat(2)), { maxLength: 3 }),
  },
  { requiredKeys: ['name'] },
);
const always = (side: Side) => () => side;

describe('the parts of a change', () => {
  it('laid on what was there give what it is to be, and none are no change', () => {
    fc.assert(
      fc.property(thing, thing, (from, to) => {
        for (const byWord of [false, true]) expect(laidOn(from, partsOf(from, to, byWord))).toEqual(to);
        expect(partsOf(from, from)).toEqual([]);
        for (const part of partsOf(from, to)) {
          expect(standingAt(from, part.path)).toEqual(part.from);
          expect(standingAt(to, part.path)).toEqual(part.to);
        }
      }),
    );
  });
  it('an item is known by what names it, wherever it stands; a new order is a part of its own', () => {
    const [a, b, c] = [
      { id: 'a', n: 1 },
      { id: 'b', n: 2 },
      { id: 'c', n: 3 },
    ];
    expect(partsOf({ rows: [a, b] }, { rows: [a, b, c] })).toEqual([{ path: ['rows', 'c'], to: c }]);
    expect(partsOf({ rows: [a, b] }, { rows: [{ ...a, n: 9 }, b] })).toEqual([
      { path: ['rows', 'a', 'n'], from: 1, to: 9 },
    ]);
    expect(partsOf({ rows: [a, b] }, { rows: [b, a] })).toEqual([
      { path: ['rows', ORDER], from: ['a', 'b'], to: ['b', 'a'] },
    ]);
  });
  it('lie on another version as well: beside what was added there, and not within what is gone', () => {
    const parts = partsOf({ rows: [{ id: 'a', n: 1 }] }, { rows: [{ id: 'a', n: 2 }, { id: 'b' }] });
    expect(laidOn({ rows: [{ id: 'x' }, { id: 'a', n: 1, more: true }] }, parts)).toEqual({
      rows: [{ id: 'x' }, { id: 'a', n: 2, more: true }, { id: 'b' }],
    });
    expect(laidOn({ rows: [] }, parts)).toEqual({ rows: [{ id: 'b' }] });
    expect(laidOn({}, parts)).toEqual({});
  });
});

describe('two changes of one thing', () => {
  it('are one where only one side changed anything', () => {
    fc.assert(
      fc.property(thing, thing, (base, other) => {
        for (const side of ['mine', 'theirs'] as const) {
          expect(merged(base, other, base, always(side))).toEqual(other);
          expect(merged(base, base, other, always(side))).toEqual(other);
          expect(merged(base, other, other, always(side))).toEqual(other);
        }
        expect(clashesOf(base, other, base)).toEqual([]);
        expect(clashesOf(base, other, other)).toEqual([]);
      }),
    );
  });
  it('come to the same whoever is called mine, and no part of either is lost but by choice', () => {
    fc.assert(
      fc.property(thing, thing, thing, (base, mine, theirs) => {
        const clashes = clashesOf(base, mine, theirs);
        const here = merged(base, mine, theirs, always('mine'));
        const there = merged(base, theirs, mine, always('theirs'));
        // Only what both added to one list may stand in another order.
        expect(unordered(here)).toEqual(unordered(there));
        const clashing = (path: readonly string[]) =>
          clashes.some((c) => c.path.every((key, i) => path[i] === key) || path.every((key, i) => c.path[i] === key));
        for (const part of [...partsOf(base, mine, true), ...partsOf(base, theirs, true)])
          if (!clashing(part.path) && part.path.at(-1) !== ORDER) expect(standingAt(here, part.path)).toEqual(part.to);
        for (const clash of clashes)
          if (clash.path.at(-1) !== ORDER) {
            expect(unordered(standingAt(here, clash.path))).toEqual(unordered(clash.mine));
            expect(unordered(standingAt(merged(base, mine, theirs, always('theirs')), clash.path))).toEqual(
              unordered(clash.theirs),
            );
          }
      }),
    );
  });
  it('clash where both say something else of one place, at its widest', () => {
    const base = { goal: 80, rows: [{ id: 'a', words: { en: 'Hello', fr: 'Salut' } }] };
    const mine = { goal: 90, rows: [{ id: 'a', words: { en: 'Good day', fr: 'Salut' } }] };
    expect(clashesOf(base, mine, { ...base, goal: 85 })).toEqual([{ path: ['goal'], base: 80, mine: 90, theirs: 85 }]);
    // One took away what the other changed a word of.
    const gone = { goal: 80, rows: [] };
    expect(clashesOf(base, mine, gone)).toEqual([
      { path: ['rows', 'a'], base: base.rows[0], mine: mine.rows[0], theirs: undefined },
    ]);
    expect(merged(base, mine, gone as never, always('mine'))).toEqual(mine);
    expect(merged(base, mine, gone as never, always('theirs'))).toEqual({ goal: 90, rows: [] });
    // Each a word of the same line.
    const theirs = { goal: 80, rows: [{ id: 'a', words: { en: 'Hello', fr: 'Bonjour' } }] };
    expect(merged(base, mine, theirs, always('theirs'))).toEqual({
      goal: 90,
      rows: [{ id: 'a', words: { en: 'Good day', fr: 'Bonjour' } }],
    });
  });
  it('may each put something between the same two, and the one may move what the other adds to', () => {
    const list = (...ids: string[]) => ids.map((one) => ({ id: one }));
    expect(merged(list('a', 'b'), list('a', 'x', 'b'), list('a', 'y', 'b'), always('mine'))).toEqual(
      list('a', 'x', 'y', 'b'),
    );
    expect(clashesOf(list('a', 'b'), list('x', 'a', 'b'), list('b', 'a'))).toEqual([]);
    expect(merged(list('a', 'b'), list('x', 'a', 'b'), list('b', 'a'), always('mine'))).toEqual(list('x', 'b', 'a'));
    expect(clashesOf(list('a', 'b', 'c'), list('b', 'a', 'c'), list('a', 'c', 'b'))).toMatchObject([
      { path: [ORDER], mine: ['b', 'a', 'c'], theirs: ['a', 'c', 'b'] },
    ]);
  });
  it('may each add a word to one list, and take another away', () => {
    const words = (...en: string[]) => ({ en });
    expect(merged(words('hi', 'ho'), words('hi', 'ho', 'hey'), words('hi', 'yo'), always('mine'))).toEqual(
      words('hi', 'yo', 'hey'),
    );
  });
  it('put back what one did is the other’s work left as it is', () => {
    fc.assert(
      fc.property(thing, thing, thing, (before, after, later) => {
        // What was changed for a time goes back by itself; whatever somebody changed since stands.
        const back = merged(after, before, later, always('theirs'));
        for (const part of partsOf(after, later, true))
          if (part.path.at(-1) !== ORDER) expect(unordered(standingAt(back, part.path))).toEqual(unordered(part.to));
        expect(merged(after, before, after, always('theirs'))).toEqual(before);
      }),
    );
  });
});

/** Lists of named things, and of words, in one order: of what both added, either may stand first. */
function unordered(value: unknown): unknown {
  if (Array.isArray(value)) {
    const items = value.map(unordered);
    return items.every((item) => typeof item === 'object' || typeof item === 'string')
      ? items.map((item) => JSON.stringify(item)).sort()
      : items;
  }
  return typeof value === 'object' && value !== null
    ? Object.fromEntries(
        Object.entries(value)
          .map(([k, v]) => [k, unordered(v)] as const)
          .sort(([a], [b]) => (a < b ? -1 : 1)),
      )
    : value;
}
