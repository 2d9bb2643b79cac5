import { describe, expect, it } from 'vitest';
import type { WeekPattern } from '../hours/weekly';
import { checkShifts, type ShiftWorld } from './doorchecks';
import { gathering } from './finding';

const weekly = (days: readonly number[], from: string, to: string) => days.map((day) => ({ day, from, to }));
const SHOP = {
  id: 'shop',
  name: 'Shop',
  zone: 'UTC',
  weekly: weekly([1, 2, 3, 4, 5], '09:00', '17:00'),
  exceptions: [],
};
const SUNDAYS = { zone: 'UTC', weekly: weekly([7], '10:00', '12:00') };
const door = (id: string, hoursId = 'shop') => ({
  ...{ id, name: id, hoursId, channel: 'voice' as const, queueIds: [], bots: [], people: null },
});
const shift = (doorIds: readonly string[], people = 1, team = 'Front desk', pattern: WeekPattern = SUNDAYS) => ({
  ...{ pattern, people, teams: [team], doorIds },
});
/** Found from Monday, 23 November 2026, ten o'clock on. */
const idle = (change: Partial<ShiftWorld>) => {
  const { found, add } = gathering();
  checkShifts({ now: Date.UTC(2026, 10, 23, 10), hours: [SHOP], doors: [door('d')], shifts: [], ...change }, add);
  return found.map((f) => [f.thingId, f.says]);
};

describe('people on shift while all their doors are shut', () => {
  it('are counted day by day for a month, all shifts together', () => {
    const found = idle({ shifts: [shift(['d'], 6), shift(['d'], 1, 'Evening')] });
    expect(found.map(([day]) => day)).toEqual(['2026-11-29', '2026-12-06', '2026-12-13', '2026-12-20']);
    expect(found[0]?.[1]).toBe(
      '7 people of Front desk, Evening are on shift while every door whose contacts they take is shut.',
    );
  });
  it('are none while another of their doors opens for any of it, nor where they take nothing that comes by a door', () => {
    const hours = [SHOP, { ...SHOP, id: 'sundays', weekly: weekly([7], '11:30', '12:30') }];
    expect(idle({ hours, doors: [door('d'), door('e', 'sundays')], shifts: [shift(['d', 'e'])] })).toEqual([]);
    expect(idle({ shifts: [shift([])] })).toEqual([]);
    const late = { zone: 'UTC', weekly: weekly([1], '16:00', '23:00') };
    expect(idle({ shifts: [shift(['d'], 1, 'Front desk', late)] })).toEqual([]);
  });
  it('are told of a day on which the doors are closed by date, and not of a shift that has begun', () => {
    const dated = ['2026-11-23', '2026-12-08'].map((date) => ({ date, note: '', intervals: [] }));
    expect(idle({ hours: [{ ...SHOP, exceptions: dated }], shifts: [shift(['d'], 1, 'Front desk', SHOP)] })).toEqual([
      ['2026-12-08', 'One person of Front desk is on shift while every door whose contacts they take is shut.'],
    ]);
  });
});
