'use client';

import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { asFigure } from '../kit/figures';

export type Point = { readonly name: string; readonly value: number | null; readonly before: number | null };

/** A figure through the range, with the range before behind it, and what is to be reached. */
export default function FigureLine({
  points,
  unit,
  goal,
}: {
  points: readonly Point[];
  unit: string;
  goal: number | null;
}) {
  const most = Math.max(goal ?? 0, ...points.flatMap((p) => [p.value ?? 0, p.before ?? 0]));
  return (
    <ResponsiveContainer width="100%" height="100%">
      <LineChart data={[...points]} accessibilityLayer={false} margin={{ top: 6, right: 8, bottom: 0, left: 0 }}>
        <CartesianGrid vertical={false} stroke="var(--rule)" />
        <XAxis
          dataKey="name"
          tick={{ fontSize: 11, fill: 'var(--ink-2)' }}
          axisLine={{ stroke: 'var(--rule-strong)' }}
          tickLine={false}
          minTickGap={14}
        />
        <YAxis
          width={44}
          tick={{ fontSize: 11, fill: 'var(--ink-2)' }}
          axisLine={false}
          tickLine={false}
          {...(unit === 'share' && most > 0.5 ? { ticks: [0, 0.25, 0.5, 0.75, 1] } : { tickCount: 4 })}
          domain={[0, unit === 'share' && most > 0.5 ? 1 : 'auto']}
          tickFormatter={(value: number) => asFigure(value, unit)}
        />
        <Tooltip
          formatter={(value, name) => [
            asFigure(Number(value), unit),
            name === 'value' ? 'this range' : 'the range before',
          ]}
          contentStyle={{
            background: 'var(--sheet)',
            border: '1px solid var(--rule)',
            color: 'var(--ink)',
            fontSize: 12,
          }}
        />
        {goal !== null && (
          <ReferenceLine
            y={goal}
            stroke="var(--brass-2)"
            strokeWidth={1.5}
            ifOverflow="extendDomain"
            label={{ value: 'goal', position: 'insideTopRight', fontSize: 11, fill: 'var(--brass-ink)' }}
          />
        )}
        <Line
          dataKey="before"
          stroke="var(--ink-3)"
          strokeDasharray="4 3"
          strokeWidth={1.5}
          dot={false}
          connectNulls={false}
          isAnimationActive={false}
        />
        <Line
          dataKey="value"
          stroke="var(--plum)"
          strokeWidth={2.25}
          dot={points.length <= 14 ? { r: 2.5, fill: 'var(--plum)' } : false}
          connectNulls={false}
          isAnimationActive={false}
        />
      </LineChart>
    </ResponsiveContainer>
  );
}
