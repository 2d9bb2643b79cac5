'use client';

import { clsx } from 'clsx';
import type { Figure } from '@/services/review/review';
import { asClock, asFigure } from '../kit/figures';

export function FigureCell({ figure, onOpen }: { figure: Figure; onOpen: () => void }) {
  const change =
    figure.value !== null && figure.before !== null && figure.before !== 0 ? figure.value - figure.before : null;
  const words =
    change === null || figure.before === null
      ? ''
      : figure.unit === 'share'
        ? `${change >= 0 ? '+' : '−'}${Math.abs(change * 100).toFixed(1)} pts`
        : figure.unit === 'seconds'
          ? `${change >= 0 ? '+' : '−'}${asClock(Math.abs(change))}`
          : `${change >= 0 ? '+' : '−'}${Math.abs((change / figure.before) * 100).toFixed(0)}%`;
  const good =
    change === null || figure.moreIsBetter === null || Math.abs(change) < (figure.unit === 'share' ? 0.0005 : 0.5)
      ? null
      : change > 0 === figure.moreIsBetter;
  return (
    <button
      type="button"
      onClick={onOpen}
      title={figure.formula}
      className="-mr-px -mb-px border-r border-b border-rule px-3 py-2.5 text-left hover:bg-chosen"
    >
      <span className="block truncate text-tiny text-ink-2">{figure.name}</span>
      <span className="flex flex-wrap items-baseline gap-x-2">
        <span className="font-display text-[20px] font-semibold">{asFigure(figure.value, figure.unit)}</span>
        <span className={clsx('text-tiny', good === null ? 'text-ink-2' : good ? 'text-moss' : 'text-clay')}>
          {words}
        </span>
      </span>
    </button>
  );
}
