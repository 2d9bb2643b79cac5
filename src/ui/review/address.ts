import type { AskedView } from '@/services/review/askedview';
import { asClock } from '../kit/figures';

/** What the address of a page may say. */
export const ASKED: ReadonlySet<string> = new Set([
  'from',
  'to',
  'against',
  'queue',
  'channel',
  'door',
  'team',
  'person',
  'bot',
  'language',
  'outcome',
  'skill',
  'clock',
  'hours',
]);

/** What is asked stands in the address, so that a link shares it. Values that are empty are left out. */
export function reviewHref(
  path: string,
  address: AskedView['address'],
  change: Readonly<Record<string, string>> = {},
): string {
  const asked = Object.entries({ ...address, ...change }).filter(([, value]) => value !== '');
  return asked.length === 0 ? path : `${path}?${new URLSearchParams(asked).toString()}`;
}

/** A change of a figure in words; empty where there is nothing to compare, or too little to show. */
export function changeWords(unit: string, value: number | null, before: number | null): string {
  if (value === null || before === null) return '';
  const change = value - before;
  const size = Math.abs(change);
  const sign = change >= 0 ? '+' : '−';
  if (unit === 'share') return size < 0.0005 ? '' : `${sign}${(size * 100).toFixed(1)} pts`;
  if (unit === 'seconds') return size < 0.5 ? '' : `${sign}${asClock(size)}`;
  if (unit === 'stars') return size < 0.005 ? '' : `${sign}${size.toFixed(2)}`;
  const percent = before === 0 ? '0' : ((size / before) * 100).toFixed(0);
  return percent === '0' ? '' : `${sign}${percent}%`;
}

/** What is too small to show, by unit. */
const SMALLEST: Readonly<Record<string, number>> = { share: 0.0005, stars: 0.005 };

/** Whether a change is for the better; null where it is neither, or too small to show. */
export function isBetter(
  { unit, moreIsBetter }: { readonly unit: string; readonly moreIsBetter: boolean | null },
  value: number | null,
  before: number | null,
): boolean | null {
  if (value === null || before === null || moreIsBetter === null) return null;
  const change = value - before;
  return Math.abs(change) < (SMALLEST[unit] ?? 0.5) ? null : change > 0 === moreIsBetter;
}

const DAYS = ['every day', 'Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];
/** Hours of the clock as the address says them (“1-10-12”), in words. */
export function clockWords(clock: string): string {
  const [weekday, from, to] = clock.split('-').map(Number);
  return `${DAYS[weekday ?? 0] ?? ''} ${String(from).padStart(2, '0')}:00–${String(to).padStart(2, '0')}:00`;
}

/** What finding a contact asks besides. */
export const FINDING = ['customer', 'words', 'ended', 'minutes', 'mood', 'rated', 'after'] as const;
