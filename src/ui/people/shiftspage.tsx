'use client';

import { clsx } from 'clsx';
import { useState, type ChangeEvent } from 'react';
import { toast } from 'sonner';
import { HALF_HOUR, type Shift } from '@/core/people/coverage';
import type { ShiftImport, ShiftLine, ShiftsView } from '@/services/people/shifts';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Input } from '../kit/field';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { StopNav } from '../lane/stopnav';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const WEEK = 7 * 86_400_000;
const dayText = (at: number, zone: string) => new Intl.DateTimeFormat('en-CA', { timeZone: zone }).format(at);

/** Who should be on duty by half-hour, beside what the busiest weeks needed, and everybody's shifts under it. */
export function ShiftsPage({ initial, owner }: { initial: ShiftsView; owner: string | null }) {
  const [week, setWeek] = useState(dayText(initial.monday + 12 * 3_600_000, initial.zone));
  const [team, setTeam] = useState('');
  const { data, error, refetch } = useLive<ShiftsView>(
    `/api/read/shifts?week=${week}${team === '' ? '' : `&team=${team}`}`,
    ['settings.changed'],
    team === '' && week === dayText(initial.monday + 12 * 3_600_000, initial.zone) ? initial : undefined,
  );
  const view = data ?? initial;
  const [open, setOpen] = useState<string | null>(owner);
  const [bringing, setBringing] = useState(false);
  const chosen = view.lines.find((l) => l.ownerId === open);
  const step = (weeks: number) => setWeek(dayText(view.monday + 12 * 3_600_000 + weeks * WEEK, view.zone));
  const range = `${new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: view.zone }).format(view.monday)} – ${new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: view.zone }).format(view.monday + WEEK - 3_600_000)}`;
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
              <select
                aria-label="Team"
                value={team}
                onChange={(e) => setTeam(e.target.value)}
                className="rounded-control border border-rule-strong bg-sheet px-2 py-1 text-small"
              >
                <option value="">All teams</option>
                {view.teams.map((t) => (
                  <option key={t.id} value={t.id}>
                    {t.name}
                  </option>
                ))}
              </select>
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
                  ? `Most short on ${DAYS[Math.floor(worst / 48)]} ${String(Math.floor((worst % 48) / 2)).padStart(2, '0')}:${worst % 2 ? '30' : '00'}: ${view.planned[worst]} on shift, ${view.needed[worst]} needed in the busiest of ${view.weeksOfHistory} weeks.`
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
                    aria-label={`${l.name}: ${l.weekly.length === 0 ? 'no shift' : l.weekly.map((w) => `${DAYS[w.day - 1]?.slice(0, 3)} ${w.from}–${w.to}`).join(', ')}`}
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

function Coverage({ view }: { view: ShiftsView }) {
  const most = Math.max(4, ...view.planned, ...view.needed);
  const y = (n: number) => 100 - (n / most) * 96;
  const needed = view.needed.map((n, i) => `${i === 0 ? 'M' : 'L'}${i} ${y(n)} L${i + 1} ${y(n)}`).join(' ');
  const now = (view.now - view.monday) / HALF_HOUR;
  return (
    <div className="mt-2 flex gap-2">
      <div className="flex h-32 w-6 flex-col justify-between text-right text-tiny text-ink-2">
        <span>{most}</span>
        <span>0</span>
      </div>
      <div className="min-w-0 flex-1">
        <svg
          role="img"
          aria-label="People on shift and people needed, by half-hour of the week"
          viewBox="0 0 336 100"
          preserveAspectRatio="none"
          className="h-32 w-full rounded bg-paper"
        >
          {view.planned.map((n, i) => {
            const need = view.needed[i] ?? 0;
            return (
              n > 0 && (
                <rect
                  key={i}
                  x={i}
                  width={1.02}
                  y={y(n)}
                  height={100 - y(n)}
                  fill={need > n ? 'var(--brass-2)' : 'var(--level-2)'}
                >
                  <title>{`${DAYS[Math.floor(i / 48)]} ${String(Math.floor((i % 48) / 2)).padStart(2, '0')}:${i % 2 ? '30' : '00'}: ${n} on shift${view.needed.length > 0 ? `, ${need} needed` : ''}`}</title>
                </rect>
              )
            );
          })}
          {view.needed.length > 0 && (
            <path d={needed} fill="none" stroke="var(--clay)" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
          )}
          {[1, 2, 3, 4, 5, 6].map((d) => (
            <line
              key={d}
              x1={d * 48}
              x2={d * 48}
              y1={0}
              y2={100}
              stroke="var(--rule-strong)"
              vectorEffect="non-scaling-stroke"
            />
          ))}
          {now > 0 && now < 336 && (
            <line
              x1={now}
              x2={now}
              y1={0}
              y2={100}
              stroke="var(--ink)"
              strokeDasharray="3 3"
              vectorEffect="non-scaling-stroke"
            />
          )}
        </svg>
        <div className="grid grid-cols-7 text-tiny text-ink-2">
          {DAYS.map((d) => (
            <span key={d}>{d}</span>
          ))}
        </div>
        <p className="mt-1 flex flex-wrap gap-x-4 text-tiny text-ink-2">
          <span>
            <span className="mr-1 inline-block size-2.5 rounded-sm bg-level-2" />
            on shift, enough
          </span>
          <span>
            <span className="mr-1 inline-block size-2.5 rounded-sm bg-brass-2" />
            on shift, too few
          </span>
          {view.needed.length > 0 && (
            <span>
              <span className="mr-1 inline-block h-0.5 w-4 bg-clay align-middle" />
              needed in the busiest week: work ÷ 85%
            </span>
          )}
          <span>dashed: now</span>
        </p>
      </div>
    </div>
  );
}

function ShiftDialog({ line, onClose, onSaved }: { line: ShiftLine; onClose: () => void; onSaved: () => void }) {
  const [weekly, setWeekly] = useState<Shift['weekly']>(line.own?.weekly ?? line.weekly);
  const [exceptions, setExceptions] = useState<Shift['exceptions']>(line.own?.exceptions ?? []);
  const { busy, save, conflict } = useSaving('save-shift', {
    latest: async () => {
      const l = (await call<ShiftsView>('/api/read/shifts')).lines.find((x) => x.ownerId === line.ownerId);
      return (
        l && {
          ownerId: l.ownerId,
          revision: l.own?.revision ?? 0,
          weekly: l.own?.weekly ?? [],
          exceptions: l.own?.exceptions ?? [],
        }
      );
    },
    nameOf: (x) => x,
    onTheirs: onSaved,
    onSaved,
  });
  const off = !line.mayChange;
  const cell = 'rounded-control border border-rule-strong bg-sheet px-1 py-0.5 text-small';
  const times = (from: string, to: string, put: (from: string, to: string) => void, what: string) => (
    <>
      <input
        type="time"
        required
        disabled={off}
        aria-label={`${what} from`}
        value={from}
        onChange={(e) => put(e.target.value, to)}
        className={cell}
      />
      –
      <input
        type="time"
        required
        disabled={off}
        aria-label={`${what} to`}
        value={to}
        onChange={(e) => put(from, e.target.value)}
        className={cell}
      />
    </>
  );
  const submit = async () => {
    if (
      await save(
        {
          ownerId: line.ownerId,
          revision: line.own?.revision ?? 0,
          weekly,
          exceptions: exceptions.map((e) => ({ ...e, note: e.note.trim() })),
        },
        `The shift of ${line.name} is saved.`,
      )
    )
      onSaved();
  };
  const remove = () => {
    setting('remove-shift', { ownerId: line.ownerId }).then(
      () => {
        toast.success('Taken away.');
        onSaved();
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`Shift of ${line.name}`}
      description={`Times in ${line.zone}. ${line.kind === 'team' ? 'It counts for everybody in the team without a shift of their own.' : line.from === 'team' ? 'Now as the team; saving makes it their own.' : ''}`}
    >
      {conflict}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <div className="grid grid-cols-[11fr_9fr] gap-5">
          <fieldset>
            <legend className="mb-1 text-small font-semibold">Every week</legend>
            <ul>
              {DAYS.map((name, d) => {
                const mine = weekly.map((w, i) => ({ ...w, i })).filter((w) => w.day === d + 1);
                return (
                  <li key={name} className="flex items-center gap-1.5 border-b border-rule py-1 text-small">
                    <span className="w-20">{name}</span>
                    <span className="flex flex-1 flex-wrap items-center gap-1">
                      {mine.map((w) => (
                        <span key={w.i} className="inline-flex items-center gap-1">
                          {times(
                            w.from,
                            w.to,
                            (from, to) => setWeekly(weekly.map((x, j) => (j === w.i ? { ...x, from, to } : x))),
                            name,
                          )}
                          {!off && (
                            <button
                              type="button"
                              aria-label={`Take ${name} ${w.from} out`}
                              onClick={() => setWeekly(weekly.filter((_, j) => j !== w.i))}
                            >
                              ×
                            </button>
                          )}
                        </span>
                      ))}
                      {!off && (
                        <button
                          type="button"
                          className="text-plum underline"
                          aria-label={`Add hours on ${name}`}
                          onClick={() => setWeekly([...weekly, { day: d + 1, from: '09:00', to: '17:00' }])}
                        >
                          add
                        </button>
                      )}
                    </span>
                  </li>
                );
              })}
            </ul>
          </fieldset>
          <fieldset>
            <legend className="mb-1 text-small font-semibold">Dated days instead</legend>
            <ul>
              {exceptions.map((e, i) => {
                const put = (change: Partial<typeof e>) =>
                  setExceptions(exceptions.map((x, j) => (j === i ? { ...x, ...change } : x)));
                return (
                  <li key={i} className="flex flex-wrap items-center gap-1.5 border-b border-rule py-1 text-small">
                    <input
                      type="date"
                      required
                      disabled={off}
                      aria-label="Day"
                      value={e.date}
                      onChange={(x) => put({ date: x.target.value })}
                      className={cell}
                    />
                    {e.intervals.length === 0 ? (
                      <span className="text-ink-2">off</span>
                    ) : (
                      e.intervals.map((w, k) => (
                        <span key={k} className="inline-flex items-center gap-1">
                          {times(
                            w.from,
                            w.to,
                            (from, to) => put({ intervals: e.intervals.map((y, z) => (z === k ? { from, to } : y)) }),
                            e.date,
                          )}
                        </span>
                      ))
                    )}
                    {!off && (
                      <button
                        type="button"
                        className="text-plum underline"
                        onClick={() =>
                          put({ intervals: e.intervals.length === 0 ? [{ from: '09:00', to: '17:00' }] : [] })
                        }
                      >
                        {e.intervals.length === 0 ? 'works' : 'off'}
                      </button>
                    )}
                    <Input
                      aria-label="Note"
                      placeholder="note"
                      maxLength={100}
                      disabled={off}
                      className="!w-28 !py-0.5"
                      value={e.note}
                      onChange={(x) => put({ note: x.target.value })}
                    />
                    {!off && (
                      <button
                        type="button"
                        aria-label={`Take ${e.date} out`}
                        onClick={() => setExceptions(exceptions.filter((_, j) => j !== i))}
                      >
                        ×
                      </button>
                    )}
                  </li>
                );
              })}
            </ul>
            {exceptions.length === 0 && <p className="text-small text-ink-2">None.</p>}
            {!off && (
              <Button
                small
                className="mt-2"
                onClick={() => setExceptions([...exceptions, { date: '', intervals: [], note: '' }])}
              >
                Add a day
              </Button>
            )}
          </fieldset>
        </div>
        {!off && (
          <div className="mt-4 flex gap-2">
            <Button kind="primary" type="submit" disabled={busy}>
              Save
            </Button>
            {line.own && (
              <Button kind="quiet" onClick={remove}>
                {line.kind === 'team' ? 'Take it away' : 'As the team again'}
              </Button>
            )}
            <Button onClick={onClose}>Cancel</Button>
          </div>
        )}
      </form>
    </Dialog>
  );
}

/** CSV or iCalendar: read and shown first, then kept in one press. */
function BringIn({ view, onClose, onDone }: { view: ShiftsView; onClose: () => void; onDone: () => void }) {
  const [text, setText] = useState('');
  const [name, setName] = useState('');
  const [ownerId, setOwner] = useState('');
  const [preview, setPreview] = useState<ShiftImport | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const run = (words: string, owner: string, apply: 'yes' | 'no') => {
    setFault(null);
    return setting<ShiftImport>('import-shifts', { text: words, ownerId: owner === '' ? null : owner, apply }).then(
      (r) => {
        if (apply === 'yes') {
          toast.success(`Shifts of ${r.lines.length} kept. History can take them back.`);
          onDone();
        } else setPreview(r);
      },
      (error: unknown) => {
        setPreview(null);
        setFault(sentence(error));
      },
    );
  };
  const read = (e: ChangeEvent<HTMLInputElement>) => {
    const file = e.target.files?.[0];
    if (!file) return;
    setName(file.name);
    void file.text().then((t) => {
      setText(t);
      void run(t, ownerId, 'no');
    });
  };
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title="Bring in shifts"
      description="A CSV file with the columns who, day, from and to, or an iCalendar file."
    >
      <div className="flex flex-wrap items-center gap-3">
        <label className="inline-flex cursor-pointer items-center gap-2 rounded-control border border-rule-strong px-3 py-1.5 font-display text-[13.5px] font-semibold focus-within:ring-2">
          Choose a file
          <input type="file" accept=".csv,.ics,text/csv,text/calendar" className="sr-only" onChange={read} />
        </label>
        <span className="text-small text-ink-2">{name === '' ? 'no file yet' : name}</span>
        <label className="ml-auto flex items-center gap-1.5 text-small">
          A calendar without addresses is for{' '}
          <select
            value={ownerId}
            onChange={(e) => {
              setOwner(e.target.value);
              if (text !== '') void run(text, e.target.value, 'no');
            }}
            className="rounded-control border border-rule-strong bg-sheet px-2 py-1"
          >
            <option value="">nobody chosen</option>
            {view.lines
              .filter((l) => l.mayChange)
              .map((l) => (
                <option key={l.ownerId} value={l.ownerId}>
                  {l.name}
                </option>
              ))}
          </select>
        </label>
      </div>
      {fault && (
        <p role="alert" className="mt-3 text-small text-clay">
          {fault}
        </p>
      )}
      {preview && (
        <div className="mt-3 max-h-72 overflow-y-auto text-small">
          <ul>
            {preview.lines.map((l) => (
              <li key={l.name} className="flex border-b border-rule py-1">
                <b className="flex-1 font-medium">{l.name}</b>
                <span className="text-ink-2">
                  {l.week} {l.week === 1 ? 'stretch' : 'stretches'} a week, {l.days} dated{' '}
                  {l.days === 1 ? 'day' : 'days'}
                </span>
              </li>
            ))}
          </ul>
          {preview.faults.map((f) => (
            <p key={f} className="mt-1 text-clay">
              {f}
            </p>
          ))}
        </div>
      )}
      <div className="mt-4 flex gap-2">
        <Button
          kind="primary"
          disabled={!preview || preview.lines.length === 0}
          onClick={() => void run(text, ownerId, 'yes')}
        >
          Keep {preview?.lines.length ?? 0} shifts
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
