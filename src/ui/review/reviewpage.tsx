'use client';

import { clsx } from 'clsx';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Link from 'next/link';
import { Bar, BarChart, CartesianGrid, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import type { BehindView, Figure, ReviewView } from '@/services/review/review';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { Dialog } from '../kit/dialog';
import { Input, Select } from '../kit/field';
import { asClock, asCount, asDayTime, asFigure, asShare } from '../kit/figures';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';

const DAYS = ['M', 'T', 'W', 'T', 'F', 'S', 'S'];
const ENDS: Readonly<Record<string, string>> = {
  bot: 'finished by the bot',
  'left-bot': 'left in the bot',
  'gave-up': 'gave up waiting',
  resolved: 'handled',
  'closed-by-us': 'door was closed',
};

/** How the team did in a range, against the range before; every figure opens its definition and the contacts behind it. */
export function ReviewPage({ view }: { view: ReviewView }) {
  const router = useRouter();
  const [behind, setBehind] = useState<{ measure?: string; person?: string } | null>(null);
  const [sort, setSort] = useState<'handled' | 'handleSeconds' | 'firstReplySeconds' | 'inGoal' | 'passedOn'>(
    'handled',
  );
  const asked = { from: view.from, to: view.to, queue: view.queueId, channel: view.channel };
  const go = (change: Partial<typeof asked>) => {
    const next = { ...asked, ...change };
    router.push(`/review?${new URLSearchParams(Object.entries(next).filter(([, v]) => v !== '')).toString()}`);
  };
  const people = [...view.people].sort((a, b) => (b[sort] ?? -1) - (a[sort] ?? -1));
  const most = Math.max(1, ...view.people.map((p) => Math.max(p.handled, p.handledBefore)));
  return (
    <main className="flex flex-col gap-3 p-4">
      <div className="flex flex-wrap items-center gap-2">
        <h1 className="text-title">How the team did</h1>
        <Input
          aria-label="From"
          type="date"
          className="!w-36"
          value={view.from}
          max={view.to}
          onChange={(e) => e.target.value && go({ from: e.target.value })}
        />
        <span className="text-small">to</span>
        <Input
          aria-label="To"
          type="date"
          className="!w-36"
          value={view.to}
          min={view.from}
          onChange={(e) => e.target.value && go({ to: e.target.value })}
        />
        <Pill>against the same length before, up to the same hour</Pill>
        <Select
          aria-label="Queue"
          className="!w-40"
          value={view.queueId}
          onChange={(e) => go({ queue: e.target.value })}
        >
          <option value="">All queues</option>
          {view.queues.map((q) => (
            <option key={q.id} value={q.id}>
              {q.name}
            </option>
          ))}
        </Select>
        <Select
          aria-label="Channel"
          className="!w-36"
          value={view.channel}
          onChange={(e) => go({ channel: e.target.value })}
        >
          <option value="">All channels</option>
          {CHANNELS.map((c) => (
            <option key={c} value={c}>
              {CHANNEL_NAMES[c].name}
            </option>
          ))}
        </Select>
        {view.mayExport && (
          <a
            className="ml-auto rounded-control border border-rule-strong bg-sheet px-3 py-1.5 font-display text-[13.5px] font-semibold"
            href={`/api/review.csv?${new URLSearchParams(Object.entries(asked).filter(([, v]) => v !== '')).toString()}`}
          >
            CSV
          </a>
        )}
      </div>
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
          {people.length === 0 ? (
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
              <table className="w-full text-left">
                <thead className="sticky top-0 bg-sheet text-small text-ink-2">
                  <tr>
                    <th className="py-1.5 pl-2 font-medium">Person</th>
                    {(
                      [
                        ['handled', 'Handled', 'left'],
                        ['handleSeconds', 'Handle time', 'right'],
                        ['firstReplySeconds', 'First reply', 'right'],
                        ['inGoal', 'In goal', 'right'],
                        ['passedOn', 'Passed on', 'right'],
                      ] as const
                    ).map(([key, name, side]) => (
                      <th
                        key={key}
                        aria-sort={sort === key ? 'descending' : 'none'}
                        className={clsx('font-medium', side === 'right' && 'pr-2 text-right')}
                      >
                        <button
                          type="button"
                          className={clsx(sort === key && 'font-semibold text-ink')}
                          onClick={() => setSort(key)}
                        >
                          {name}
                          {sort === key ? ' ↓' : ''}
                        </button>
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {people.map((p) => (
                    <tr key={p.personId} className="border-t border-rule hover:bg-chosen">
                      <td className="py-1 pl-2">
                        <button type="button" className="text-left" onClick={() => setBehind({ person: p.personId })}>
                          {p.name}
                        </button>
                      </td>
                      <td>
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
                      </td>
                      <td className="pr-2 text-right">{asClock(p.handleSeconds)}</td>
                      <td className="pr-2 text-right">{asClock(p.firstReplySeconds)}</td>
                      <td className={clsx('pr-2 text-right', p.inGoal !== null && p.inGoal < 0.7 && 'text-clay')}>
                        {asShare(p.inGoal)}
                      </td>
                      <td className="pr-2 text-right">{p.passedOn}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </Panel>
        <div className="flex min-w-0 flex-col gap-3">
          <Busy view={view} />
          <Panel className="p-4" label="Answered in goal by queue">
            <h2 className="text-panel">Answered in goal by queue</h2>
            <p className="text-small text-ink-2">the line is 80%</p>
            {view.perQueue.length === 0 ? (
              <Empty title="Nothing was offered" />
            ) : (
              <div
                style={{ height: 22 + view.perQueue.length * 25 }}
                role="img"
                aria-label={view.perQueue.map((q) => `${q.name} ${asShare(q.inGoal)}`).join(', ')}
              >
                <ResponsiveContainer width="100%" height="100%">
                  <BarChart
                    layout="vertical"
                    accessibilityLayer={false}
                    data={view.perQueue.map((q) => ({
                      name: q.name,
                      share: q.inGoal === null ? 0 : Math.round(q.inGoal * 100),
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
                    <ReferenceLine x={80} stroke="var(--clay)" />
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
                      fill="var(--moss)"
                      radius={3}
                      barSize={11}
                      isAnimationActive={false}
                      label={{
                        position: 'right',
                        fontSize: 12,
                        fill: 'var(--ink)',
                        formatter: (value: unknown) => `${String(value)}%`,
                      }}
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
        {view.since ? `The log begins on ${view.since}.` : 'The log is empty.'}
      </p>
      {behind && <Behind asked={{ ...asked, ...behind }} zone={view.zone} onClose={() => setBehind(null)} />}
    </main>
  );
}

function FigureCell({ figure, onOpen }: { figure: Figure; onOpen: () => void }) {
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

/** Contacts started per hour and weekday, depth of plum by count. */
function Busy({ view }: { view: ReviewView }) {
  const most = Math.max(1, ...view.busy.map((b) => b.count));
  const hours = [...new Set(view.busy.map((b) => b.hour))].sort((a, b) => a - b);
  const span =
    hours.length === 0
      ? []
      : Array.from({ length: (hours.at(-1) ?? 0) - (hours[0] ?? 0) + 1 }, (_, i) => (hours[0] ?? 0) + i);
  return (
    <Panel className="p-4" label="When it was busy">
      <h2 className="text-panel">When it was busy</h2>
      <p className="text-small text-ink-2">contacts started per hour, all queues</p>
      {span.length === 0 ? (
        <Empty title="No contact came in this range" />
      ) : (
        <table className="mt-1 w-full table-fixed border-separate border-spacing-[3px] text-tiny">
          <thead>
            <tr>
              <th className="w-4" />
              {span.map((h) => (
                <th key={h} className="font-normal text-ink-2">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {DAYS.map((name, d) => (
              <tr key={d}>
                <th className="font-normal text-ink-2">{name}</th>
                {span.map((h) => {
                  const count = view.busy.find((b) => b.day === d + 1 && b.hour === h)?.count ?? 0;
                  return (
                    <td key={h} title={`${count} contacts`} className="h-4 rounded-[4px] bg-sunk p-0">
                      <span
                        className="block h-4 rounded-[4px] bg-plum"
                        style={{ opacity: count === 0 ? 0 : 0.12 + (count / most) * 0.88 }}
                      >
                        <span className="sr-only">{count}</span>
                      </span>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Panel>
  );
}

function Behind({
  asked,
  zone,
  onClose,
}: {
  asked: Record<string, string | undefined>;
  zone: string;
  onClose: () => void;
}) {
  const query = new URLSearchParams(
    Object.entries(asked).filter((e): e is [string, string] => e[1] !== undefined && e[1] !== ''),
  ).toString();
  const { data, error } = useLive<BehindView>(`/api/read/behind?${query}`, []);
  return (
    <Dialog
      wide
      open
      onClose={onClose}
      title={data ? `${data.title}: ${asFigure(data.value, data.unit)}` : 'Reading…'}
      {...(data ? { description: data.formula } : {})}
    >
      {error && (
        <p role="alert" className="text-clay">
          The contacts cannot be read just now.
        </p>
      )}
      {data &&
        (data.lines.length === 0 ? (
          <Empty title="No contact stands behind this figure" />
        ) : (
          <>
            <p className="mb-2 text-small text-ink-2">
              {asCount(data.total)} {data.total === 1 ? 'contact' : 'contacts'}
              {data.total > data.lines.length ? `, the first ${data.lines.length} shown` : ''}
            </p>
            <table className="w-full text-left text-small">
              <thead className="text-tiny text-ink-2">
                <tr>
                  <th className="py-1 font-medium">Started</th>
                  <th className="font-medium">Queues</th>
                  <th className="font-medium">People</th>
                  <th className="pr-3 text-right font-medium">Longest wait</th>
                  <th className="font-medium">Ended</th>
                </tr>
              </thead>
              <tbody>
                {data.lines.map((l) => (
                  <tr key={l.id} className="border-t border-rule">
                    <td className="py-1">
                      <Link
                        href={`/contacts/${l.id}`}
                        className="inline-flex items-center gap-2 font-medium text-plum underline"
                      >
                        <ChannelMark channel={l.channel} size={14} />
                        {asDayTime(l.startedAt, zone)}
                      </Link>
                    </td>
                    <td>{l.queues}</td>
                    <td>{l.people}</td>
                    <td className="pr-3 text-right">{asClock(l.waited)}</td>
                    <td className="text-ink-2">{l.endedHow ? (ENDS[l.endedHow] ?? l.endedHow) : 'still open'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        ))}
      <div className="mt-3">
        <Button onClick={onClose}>Close</Button>
      </div>
    </Dialog>
  );
}
