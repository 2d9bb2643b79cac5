import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createAgenda } from './agenda';

describe('the agenda', () => {
  it('gives what is due in order of time, and what was added first among equals', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ at: fc.integer({ min: 0, max: 20 }), take: fc.boolean() }), { maxLength: 200 }),
        (moves) => {
          const agenda = createAgenda<{ at: number; order: number }>();
          let plain: { at: number; order: number }[] = [];
          moves.forEach(({ at, take }, order) => {
            if (!take) {
              agenda.add(at, { at, order });
              plain.push({ at, order });
              return;
            }
            plain = plain.sort((a, b) => a.at - b.at || a.order - b.order);
            expect(agenda.nextAt()).toBe(plain[0]?.at ?? null);
            expect(agenda.takeNext()).toEqual(plain.shift());
            expect(agenda.size()).toBe(plain.length);
          });
        },
      ),
    );
  });
});
