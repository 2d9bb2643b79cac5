/** How numbers are written everywhere: on pages, in mails. */
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
/** A mean of ratings. */
const asStars = (mean: number | null): string => (mean === null ? '–' : mean.toFixed(2));
/** A figure in its unit. */
export function asFigure(value: number | null, unit: string): string {
  if (unit === 'share') return asShare(value, value !== null && value < 0.1 ? 1 : 0);
  if (unit === 'seconds') return asClock(value);
  if (unit === 'number') return value === null ? '–' : value.toFixed(1);
  return unit === 'stars' ? asStars(value) : asCount(value);
}
