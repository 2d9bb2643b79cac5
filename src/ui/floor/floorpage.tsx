'use client';

import { useMemo, useState } from 'react';
import { isPastGoal } from '@/core/measures/servicelevel';
import { isFree } from '@/core/people/duty';
import type { FloorView } from '@/services/floor/floorview';
import { ChannelMark } from '../kit/channelmark';
import { asClock, asDayTime, asTime } from '../kit/figures';
import { useFloorNow, useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { options, Select } from '../kit/select';
import { StatePill } from '../kit/statepill';
import { LaneRow, Scale } from './lanerow';
import { Why } from './why';

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
  const free = people.filter((p) => isFree({ ...p, openCount: p.open.length })).length;
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
            {waiting.length} waiting · {waiting.filter((w) => isPastGoal(w, now)).length} past goal
          </span>
        </div>
        {view.byHand.length > 0 && (
          <ul className="mb-2 flex flex-wrap gap-1.5 text-small" aria-label="Doors set by hand">
            {view.byHand.map((d) => (
              <li key={d.doorId} className="rounded-control bg-brass-wash px-2 py-0.5 text-brass-ink">
                <b>{d.name}</b> {d.open ? 'opened' : 'shut'} by hand until {asDayTime(d.until, zone)}
                {Object.values(d.reason).find(Boolean) && `: ${Object.values(d.reason).find(Boolean)}`}
              </li>
            ))}
          </ul>
        )}
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
              onChange={(chosen) => setTeam(chosen)}
            >
              <option value="">All teams</option>
              {options(view.teams)}
            </Select>
          </div>
          <p className="mb-1 text-small text-ink-2">
            free {free} · busy {busy} · away {people.filter((p) => p.duty !== 'ready' && p.open.length === 0).length}
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
