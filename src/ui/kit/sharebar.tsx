'use client';

import { clsx } from 'clsx';
import { Slider } from 'radix-ui';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';

/** Somebody or something that gets a share, as a whole weight. */
export type Share = { readonly id: string; readonly name: string; readonly weight: number };
const MOST = 100;
const FILLS = ['bg-plum-wash', 'bg-tide-wash', 'bg-moss-wash', 'bg-brass-wash'] as const;

/** Weights fine enough that one of them can be moved a little, in the same proportions. */
function fine(shares: readonly Share[]): readonly Share[] {
  const most = Math.max(1, ...shares.map((s) => s.weight));
  const factor = Math.max(
    1,
    Math.floor(
      Math.min(
        MOST / most,
        60 /
          Math.max(
            1,
            shares.reduce((n, s) => n + s.weight, 0),
          ),
      ),
    ),
  );
  return shares.map((s) => ({ ...s, weight: s.weight * factor }));
}

/** The same proportions in the smallest whole weights. */
function plain(shares: readonly Share[]): Share[] {
  const divisor = shares
    .map((s) => s.weight)
    .reduce((a, b) => {
      let [x, y] = [a, b];
      while (y) [x, y] = [y, x % y];
      return x;
    }, 0);
  return shares.map((s) => ({ ...s, weight: s.weight / Math.max(1, divisor) }));
}

/**
 * Shares as one bar: the edge between two is dragged, or moved by the arrow keys, and takes from one what it gives the other.
 */
export function ShareBar({
  label,
  shares,
  disabled,
  onChange,
}: {
  label: string;
  shares: readonly Share[];
  disabled: boolean;
  onChange: (shares: readonly Share[]) => void;
}) {
  const bar = useRef<HTMLDivElement>(null);
  const all = fine(shares);
  const total = all.reduce((n, s) => n + s.weight, 0);
  const give = (i: number, to: number) => {
    const [left, right] = [all[i], all[i + 1]];
    if (!left || !right) return;
    const both = left.weight + right.weight;
    const weight = Math.max(1, both - MOST, Math.min(both - 1, MOST, to));
    if (weight === left.weight) return;
    onChange(
      plain(all.map((s, j) => (j === i ? { ...s, weight } : j === i + 1 ? { ...s, weight: both - weight } : s))),
    );
  };
  const drag = (i: number) => (event: PointerEvent<HTMLElement>) => {
    const box = bar.current?.getBoundingClientRect();
    if (!box || disabled || event.buttons === 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const before = all.slice(0, i).reduce((n, s) => n + s.weight, 0);
    give(i, Math.round(((event.clientX - box.left) / box.width) * total) - before);
  };
  const press = (i: number) => (event: KeyboardEvent) => {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    give(i, (all[i]?.weight ?? 1) + by);
  };
  const percent = (s: Share) => Math.round((s.weight / total) * 100);
  return (
    <div role="group" aria-label={label}>
      <div ref={bar} className="flex h-9 w-full overflow-hidden rounded-control border border-rule-strong">
        {all.map((s, i) => (
          <div
            key={s.id}
            className={clsx('relative min-w-0 overflow-hidden', FILLS[i % FILLS.length])}
            style={{ flexGrow: s.weight, flexBasis: 0 }}
            title={`${s.name}: ${percent(s)}%`}
          >
            <span className="block truncate px-2 pt-px text-tiny leading-4">{s.name}</span>
            <span className="block px-2 text-tiny leading-4 text-ink-2 tabular-nums">{percent(s)}%</span>
            {i < all.length - 1 && (
              <span
                role="slider"
                tabIndex={disabled ? -1 : 0}
                aria-label={`Between ${s.name} and ${all[i + 1]?.name ?? ''}`}
                aria-valuemin={0}
                aria-valuemax={100}
                aria-valuenow={percent(s)}
                aria-valuetext={`${s.name} ${percent(s)}%`}
                aria-disabled={disabled}
                onPointerDown={drag(i)}
                onPointerMove={drag(i)}
                onKeyDown={disabled ? undefined : press(i)}
                className="absolute inset-y-0 right-0 w-2 cursor-ew-resize touch-none border-r-2 border-ink-3 outline-none focus-visible:bg-ink/30"
              />
            )}
          </div>
        ))}
      </div>
    </div>
  );
}

/** Shares of many, a bar each: its end is dragged or moved by the arrow keys, and what it comes to of all stands beside it. */
export function ShareRows({
  shares,
  disabled,
  onChange,
}: {
  shares: readonly Share[];
  disabled: boolean;
  onChange: (id: string, weight: number) => void;
}) {
  const total = shares.reduce((n, s) => n + s.weight, 0);
  const most = Math.max(10, ...shares.map((s) => s.weight));
  return (
    <ul className="grid grid-cols-[minmax(80px,auto)_minmax(0,1fr)_40px] items-center gap-x-3">
      {shares.map((s) => (
        <li key={s.id} className="contents text-small">
          <span className="truncate py-0.5">{s.name}</span>
          <Slider.Root
            className="relative flex h-5 touch-none items-center select-none"
            min={0}
            max={most}
            step={1}
            disabled={disabled}
            value={[s.weight]}
            onValueChange={([weight]) => {
              if (weight !== undefined && Math.max(1, weight) !== s.weight) onChange(s.id, Math.max(1, weight));
            }}
          >
            <Slider.Track className="relative h-3.5 grow overflow-hidden rounded-[4px] bg-sunk">
              <Slider.Range className="absolute h-full bg-plum-wash" />
            </Slider.Track>
            <Slider.Thumb
              aria-label={`Weight of ${s.name}`}
              className="block h-5 w-2 rounded-[3px] border border-rule-strong bg-plum outline-none focus-visible:ring-2 focus-visible:ring-ink"
            />
          </Slider.Root>
          <span className="text-right text-ink-2 tabular-nums">{Math.round((s.weight / total) * 100)}%</span>
        </li>
      ))}
    </ul>
  );
}
