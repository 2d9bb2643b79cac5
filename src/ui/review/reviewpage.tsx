'use client';

import { clsx } from 'clsx';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import type { ReviewView } from '@/services/review/review';
import { LinkButton } from '../kit/button';
import { RangeField } from '../kit/datefield';
import { asClock, asDay, asShare } from '../kit/figures';
import { Filters } from '../kit/filters';
import { Empty, Panel, Pill } from '../kit/panel';
import { usualRanges } from '../kit/ranges';
import { options, Select } from '../kit/select';
import { Table } from '../kit/table';
import { Behind } from './behind';
import { Busy } from './busy';
import { FigureCell } from './figurecell';
import { GoalBar, STANDING_WORDS } from './goalbar';

/**
 * How the team did in a range, against the range before; every figure opens its definition and the contacts behind
 * it.
 */
export function ReviewPage({ view }: { view: ReviewView }) {
  const router = useRouter();
  const [behind, setBehind] = useState<{ measure?: string; person?: string } | null>(null);
  const asked = { from: view.from, to: view.to, queue: view.queueId, channel: view.channel };
  const go = (change: Partial<typeof asked>) => {
    const next = { ...asked, ...change };
    router.push(`/review?${new URLSearchParams(Object.entries(next).filter(([, v]) => v !== '')).toString()}`);
  };
  const most = Math.max(1, ...view.people.map((p) => Math.max(p.handled, p.handledBefore)));
  return (
    <main className="flex flex-col gap-3 p-4">
      <Filters label="What is reviewed">
        <h1 className="mr-2 text-title">How the team did</h1>
        <RangeField
          label="Days"
          from={view.from}
          to={view.to}
          presets={usualRanges(view.today)}
          onChange={(range) => range.from && range.to && go(range)}
        />
        <Pill>against the same length before, up to the same hour</Pill>
        <Select aria-label="Queue" className="!w-40" value={view.queueId} onChange={(chosen) => go({ queue: chosen })}>
          <option value="">All queues</option>
          {options(view.queues)}
        </Select>
        <Select
          aria-label="Channel"
          className="!w-36"
          value={view.channel}
          onChange={(chosen) => go({ channel: chosen })}
        >
          <option value="">All channels</option>
          {options(CHANNELS, (c) => CHANNEL_NAMES[c].name)}
        </Select>
        {view.mayExport && (
          <LinkButton
            className="ml-auto"
            href={`/api/review.csv?${new URLSearchParams(Object.entries(asked).filter(([, v]) => v !== '')).toString()}`}
          >
            CSV
          </LinkButton>
        )}
      </Filters>
      <Panel label="Figures" className="grid grid-cols-3 overflow-hidden lg:grid-cols-5 xl:grid-cols-9">
        {view.figures.map((f) => (
          <FigureCell key={f.id} figure={f} onOpen={() => setBehind({ measure: f.id })} />
        ))}
      </Panel>
      <div className="grid gap-3 lg:grid-cols-[minmax(0,1fr)_370px]">
        <Panel className="min-w-0 p-4" label="Each person">
          <div className="flex items-baseline gap-2">
            <h2 className="text-panel">Each person</h2>
            <span className="text-small text-ink-2">
              bar: this range · tick: the range before · select a row for its contacts
            </span>
          </div>
          {view.people.length === 0 ? (
            <Empty title="No contact was finished in this range">
              Widen the range, or choose all queues and channels.
            </Empty>
          ) : (
            <div
              className="mt-1 max-h-[470px] overflow-y-auto"
              tabIndex={0}
              role="region"
              aria-label="Figures per person"
            >
              <Table
                compact
                label="Each person"
                rows={view.people}
                idOf={(p) => p.personId}
                sorted={{ id: 'handled', falling: true }}
                columns={[
                  {
                    id: 'person',
                    head: 'Person',
                    by: (p) => p.name,
                    cell: (p) => (
                      <button type="button" className="text-left" onClick={() => setBehind({ person: p.personId })}>
                        {p.name}
                      </button>
                    ),
                  },
                  {
                    id: 'handled',
                    head: 'Handled',
                    by: (p) => p.handled,
                    falls: true,
                    cell: (p) => (
                      <span className="flex items-center gap-2">
                        <span className="w-9 text-right">{p.handled}</span>
                        <span aria-hidden className="relative h-2.5 w-28 rounded bg-sunk">
                          <span
                            className="absolute inset-y-0 left-0 rounded bg-plum-2"
                            style={{ width: `${(p.handled / most) * 100}%` }}
                          />
                          <span
                            className="absolute -inset-y-0.5 w-0.5 bg-ink"
                            style={{ left: `${(p.handledBefore / most) * 100}%` }}
                          />
                        </span>
                      </span>
                    ),
                  },
                  {
                    id: 'handleSeconds',
                    head: 'Handle time',
                    figure: true,
                    by: (p) => p.handleSeconds,
                    cell: (p) => asClock(p.handleSeconds),
                  },
                  {
                    id: 'firstReplySeconds',
                    head: 'First reply',
                    figure: true,
                    by: (p) => p.firstReplySeconds,
                    cell: (p) => asClock(p.firstReplySeconds),
                  },
                  {
                    id: 'inGoal',
                    head: 'In goal',
                    figure: true,
                    by: (p) => p.inGoal,
                    cell: (p) => (
                      <span
                        className={clsx(p.standing === 'missed' && 'text-clay')}
                        title={p.standing ? STANDING_WORDS[p.standing] : undefined}
                      >
                        {asShare(p.inGoal)}
                      </span>
                    ),
                  },
                  { id: 'passedOn', head: 'Passed on', figure: true, by: (p) => p.passedOn, cell: (p) => p.passedOn },
                ]}
              />
            </div>
          )}
        </Panel>
        <div className="flex min-w-0 flex-col gap-3">
          <Busy view={view} />
          <Panel className="p-4" label="Answered in goal by queue">
            <h2 className="text-panel">Answered in goal by queue</h2>
            <p className="text-small text-ink-2">the line is what the queue is meant to reach</p>
            {view.perQueue.length === 0 ? (
              <Empty title="Nothing was offered" />
            ) : (
              <div
                style={{ height: 22 + view.perQueue.length * 25 }}
                role="img"
                aria-label={view.perQueue
                  .map(
                    (q) =>
                      `${q.name} ${asShare(q.inGoal)} of ${asShare(q.wanted)}${q.standing ? `, ${STANDING_WORDS[q.standing]}` : ''}`,
                  )
                  .join(', ')}
              >
                <ResponsiveContainer width="100%" height="100%">
                  <BarChart
                    layout="vertical"
                    accessibilityLayer={false}
                    data={view.perQueue.map((q) => ({
                      name: q.name,
                      share: q.inGoal === null ? 0 : Math.round(q.inGoal * 100),
                      wanted: q.wanted,
                      standing: q.standing,
                    }))}
                    margin={{ top: 4, right: 34, bottom: 0, left: 0 }}
                  >
                    <CartesianGrid horizontal={false} stroke="var(--rule)" />
                    <XAxis type="number" domain={[0, 100]} hide />
                    <YAxis
                      type="category"
                      dataKey="name"
                      width={104}
                      tick={{ fontSize: 12, fill: 'var(--ink)' }}
                      axisLine={false}
                      tickLine={false}
                      interval={0}
                    />
                    <Tooltip
                      cursor={{ fill: 'var(--sunk)' }}
                      formatter={(value) => [`${String(value)}%`, 'in goal']}
                      contentStyle={{
                        background: 'var(--sheet)',
                        border: '1px solid var(--rule)',
                        color: 'var(--ink)',
                      }}
                    />
                    <Bar
                      dataKey="share"
                      background={{ fill: 'transparent' }}
                      shape={GoalBar}
                      barSize={11}
                      isAnimationActive={false}
                    />
                  </BarChart>
                </ResponsiveContainer>
              </div>
            )}
          </Panel>
        </div>
      </div>
      <p className="text-small text-ink-3">
        Volume and waits count by when a contact entered, handling by when it ended, in {view.zone}.{' '}
        {view.since ? `The log begins on ${asDay(view.since)}.` : 'The log is empty.'}
      </p>
      {behind && <Behind asked={{ ...asked, ...behind }} zone={view.zone} onClose={() => setBehind(null)} />}
    </main>
  );
}
