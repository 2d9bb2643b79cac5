import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { describeDifferences, differences, sameValue, sayValue } from './differences';

const say = { name: (id: string) => ({ team_a: 'Front desk', skill_b: 'Brass' })[id] ?? id, time: () => 'then' };
const value = fc.letrec((tie) => ({
  any: fc.oneof(
    { maxDepth: 3 },
    fc.integer({ min: 0, max: 99 }),
    fc.constantFrom('a', 'b', '', null, true, false),
    fc.array(fc.integer({ min: 0, max: 3 }), { maxLength: 3 }),
    fc.dictionary(fc.constantFrom('name', 'levels', 'x', 'y'), tie('any'), { maxKeys: 4 }),
  ),
})).any;
const shuffled = (v: unknown): unknown =>
  typeof v === 'object' && v !== null && !Array.isArray(v)
    ? Object.fromEntries(
        Object.entries(v)
          .reverse()
          .map(([k, inner]) => [k, shuffled(inner)]),
      )
    : v;
const at = (v: unknown, path: string): unknown =>
  path === '' ? v : path.split('.').reduce((x: unknown, name) => (x as Record<string, unknown>)[name], v);

describe('what differs', () => {
  it('nothing does between a thing and itself, in whatever order its names stand', () => {
    fc.assert(
      fc.property(value, (v) => {
        expect(differences(v, shuffled(v))).toEqual([]);
        expect(sameValue(v, v)).toBe(true);
      }),
    );
  });
  it('each difference stands where it says, and the other way round it is the same one turned', () => {
    fc.assert(
      fc.property(value, value, (a, b) => {
        const found = differences(a, b);
        for (const d of found) {
          expect(at(a, d.path)).toEqual(d.from);
          expect(at(b, d.path)).toEqual(d.to);
        }
        const turned = differences(b, a).map((d) => ({ path: d.path, from: d.to, to: d.from }));
        expect(new Set(turned.map((d) => JSON.stringify(d)))).toEqual(new Set(found.map((d) => JSON.stringify(d))));
        expect(found.length === 0).toBe(sameValue(a, b));
      }),
    );
  });
  it('an item put in front of a list of named things is one difference, not all of them', () => {
    const before = {
      rows: [
        { id: 'x', n: 1 },
        { id: 'y', n: 2 },
      ],
    };
    const after = { rows: [{ id: 'new', n: 9 }, ...before.rows] };
    expect(differences(before, after)).toEqual([{ path: 'rows.new', from: undefined, to: { id: 'new', n: 9 } }]);
    // Told apart by queue, channel and time where they have no id.
    const week = [
      { day: 1, from: '09:00' },
      { day: 1, from: '14:00' },
    ];
    expect(differences(week, week.slice(1))).toMatchObject([{ path: '1 09:00', to: undefined }]);
    expect(differences([1, 2], [2, 1])).toEqual([{ path: '', from: [1, 2], to: [2, 1] }]);
  });
  it('is said in words: names for ids, nothing about revisions, nothing that is empty on both sides', () => {
    const lines = describeDifferences(
      { id: 'p', revision: 3, teamId: 'team_a', note: '', levels: { skill_b: 2 }, active: true },
      { id: 'p', revision: 4, teamId: 'team_b', note: null, levels: { skill_b: 4 }, active: false },
      say,
    );
    expect(lines).toEqual([
      { what: 'team', from: 'Front desk', to: 'team_b' },
      { what: 'levels · Brass', from: '2', to: '4' },
      { what: 'switched on', from: 'yes', to: 'no' },
    ]);
    expect(describeDifferences(null, { name: 'N' }, say)).toEqual([{ what: 'name', from: '–', to: 'N' }]);
    expect(describeDifferences('short', 'long', say)).toEqual([{ what: 'value', from: 'short', to: 'long' }]);
  });
  it.each([
    [null, '–'],
    [[], '–'],
    [0, '0'],
    [1_794_910_800_000, 'then'],
    [['team_a', 'skill_b'], 'Front desk, Brass'],
    [{ id: 'x', teamId: 'team_a', note: '' }, 'team Front desk'],
  ])('%j is said as %s', (v, words) => expect(sayValue(v, say)).toBe(words));
});
