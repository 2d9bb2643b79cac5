'use client';

import { clsx } from 'clsx';
import type { Figure } from '@/services/review/figures';
import type { Beside } from '@/services/review/subject';
import { asFigure } from '../kit/figures';

/** Where something stands among its peers: each a tick, itself the dot, the range before the ring. */
export function BesideStrip({ figure, beside }: { figure: Figure; beside: Beside }) {
  const all = [...beside.peers.map((p) => p.value), figure.value, figure.before].filter((v): v is number => v !== null);
  if (all.length === 0) return null;
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const at = (value: number) => `${high === low ? 50 : 4 + ((value - low) / (high - low)) * 92}%`;
  return (
    <span
      className="relative block h-4 w-full"
      role="img"
      aria-label={`${beside.peers.length} others from ${asFigure(low, figure.unit)} to ${asFigure(high, figure.unit)}`}
    >
      <span className="absolute inset-x-0 top-1/2 h-px bg-rule" />
      {beside.peers.map((p) => (
        <span
          key={p.name}
          title={`${p.name} ${asFigure(p.value, figure.unit)}`}
          className="absolute top-1 h-2 w-px bg-ink-3"
          style={{ left: at(p.value) }}
        />
      ))}
      {beside.mean !== null && <Mark at={at(beside.mean)} className="h-3.5 w-0.5 bg-ink" />}
      {figure.before !== null && (
        <Mark at={at(figure.before)} className="size-2.5 rounded-full border-[1.5px] border-plum bg-sheet" />
      )}
      {figure.value !== null && <Mark at={at(figure.value)} className="size-2.5 rounded-full bg-plum" />}
    </span>
  );
}
const Mark = ({ at, className }: { at: string; className: string }) => (
  <span className={clsx('absolute top-1/2 -translate-x-1/2 -translate-y-1/2', className)} style={{ left: at }} />
);
