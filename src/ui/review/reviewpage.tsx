'use client';

import { useState } from 'react';
import type { ReviewView } from '@/services/review/overview';
import { asDay } from '../kit/figures';
import { Empty, Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { reviewHref } from './address';
import { AskBar } from './askbar';
import { Behind, type Opened } from './behind';
import { Busy } from './busy';
import { EachTable } from './eachtable';
import { FiguresRow } from './figuresrow';
import { QueueGoals } from './goals';
import { LinePanel } from './linepanel';
import { WhatChanged } from './whatchanged';

/**
 * How the team did in a range, against another; every figure opens its definition, its line and the contacts behind it.
 */
export function ReviewPage({ view }: { view: ReviewView }) {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [chosen, setChosen] = useState('service-level');
  const figure = view.figures.find((f) => f.id === chosen) ?? view.figures[0];
  return (
    <>
      <StopNav stop="Review" asked={reviewHref('', view.address)} />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <AskBar view={view} path="/review" title={<h1 className="text-title">How the team did</h1>} />
        <WhatChanged address={view.address} range={view} path="/review" onOpen={setOpened} />
        <FiguresRow figures={view.figures} compared={view.before.whole} chosen={figure?.id} onChoose={setChosen} />
        <div className="grid gap-3 lg:grid-cols-[minmax(0,1fr)_400px]">
          <div className="flex min-w-0 flex-col gap-3">
            {figure && <LinePanel figure={figure} line={view.line} onOpen={() => setOpened({ measure: figure.id })} />}
            <Panel className="min-w-0 p-4" label="Each person">
              <div className="flex items-baseline gap-2">
                <h2 className="text-panel">Each person</h2>
                <span className="text-small text-ink-2">bar: this range · tick: the range before</span>
              </div>
              {view.people.length === 0 ? (
                <Empty title="No contact was finished in this range">Widen the range, or narrow it less.</Empty>
              ) : (
                <EachTable
                  kind="people"
                  head="Person"
                  columns={view.columns}
                  rows={view.people}
                  address={view.address}
                  compared={view.before.whole}
                  onOpen={(id, measure) => setOpened({ kind: 'people', id, measure })}
                />
              )}
            </Panel>
          </div>
          <div className="flex min-w-0 flex-col gap-3">
            <Busy busy={view.busy} from={view.from} to={view.to} />
            <QueueGoals view={view} />
          </div>
        </div>
        <RangeNote view={view} />
        {opened && <Behind address={view.address} opened={opened} zone={view.zone} onClose={() => setOpened(null)} />}
      </main>
    </>
  );
}

/** By what things count, and how far back the log goes. */
export const RangeNote = ({ view }: { view: Pick<ReviewView, 'zone' | 'since'> }) => (
  <p className="text-small text-ink-3">
    Contacts count by when they started, messages by when they were written, waits and offers by when a queue was
    entered, handling by when it ended, in {view.zone}.{' '}
    {view.since ? `The log begins on ${asDay(view.since)}.` : 'The log is empty.'}
  </p>
);
