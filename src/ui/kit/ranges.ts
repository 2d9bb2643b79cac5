import { plusDays } from '@/core/hours/dates';

/** Ranges of days that are asked for again and again, counted from today (`YYYY-MM-DD`). */
export function usualRanges(today: string): readonly { name: string; from: string; to: string }[] {
  const back = (days: number): string => plusDays(today, -days);
  return [
    { name: 'Today', from: today, to: today },
    { name: 'Yesterday', from: back(1), to: back(1) },
    { name: 'Last 7 days', from: back(6), to: today },
    { name: 'Last 28 days', from: back(27), to: today },
    { name: 'This month', from: `${today.slice(0, 7)}-01`, to: today },
  ];
}
