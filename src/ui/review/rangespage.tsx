'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { RangesView } from '@/services/review/ranges';
import { asDay, asFigure } from '../kit/figures';
import { Empty, Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { changeWords, isBetter, reviewHref } from './address';
import { AskBar } from './askbar';
import { Behind, type Opened } from './behind';
import { LinePanel } from './linepanel';
import { RangeNote } from './reviewpage';

const daysOf = ({ from, to }: { readonly from: string; readonly to: string }): string =>
  from === to ? asDay(from) : `${asDay(from)} – ${asDay(to)}`;

/** Two ranges side by side: every figure in both, and the one that is chosen through them. */
export function RangesPage({ view }: { view: RangesView }) {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [chosen, setChosen] = useState('service-level');
  const figure = view.figures.find((f) => f.id === chosen) ?? view.figures[0];
  return (
    <>
      <StopNav stop="Review" asked={reviewHref('', view.address)} />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <AskBar
          view={view}
          path="/review/ranges"
          title={<h1 className="text-title">Two ranges side by side</h1>}
          csv={{ kind: 'ranges' }}
          keeps={false}
        />
        {!figure ? (
          <Panel>
            <Empty title="Nothing in either range">Choose other days, or narrow them less.</Empty>
          </Panel>
        ) : (
          <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
            <Panel className="min-w-0 overflow-x-auto p-4" label="Every figure">
              <table className="w-full text-small">
                <thead className="text-tiny text-ink-2">
                  <tr>
                    <th scope="col" className="text-left font-normal">
                      <span className="sr-only">Figure</span>
                    </th>
                    {[view, view.before].map((range) => (
                      <th key={range.from} scope="col" className="pl-3 text-right font-normal whitespace-nowrap">
                        {daysOf(range)}
                      </th>
                    ))}
                    <th scope="col" className="pl-3 text-right font-normal">
                      difference
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {view.figures.map((one) => (
                    <FigureRow
                      key={one.id}
                      figure={one}
                      compared={view.before.whole}
                      chosen={one.id === figure.id}
                      onChoose={() => setChosen(one.id)}
                    />
                  ))}
                </tbody>
              </table>
            </Panel>
            <div className="lg:sticky lg:top-3">
              <LinePanel figure={figure} line={view.line} onOpen={() => setOpened({ measure: figure.id })} />
            </div>
          </div>
        )}
        <RangeNote view={view} />
        {opened && <Behind address={view.address} opened={opened} zone={view.zone} onClose={() => setOpened(null)} />}
      </main>
    </>
  );
}

/** A figure in both ranges. How many it speaks of stands below where that is not the figure itself. */
function FigureRow({
  figure,
  compared,
  chosen,
  onChoose,
}: {
  figure: RangesView['figures'][number];
  compared: boolean;
  chosen: boolean;
  onChoose: () => void;
}) {
  const { value, before, count, countBefore, unit } = figure;
  const good = isBetter(figure, value, before);
  const cell = (of: number | null, many: number) => (
    <td className="py-1 pl-3 text-right tabular-nums">
      <span className="font-semibold">{asFigure(of, unit)}</span>
      {unit !== 'count' && (
        <span className="ml-1.5 inline-block min-w-16 text-tiny text-ink-2">of {asFigure(many, 'count')}</span>
      )}
    </td>
  );
  return (
    <tr className={clsx('border-t border-rule', chosen && 'bg-chosen')}>
      <th scope="row" className="py-1 text-left font-medium">
        <button
          type="button"
          aria-pressed={chosen}
          title={figure.formula}
          className="text-left hover:underline"
          onClick={onChoose}
        >
          {figure.name}
        </button>
      </th>
      {cell(value, count)}
      {cell(before, countBefore)}
      <td
        className={clsx(
          'py-1 pl-3 text-right tabular-nums',
          good === null ? 'text-ink-2' : good ? 'text-moss' : 'text-clay',
        )}
      >
        {(compared || unit !== 'count') && changeWords(unit, value, before)}
      </td>
    </tr>
  );
}
