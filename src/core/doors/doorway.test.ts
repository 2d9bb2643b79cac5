import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { openAt } from '../hours/weekly';
import { doorOpening } from './doorway';

const HOUR = 3_600_000;
const NOON = Date.parse('2026-11-30T12:00Z');
const time = fc.integer({ min: 0, max: 23 }).map((hour) => `${String(hour).padStart(2, '0')}:00`);
const week = fc.record({
  zone: fc.constantFrom('UTC', 'Europe/Dublin', 'America/New_York'),
  weekly: fc.array(fc.record({ day: fc.integer({ min: 1, max: 7 }), from: time, to: time }), { maxLength: 12 }),
});
const byHand = fc.record({
  open: fc.boolean(),
  until: fc.integer({ min: 1, max: 24 * 10 }).map((hours) => NOON + hours * HOUR),
  reason: fc.constant({}),
  at: fc.constant(NOON),
  personId: fc.constant('p'),
});

describe('whether a door is open', () => {
  it('goes by what was set by hand until its time is over, then by its hours; and says when that changes', () => {
    fc.assert(
      fc.property(week, byHand, fc.integer({ min: 0, max: 24 * 12 }), (hours, hand, later) => {
        const now = NOON + later * HOUR;
        const opening = doorOpening(hours, hand, now);
        if (now >= hand.until) return void expect(opening).toEqual({ ...openAt(hours, now), byHand: null });
        expect([opening.open, opening.byHand]).toEqual([hand.open, hand]);
        const changes = opening.open ? opening.until : opening.opensAt;
        if (changes === null) return;
        // What it says of its next change is so, and not before.
        expect(changes).toBeGreaterThanOrEqual(hand.until);
        expect(doorOpening(hours, hand, changes).open).toBe(!opening.open);
        expect(doorOpening(hours, hand, changes - 1).open).toBe(opening.open);
      }),
    );
  });
  it('without hours that are known it is closed, unless it was opened by hand', () => {
    expect(doorOpening(null, null, NOON)).toEqual({ open: false, opensAt: null, byHand: null });
    const hand = { open: true, until: NOON + HOUR, reason: {}, at: NOON, personId: 'p' };
    expect(doorOpening(null, hand, NOON)).toMatchObject({ open: true, until: NOON + HOUR });
  });
});
