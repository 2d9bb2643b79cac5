import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countPromises, noPromises, PROMISE_FIGURES, type Promised, type PromiseTally } from './promises';

const NOW = 100_000;
const promise = (some: Partial<Promised>): Promised => ({
  id: 'c',
  state: 'planned',
  contactId: 'x',
  queueId: 'q',
  askedAt: 10_000,
  fromAt: 20_000,
  untilAt: 40_000,
  expiresAt: 90_000,
  attempts: 1,
  reachedAt: null,
  endedAt: null,
  ...some,
});
const figures = (t: PromiseTally) => Object.fromEntries(PROMISE_FIGURES.map((f) => [f.id, f.value(t)]));

describe('promises', () => {
  it('kept in the window are in time, later ones are reached all the same, and neither is what ended without', () => {
    const some = [
      promise({ reachedAt: 30_000, endedAt: 35_000 }),
      promise({ reachedAt: 40_000, attempts: 3 }),
      promise({ reachedAt: 50_000, endedAt: 60_000 }),
      promise({ endedAt: 95_000, attempts: 3 }),
    ];
    expect(figures(countPromises(some, NOW))).toEqual({
      promised: 4,
      'kept-in-time': 2 / 4,
      'promise-reached': 3 / 4,
      attempts: 8 / 4,
      'until-reached': (10 + 20 + 30) / 3,
    });
  });
  it('still to be kept are in no share; one whose window went by unrung is', () => {
    const [still, late] = [promise({ untilAt: NOW + 1 }), promise({ untilAt: NOW })];
    expect(countPromises([still], NOW)).toMatchObject({ asked: 1, over: 0 });
    expect(countPromises([late], NOW)).toMatchObject({ asked: 1, over: 1, reached: 0 });
    expect(countPromises([{ ...late, state: 'cancelled' }], NOW)).toMatchObject({ asked: 1, over: 0 });
    // Without a window it is promised until it ends.
    expect(countPromises([promise({ untilAt: null, expiresAt: NOW + 1 })], NOW).over).toBe(0);
  });
  it('of nothing are nothing, and of a whole what its parts are together', () => {
    expect(Object.values(figures(noPromises()))).toEqual([0, null, null, null, null]);
    const instant = fc.integer({ min: 0, max: 200_000 });
    const random = fc.record({
      askedAt: instant,
      fromAt: instant,
      untilAt: fc.option(instant, { nil: null }),
      expiresAt: instant,
      attempts: fc.nat(5),
      reachedAt: fc.option(instant, { nil: null }),
      endedAt: fc.option(instant, { nil: null }),
    });
    fc.assert(
      fc.property(fc.array(random), fc.array(random), (a, b) => {
        const [one, two, all] = [a, b, [...a, ...b]].map((some) => countPromises(some.map(promise), NOW));
        for (const key of ['asked', 'over', 'reached', 'inTime', 'attempts'] as const)
          expect(all?.[key]).toBe((one?.[key] ?? 0) + (two?.[key] ?? 0));
        expect(all?.waits.sum).toBe((one?.waits.sum ?? 0) + (two?.waits.sum ?? 0));
        expect(all?.inTime).toBeLessThanOrEqual(all?.reached ?? 0);
        expect(all?.reached).toBeLessThanOrEqual(all?.over ?? 0);
      }),
    );
  });
});
