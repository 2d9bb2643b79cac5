'use client';

import { clsx } from 'clsx';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { type Channel, CHANNEL_NAMES } from '@/core/channels';
import { FULL } from '@/core/people/load';
import type { DeskView } from '@/services/contacts/deskview';
import { Button } from '../kit/button';
import { call, newKey, sentence } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { asClock } from '../kit/figures';
import { useFloorNow, useLive } from '../kit/live';
import { Empty, Panel } from '../kit/panel';
import { Unproven } from '../kit/unproven';
import { useBeat } from './beating';
import { Conversation } from './conversation';
import { Duty } from './dutybuttons';
import { Left, Lists } from './lists';
import { forgetOthers } from './kepthere';
import { Missed } from './missed';
import { Noticing } from './noticing';
import { Offered } from './offered';
import { useUnread } from './seen';
import { ToTake } from './totake';
import { usePassing } from './usepassing';
import { Ways } from './waystoday';

const BLOCK: Readonly<Record<Channel, string>> = {
  voice: 'bg-mark-voice',
  chat: 'bg-mark-chat',
  messaging: 'bg-mark-messaging',
  sms: 'bg-mark-sms',
};

/** How a call is, on its block. */
const CALL_WORDS = { open: 'on the line', muted: 'you are muted', held: 'on hold' } as const;

/**
 * What an agent works in: the load bar is also the way between open contacts, and an offer shows as the room it would
 * take.
 */
