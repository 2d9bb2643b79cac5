const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const two = (n: number): string => String(n).padStart(2, '0');

/** A day that exists, as `YYYY-MM-DD`, or null. Two-digit years are of this century. */
function day(year: number, month: number, date: number): string | null {
  const full = year < 100 ? 2000 + year : year;
  const at = new Date(Date.UTC(full, month - 1, date));
  return full >= 1900 && full < 2200 && at.getUTCMonth() === month - 1 && at.getUTCDate() === date
    ? `${full}-${two(month)}-${two(date)}`
    : null;
}

/**
 * A day as somebody types it, as `YYYY-MM-DD`: ISO 8601, day before month with any of `/ . -`, or with the month's name;
 * null for anything else. Nothing is guessed: a year must be there.
 *
 * @example dayFrom('5 Jan 2027') // '2027-01-05'
 * @example dayFrom('31.12.26') // '2026-12-31'
 */
export function dayFrom(text: string): string | null {
  const said = text.trim().toLowerCase();
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(said);
  if (iso) return day(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const figures = /^(\d{1,2})[/.-](\d{1,2})[/.-](\d{4}|\d{2})$/.exec(said);
  if (figures) return day(Number(figures[3]), Number(figures[2]), Number(figures[1]));
  const named = /^(?:[a-z]+,? +)?(\d{1,2})\.? +([a-z]{3})[a-z]*\.?,? +(\d{4}|\d{2})$/.exec(said);
  const month = MONTHS.indexOf(named?.[2] ?? '');
  return named && month >= 0 ? day(Number(named[3]), month + 1, Number(named[1])) : null;
}

/** A time of day as somebody types it (`9`, `930`, `9:30`, `09.30`), as `HH:MM`; null for anything else. */
export function timeFrom(text: string): string | null {
  const found = /^(\d{1,2})(?:[:.h ]?(\d{2}))?$/.exec(text.trim());
  const [hour, minute] = [Number(found?.[1]), Number(found?.[2] ?? 0)];
  return found && hour < 24 && minute < 60 ? `${two(hour)}:${two(minute)}` : null;
}
