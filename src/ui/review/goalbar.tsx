import type { GoalStanding } from '@/core/measures/servicelevel';

export const STANDING_WORDS: Readonly<Record<GoalStanding, string>> = {
  met: 'the goal is met',
  near: 'just below the goal',
  missed: 'the goal is missed',
};
const FILLS: Readonly<Record<GoalStanding, string>> = {
  met: 'var(--moss)',
  near: 'var(--brass-2)',
  missed: 'var(--clay)',
};

/** What Recharts gives a bar, as far as it is looked at; `background` is the bar's whole lane. */
type Given = {
  readonly x?: number;
  readonly y?: number;
  readonly width?: number;
  readonly height?: number;
  readonly background?: { readonly x?: number | null; readonly width?: number | null };
  readonly payload?: { readonly share: number; readonly wanted: number | null; readonly standing: GoalStanding | null };
};

/** A queue's share in goal, with a line at the share it is meant to reach. */
export function GoalBar({ x = 0, y = 0, width = 0, height = 0, background, payload }: Given) {
  const line = (background?.x ?? 0) + (background?.width ?? 0) * (payload?.wanted ?? 0);
  return (
    <g>
      <rect x={x} y={y} width={width} height={height} rx={3} fill={FILLS[payload?.standing ?? 'met']} />
      <text
        x={(background?.x ?? 0) + (background?.width ?? 0) + 6}
        y={y + height / 2}
        dominantBaseline="central"
        fontSize={12}
        fill="var(--ink)"
      >
        {payload?.share}%
      </text>
      {payload?.wanted !== null && <rect x={line - 1} y={y - 4} width={2} height={height + 8} fill="var(--ink)" />}
    </g>
  );
}
