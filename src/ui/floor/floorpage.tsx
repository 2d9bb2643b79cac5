'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import type { ContactView, FloorLane, FloorView, LaneContact } from '@/services/floor/floorview';
import { ChannelMark } from '../kit/channelmark';
import { Select } from '../kit/field';
import { asClock, asShare, asTime } from '../kit/figures';
import { useFloorNow, useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { StatePill } from '../people/statepill';
import { ReasonLines } from '../review/reasonlines';

/** How far a lane reaches at least, seconds. */
const REACH = 120;
/** How far it reaches when somebody has waited longer; whoever is beyond stands at its end. */
const FAR_REACH = 300;

/** What goes on now: each queue a lane, each waiting contact at its waiting time, people with their state. */
export function FloorPage({ initial, zone, simulated }: { initial: FloorView; zone: string; simulated: boolean }) {
  const { data } = useLive<FloorView>(
    '/api/read/floor',
    [
      'visit.began',
      'visit.ended',
      'offer.made',
      'offer.ended',
      'leg.began',
      'leg.wrapping',
      'leg.ended',
      'person.duty',
      'person.reach',
      'settings.changed',
    ],
    initial,
  );
  const view = data ?? initial;
  const now = useFloorNow(view.now, view.rate);
  const [team, setTeam] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  const waiting = view.lanes.flatMap((l) => l.waiting.map((w) => ({ ...w, lane: l })));
  const longest = waiting.reduce<(typeof waiting)[number] | null>(
    (most, w) => (most === null || w.placedAt < most.placedAt ? w : most),
    null,
  );
  const shownId = chosen ?? longest?.contactId ?? null;
  const furthest = longest ? (now - longest.placedAt) / 1000 : 0;
  const reach = furthest <= REACH ? REACH : FAR_REACH;
  const people = useMemo(() => view.people.filter((p) => team === '' || p.teamId === team), [view.people, team]);
  const ready = people.filter((p) => p.duty === 'ready' && p.open.length === 0 && p.reachable).length;
  const busy = people.filter((p) => p.open.length > 0).length;
  return (
    <main
      className="grid min-h-[calc(100vh-64px)] gap-3 p-4 lg:grid-cols-[minmax(0,1fr)_330px]"
      onKeyDown={(e) => {
        if (e.key === 'Escape') setChosen(null);
      }}
    >
      <Panel className="min-w-0 p-4" label="Floor">
        <div className="mb-2 flex items-center gap-2">
          <h1 className="text-title">Floor</h1>
          <Pill className="!text-small">{asTime(now, zone)}</Pill>
          {simulated && <Pill tone="good">simulated day · ×{view.rate}</Pill>}
          <span className="ml-auto text-small text-ink-2">
            {waiting.length} waiting · {waiting.filter((w) => (now - w.placedAt) / 1000 > w.lane.goalSeconds).length}{' '}
            past goal
          </span>
        </div>
        <div className="grid grid-cols-[130px_minmax(0,1fr)_70px] text-tiny text-ink-2">
          <span>queue</span>
          <Scale reach={reach} />
          <span className="text-right">free people</span>
        </div>
        <ul>
          {view.lanes.map((lane) => (
            <LaneRow key={lane.queueId} lane={lane} now={now} reach={reach} chosen={shownId} onChoose={setChosen} />
          ))}
        </ul>
      </Panel>
      <div className="flex min-h-0 min-w-0 flex-col gap-3">
        <Panel className="p-4" label="Why">
          {shownId ? (
            <Why
              key={shownId}
              contactId={shownId}
              now={now}
              title={chosen === null ? 'Longest waiting' : 'Chosen contact'}
              onGone={() => setChosen(null)}
            />
          ) : (
            <Empty title="Nobody is waiting">Contacts appear here the moment they enter a queue.</Empty>
          )}
        </Panel>
        <Panel className="flex min-h-0 flex-1 flex-col p-4" label="People on duty">
          <div className="mb-1 flex items-center gap-2">
            <h2 className="text-panel">People</h2>
            <Select
              aria-label="Team"
              className="!w-36 !py-0.5 text-small"
              value={team}
              onChange={(e) => setTeam(e.target.value)}
            >
              <option value="">All teams</option>
              {view.teams.map((t) => (
                <option key={t.id} value={t.id}>
                  {t.name}
                </option>
              ))}
            </Select>
          </div>
          <p className="mb-1 text-small text-ink-2">
            ready {ready} · busy {busy} · away {people.filter((p) => p.duty !== 'ready' && p.open.length === 0).length}
          </p>
          {people.length === 0 ? (
            <Empty title="Nobody is on duty" />
          ) : (
            <ul tabIndex={0} aria-label="People and what they do" className="max-h-[380px] min-h-0 overflow-y-auto">
              {people.map((p) => (
                <li key={p.id} className="flex items-center gap-2 border-t border-rule py-1.5 text-small">
                  <span className="min-w-0 flex-1 truncate">{p.name}</span>
                  {p.asked && <Pill tone="warn">asked</Pill>}
                  <StatePill
                    duty={p.duty}
                    reason={p.reason}
                    reachable={p.reachable}
                    open={p.open}
                    wrapping={p.wrapping}
                  />
                  <span className="flex w-[62px] justify-end gap-0.5">
                    {p.open.slice(0, 4).map((c, i) => (
                      <ChannelMark key={i} channel={c} size={13} />
                    ))}
                  </span>
                  <span className="w-11 text-right text-ink-2">{asClock((now - p.since) / 1000)}</span>
                </li>
              ))}
            </ul>
          )}
        </Panel>
      </div>
    </main>
  );
}

const Scale = ({ reach }: { reach: number }) => (
  <span className="relative block h-5">
    {[0, 0.25, 0.5, 0.75, 1].map((share) => (
      <span
        key={share}
        className={clsx(
          'absolute whitespace-nowrap',
          share === 1 ? '-translate-x-full' : share > 0 && '-translate-x-1/2',
        )}
        style={{ left: `${share * 100}%` }}
      >
        {reach >= 300 ? `${asClock(share * reach)}${share === 1 ? ' +' : ''}` : `${share * reach} s`}
      </span>
    ))}
  </span>
);

function LaneRow({
  lane,
  now,
  reach,
  chosen,
  onChoose,
}: {
  lane: FloorLane;
  now: number;
  reach: number;
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const goal = Math.min(100, (lane.goalSeconds / reach) * 100);
  const share = lane.all === 0 ? null : lane.good / lane.all;
  const tone = share === null ? 'plain' : share >= 0.8 ? 'good' : share >= 0.7 ? 'warn' : 'bad';
  const places = spread(lane.waiting, now, reach);
  return (
    <li className="grid grid-cols-[130px_minmax(0,1fr)_70px] items-center border-t border-rule py-2">
      <div className="pr-2">
        <p className="truncate font-display font-semibold">{lane.name}</p>
        <p className="flex items-center gap-1.5 text-small text-ink-2">
          {lane.waiting.length} waiting <Pill tone={tone}>{asShare(share)}</Pill>
        </p>
      </div>
      <div className="relative h-[44px] rounded-control bg-sunk">
        <div className="absolute inset-y-0 right-0 rounded-r-control bg-clay-wash" style={{ left: `${goal}%` }} />
        <div aria-hidden className="absolute -inset-y-1 w-0.5 bg-clay" style={{ left: `${goal}%` }} />
        {places.map(({ contact, left, row, waited }) => (
          <button
            key={contact.visitId}
            type="button"
            onClick={() => onChoose(contact.contactId)}
            aria-pressed={chosen === contact.contactId}
            aria-label={`${lane.name}, waiting ${asClock(waited)}${contact.offered ? ', being offered' : ''}`}
            title={`waiting ${asClock(waited)}`}
            className="absolute -translate-x-1/2 rounded-full leading-none transition-[left] duration-500 ease-linear"
            style={{ left: `${left}%`, top: row === 0 ? 3 : 23 }}
          >
            <span className={clsx('block', contact.offered && 'animate-pulse')}>
              <ChannelMark channel={contact.channel} size={18} ring={chosen === contact.contactId} />
            </span>
          </button>
        ))}
      </div>
      <div className="flex flex-wrap justify-end gap-1 pl-2" role="img" aria-label={`${lane.free} free`}>
        {Array.from({ length: Math.min(lane.free, 8) }, (_, i) => (
          <span key={i} className="h-4 w-2.5 rounded-[3px] bg-moss" />
        ))}
        {lane.free > 8 && <span className="text-tiny text-ink-2">+{lane.free - 8}</span>}
        {lane.free === 0 && <span className="text-tiny text-ink-3">none</span>}
      </div>
    </li>
  );
}

/** Places contacts at their waiting time, in two rows where they would cover each other. */
function spread(waiting: readonly LaneContact[], now: number, reach: number) {
  const ends = [-Infinity, -Infinity];
  return [...waiting]
    .sort((a, b) => b.placedAt - a.placedAt)
    .map((contact) => {
      const waited = Math.max(0, (now - contact.placedAt) / 1000);
      const left = Math.min(98.5, 1.5 + (waited / reach) * 97);
      const row = left - (ends[0] ?? 0) > 3.2 ? 0 : 1;
      ends[row] = left;
      return { contact, left, row, waited };
    });
}

function Why({ contactId, now, title, onGone }: { contactId: string; now: number; title: string; onGone: () => void }) {
  const { data, error } = useLive<ContactView>(`/api/read/contact?id=${encodeURIComponent(contactId)}`, [
    'visit.ended',
    'visit.staged',
    'visit.opened',
    'partner.dialled',
    'partner.ended',
    'offer.made',
    'offer.ended',
    'person.duty',
    'leg.ended',
    'leg.began',
    'contact.ended',
  ]);
  if (error)
    return (
      <p role="alert" className="text-small text-clay">
        This contact cannot be read just now.{' '}
        <button type="button" className="underline" onClick={onGone}>
          Back
        </button>
      </p>
    );
  if (!data) return <p className="text-small text-ink-3">Reading…</p>;
  const visit = data.visits.at(-1);
  const leg = data.legs.at(-1);
  const last = visit?.decisions.at(-1);
  return (
    <>
      <div className="flex items-center gap-2">
        <h2 className="text-panel">{title}</h2>
        <Link href={`/contacts/${data.id}`} className="ml-auto text-small font-medium text-plum underline">
          Open
        </Link>
      </div>
      <p className="mt-1 flex items-center gap-2">
        <ChannelMark channel={data.channel} />
        <span className="min-w-0 flex-1 truncate font-medium">{data.customer}</span>
        {visit && visit.endedAt === null && <b className="text-clay">{asClock((now - visit.placedAt) / 1000)}</b>}
      </p>
      <p className="text-small text-ink-2">
        {[visit?.queue, ...data.fields.map((f) => f.value)].filter(Boolean).join(' · ')}
      </p>
      {visit?.needs && <p className="text-small text-ink-2">needs {visit.needs} or better</p>}
      {visit?.stage && (
        <p className="text-small text-ink-2">
          {visit.stage}
          {visit.also.length > 0 ? `; ${visit.also.join(' and ')} asked as well` : ''}
        </p>
      )}
      {visit?.nowWhy ? (
        <>
          <h3 className="mt-2 text-small text-brass-ink">Why nobody yet</h3>
          <ReasonLines reasons={visit.nowWhy} />
        </>
      ) : leg && visit?.endedAt ? (
        <>
          <h3 className="mt-2 text-small text-moss">With {leg.person}</h3>
          {last && <ReasonLines reasons={last} />}
        </>
      ) : last ? (
        <>
          <h3 className="mt-2 text-small text-moss">Being offered</h3>
          <ReasonLines reasons={last} />
        </>
      ) : null}
    </>
  );
}
