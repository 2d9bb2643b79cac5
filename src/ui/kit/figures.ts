/** How numbers are written everywhere. Times of day are shown in the workspace's zone. */
export const asClock = (seconds: number | null): string => {
  if (seconds === null) return '–';
  const whole = Math.max(0, Math.round(seconds));
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor((whole % 3600) / 60), whole % 60];
  return h > 0
    ? `${h}:${String(m).padStart(2, '0')}:${String(s).padStart(2, '0')}`
    : `${m}:${String(s).padStart(2, '0')}`;
};
export const asShare = (share: number | null, digits = 0): string =>
  share === null ? '–' : `${(share * 100).toFixed(digits)}%`;
export const asCount = (n: number | null): string => (n === null ? '–' : Math.round(n).toLocaleString('en-GB'));
export const asFigure = (value: number | null, unit: string): string =>
  unit === 'share'
    ? asShare(value, value !== null && value < 0.1 ? 1 : 0)
    : unit === 'seconds'
      ? asClock(value)
      : asCount(value);
export const asTime = (at: number, zone: string): string =>
  new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: zone }).format(at);
/** Day and time; with the year where it is not this one. */
export function asDayTime(at: number, zone: string): string {
  const yearOf = (instant: number): string =>
    new Intl.DateTimeFormat('en-GB', { year: 'numeric', timeZone: zone }).format(instant);
  const year = yearOf(at) === yearOf(Date.now()) ? {} : ({ year: 'numeric' } as const);
  return new Intl.DateTimeFormat('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    ...year,
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone,
  }).format(at);
}
export const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map((part) => part[0] ?? '')
    .join('')
    .slice(0, 2)
    .toUpperCase();
