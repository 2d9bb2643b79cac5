import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { VisitFact } from './facts';
import { ACTIVITY_CAP_SECONDS, handleSeconds } from './handletime';
import { quantile, quantileSorted } from './quantile';
import { goalStanding, inGoal, isPastGoal, isShortGiveUp, levelSoFar, serviceLevel, wantedShare } from './servicelevel';

const S = 1000;
const visit = (end: VisitFact['end'], waited: number, more: Partial<VisitFact> = {}): VisitFact => ({
  id: 'v',
  contactId: `c${waited}`,
  queueId: 'q',
  channel: 'voice',
  placedAt: 0,
  enteredAt: 0,
  endedAt: waited * S,
  end,
  goalSeconds: 30,
  ...more,
});
describe('service level', () => {
  it('counts accepted within goal over accepted and gave up, without short give-ups', () => {
    expect(
      serviceLevel([visit('accepted', 30), visit('accepted', 31), visit('gave-up', 40), visit('gave-up', 5)]),
    ).toBeCloseTo(1 / 3);
  });
  it('leaves other endings and open visits out', () =>
    expect(
      serviceLevel([
        visit('accepted', 1),
        visit('moved-on', 99),
        visit('closed-by-us', 99),
        visit(null, 99, { endedAt: null }),
      ]),
    ).toBe(1));
  it('is nothing, not zero, without visits', () => expect(serviceLevel([])).toBeNull());
  it('the goal’s last second is within it; a give-up is short by when the visit began', () => {
    expect(inGoal(visit('accepted', 30))).toBe(true);
    expect(inGoal(visit('accepted', 30.001))).toBe(false);
    expect(isShortGiveUp(visit('gave-up', 100, { enteredAt: 95 * S }))).toBe(true);
    expect(isShortGiveUp(visit('gave-up', 6))).toBe(false);
  });
});

describe('handle time', () => {
  it('by voice is talk and wrap-up', () =>
    expect(handleSeconds('voice', { acceptedAt: 0, talkEndedAt: 600 * S, endedAt: 630 * S, signs: [] })).toBe(630));
  it('reading 5 minutes and writing 5 is 10, however long it stayed open', () => {
    expect(
      handleSeconds('chat', { acceptedAt: 0, talkEndedAt: 3600 * S, endedAt: 3600 * S, signs: [3600 * S - 1] }),
    ).toBeCloseTo(ACTIVITY_CAP_SECONDS, 1);
    expect(handleSeconds('chat', { acceptedAt: 0, talkEndedAt: 600 * S, endedAt: 600 * S, signs: [300 * S] })).toBe(
      600,
    );
  });
  it('is never longer than the leg, and more signs never make it shorter', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 7200 * S }), { maxLength: 20 }),
        fc.integer({ min: 1, max: 7200 }),
        (signs, length) => {
          const one = { acceptedAt: 0, talkEndedAt: length * S, endedAt: (length + 20) * S };
          const all = handleSeconds('sms', { ...one, signs });
          return all <= length + 20 + 1e-6 && all >= handleSeconds('sms', { ...one, signs: signs.slice(1) }) - 1e-6;
        },
      ),
    );
  });
});

describe('quantile, type 7', () => {
  // numpy.quantile([1,2,3,4], [.5,.9]) = 2.5, 3.7
  it('agrees with a reference', () => {
    expect(quantile([4, 1, 3, 2], 0.5)).toBe(2.5);
    expect(quantile([4, 1, 3, 2], 0.9)).toBeCloseTo(3.7);
    expect(quantile([7], 0.9)).toBe(7);
    expect(quantile([], 0.5)).toBeNull();
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 50 }), { minLength: 1, maxLength: 60 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (numbers, q) => {
          expect(quantile(numbers, q)).toBeCloseTo(
            quantileSorted(
              numbers.toSorted((a, b) => a - b),
              q,
            ) ?? NaN,
            9,
          );
        },
      ),
    );
  });
});

describe('the goal of a queue', () => {
  it('is past once somebody has waited longer than it, not before', () => {
    const waiting = { placedAt: 1000, goalSeconds: 30 };
    expect([30_999, 31_000, 31_001].map((now) => isPastGoal(waiting, now))).toEqual([false, false, true]);
  });
  it('counts waits past it as missed already', () => {
    expect(levelSoFar({ good: 8, all: 9 }, 1)).toBe(0.8);
    expect(levelSoFar({ good: 0, all: 0 }, 2)).toBe(0);
    expect(levelSoFar({ good: 0, all: 0 }, 0)).toBeNull();
  });
  it('is met, near within ten points below, else missed, by its own percent', () => {
    expect([0.7, 0.65, 0.6, 0.59].map((share) => goalStanding(share, 0.7))).toEqual(['met', 'near', 'near', 'missed']);
    expect([0.95, 0.9].map((share) => goalStanding(share, 0.95))).toEqual(['met', 'near']);
  });
  it('of several channels weighs each by the visits it had, and lies between them', () => {
    const goal = (percent: number) => ({ percent, seconds: 30 });
    expect(
      wantedShare([
        { all: 30, goal: goal(90) },
        { all: 10, goal: goal(50) },
      ]),
    ).toBe(0.8);
    expect(wantedShare([])).toBeNull();
    fc.assert(
      fc.property(
        fc.array(fc.record({ all: fc.integer({ min: 0, max: 500 }), percent: fc.integer({ min: 1, max: 100 }) }), {
          minLength: 1,
        }),
        (counts) => {
          const wanted = wantedShare(counts.map((c) => ({ all: c.all, goal: goal(c.percent) })));
          if (wanted === null) return counts.every((c) => c.all === 0);
          const percents = counts.filter((c) => c.all > 0).map((c) => c.percent / 100);
          return wanted >= Math.min(...percents) - 1e-9 && wanted <= Math.max(...percents) + 1e-9;
        },
      ),
    );
  });
});
