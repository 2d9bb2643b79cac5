/** How numbers and times are written everywhere. Times of day are shown in the workspace's zone. */
export { asClock, asCount, asFigure, asShare } from '@/core/measures/figuretext';

/** Time of day; in the browser's own zone where none is given, as for "Saved 10:42". */
export const asTime = (at: number, zone?: string): string => written(at, zone, { hour: '2-digit', minute: '2-digit' });
/** Day and time; with the year where it is not this one. */
export const asDayTime = (at: number, zone?: string): string =>
  written(at, zone, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    ...(yearOf(at, zone) === yearOf(Date.now(), zone) ? {} : { year: 'numeric' }),
    hour: '2-digit',
    minute: '2-digit',
  });
/** A local day, `YYYY-MM-DD`, as it is written: 16 Nov 2026. Typed days are read back by `core/hours/daytext`. */
export const asDay = (day: string): string =>
  day === '' ? '' : written(Date.parse(`${day}T00:00Z`), 'UTC', { day: 'numeric', month: 'short', year: 'numeric' });
/** The same without its year. */
export const asShortDay = (day: string): string =>
  written(Date.parse(`${day}T00:00Z`), 'UTC', { day: 'numeric', month: 'short' });
const yearOf = (at: number, zone: string | undefined): string => written(at, zone, { year: 'numeric' });
/** The one way in which an instant is written. */
const written = (at: number, zone: string | undefined, parts: Intl.DateTimeFormatOptions): string =>
  new Intl.DateTimeFormat('en-GB', { ...parts, ...(zone ? { timeZone: zone } : {}) }).format(at);

export const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map((part) => part[0] ?? '')
    .join('')
    .slice(0, 2)
    .toUpperCase();
