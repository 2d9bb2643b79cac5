/** Round distances between marks of the time axis, seconds. */
const STEPS = [5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600, 14_400];

/** The marks of a time axis of seconds of waiting, from nought to its end. */
export function marksUpTo(end: number): number[] {
  const step = STEPS.find((s) => end / s <= 6) ?? end;
  return Array.from({ length: Math.floor(end / step) + 1 }, (_, i) => i * step);
}

export const secondsWords = (s: number): string =>
  s < 60 ? `${s} s` : s < 3600 ? `${+(s / 60).toFixed(1)} min` : `${+(s / 3600).toFixed(1)} h`;
