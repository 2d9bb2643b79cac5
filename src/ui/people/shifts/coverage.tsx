'use client';

import { HALF_HOUR } from '@/core/people/coverage';
import type { ShiftsView } from '@/services/people/shifts';
import { DAYS } from './days';

export function Coverage({ view }: { view: ShiftsView }) {
  const most = Math.max(4, ...view.planned, ...view.needed);
  const y = (n: number) => 100 - (n / most) * 96;
  const needed = view.needed.map((n, i) => `${i === 0 ? 'M' : 'L'}${i} ${y(n)} L${i + 1} ${y(n)}`).join(' ');
  const now = (view.now - view.monday) / HALF_HOUR;
  return (
    <div className="mt-2 flex gap-2">
      <div className="flex h-32 w-6 flex-col justify-between text-right text-tiny text-ink-2">
        <span>{most}</span>
        <span>0</span>
      </div>
      <div className="min-w-0 flex-1">
        <svg
          role="img"
          aria-label="People on shift and people needed, by half-hour of the week"
          viewBox="0 0 336 100"
          preserveAspectRatio="none"
          className="h-32 w-full rounded bg-paper"
        >
          {view.planned.map((n, i) => {
            const need = view.needed[i] ?? 0;
            return (
              n > 0 && (
                <rect
                  key={i}
                  x={i}
                  width={1.02}
                  y={y(n)}
                  height={100 - y(n)}
                  fill={need > n ? 'var(--brass-2)' : 'var(--level-2)'}
                >
                  <title>
                    {`${DAYS[Math.floor(i / 48)]} ${String(Math.floor((i % 48) / 2)).padStart(2, '0')}:${i % 2 ? '30' : '00'}: ` +
                      `${n} on shift${view.needed.length > 0 ? `, ${need} needed` : ''}`}
                  </title>
                </rect>
              )
            );
          })}
          {view.needed.length > 0 && (
            <path d={needed} fill="none" stroke="var(--clay)" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
          )}
          {[1, 2, 3, 4, 5, 6].map((d) => (
            <line
              key={d}
              x1={d * 48}
              x2={d * 48}
              y1={0}
              y2={100}
              stroke="var(--rule-strong)"
              vectorEffect="non-scaling-stroke"
            />
          ))}
          {now > 0 && now < 336 && (
            <line
              x1={now}
              x2={now}
              y1={0}
              y2={100}
              stroke="var(--ink)"
              strokeDasharray="3 3"
              vectorEffect="non-scaling-stroke"
            />
          )}
        </svg>
        <div className="grid grid-cols-7 text-tiny text-ink-2">
          {DAYS.map((d) => (
            <span key={d}>{d}</span>
          ))}
        </div>
        <p className="mt-1 flex flex-wrap gap-x-4 text-tiny text-ink-2">
          <span>
            <span className="mr-1 inline-block size-2.5 rounded-sm bg-level-2" />
            on shift, enough
          </span>
          <span>
            <span className="mr-1 inline-block size-2.5 rounded-sm bg-brass-2" />
            on shift, too few
          </span>
          {view.needed.length > 0 && (
            <span>
              <span className="mr-1 inline-block h-0.5 w-4 bg-clay align-middle" />
              needed in the busiest week: work ÷ 85%
            </span>
          )}
          <span>dashed: now</span>
        </p>
      </div>
    </div>
  );
}
