/** Days of the calendar as texts, `YYYY-MM-DD`: what follows what, without any zone. */

const DAY_MS = 86_400_000;
const at = (date: string): number => Date.parse(`${date}T00:00:00Z`);

/** The day that is so many days after another; before it where that is negative. */
export const plusDays = (date: string, days: number): string =>
  new Date(at(date) + days * DAY_MS).toISOString().slice(0, 10);

/** Whole days from one day to another; negative when that is earlier. */
export const daysBetween = (from: string, to: string): number => Math.round((at(to) - at(from)) / DAY_MS);

/** Whether a text names a day of the calendar. */
export const isDay = (text: string): boolean =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(at(text)) && plusDays(text, 0) === text;

/** Monday 1 to Sunday 7. */
export const weekdayOf = (date: string): number => new Date(at(date)).getUTCDay() || 7;

/** The days from one to another, both counted. */
export const daysFrom = (from: string, to: string): string[] =>
  Array.from({ length: Math.max(0, daysBetween(from, to) + 1) }, (_, i) => plusDays(from, i));

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
