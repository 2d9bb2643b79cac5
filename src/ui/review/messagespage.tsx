'use client';

import { useState } from 'react';
import type { MessagesView } from '@/services/review/messages';
import { Empty, Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { reviewHref } from './address';
import { AskBar } from './askbar';
import { Behind, type Opened } from './behind';
import { EachTable } from './eachtable';
import { FiguresRow } from './figuresrow';
import { LinePanel } from './linepanel';
import { RangeNote } from './reviewpage';
import { DepthCell, ShownChoice, spanOf, timesOf, WeekGrid } from './weekgrid';

const SHOWN = [
  ['in', 'in'],
  ['out', 'out'],
  ['byPerson', 'by people'],
  ['started', 'contacts'],
] as const;
type Shown = (typeof SHOWN)[number][0];

/** How much was written: in and out, by whom, at which hours of the week, and by which door. */
export function MessagesPage({ view }: { view: MessagesView }) {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [chosen, setChosen] = useState('messages-in');
  const figure = view.figures.find((f) => f.id === chosen) ?? view.figures[0];
  return (
    <>
      <StopNav stop="Review" asked={reviewHref('', view.address)} />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <AskBar
          view={view}
          path="/review/messages"
          title={<h1 className="text-title">Messages</h1>}
          csv={{ kind: 'messages' }}
          keeps={false}
        />
        <FiguresRow figures={view.figures} compared={view.before.whole} chosen={figure?.id} onChoose={setChosen} />
        <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
          {figure && <LinePanel figure={figure} line={view.line} onOpen={() => setOpened({ measure: figure.id })} />}
          <Hours view={view} />
        </div>
        <Panel className="min-w-0 overflow-x-auto p-4" label="By door">
          <h2 className="text-panel">By door</h2>
          {view.doors.length === 0 ? (
            <Empty title="Nothing in this range">Widen the range, or narrow it less.</Empty>
          ) : (
            <EachTable
              changes
              kind="doors"
              head="Door"
              columns={view.columns}
              rows={view.doors}
              address={view.address}
              compared={view.before.whole}
              onOpen={(id, measure) => setOpened({ kind: 'doors', id, measure })}
            />
          )}
        </Panel>
        <RangeNote view={view} />
        {opened && <Behind address={view.address} opened={opened} zone={view.zone} onClose={() => setOpened(null)} />}
      </main>
    </>
  );
}

/** What was written at each hour of the week: a mean, where the range has several such days. */
function Hours({ view: { hours, from, to } }: { view: MessagesView }) {
  const [shown, setShown] = useState<Shown>('in');
  const times = timesOf(from, to);
  const span = spanOf(hours.filter((h) => h.in + h.out + h.started > 0).map((h) => h.hour));
  const at = new Map(hours.map((h) => [`${h.day}|${h.hour}`, h]));
  const mean = (day: number, hour: number) => (at.get(`${day}|${hour}`)?.[shown] ?? 0) / (times[day] ?? 1);
  const most = Math.max(1, ...Object.keys(times).flatMap((day) => span.map((hour) => mean(Number(day), hour))));
  return (
    <Panel className="min-w-0 p-4" label="When it was written">
      <div className="flex items-baseline gap-2">
        <h2 className="text-panel whitespace-nowrap">When it was written</h2>
        <ShownChoice names={SHOWN} shown={shown} onChoose={setShown} />
      </div>
      {span.length === 0 ? (
        <Empty title="Nothing was written in this range" />
      ) : (
        <WeekGrid
          times={times}
          span={span}
          totals={mean}
          cell={(day, hour) => <DepthCell key={hour} depth={mean(day, hour) / most} n={mean(day, hour)} />}
        />
      )}
      {Object.values(times).some((n) => n > 1) && (
        <p className="text-tiny text-ink-2">means of the days of the range</p>
      )}
    </Panel>
  );
}
