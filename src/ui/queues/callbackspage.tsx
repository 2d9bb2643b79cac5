'use client';

import { Link } from '../kit/link';
import type { CallbackLine, CallbacksView, MessageLine } from '@/services/contacts/callbacks';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { doing } from '../kit/doing';
import { asClock, asDayTime, asTime } from '../kit/figures';
import { useLive } from '../kit/live';
import { Empty, Panel, PanelHead, Pill } from '../kit/panel';
import { type Column, Table } from '../kit/table';
import { useViewer } from '../lane/viewer';
import { StopNav } from '../lane/stopnav';

const STATES: Readonly<
  Record<CallbackLine['state'], { readonly words: string; readonly tone: 'plain' | 'good' | 'warn' | 'bad' | 'plum' }>
> = {
  planned: { words: 'planned', tone: 'plain' },
  waiting: { words: 'in line', tone: 'warn' },
  dialling: { words: 'ringing', tone: 'plum' },
  talking: { words: 'talking', tone: 'plum' },
  reached: { words: 'reached', tone: 'good' },
  expired: { words: 'expired', tone: 'bad' },
  'given-up': { words: 'not reached', tone: 'bad' },
  cancelled: { words: 'called off', tone: 'plain' },
};

const MESSAGES = (now: number, zone: string): readonly Column<MessageLine>[] => [
  {
    id: 'customer',
    head: 'Customer',
    by: (m) => m.customer,
    cell: (m) => (
      <Link href={`/contacts/${m.contactId}`} className="flex items-center gap-1.5 font-medium underline">
        <ChannelMark channel={m.channel} size={15} />
        {m.customer}
      </Link>
    ),
  },
  { id: 'queue', head: 'Queue', by: (m) => m.queue, cell: (m) => m.queue },
  {
    id: 'left',
    head: 'Left',
    by: (m) => m.placedAt,
    cell: (m) => asDayTime(m.placedAt, zone),
    className: 'text-small',
  },
  {
    id: 'due',
    head: 'To be taken up by',
    by: (m) => m.placedAt + m.goalSeconds * 1000,
    cell: (m) => {
      const due = m.placedAt + m.goalSeconds * 1000;
      return <Pill tone={due < now ? 'bad' : 'plain'}>{asDayTime(due, zone)}</Pill>;
    },
  },
];

/** Calls promised to customers, when, how often tried and what came of them; and messages that wait. */
export function CallbacksPage({ initial }: { initial: CallbacksView }) {
  const zone = useViewer()?.zone ?? 'UTC';
  const { data, refetch } = useLive<CallbacksView>(
    '/api/read/callbacks',
    ['callback.changed', 'settings.changed', 'visit.began', 'visit.ended'],
    initial,
  );
  const view = data ?? initial;
  const change = async (line: CallbackLine, act: 'cancel' | 'now') => {
    const said = act === 'now' ? 'In line; it is dialled as soon as somebody is free.' : 'Called off.';
    await doing('change-callback', { id: line.id, act }, said);
    await refetch();
  };
  const open = view.lines.filter(
    (l) => l.state === 'planned' || l.state === 'waiting' || l.state === 'dialling' || l.state === 'talking',
  );
  const over = view.lines.filter((l) => !open.includes(l)).sort((a, b) => b.askedAt - a.askedAt);
  const columns = (ended: boolean): readonly Column<CallbackLine>[] => [
    {
      id: 'customer',
      head: 'Customer',
      by: (l) => l.customer,
      cell: (l) => (
        <Link href={`/contacts/${l.contactId}`} className="font-medium underline">
          {l.customer}
        </Link>
      ),
    },
    { id: 'number', head: 'Number', cell: (l) => l.number },
    { id: 'queue', head: 'Queue', by: (l) => l.queue, cell: (l) => l.queue },
    {
      id: 'asked',
      head: 'Asked',
      by: (l) => l.askedAt,
      cell: (l) => asDayTime(l.askedAt, zone),
      className: 'text-small',
    },
    {
      id: 'when',
      head: 'When',
      by: (l) => l.fromAt,
      className: 'text-small',
      cell: (l) => (
        <>
          {l.untilAt === null ? 'as soon as possible' : `${asDayTime(l.fromAt, zone)} to ${asTime(l.untilAt, zone)}`}
          {!ended && l.nextAt !== null && l.state === 'planned' && l.attempts > 0
            ? `, again in ${asClock((l.nextAt - view.now) / 1000)}`
            : ''}
        </>
      ),
    },
    { id: 'attempts', head: 'Attempts', by: (l) => l.attempts, cell: (l) => `${l.attempts} of ${l.of}` },
    {
      id: 'state',
      head: 'State',
      by: (l) => STATES[l.state].words,
      cell: (l) => (
        <>
          <Pill tone={STATES[l.state].tone}>{STATES[l.state].words}</Pill>{' '}
          {l.outcome && <span className="text-small text-ink-2">{l.outcome}</span>}{' '}
          {l.person && <span className="text-small text-ink-2">{l.person}</span>}
        </>
      ),
    },
    {
      id: 'acts',
      head: '',
      className: 'text-right whitespace-nowrap',
      cell: (l) =>
        !ended &&
        view.mayChange &&
        (l.state === 'planned' || l.state === 'waiting') && (
          <>
            {l.state === 'planned' && (
              <Button small onClick={() => void change(l, 'now')}>
                Call now
              </Button>
            )}{' '}
            <Button small kind="danger" onClick={() => void change(l, 'cancel')}>
              Call off
            </Button>
          </>
        ),
    },
  ];
  return (
    <>
      <StopNav stop="Queues" />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <Panel label="Promised">
          <PanelHead
            title="Callbacks"
            marks={
              <>
                <Pill tone={open.length > 0 ? 'warn' : 'good'}>{open.length} promised</Pill>
                {view.inWindow.of > 0 && (
                  <Pill>
                    {view.inWindow.kept} of {view.inWindow.of} reached within their window
                  </Pill>
                )}
              </>
            }
          />
          {open.length === 0 ? (
            <Empty title="Nobody waits to be called back">
              A queue’s clock, an entry rule, a bot or a closed door may offer a callback; those promised stand here
              with their place kept.
            </Empty>
          ) : (
            <Table label="Promised callbacks" rows={open} columns={columns(false)} idOf={(l) => l.id} />
          )}
        </Panel>
        <Panel label="Messages that were left">
          <PanelHead
            title="Messages"
            marks={<Pill tone={view.messages.length > 0 ? 'warn' : 'good'}>{view.messages.length} to be taken up</Pill>}
          />
          {view.messages.length === 0 ? (
            <Empty title="No message waits">
              What is left with a bot, at a closed door or while waiting stands here until somebody takes it up.
            </Empty>
          ) : (
            <Table
              label="Messages to be taken up"
              rows={view.messages}
              columns={MESSAGES(view.now, zone)}
              idOf={(m) => m.contactId}
            />
          )}
        </Panel>
        {over.length > 0 && (
          <Panel label="The last seven days">
            <h2 className="px-4 pt-3 text-panel">The last seven days</h2>
            <Table label="Callbacks that are over" rows={over} columns={columns(true)} idOf={(l) => l.id} />
          </Panel>
        )}
      </main>
    </>
  );
}
