'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { localDate } from '@/core/hours/weekly';
import { HALF_HOUR } from '@/core/people/coverage';
import type { ShiftsView } from '@/services/people/shifts';
import { Button } from '../../kit/button';
import { sentence } from '../../kit/call';
import { asShortDay } from '../../kit/figures';
import { useLive } from '../../kit/live';
import { Empty, Panel, Pill } from '../../kit/panel';
import { options, Select } from '../../kit/select';
import { StopNav } from '../../lane/stopnav';
import { BringIn } from './bringin';
import { Coverage } from './coverage';
import { DAYS } from './days';
import { ShiftDialog } from './shiftdialog';

const WEEK = 7 * 86_400_000;

/** Who should be on duty by half-hour, beside what the busiest weeks needed, and everybody's shifts under it. */
export function ShiftsPage({ initial, owner }: { initial: ShiftsView; owner: string | null }) {
  const [week, setWeek] = useState(localDate(initial.monday + 12 * 3_600_000, initial.zone));
  const [team, setTeam] = useState('');
  const { data, error, refetch } = useLive<ShiftsView>(
    `/api/read/shifts?week=${week}${team === '' ? '' : `&team=${team}`}`,
    ['settings.changed'],
    team === '' && week === localDate(initial.monday + 12 * 3_600_000, initial.zone) ? initial : undefined,
  );
  const view = data ?? initial;
  const [open, setOpen] = useState<string | null>(owner);
  const [bringing, setBringing] = useState(false);
  const chosen = view.lines.find((l) => l.ownerId === open);
  const step = (weeks: number) => setWeek(localDate(view.monday + 12 * 3_600_000 + weeks * WEEK, view.zone));
  const dayAt = (at: number) => asShortDay(localDate(at, view.zone));
  const range = `${dayAt(view.monday)} – ${dayAt(view.monday + WEEK - 3_600_000)}`;
  const short = view.planned.map((n, i) => (view.needed[i] ?? 0) - n);
  const worst = short.reduce((best, n, i) => (n > (short[best] ?? 0) ? i : best), 0);
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="flex min-h-0 flex-1 flex-col gap-3 px-4 pt-2 pb-4">
        <Panel className="p-4" label="Coverage">
          <div className="flex flex-wrap items-center gap-2">
            <h1 className="text-title">Who should be on duty</h1>
            <Pill>{range}</Pill>
            <Button small onClick={() => step(-1)} aria-label="Week before">
              ←
            </Button>
            <Button small onClick={() => step(1)} aria-label="Week after">
              →
            </Button>
            <span className="ml-auto flex gap-2">
              <Select aria-label="Team" value={team} onChange={(chosen) => setTeam(chosen)} compact>
                <option value="">All teams</option>
                {options(view.teams)}
              </Select>
              {view.lines.some((l) => l.mayChange) && (
                <Button onClick={() => setBringing(true)}>Bring in shifts</Button>
              )}
            </span>
          </div>
          <p className="mt-1 text-small text-ink-2">
            {!view.everybody
              ? 'People on shift per half-hour. What was needed is counted for the whole company only.'
              : view.weeksOfHistory === 0
                ? 'No history yet to say what is needed.'
                : (short[worst] ?? 0) > 0
                  ? `Most short on ${DAYS[Math.floor(worst / 48)]} ` +
                    `${String(Math.floor((worst % 48) / 2)).padStart(2, '0')}:${worst % 2 ? '30' : '00'}: ` +
                    `${view.planned[worst]} on shift, ${view.needed[worst]} needed in the busiest of ` +
                    `${view.weeksOfHistory} weeks.`
                  : `Every half-hour has what the busiest of ${view.weeksOfHistory} weeks needed.`}
          </p>
          {error && (
            <p role="alert" className="mt-1 text-small text-clay">
              {sentence(error)}
            </p>
          )}
          <Coverage view={view} />
        </Panel>
        <Panel className="min-h-0 flex-1 overflow-y-auto p-3" label="Shifts">
          {view.lines.length === 0 ? (
            <Empty title="Nobody here">Choose another team.</Empty>
          ) : (
            <ul>
              {view.lines.map((l) => (
                <li
                  key={`${l.kind}${l.ownerId}`}
                  className={clsx(
                    'flex items-center gap-3 border-b border-rule py-[3px]',
                    l.kind === 'team' && 'bg-sunk',
                  )}
                >
                  <button
                    type="button"
                    onClick={() => setOpen(l.ownerId)}
                    className={clsx(
                      'w-44 shrink-0 truncate px-2 text-left text-small',
                      l.kind === 'team' && 'font-semibold',
                    )}
                  >
                    {l.name}
                  </button>
                  <span className="w-20 shrink-0 text-tiny text-ink-2">
                    {l.kind === 'team'
                      ? l.own
                        ? 'team’s week'
                        : ''
                      : l.from === 'own'
                        ? ''
                        : l.from === 'team'
                          ? 'as the team'
                          : 'no shift'}
                  </span>
                  <svg
                    role="img"
                    aria-label={
                      `${l.name}: ` +
                      (l.weekly.map((w) => `${DAYS[w.day - 1]?.slice(0, 3)} ${w.from}–${w.to}`).join(', ') ||
                        'no shift')
                    }
                    viewBox="0 0 336 10"
                    preserveAspectRatio="none"
                    className="h-3.5 min-w-0 flex-1 rounded bg-paper"
                  >
                    {[1, 2, 3, 4, 5, 6].map((d) => (
                      <line
                        key={d}
                        x1={d * 48}
                        x2={d * 48}
                        y1={0}
                        y2={10}
                        stroke="var(--rule-strong)"
                        strokeWidth={0.6}
                      />
                    ))}
                    {l.week.map((w) => (
                      <rect
                        key={w.start}
                        x={(w.start - view.monday) / HALF_HOUR}
                        width={(w.end - w.start) / HALF_HOUR}
                        y={1}
                        height={8}
                        rx={1}
                        fill={l.from === 'own' ? 'var(--plum)' : 'var(--level-3)'}
                      />
                    ))}
                  </svg>
                </li>
              ))}
            </ul>
          )}
        </Panel>
      </div>
      {chosen && (
        <ShiftDialog
          key={chosen.ownerId}
          line={chosen}
          onClose={() => setOpen(null)}
          onSaved={() => {
            setOpen(null);
            void refetch();
          }}
        />
      )}
      {bringing && (
        <BringIn
          view={view}
          onClose={() => setBringing(false)}
          onDone={() => {
            setBringing(false);
            void refetch();
          }}
        />
      )}
    </main>
  );
}
