import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../chance';
import { DRAW_RULES, type Drawable, drawFor, type Drawn, MARKS, scoreOf } from './coaching';

const turn = fc.record({
  no: fc.integer({ min: 1, max: 30 }),
  handledMs: fc.integer({ min: 0, max: 900_000 }),
  passedOn: fc.boolean(),
  cameBack: fc.boolean(),
});
const rules = fc.record({
  byChance: fc.integer({ min: 0, max: 6 }),
  byRule: fc.record({
    longest: fc.integer({ min: 0, max: 4 }),
    'passed-on': fc.integer({ min: 0, max: 4 }),
    'came-back': fc.integer({ min: 0, max: 4 }),
  }),
});
const many = (drawn: readonly Drawn[], why: Drawn['why']) => drawn.filter((d) => d.why === why).length;

describe('drawing contacts to be rated', () => {
  it('takes none twice, none of a rule that it does not fit, and no more than the rules say', () => {
    fc.assert(
      fc.property(fc.array(turn, { maxLength: 40 }), rules, fc.integer(), (turns, said, seed) => {
        const drawn = drawFor(turns, said, [], seeded(seed));
        expect(new Set(drawn.map((d) => d.no)).size).toBe(drawn.length);
        for (const { no, why } of drawn) {
          const of = turns.filter((t) => t.no === no);
          expect(of).not.toEqual([]);
          if (why === 'passed-on') expect(of.some((t) => t.passedOn)).toBe(true);
          if (why === 'came-back') expect(of.some((t) => t.cameBack)).toBe(true);
        }
        expect(many(drawn, 'chance')).toBe(Math.min(said.byChance, new Set(turns.map((t) => t.no)).size));
        for (const rule of DRAW_RULES) expect(many(drawn, rule)).toBeLessThanOrEqual(said.byRule[rule]);
      }),
    );
  });
  it('a second time adds only what is missing', () => {
    fc.assert(
      fc.property(fc.array(turn, { minLength: 30, maxLength: 60 }), rules, fc.integer(), (turns, said, seed) => {
        const first = drawFor(turns, said, [], seeded(seed));
        expect(drawFor(turns, said, first, seeded(seed + 1)).filter((d) => d.why === 'chance')).toEqual([]);
        const kept = first.slice(1);
        const both = [...kept, ...drawFor(turns, said, kept, seeded(seed + 2))];
        expect(new Set(both.map((d) => d.no)).size).toBe(both.length);
        for (const why of ['chance', ...DRAW_RULES] as const)
          expect(many(both, why)).toBeLessThanOrEqual(why === 'chance' ? said.byChance : said.byRule[why]);
      }),
    );
  });
  it('chance draws from all alike, and the longest is the longest of those left', () => {
    const turns: Drawable[] = Array.from({ length: 10 }, (_, i) => ({
      no: i,
      handledMs: i * 1000,
      passedOn: false,
      cameBack: false,
    }));
    const times = new Map<number, number>();
    for (let seed = 0; seed < 2000; seed++) {
      const drawn = drawFor(
        turns,
        { byChance: 1, byRule: { longest: 1, 'passed-on': 0, 'came-back': 0 } },
        [],
        seeded(seed),
      );
      const by = drawn.find((d) => d.why === 'chance')?.no ?? -1;
      times.set(by, (times.get(by) ?? 0) + 1);
      expect(drawn.find((d) => d.why === 'longest')?.no).toBe(by === 9 ? 8 : 9);
    }
    // 200 each are expected; four standard deviations are 54.
    for (let no = 0; no < 10; no++) expect(Math.abs((times.get(no) ?? 0) - 200)).toBeLessThan(54);
  });
});

describe('the score of a rating', () => {
  it('is the mean of what came up, and nothing where nothing did', () => {
    expect(scoreOf([{ mark: 'met' }, { mark: 'partly' }, { mark: 'missed' }, { mark: 'none' }])).toBe(0.5);
    expect(scoreOf([{ mark: 'met' }, { mark: 'none' }])).toBe(1);
    expect(scoreOf([{ mark: 'none' }])).toBeNull();
    expect(scoreOf([])).toBeNull();
  });
  it('does not depend on the order, and lies between nought and one', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...MARKS), { minLength: 1 }), (marks) => {
        const one = scoreOf(marks.map((mark) => ({ mark })));
        const other = scoreOf([...marks].reverse().map((mark) => ({ mark })));
        expect(one === null ? null : Math.round(one * 1e9)).toBe(other === null ? null : Math.round(other * 1e9));
        if (one !== null) expect(one >= 0 && one <= 1).toBe(true);
      }),
    );
  });
});
