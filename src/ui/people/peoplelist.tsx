'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { clsx } from 'clsx';
import { useRef } from 'react';
import { CHANNELS } from '@/core/channels';
import { withOverrides } from '@/core/people/load';
import type { PeopleView, PersonLine, StandingLine } from '@/services/people/peopleview';
import { ChannelMark } from '../kit/channelmark';
import { Pill } from '../kit/panel';
import { StatePill } from '../kit/statepill';

const COLUMNS =
  'grid grid-cols-[28px_minmax(150px,1.5fr)_86px_minmax(90px,1fr)_78px_minmax(110px,1fr)_128px] items-center gap-x-2';

/**
 * People in rows, to be picked for a change in bulk: team, role, duty profile, how many at once and what keeps
 * contacts away.
 */
export function PeopleList({
  view,
  standings,
  people,
  chosen,
  onChoose,
  picked,
  onPick,
}: {
  view: PeopleView;
  standings: ReadonlyMap<string, StandingLine>;
  people: readonly PersonLine[];
  chosen: string | null;
  onChoose: (id: string) => void;
  picked: ReadonlySet<string>;
  onPick: (ids: ReadonlySet<string>) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: people.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 36,
    overscan: 10,
  });
  const mine = people.filter((p) => p.mayChange);
  const all = mine.length > 0 && mine.every((p) => picked.has(p.id));
  const toggle = (ids: readonly string[], on: boolean) => {
    const next = new Set(picked);
    for (const id of ids)
      if (on) next.add(id);
      else next.delete(id);
    onPick(next);
  };
  if (people.length === 0)
    return <p className="py-10 text-center text-ink-2">Nobody matches. Clear the filter to see everybody.</p>;
  return (
    <div className="flex h-full flex-col pt-2" role="table" aria-label="People" aria-rowcount={people.length + 1}>
      <div role="row" className={`${COLUMNS} border-b border-rule py-1.5 pr-3 text-tiny text-ink-2`}>
        <span role="columnheader">
          <input
            type="checkbox"
            aria-label="Pick everybody shown"
            className="size-4 accent-plum"
            checked={all}
            disabled={mine.length === 0}
            onChange={(e) =>
              toggle(
                mine.map((p) => p.id),
                e.target.checked,
              )
            }
          />
        </span>
        {['Person', 'State', 'Team', 'Role', 'Duty profile', 'At once'].map((h) => (
          <span key={h} role="columnheader" className="font-medium">
            {h}
          </span>
        ))}
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto">
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start }) => {
            const p = people[index];
            if (!p) return null;
            const day = standings.get(p.id);
            const profile = view.profiles.find((x) => x.id === (p.forNow?.profileId ?? p.dutyProfileId));
            const load = profile && withOverrides(profile.load, p.most);
            return (
              <div
                key={p.id}
                role="row"
                aria-rowindex={index + 2}
                className={clsx(
                  COLUMNS,
                  'absolute inset-x-0 border-b border-rule',
                  chosen === p.id ? 'bg-chosen' : 'hover:bg-sunk/40',
                )}
                style={{ top: start, height: 36 }}
              >
                <span role="cell">
                  <input
                    type="checkbox"
                    aria-label={`Pick ${p.name}`}
                    className="size-4 accent-plum"
                    disabled={!p.mayChange}
                    checked={picked.has(p.id)}
                    onChange={(e) => toggle([p.id], e.target.checked)}
                  />
                </span>
                <span role="cell" className="flex min-w-0 items-center gap-1.5">
                  <button
                    type="button"
                    className="min-w-0 truncate text-left font-medium"
                    onClick={() => onChoose(p.id)}
                  >
                    {p.name}
                  </button>
                  {!p.active && <Pill>switched off</Pill>}
                  {p.leaving && <Pill tone="warn">leaving</Pill>}
                  {p.stop && p.meant && (
                    <span title={p.stop}>
                      <Pill tone="bad">not ready</Pill>
                    </span>
                  )}
                </span>
                <span role="cell">
                  {day && <StatePill duty={day.duty} reason={day.reason} reachable={day.reachable} open={day.open} />}
                </span>
                <span role="cell" className="truncate text-small">
                  {view.teams.find((t) => t.id === p.teamId)?.name ?? 'another team'}
                </span>
                <span role="cell" className="truncate text-small text-ink-2">
                  {p.roleName}
                </span>
                <span role="cell" className="truncate text-small">
                  {profile?.name}
                  {p.forNow && <span className="text-brass-ink"> for now</span>}
                </span>
                <span role="cell" className="grid grid-cols-4 text-small">
                  {CHANNELS.map((c) => (
                    <span key={c} className="inline-flex items-center gap-0.5">
                      {load && load[c].most > 0 && (
                        <>
                          <ChannelMark channel={c} size={14} />
                          {load[c].most}
                        </>
                      )}
                    </span>
                  ))}
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
