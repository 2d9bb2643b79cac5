import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { KeptColumn } from '../../core/measures/columns';
import { type CachedDay, DayCache } from './daycache';

const column = (bytes: number): KeptColumn => ({ name: 'at', data: new Uint8Array(bytes), entries: null });
const bytesOf = (day: CachedDay) => [...day.columns.values()].reduce((n, c) => n + c.data.byteLength, 0);

describe('days in memory', () => {
  it('take what their columns take, whatever is asked for and given meanwhile, and one day more than the most at most', () => {
    const step = fc.record({
      from: fc.nat(6),
      seq: fc.nat(2),
      add: fc.option(fc.integer({ min: 0, max: 40 }), { nil: null }),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
        const cache = new DayCache(100);
        // Questions go on reading days that they were given earlier.
        const given = new Map<number, CachedDay>();
        steps.forEach(({ from, seq, add }, i) => {
          if (add === null) given.set(from, cache.day(seq, from + 1, from, true));
          else {
            const day = given.get(from);
            if (day) cache.add(day, String(i % 5), column(add));
          }
          const there = [0, 1, 2, 3, 4, 5, 6].flatMap((at) => cache.peek(at) ?? []);
          expect(cache.bytes).toBe(there.reduce((n, day) => n + day.bytes, 0));
          for (const day of there) expect(day.bytes).toBe(bytesOf(day));
          expect(cache.bytes).toBeLessThanOrEqual(100 + Math.max(0, ...there.map((day) => day.bytes)));
        });
      }),
    );
  });
  it('that have gone for others take no room from them, though they are still read', () => {
    const cache = new DayCache(100);
    const gone = cache.day(1, 1, 0, true);
    cache.add(gone, 'a', column(60));
    const next = cache.day(1, 2, 1, true);
    cache.add(next, 'a', column(60));
    expect(cache.peek(0)).toBeUndefined();
    for (let i = 0; i < 100; i++) cache.add(gone, `later ${i}`, column(50));
    expect(gone.columns.size).toBe(101);
    expect(cache.bytes).toBe(60);
    cache.add(next, 'b', column(30));
    expect(cache.day(1, 2, 1, true)).toBe(next);
  });
});
