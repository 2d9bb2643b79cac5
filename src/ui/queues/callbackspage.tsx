'use client';

import Link from 'next/link';
import { toast } from 'sonner';
import type { CallbackLine, CallbacksView } from '@/services/contacts/callbacks';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { asClock, asDayTime, asTime } from '../kit/figures';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
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

/** Calls promised to customers: when, how often tried, and what came of them. */
export function CallbacksPage({ initial }: { initial: CallbacksView }) {
  const zone = useViewer()?.zone ?? 'UTC';
  const { data, refetch } = useLive<CallbacksView>(
    '/api/read/callbacks',
    ['callback.changed', 'settings.changed'],
    initial,
  );
  const view = data ?? initial;
  const change = (line: CallbackLine, act: 'cancel' | 'now') =>
    setting('change-callback', { id: line.id, act }).then(
      () => {
        toast.success(act === 'now' ? 'In line; it is dialled as soon as somebody is free.' : 'Called off.');
        void refetch();
      },
      (e: unknown) => {
        toast.error(sentence(e));
        void refetch();
      },
    );
  const open = view.lines.filter(
    (l) => l.state === 'planned' || l.state === 'waiting' || l.state === 'dialling' || l.state === 'talking',
  );
  const over = view.lines.filter((l) => !open.includes(l)).sort((a, b) => b.askedAt - a.askedAt);
  const table = (lines: readonly CallbackLine[], ended: boolean) => (
    <table className="w-full text-left">
      <thead className="text-tiny text-ink-2">
        <tr>
          <th className="px-4 py-2 font-medium">Customer</th>
          <th className="font-medium">Number</th>
          <th className="font-medium">Queue</th>
          <th className="font-medium">Asked</th>
          <th className="font-medium">When</th>
          <th className="font-medium">Attempts</th>
          <th className="font-medium">State</th>
          <th className="pr-4" />
        </tr>
      </thead>
      <tbody>
        {lines.map((l) => (
          <tr key={l.id} className="border-t border-rule">
            <td className="px-4 py-2">
              <Link href={`/contacts/${l.contactId}`} className="font-medium underline">
                {l.customer}
              </Link>
            </td>
            <td>{l.number}</td>
            <td>{l.queue}</td>
            <td className="text-small">{asDayTime(l.askedAt, zone)}</td>
            <td className="text-small">
              {l.untilAt === null
                ? 'as soon as possible'
                : `${asDayTime(l.fromAt, zone)} to ${asTime(l.untilAt, zone)}`}
              {!ended && l.nextAt !== null && l.state === 'planned' && l.attempts > 0
                ? `, again in ${asClock((l.nextAt - view.now) / 1000)}`
                : ''}
            </td>
            <td>
              {l.attempts} of {l.of}
            </td>
            <td>
              <Pill tone={STATES[l.state].tone}>{STATES[l.state].words}</Pill>{' '}
              {l.outcome && <span className="text-small text-ink-2">{l.outcome}</span>}{' '}
              {l.person && <span className="text-small text-ink-2">{l.person}</span>}
            </td>
            <td className="pr-4 text-right whitespace-nowrap">
              {!ended && view.mayChange && (l.state === 'planned' || l.state === 'waiting') && (
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
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
  return (
    <>
      <StopNav stop="Queues" />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <Panel label="Promised">
          <div className="flex items-center gap-3 px-4 py-3">
            <h1 className="text-title">Callbacks</h1>
            <Pill tone={open.length > 0 ? 'warn' : 'good'}>{open.length} promised</Pill>
            {view.inWindow.of > 0 && (
              <Pill>
                {view.inWindow.kept} of {view.inWindow.of} reached within their window
              </Pill>
            )}
          </div>
          {open.length === 0 ? (
            <Empty title="Nobody waits to be called back">
              A queue’s clock or an entry rule may offer a callback; those promised stand here with their place kept.
            </Empty>
          ) : (
            table(open, false)
          )}
        </Panel>
        {over.length > 0 && (
          <Panel label="The last seven days">
            <h2 className="px-4 pt-3 text-panel">The last seven days</h2>
            {table(over, true)}
          </Panel>
        )}
      </main>
    </>
  );
}
