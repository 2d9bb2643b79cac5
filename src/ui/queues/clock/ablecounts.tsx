import { clsx } from 'clsx';
import type { ClockCount } from '@/core/routing/clockcounts';
import type { Clock } from './useclock';

/** How many could take it, from each second on, of those on duty; a dashed line says how many in the busiest hour. */
export function AbleCounts({
  clock,
  counts,
  busiest,
}: {
  clock: Clock;
  counts: readonly ClockCount[] | null;
  busiest: string | null;
}) {
  const { at, end } = clock;
  const tallest = Math.max(1, ...(counts ?? []).map((c) => Math.max(c.able, c.onDuty)));
  const cutCounts = (counts ?? []).filter((c) => c.atSeconds < end);
  return (
    <div className="grid grid-cols-[132px_minmax(0,1fr)] pt-1">
      <div>
        <p className="text-small font-semibold">Able right now</p>
        <p className="text-small text-ink-2">of people on duty</p>
        {busiest && <p className="pr-2 text-tiny text-ink-3">dashed: {busiest}</p>}
      </div>
      <div
        className="relative mr-6 h-[74px] border-b border-rule"
        role="img"
        aria-label={
          counts
            ? cutCounts
                .map(
                  (c) =>
                    `from ${c.atSeconds} s ${c.able} able of ${c.onDuty} on duty, ${c.busiest} in the busiest hour`,
                )
                .join('; ')
            : 'counting'
        }
      >
        {cutCounts.map((c, i) => {
          const to = cutCounts[i + 1]?.atSeconds ?? end;
          const high = Math.max(tallest, ...cutCounts.map((x) => x.busiest));
          return (
            <span
              key={c.atSeconds}
              className="absolute bottom-0"
              style={{
                left: at(c.atSeconds),
                width: `calc(${((to - c.atSeconds) / end) * 100}% - 2px)`,
                height: '100%',
              }}
            >
              <span
                className={clsx('absolute bottom-0 w-full rounded-t-[4px]', c.able === 0 ? 'bg-clay' : 'bg-moss')}
                style={{ height: `${Math.max(5, (c.able / high) * 54)}px` }}
              />
              {c.busiest > 0 && (
                <span
                  className="absolute w-full border-t border-dashed border-ink-2"
                  style={{ bottom: `${(c.busiest / high) * 54}px` }}
                />
              )}
              <span
                className="absolute left-1.5 text-small font-bold"
                style={{ bottom: `${Math.max(5, (c.able / high) * 54) + 1}px` }}
              >
                {c.able}
                <span className="ml-1 text-tiny font-normal text-ink-2">of {c.onDuty}</span>
              </span>
            </span>
          );
        })}
      </div>
    </div>
  );
}