export function DeskPage({ initial, zone }: { initial: DeskView; zone: string }) {
  const { data, refetch } = useLive<DeskView>(
    '/api/desk',
    [
      'offer.made',
      'offer.ended',
      'leg.began',
      'leg.wrapping',
      'leg.ended',
      'message.written',
      'person.duty',
      'person.reach',
      'contact.ended',
      'value.set',
      'callback.changed',
      'leg.filed',
      'visit.began',
      'visit.ended',
      // Outcomes, replies, helpers and queues change under an open Desk.
      'settings.changed',
      'contact.language',
    ],
    initial,
  );
  const view = data ?? initial;
  const now = useFloorNow(view.now);
  const [chosen, setChosen] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const contact = view.contacts.find((c) => c.legId === chosen) ?? view.contacts[0] ?? null;

  useBeat(contact?.legId ?? null);
  const unread = useUnread(view.contacts, contact);
  const openIds = view.contacts.map((c) => c.legId).join();
  useEffect(() => forgetOthers(openIds.split(',')), [openIds]);

  const act = async (body: Record<string, unknown>): Promise<{ legId: string | null } | null> => {
    setBusy(true);
    try {
      const done = await call<{ legId: string | null }>('/api/desk', {
        body,
        headers: { 'idempotency-key': newKey() },
        // What was begun before the page is left is done.
        last: true,
      });
      await refetch();
      return done;
    } catch (error) {
      toast.error(sentence(error));
      await refetch();
      return null;
    } finally {
      setBusy(false);
    }
  };
  const passing = usePassing((body) => void act(body));
  const take = async () => {
    if (!view.offer) return;
    const done = await act({ act: 'accept', offerId: view.offer.offerId });
    if (done?.legId) setChosen(done.legId);
  };
  const pass = () => {
    if (view.offer) void act({ act: 'decline', offerId: view.offer.offerId });
  };

  const keys = useRef<(event: KeyboardEvent) => void>(() => undefined);
  keys.current = (event) => {
    // Taking has a chord of its own for whoever types just then.
    if (event.altKey && !event.ctrlKey && !event.metaKey && event.code === 'KeyT') {
      event.preventDefault();
      return void take();
    }
    if (
      event.target instanceof HTMLElement &&
      event.target.closest('input, textarea, select, [role=menu], [role=dialog]')
    )
      return;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key.toLowerCase() === 't') void take();
    else if (event.key.toLowerCase() === 'p') pass();
    else if (/^[1-9]$/.test(event.key)) setChosen(view.contacts[Number(event.key) - 1]?.legId ?? chosen);
  };
  useEffect(() => {
    const press = (event: KeyboardEvent) => keys.current(event);
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);

  return (
    <main className="flex min-h-[520px] flex-col gap-3 p-4 max-md:p-2 md:h-[calc(100vh-64px)]">
      <div>
        <div className="mb-1 flex flex-wrap items-center gap-2">
          <h1 className="text-panel">My load</h1>
          <span className="text-small text-ink-2">
            {view.used} of {FULL} · {view.room} · {view.handledToday} handled today
          </span>
          <span className="ml-auto flex items-center gap-2">
            <Noticing view={view} unread={unread} frontId={contact?.legId ?? null} />
            <Ways view={view} onChosen={() => void refetch()} />
            <Duty
              view={view}
              now={now}
              busy={busy}
              onDuty={(duty, reason) => void act({ act: 'duty', duty, ...(reason ? { reason } : {}) })}
            />
          </span>
        </div>
        {!view.reachable && view.duty !== 'off' && (
          <p role="alert" className="mb-1 rounded-control bg-clay-wash px-3 py-1 text-small text-clay">
            This Desk was out of reach for a while; nothing was offered. It is connected again.
          </p>
        )}
        <Missed view={view} zone={zone} />
        <div
          className="flex h-[62px] gap-1 overflow-x-auto rounded-control bg-sunk"
          role="group"
          aria-label="Open contacts"
        >
          {view.contacts.map((c) => (
            <button
              key={c.legId}
              type="button"
              aria-current={c === contact ? 'true' : undefined}
              onClick={() => setChosen(c.legId)}
              style={{ flexBasis: `${c.cost}%` }}
              className={clsx(
                'min-w-32 shrink overflow-hidden rounded-control px-3 py-1.5 text-left text-mark-ink',
                BLOCK[c.channel],
                c === contact && 'outline-3 -outline-offset-3 outline-lamp',
              )}
            >
              <span className="block truncate font-semibold">
                {(unread.get(c.legId) ?? 0) > 0 && (
                  <span className="mr-1 rounded-full bg-lamp px-1.5 text-tiny text-strip">
                    {unread.get(c.legId)}
                    <span className="sr-only"> unread, </span>
                  </span>
                )}
                {c.customer} <span className="font-normal">· {CHANNEL_NAMES[c.channel].name}</span>
              </span>
              <span className="block truncate text-small">
                {c.talking
                  ? c.left && !c.calling && c.channel === 'voice'
                    ? 'a message'
                    : c.channel === 'voice'
                      ? CALL_WORDS[c.line]
                      : c.resting
                        ? 'resting'
                        : c.unansweredSince !== null
                          ? `waits for you ${asClock((now - c.unansweredSince) / 1000)}`
                          : 'you wait for them'
                  : 'wrapping up'}{' '}
                · {asClock((now - c.acceptedAt) / 1000)}
              </span>
            </button>
          ))}
          {view.offer && (
            <div
              className="flex min-w-[min(24rem,100%)] shrink items-center gap-2 rounded-control border-2 border-dashed border-brass-2 bg-chosen px-3 py-1"
              style={{ flexBasis: `${view.offer.cost}%` }}
              role="alert"
            >
              <span className="min-w-0 flex-1">
                <span className="flex items-center gap-1.5 truncate font-semibold">
                  <ChannelMark channel={view.offer.channel} size={15} />
                  {view.offer.left ? `A message for ${view.offer.queue}` : `${view.offer.queue} for you`}
                  <Unproven vouched={view.offer.vouched} />
                </span>
                <span className="block truncate text-small text-ink-2" title={view.offer.why}>
                  {view.offer.customer}
                  {view.offer.fields.map((f) => ` · ${f.value}`).join('')} ·{' '}
                  <Left key={view.offer.offerId} seconds={view.offer.realSecondsLeft} />
                </span>
              </span>
              <Button small kind="primary" disabled={busy} onClick={() => void take()}>
                Take (T)
              </Button>
              <Button small disabled={busy} onClick={pass}>
                Pass (P)
              </Button>
            </div>
          )}
        </div>
      </div>
      {view.offer && <Offered offer={view.offer} panels={view.layout.panels.offered} zone={zone} />}
      <ToTake view={view} now={now} busy={busy} onTake={(visitId) => void act({ act: 'claim', visitId })} />
      {contact ? (
        <Conversation
          key={contact.legId}
          contact={contact}
          view={view}
          zone={zone}
          now={now}
          busy={busy}
          passing={passing.passing?.legId === contact.legId ? passing.passing : null}
          onPass={(to, note) => passing.begin(contact.legId, to, note)}
          onUndoPass={passing.undo}
          onPassNow={passing.now}
          onAct={act}
          onChanged={() => void refetch()}
        />
      ) : (
        <Panel className="flex-1 overflow-y-auto">
          <Empty
            title={view.duty === 'ready' ? 'Ready. The next contact that fits comes to you.' : 'You are not on duty'}
          >
            {view.duty === 'ready' ? 'An offer appears in the bar above.' : 'Go ready to be offered contacts.'}
          </Empty>
          <Lists view={view} zone={zone} />
        </Panel>
      )}
    </main>
  );
}
