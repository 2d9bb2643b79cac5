import { describe, expect, it } from 'vitest';
import { describeDifferences, sameValue, sayValue } from './differences';

const say = { name: (id: string) => ({ team_a: 'Front desk', skill_b: 'Brass' })[id] ?? id, time: () => 'then' };

describe('what differs', () => {
  it('is nothing between a thing and itself, in whatever order its names and its items stand', () => {
    const [a, b] = [
      { id: 'a', n: 1 },
      { id: 'b', n: 2 },
    ];
    expect(sameValue({ name: 'x', rows: [a, b] }, { rows: [b, { n: 1, id: 'a' }], name: 'x' })).toBe(true);
    expect(sameValue({ rows: [a, b] }, { rows: [a] })).toBe(false);
    expect(sameValue([1, 2], [2, 1])).toBe(false);
  });
  it('tells of a new order', () => {
    const row = (id: string) => ({ id, n: 1 });
    expect(
      describeDifferences({ rows: ['team_a', 'skill_b'].map(row) }, { rows: ['skill_b', 'team_a'].map(row) }, say),
    ).toEqual([{ what: 'queues · order', from: 'Front desk, Brass', to: 'Brass, Front desk' }]);
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
