'use client';

import { clsx } from 'clsx';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { CHANNEL_NAMES, type Channel } from '@/core/channels';
import { languageName } from '@/core/localised';
import type { DeskPanel } from '@/core/people/deskprofile';
import { FULL } from '@/core/people/load';
import type { DeskContact, DeskView, Earlier } from '@/services/contacts/desk';
import { Button } from '../kit/button';
import { call, newKey, sentence, setting } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Area } from '../kit/field';
import { asClock, asDayTime, asTime } from '../kit/figures';
import { useFloorNow, useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { StatePill } from '../people/statepill';
import { Transcript } from '../review/transcript';

/** Real ms between signs that this Desk is there. */
const BEAT_MS = 15_000;
const BLOCK: Readonly<Record<Channel, string>> = {
  voice: 'bg-mark-voice',
  chat: 'bg-mark-chat',
  messaging: 'bg-mark-messaging',
  sms: 'bg-mark-sms',
};

/** What an agent works in: the load bar is also the way between open contacts, and an offer shows as the room it would take. */
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
    ],
    initial,
  );
  const view = data ?? initial;
  const now = useFloorNow(view.now);
  const [chosen, setChosen] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const contact = view.contacts.find((c) => c.legId === chosen) ?? view.contacts[0] ?? null;

  useEffect(() => {
    const beat = () => {
      void call('/api/desk/beat', { method: 'POST' }).catch(() => undefined);
    };
    beat();
    const timer = setInterval(beat, BEAT_MS);
    return () => clearInterval(timer);
  }, []);

  const act = async (body: Record<string, unknown>): Promise<{ legId: string | null } | null> => {
    setBusy(true);
    try {
      const done = await call<{ legId: string | null }>('/api/desk', {
        body,
        headers: { 'idempotency-key': newKey() },
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
    <main className="flex h-[calc(100vh-64px)] min-h-[520px] flex-col gap-3 p-4">
      <div>
        <div className="mb-1 flex flex-wrap items-center gap-2">
          <h1 className="text-panel">My load</h1>
          <span className="text-small text-ink-2">
            {view.used} of {FULL} · {view.room} · {view.handledToday} handled today
          </span>
          <span className="ml-auto flex items-center gap-2">
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
                {c.customer} <span className="font-normal">· {CHANNEL_NAMES[c.channel].name}</span>
              </span>
              <span className="block truncate text-small">
                {c.talking
                  ? c.channel === 'voice'
                    ? 'on the line'
                    : c.resting
                      ? 'resting'
                      : c.lastFrom === 'customer'
                        ? 'new message'
                        : 'waiting for them'
                  : 'wrapping up'}{' '}
                · {asClock((now - c.acceptedAt) / 1000)}
              </span>
            </button>
          ))}
          {view.offer && (
            <div
              className="flex min-w-64 shrink items-center gap-2 rounded-control border-2 border-dashed border-brass-2 bg-chosen px-3 py-1"
              style={{ flexBasis: `${view.offer.cost}%` }}
              role="alert"
            >
              <span className="min-w-0 flex-1">
                <span className="flex items-center gap-1.5 truncate font-semibold">
                  <ChannelMark channel={view.offer.channel} size={15} />
                  {view.offer.queue} for you
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
      {view.claimable.length > 0 && (
        <Panel className="px-4 py-2" label="To be taken">
          <h2 className="text-small font-semibold">To be taken by whoever can</h2>
          <ul className="mt-1 flex flex-wrap gap-2">
            {view.claimable.slice(0, 8).map((v) => (
              <li
                key={v.visitId}
                className="flex items-center gap-2 rounded-control border border-rule px-2 py-1 text-small"
              >
                <ChannelMark channel={v.channel} size={15} />
                <span className="font-medium">{v.customer}</span>
                <span className="text-ink-2">
                  {v.queue} · {asClock((now - v.placedAt) / 1000)}
                </span>
                <Button
                  small
                  kind="primary"
                  disabled={busy}
                  aria-label={`Take ${v.customer}`}
                  onClick={() => void act({ act: 'claim', visitId: v.visitId })}
                >
                  Take
                </Button>
              </li>
            ))}
            {view.claimable.length > 8 && (
              <li className="py-1 text-small text-ink-2">and {view.claimable.length - 8} more</li>
            )}
          </ul>
        </Panel>
      )}
      {contact ? (
        <Conversation key={contact.legId} contact={contact} view={view} zone={zone} busy={busy} onAct={act} />
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

/** How calls come today: the Desk, or a way that was verified. */
function Ways({ view, onChosen }: { view: DeskView; onChosen: () => void }) {
  if (view.ways.length === 0) return null;
  const choose = (wayId: string) => {
    setting('choose-way', { wayId: wayId === '' ? null : wayId }).then(
      () => {
        toast.success(
          wayId === ''
            ? 'Calls come to this Desk.'
            : `Calls come to ${view.ways.find((w) => w.id === wayId)?.address ?? ''} today.`,
        );
        onChosen();
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return (
    <label className="flex items-center gap-1.5 text-small text-ink-2">
      Calls come to
      <select
        value={view.wayId ?? ''}
        onChange={(e) => choose(e.target.value)}
        className="rounded-control border border-rule-strong bg-sheet px-2 py-1 text-small text-ink"
      >
        <option value="">this Desk</option>
        {view.ways.map((w) => (
          <option key={w.id} value={w.id} disabled={!w.verified || !w.mayCall}>
            {w.address}
            {w.verified ? '' : ' (not verified)'}
          </option>
        ))}
      </select>
    </label>
  );
}

/** One earlier contact of the customer: how it came, when, and what became of it. */
const Before = ({ before, zone }: { before: Earlier; zone: string }) => (
  <span className="inline-flex items-center gap-2">
    <ChannelMark channel={before.channel} size={14} />
    {asDayTime(before.startedAt, zone)}
    <span className="text-ink-2">
      {before.how === 'bot' ? 'bot' : before.how === 'resolved' ? 'handled' : (before.how ?? 'open')}
    </span>
  </span>
);

/** What this Desk's profile shows of a contact before it is taken. */
function Offered({
  offer,
  panels,
  zone,
}: {
  offer: NonNullable<DeskView['offer']>;
  panels: readonly DeskPanel[];
  zone: string;
}) {
  const known = panels.includes('known') && offer.fields.length > 0;
  const why = panels.includes('why') && offer.why !== '';
  const before = panels.includes('before') && offer.before.length > 0;
  if (!known && !why && !before) return null;
  return (
    <Panel className="flex flex-wrap gap-x-6 gap-y-1 px-4 py-2 text-small" label="About the offer">
      {known &&
        offer.fields.map((f) => (
          <span key={f.label}>
            <span className="text-ink-2">{f.label}</span> {f.value}
          </span>
        ))}
      {why && <span className="basis-full text-ink-2">{offer.why}</span>}
      {before && (
        <span className="flex basis-full flex-wrap items-center gap-x-4">
          <span className="text-ink-2">Before today</span>
          {offer.before.map((b) => (
            <Before key={b.contactId} before={b} zone={zone} />
          ))}
        </span>
      )}
    </Panel>
  );
}

/** The lists that this Desk's profile shows while nothing is open. */
function Lists({ view, zone }: { view: DeskView; zone: string }) {
  const show = view.layout.views;
  return (
    <div className="mx-auto grid max-w-3xl gap-6 px-6 pb-6 md:grid-cols-2">
      {show.includes('today') && (
        <section>
          <h3 className="text-small">My contacts today</h3>
          {view.today.length === 0 ? (
            <p className="text-small text-ink-2">None yet.</p>
          ) : (
            <ul>
              {view.today.map((t) => (
                <li
                  key={t.contactId + t.endedAt}
                  className="flex items-center gap-2 border-b border-rule py-1 text-small"
                >
                  <ChannelMark channel={t.channel} size={14} />
                  <span className="min-w-0 flex-1 truncate">{t.customer}</span>
                  <span className="text-ink-2">
                    {view.outcomes.find((o) => o.code === t.outcome)?.label ?? 'no outcome'}
                  </span>
                  <span className="text-ink-2">{asTime(t.endedAt, zone)}</span>
                </li>
              ))}
            </ul>
          )}
        </section>
      )}
      {show.includes('team') && (
        <section>
          <h3 className="text-small">My team on duty</h3>
          {view.team.length === 0 ? (
            <p className="text-small text-ink-2">Nobody else is on duty.</p>
          ) : (
            <ul>
              {view.team.map((t) => (
                <li key={t.id} className="flex items-center gap-2 border-b border-rule py-1 text-small">
                  <span className="min-w-0 flex-1 truncate">{t.name}</span>
                  <StatePill duty={t.duty} reason={t.reason} reachable open={t.open} />
                </li>
              ))}
            </ul>
          )}
        </section>
      )}
    </div>
  );
}

/** Counts an offer's real seconds down. */
function Left({ seconds }: { seconds: number }) {
  const [left, setLeft] = useState(seconds);
  useEffect(() => {
    const timer = setInterval(() => setLeft((s) => Math.max(0, s - 1)), 1000);
    return () => clearInterval(timer);
  }, []);
  return <>{left} s</>;
}

function Duty({
  view,
  now,
  busy,
  onDuty,
}: {
  view: DeskView;
  now: number;
  busy: boolean;
  onDuty: (duty: DeskView['duty'], reason?: string) => void;
}) {
  const words =
    view.duty === 'ready'
      ? 'Ready'
      : view.duty === 'off'
        ? 'Off duty'
        : view.duty === 'away'
          ? `Away: ${view.reason ?? ''}`
          : 'Leaving when empty';
  const item = 'cursor-pointer rounded-control px-3 py-1.5 text-small outline-none data-highlighted:bg-sunk';
  return (
    <>
      <Pill tone={view.duty === 'ready' ? 'good' : view.duty === 'off' ? 'plain' : 'warn'}>
        {words}
        {view.duty === 'off' ? '' : ` · ${asClock((now - view.since) / 1000)}`}
      </Pill>
      {view.duty !== 'ready' && (
        <Button kind="primary" disabled={busy} onClick={() => onDuty('ready')}>
          Go ready
        </Button>
      )}
      {view.duty !== 'off' && (
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger className="rounded-control border border-rule-strong bg-sheet px-3 py-1.5 font-display text-[13.5px] font-semibold">
            Away ▾
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="end"
              sideOffset={4}
              className="z-50 min-w-44 rounded-panel border border-rule bg-sheet p-1.5 text-ink shadow-xl"
            >
              {view.reasons.map((r) => (
                <DropdownMenu.Item key={r.name} className={item} onSelect={() => onDuty('away', r.name)}>
                  {r.name}
                  {r.minutes !== null && <span className="ml-2 text-ink-3">{r.minutes} min</span>}
                </DropdownMenu.Item>
              ))}
              <DropdownMenu.Separator className="my-1 h-px bg-rule" />
              <DropdownMenu.Item className={item} onSelect={() => onDuty('away-when-empty')}>
                Off when empty
              </DropdownMenu.Item>
              <DropdownMenu.Item className={item} onSelect={() => onDuty('off')}>
                Off duty now
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      )}
    </>
  );
}

function Conversation({
  contact,
  view,
  zone,
  busy,
  onAct,
}: {
  contact: DeskContact;
  view: DeskView;
  zone: string;
  busy: boolean;
  onAct: (body: Record<string, unknown>) => Promise<unknown>;
}) {
  const [text, setText] = useState('');
  const end = useRef<HTMLDivElement>(null);
  const firstOurs = contact.messages.findIndex((m) => m.from === 'person');
  const bot = contact.messages.filter(
    (m, i) =>
      m.from === 'bot' ||
      (firstOurs === -1
        ? contact.messages.slice(i).some((x) => x.from === 'bot')
        : i < firstOurs && contact.messages.slice(i).some((x) => x.from === 'bot')),
  );
  const since = contact.messages.filter((m) => !bot.includes(m));
  useEffect(() => {
    void end.current?.scrollIntoView({ block: 'end' });
  }, [contact.messages.length]);
  const send = async () => {
    const words = text.trim();
    if (words === '') return;
    if (await onAct({ act: 'say', legId: contact.legId, text: words })) setText('');
  };
  const file = (code: string) => void onAct({ act: 'file', legId: contact.legId, code });
  const voice = contact.channel === 'voice';
  const shows = (panel: DeskPanel) => view.layout.panels[contact.talking ? 'talking' : 'finishing'].includes(panel);
  const fitting = contact.replies.filter((r) => r.fits);
  return (
    <div className="grid min-h-0 flex-1 gap-3 md:grid-cols-[minmax(0,1fr)_320px]">
      <Panel className="flex min-h-0 flex-col" label={`Conversation with ${contact.customer}`}>
        <div className="flex flex-wrap items-center gap-2 border-b border-rule px-4 py-2">
          <ChannelMark channel={contact.channel} />
          <h2 className="text-panel">{contact.customer}</h2>
          <Pill tone="plum">{contact.queue}</Pill>
          <span className="text-small text-ink-2">
            in {languageName(contact.language)} · came by {contact.door}
          </span>
          {contact.talking && (
            <span className="ml-auto flex gap-2">
              <select
                aria-label="Pass on to a queue"
                value=""
                disabled={busy}
                className="rounded-control border border-rule-strong bg-sheet px-2 py-1 text-small"
                onChange={(e) => {
                  if (e.target.value) void onAct({ act: 'pass-on', legId: contact.legId, queueId: e.target.value });
                }}
              >
                <option value="">Pass on to…</option>
                {contact.canPassTo.map((q) => (
                  <option key={q.id} value={q.id}>
                    {q.name}
                  </option>
                ))}
              </select>
              <Button kind="primary" disabled={busy} onClick={() => void onAct({ act: 'end', legId: contact.legId })}>
                {voice ? 'Hang up' : 'Finish'}
              </Button>
            </span>
          )}
        </div>
        {contact.calling && (
          <p
            role="status"
            className={clsx(
              'border-b border-rule px-4 py-2',
              contact.calling.state === 'dialling' ? 'bg-brass-wash text-brass-ink' : 'bg-moss-wash text-moss',
            )}
          >
            {contact.calling.state === 'dialling'
              ? `Calling ${contact.calling.number}, attempt ${contact.calling.attempt} of ${contact.calling.of}: ringing…`
              : `${contact.calling.number} answered.`}
          </p>
        )}
        {contact.opening !== '' && contact.talking && (
          <p className="border-b border-rule bg-plum-wash px-4 py-1.5 text-small text-plum">{contact.opening}</p>
        )}
        <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3" tabIndex={0} role="region" aria-label="What was said">
          {bot.length > 0 && (
            <details className="mb-2" open={since.length === 0}>
              <summary className="text-small text-ink-2">
                With the bot:{' '}
                {bot
                  .filter((m) => m.from === 'customer')
                  .map((m) => m.text)
                  .join(' → ') || 'nothing answered'}
              </summary>
              <div className="mt-2">
                <Transcript messages={bot} zone={zone} />
              </div>
            </details>
          )}
          <div aria-live="polite">
            <Transcript messages={since} zone={zone} />
          </div>
          <div ref={end} />
        </div>
        {contact.talking ? (
          <form
            className="border-t border-rule p-3"
            onSubmit={(e) => {
              e.preventDefault();
              void send();
            }}
          >
            {fitting.length > 0 && (
              <div className="mb-2 flex flex-wrap items-center gap-1.5 text-small">
                <span className="text-ink-2">May fit</span>
                {fitting.map((r) => (
                  <Button key={r.id} small title={r.text} onClick={() => setText(r.text)}>
                    {r.title}
                  </Button>
                ))}
              </div>
            )}
            <Area
              aria-label={voice ? 'What you say' : `Write to ${contact.customer}`}
              rows={2}
              autoFocus
              value={text}
              placeholder={
                voice
                  ? 'Type what you say; it reaches the caller as speech · Ctrl Enter says it'
                  : `Write to ${contact.customer}… Ctrl Enter sends`
              }
              onChange={(e) => setText(e.target.value)}
              onKeyDown={(e) => {
                if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) {
                  e.preventDefault();
                  void send();
                }
              }}
            />
            <div className="mt-1 flex items-center justify-between gap-2">
              {contact.replies.length > 0 ? (
                <select
                  aria-label="Stock replies"
                  value=""
                  className="rounded-control border border-rule-strong bg-sheet px-2 py-1 text-small"
                  onChange={(e) => {
                    const r = contact.replies.find((x) => x.id === e.target.value);
                    if (r) setText(text.trim() === '' ? r.text : `${text.trimEnd()} ${r.text}`);
                  }}
                >
                  <option value="">Stock replies…</option>
                  {contact.replies.map((r) => (
                    <option key={r.id} value={r.id}>
                      {r.set}: {r.title}
                    </option>
                  ))}
                </select>
              ) : (
                <span />
              )}
              <Button kind="primary" type="submit" disabled={busy || text.trim() === ''}>
                {voice ? 'Say' : 'Send'}
              </Button>
            </div>
          </form>
        ) : (
          <p className="flex items-center gap-3 border-t border-rule p-3 text-small text-ink-2">
            {contact.wrapUp === 'exactly'
              ? `The conversation has ended. Wrap-up lasts exactly as long as this queue says${contact.filed ? `; ${contact.filed} is filed` : ''}.`
              : contact.wrapUp === 'outcome'
                ? 'The conversation has ended. This queue asks for an outcome.'
                : 'The conversation has ended. File its outcome to be free for the next.'}
            {(contact.wrapUp === 'person' || contact.wrapUp === 'up-to') && (
              <Button
                small
                className="ml-auto"
                disabled={busy}
                onClick={() => void onAct({ act: 'finish', legId: contact.legId })}
              >
                Finish without one
              </Button>
            )}
          </p>
        )}
      </Panel>
      <Panel className="min-h-0 overflow-y-auto p-4" label="About this contact">
        {shows('known') && (
          <>
            <h3>What we know</h3>
            {contact.fields.length === 0 ? (
              <p className="text-small text-ink-2">The bot learned nothing.</p>
            ) : (
              <dl className="mt-1">
                {contact.fields.map((f) => (
                  <div key={f.label} className="flex border-b border-rule py-1.5 text-small">
                    <dt className="w-28 text-ink-2">{f.label}</dt>
                    <dd className="min-w-0 flex-1 break-words">{f.value}</dd>
                  </div>
                ))}
              </dl>
            )}
          </>
        )}
        {shows('known') && contact.toFill.length > 0 && (
          <dl className="mt-1">
            {contact.toFill.map((f) => (
              <div key={f.name} className="flex items-center border-b border-rule py-1 text-small">
                <dt className="w-28 text-ink-2">
                  <label htmlFor={`fill-${f.name}`}>{f.label}</label>
                </dt>
                <dd className="min-w-0 flex-1">
                  <input
                    key={f.value}
                    id={`fill-${f.name}`}
                    defaultValue={f.value}
                    maxLength={500}
                    className="w-full rounded-control border border-rule-strong bg-sheet px-1.5 py-0.5"
                    onKeyDown={(e) => {
                      if (e.key === 'Enter') e.currentTarget.blur();
                    }}
                    onBlur={(e) => {
                      const value = e.currentTarget.value.trim();
                      if (value !== f.value) void onAct({ act: 'note', legId: contact.legId, name: f.name, value });
                    }}
                  />
                </dd>
              </div>
            ))}
          </dl>
        )}
        {shows('why') && (
          <>
            <h3 className="mt-4">Why you</h3>
            <p className="text-small text-ink-2">{contact.why}</p>
          </>
        )}
        {shows('before') && (
          <>
            <h3 className="mt-4">Before today</h3>
            {contact.before.length === 0 ? (
              <p className="text-small text-ink-2">Their first contact.</p>
            ) : (
              <ul>
                {contact.before.map((b) => (
                  <li key={b.contactId} className="py-1 text-small">
                    <Before before={b} zone={zone} />
                  </li>
                ))}
              </ul>
            )}
          </>
        )}
        {!contact.talking && contact.summary !== null && contact.summary !== '' && (
          <>
            <h3 className="mt-4">Summary</h3>
            <p className="text-small whitespace-pre-line text-ink-2">{contact.summary}</p>
          </>
        )}
        <h3 className="mt-4">{contact.talking ? 'When you finish' : 'File the outcome'}</h3>
        <div className="mt-1 flex flex-wrap gap-1.5">
          {contact.outcomes.map((o) => (
            <Button
              key={o.code}
              small
              disabled={busy || o.whyNot !== null}
              title={o.whyNot === null ? o.code : `${o.code} cannot be filed: ${o.whyNot}`}
              kind={
                contact.filed === o.code ? 'primary' : contact.talking ? 'plain' : contact.filed ? 'plain' : 'primary'
              }
              onClick={() => file(o.code)}
            >
              {o.label}
              {o.whyNot !== null && <span className="sr-only">, {o.whyNot}</span>}
            </Button>
          ))}
        </div>
        {contact.talking && <p className="mt-1 text-tiny text-ink-3">Filing ends the conversation at once.</p>}
      </Panel>
    </div>
  );
}
