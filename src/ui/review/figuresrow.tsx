'use client';

import { clsx } from 'clsx';
import type { Figure } from '@/services/review/figures';
import { asFigure } from '../kit/figures';
import { Panel } from '../kit/panel';
import { changeWords, isBetter } from './address';

/** One figure with its change; pressed, its line and its contacts are shown. */
function FigureCell({
  figure,
  compared,
  chosen,
  onChoose,
}: {
  figure: Figure;
  /** Whether the log has all of the range before: else counts cannot be compared. */
  compared: boolean;
  chosen: boolean;
  onChoose: () => void;
}) {
  const good = isBetter(figure, figure.value, figure.before);
  return (
    <button
      type="button"
      onClick={onChoose}
      aria-pressed={chosen}
      title={figure.formula}
      className={clsx(
        '-mr-px -mb-px border-r border-b border-rule px-3 py-2 text-left hover:bg-chosen',
        chosen && 'bg-chosen',
      )}
    >
      <span className="block truncate text-tiny text-ink-2">{figure.name}</span>
      <span className="flex flex-wrap items-baseline gap-x-2">
        <span className="font-display text-[19px] font-semibold">{asFigure(figure.value, figure.unit)}</span>
        <span className={clsx('text-tiny', good === null ? 'text-ink-2' : good ? 'text-moss' : 'text-clay')}>
          {(compared || figure.unit !== 'count') && changeWords(figure.unit, figure.value, figure.before)}
        </span>
      </span>
    </button>
  );
}

/** As many beside each other as give full rows. */
const COLUMNS: Readonly<Record<number, string>> = {
  1: 'lg:grid-cols-1',
  2: 'lg:grid-cols-2',
  3: 'lg:grid-cols-3',
  4: 'lg:grid-cols-4',
  5: 'lg:grid-cols-5',
  6: 'lg:grid-cols-6',
  7: 'lg:grid-cols-7',
};

/** The figures of a page; one is chosen. */
export function FiguresRow({
  figures,
  compared,
  chosen,
  onChoose,
}: {
  figures: readonly Figure[];
  compared: boolean;
  chosen: string | undefined;
  onChoose: (id: string) => void;
}) {
  const columns = figures.length <= 7 ? figures.length : Math.ceil(figures.length / 2);
  return (
    <Panel label="Figures" className={clsx('grid grid-cols-3 overflow-hidden', COLUMNS[columns] ?? 'lg:grid-cols-6')}>
      {figures.map((f) => (
        <FigureCell
          key={f.id}
          figure={f}
          compared={compared}
          chosen={f.id === chosen}
          onChoose={() => onChoose(f.id)}
        />
      ))}
    </Panel>
  );
}
