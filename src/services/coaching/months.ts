import { string } from 'yup';
import { plusDays } from '../../core/hours/dates';

/** A month as it is asked for, like 2026-11. */
export const isMonth = string()
  .matches(/^\d{4}-(0[1-9]|1[0-2])$/, 'A month is written like 2026-11')
  .required('The month is missing');

/** The first and the last day of a month. */
export function monthOf(month: string): { readonly from: string; readonly to: string } {
  const from = `${month}-01`;
  return { from, to: plusDays(`${monthAfter(month, 1)}-01`, -1) };
}

/** The month that is so many after another; before it where that is negative. */
export function monthAfter(month: string, months: number): string {
  const at = Number(month.slice(0, 4)) * 12 + Number(month.slice(5, 7)) - 1 + months;
  return `${String(Math.floor(at / 12)).padStart(4, '0')}-${String((at % 12) + 1).padStart(2, '0')}`;
}
