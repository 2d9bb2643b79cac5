import fc from 'fast-check';
import { expect, it } from 'vitest';
import { monthAfter, monthOf, plusDays } from './dates';

it('months follow each other without a gap, forwards and back', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1990, max: 2100 }), fc.integer({ min: 1, max: 12 }), (year, of) => {
      const month = `${year}-${String(of).padStart(2, '0')}`;
      expect(monthAfter(monthAfter(month, 7), -7)).toBe(month);
      expect(plusDays(monthOf(month).to, 1)).toBe(monthOf(monthAfter(month, 1)).from);
    }),
  );
  expect(monthAfter('2026-01', -1)).toBe('2025-12');
  expect(monthOf('2028-02')).toEqual({ from: '2028-02-01', to: '2028-02-29' });
});
