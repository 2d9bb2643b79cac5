'use client';

import type { ExplainedFigure } from '@/services/review/figurewords';
import { Link } from '../kit/link';
import { Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';

/** Every figure of Review: in words, how it is made, what it counts by, and where it stands. */
export const FigureWordsPage = ({ figures }: { figures: readonly ExplainedFigure[] }) => (
  <>
    <StopNav stop="Review" />
    <main className="flex flex-col gap-3 p-4 pt-2.5">
      <h1 className="text-title">What the figures are</h1>
      <Panel className="p-4">
        <dl className="grid gap-x-6 md:grid-cols-[190px_minmax(0,1fr)_300px]">
          {figures.map((figure) => (
            <div
              key={figure.id}
              id={figure.id}
              className="col-span-full grid grid-cols-subgrid gap-y-1 border-t border-rule py-2 first:border-0 target:bg-chosen"
            >
              <dt className="font-display font-semibold">
                {figure.name}
                <span className="block font-body text-tiny font-normal text-ink-2">{figure.unitWords}</span>
              </dt>
              <dd>{figure.formula}</dd>
              <dd className="text-small text-ink-2">
                Made of {figure.rows}.{' '}
                {figure.better === 'neither' ? '' : `${figure.better === 'more' ? 'More' : 'Less'} is better. `}
                {figure.pages.map((page, i) => (
                  <span key={page.kind}>
                    {i > 0 && ', '}
                    {page.kind === 'lines' || page.kind === 'stages' || page.kind === 'intents' ? (
                      page.name
                    ) : (
                      <Link className="text-plum underline" href={`/review/${page.kind}`}>
                        {page.name}
                      </Link>
                    )}
                  </span>
                ))}
              </dd>
            </div>
          ))}
        </dl>
      </Panel>
    </main>
  </>
);
