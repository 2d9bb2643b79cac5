import { clsx } from 'clsx';
import type { ReactNode } from 'react';
import type { Segment } from '@/core/routing/clocksegments';
import type { Clock } from './useclock';

/** One act on the axis, from its second to where another takes its place; one that can be moved is a button. */
export function Block({
  clock,
  segment,
  look,
  label,
  children,
}: {
  clock: Clock;
  segment: Segment;
  look: string;
  label: string;
  children: ReactNode;
}) {
  const { place } = segment;
  const style = { left: clock.at(segment.from), width: `calc(${clock.width(segment)} - 3px)` };
  const base = clsx(
    'absolute top-0 h-7 overflow-hidden rounded-[7px] px-2 text-left text-small leading-7 text-ellipsis whitespace-nowrap',
    look,
  );
  if (!place)
    return (
      <span className={base} style={style} title={label}>
        {children}
      </span>
    );
  const on = clock.chosen?.stage === place.stage && clock.chosen.act === place.act;
  return (
    <button
      type="button"
      data-act={`${place.stage}.${place.act}`}
      aria-pressed={on}
      aria-label={`${label}, at ${segment.from} s`}
      title={`${label}, at ${segment.from} s`}
      style={style}
      className={clsx(base, !clock.disabled && 'cursor-ew-resize touch-none', on && 'ring-2 ring-ink')}
      onFocus={() => clock.setChosen(place)}
      onClick={() => clock.setChosen(place)}
      onPointerDown={(e) => clock.onDown(e, place)}
      onKeyDown={(e) => clock.onKey(e, place)}
    >
      {children}
    </button>
  );
}
