import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addTurn,
  noTurns,
  occupancy,
  openSteps,
  type OpenTurn,
  secondsUsed,
  type StateSpell,
  usesOf,
} from './timeused';

const END = 1000;
const states = fc
  .array(
    fc.record({
      length: fc.integer({ min: 1, max: 200 }),
      duty: fc.constantFrom('off', 'ready', 'away', 'away-when-empty'),
      reason: fc.constantFrom('Lunch', 'Break', null),
      reachable: fc.boolean(),
    }),
    { maxLength: 12 },
  )
  .map((all) => {
    let at = -50;
    return all.map(({ length, ...state }): StateSpell => {
      const from = at;
      at += length;
      return { from, to: at, ...state } as StateSpell;
    });
  });
const turns = fc
  .array(
    fc.record({
      from: fc.integer({ min: -100, max: END }),
      length: fc.integer({ min: 0, max: 400 }),
      channel: fc.constantFrom('voice', 'chat', 'sms'),
    }),
    { maxLength: 15 },
  )
  .map((all) => all.map(({ from, length, channel }): OpenTurn => ({ from, to: from + length, channel }) as OpenTurn));

describe('time used', () => {
  it('is in one use at each moment, the one that what was open and the state then say', () => {
    fc.assert(
      fc.property(states, turns, (of, open) => {
        const times = noTurns();
        for (const { channel, from, to } of open) addTurn(times, channel, from, to);
        const spells = usesOf(of, times, 0, END);
        expect(spells[0]?.from).toBe(0);
        expect(spells.at(-1)?.to).toBe(END);
        spells.forEach((s, i) => {
          expect(s.to).toBeGreaterThan(s.from);
          if (i > 0) expect(s.from).toBe(spells[i - 1]?.to);
          if (i > 0) expect(s.use).not.toBe(spells[i - 1]?.use);
        });
        for (let at = 0; at < END; at += 7) {
          const there = open.filter((t) => t.from <= at && t.to > at);
          const state = of.find((s) => s.from <= at && s.to > at);
          const expected = there.some((t) => t.channel === 'voice')
            ? 'calls'
            : there.length > 0
              ? 'texts'
              : state?.duty === 'ready'
                ? state.reachable
                  ? 'ready'
                  : 'unreachable'
                : state?.duty === 'away'
                  ? `away ${state.reason ?? ''}`
                  : null;
          expect(spells.find((s) => s.from <= at && s.to > at)?.use).toBe(expected);
        }
        // Whole ms: sums of parts of a second are off by the last digit.
        const used = [...secondsUsed(spells).values()].reduce((n, s) => n + Math.round(s * 1000), 0);
        expect(used).toBeLessThanOrEqual(END);
      }),
    );
  });
  it('busy is what was open ÷ (that + ready with nothing)', () => {
    expect(
      occupancy(
        new Map([
          ['calls', 30],
          ['texts', 30],
          ['ready', 20],
          ['away Lunch', 500],
        ] as const),
      ),
    ).toBe(0.75);
    expect(occupancy(new Map([['away Lunch', 5]] as const))).toBeNull();
  });
  it('what was open at once is counted moment by moment', () => {
    fc.assert(
      fc.property(turns, (open) => {
        const { steps, most, mean } = openSteps(open, 0, END);
        let area = 0;
        let highest = 0;
        for (let at = 0; at < END; at++) {
          const there = open.filter((t) => t.from <= at && t.to > at).length;
          expect(steps.findLast((s) => s.at <= at)?.open).toBe(there);
          area += there;
          highest = Math.max(highest, there);
        }
        expect(most).toBe(highest);
        expect(mean).toBeCloseTo(area / END, 9);
      }),
      { numRuns: 30 },
    );
  });
});
