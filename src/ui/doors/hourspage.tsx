'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { useState } from 'react';
import { toast } from 'sonner';
import { instantAt, localDate, openAt, openings, type DatedDay } from '@/core/hours/weekly';
import type { HoursImport, HoursLine, HoursView } from '@/services/doors/hours';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Area, Field, Input } from '../kit/field';
import { asDayTime } from '../kit/figures';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
type Draft = {
  readonly id: string | null;
  readonly revision: number;
  readonly name: string;
  readonly zone: string;
  readonly weekly: HoursLine['weekly'];
  readonly exceptions: readonly DatedDay[];
};
const draftOf = ({ id, revision, name, zone, weekly, exceptions }: HoursLine): Draft => ({
  id,
  revision,
  name,
  zone,
  weekly,
  exceptions,
});
const openingWords = (h: HoursLine) =>
  h.opening.open
    ? h.opening.until === null
      ? 'open'
      : `open until ${asDayTime(h.opening.until, h.zone)}`
    : h.opening.opensAt === null
      ? 'closed'
      : `opens ${asDayTime(h.opening.opensAt, h.zone)}`;

/** Opening hours: the week, dated days, the year at a glance, calendars in and out. What uses them follows at once. */
export function HoursPage({ initial }: { initial: HoursView }) {
  const { data, refetch } = useLive<HoursView>('/api/read/hours', ['settings.changed'], initial);
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(view.hours[0] ? draftOf(view.hours[0]) : null);
  const kept = view.hours.find((h) => h.id === draft?.id);
  const reread = async (id: string | null) => {
    const h = (await refetch()).data?.hours.find((x) => x.id === id);
    setDraft(h ? draftOf(h) : null);
  };
  return (
    <main className="grid gap-3 p-4 lg:grid-cols-[260px_minmax(0,1fr)]">
      <Panel className="self-start p-2" label="Opening hours">
        <div className="flex items-center px-2 py-1.5">
          <h1 className="text-panel">Opening hours</h1>
          {view.mayChange && (
            <Button
              small
              className="ml-auto"
              onClick={() =>
                setDraft({
                  id: null,
                  revision: 0,
                  name: '',
                  zone: view.zone,
                  weekly: [1, 2, 3, 4, 5].map((day) => ({ day, from: '09:00', to: '17:00' })),
                  exceptions: [],
                })
              }
            >
              New
            </Button>
          )}
        </div>
        <ul>
          {view.hours.map((h) => (
            <li key={h.id}>
              <button
                type="button"
                aria-pressed={draft?.id === h.id}
                onClick={() => setDraft(draftOf(h))}
                className={clsx(
                  'flex w-full flex-col rounded-control border-l-3 px-2 py-1.5 text-left',
                  draft?.id === h.id ? 'border-brass-2 bg-chosen' : 'border-transparent hover:bg-sunk',
                )}
              >
                <span className="font-medium">{h.name}</span>
                <span className={clsx('text-small', h.opening.open ? 'text-moss' : 'text-brass-ink')}>
                  {openingWords(h)}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <Link href="/doors" className="m-2 inline-block text-small text-plum underline">
          Back to the doors
        </Link>
      </Panel>
      {draft ? (
        <HoursForm
          key={draft.id ?? 'new'}
          draft={draft}
          kept={kept}
          view={view}
          onChange={setDraft}
          onReread={reread}
        />
      ) : (
        <Panel>
          <Empty title="No hours yet">Doors, queues, groups and outside numbers share hours by name.</Empty>
        </Panel>
      )}
    </main>
  );
}

function HoursForm({
  draft,
  kept,
  view,
  onChange,
  onReread,
}: {
  draft: Draft;
  kept: HoursLine | undefined;
  view: HoursView;
  onChange: (d: Draft) => void;
  onReread: (id: string | null) => Promise<void>;
}) {
  const latest = async () => {
    const h = (await call<HoursView>('/api/read/hours')).hours.find((x) => x.id === draft.id);
    return h && draftOf(h);
  };
  const { busy, faults, save, conflict } = useSaving('save-hours', {
    latest,
    nameOf: (id) => id,
    onTheirs: () => void onReread(draft.id),
    onSaved: ({ id }) => void onReread(id),
  });
  const [importing, setImporting] = useState(false);
  const set = (change: Partial<Draft>) => onChange({ ...draft, ...change });
  const off = !view.mayChange;
  const changed = kept === undefined || JSON.stringify(draft) !== JSON.stringify(draftOf(kept));
  const submit = async () => {
    const saved = await save(draft, `${draft.name} applied; whatever uses it follows at once.`);
    if (saved) await onReread(saved.id);
  };
  const remove = () =>
    setting('remove-hours', { id: draft.id }).then(
      () => {
        toast.success(`${draft.name} removed; it can be undone in History.`);
        void onReread(null);
      },
      (e: unknown) => toast.error(sentence(e)),
    );
  const setInterval = (i: number, part: object) =>
    set({ weekly: draft.weekly.map((w, j) => (j === i ? { ...w, ...part } : w)) });
  const setDay = (i: number, day: DatedDay) => set({ exceptions: draft.exceptions.map((e, j) => (j === i ? day : e)) });
  const year = Number(localDate(view.now, draft.zone).slice(0, 4));
  return (
    <form
      className="flex flex-col gap-3"
      aria-label={kept?.name ?? 'New hours'}
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      {conflict}
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="text-title">{draft.name || 'New hours'}</h2>
        {kept && <Pill tone={kept.opening.open ? 'good' : 'warn'}>{openingWords(kept)}</Pill>}
        <span className="ml-auto flex gap-2">
          {kept && !off && <Button onClick={() => setImporting(true)}>Bring in a calendar</Button>}
          {kept && (
            <a
              href={`/api/hours.ics?id=${kept.id}`}
              className="inline-flex items-center rounded-control border border-rule-strong bg-sheet px-3 py-1.5 font-display text-[13.5px] font-semibold hover:bg-sunk"
            >
              Take out as calendar
            </a>
          )}
          {kept && changed && <Button onClick={() => onChange(draftOf(kept))}>Undo changes</Button>}
          {!off && kept && kept.usedBy.length === 0 && (
            <Button kind="danger" onClick={() => void remove()}>
              Remove
            </Button>
          )}
          {!off && (
            <Button kind="primary" type="submit" disabled={!changed || busy}>
              {kept ? 'Apply' : 'Add the hours'}
            </Button>
          )}
        </span>
      </div>
      {kept && (
        <p className="text-small text-ink-2">
          {kept.usedBy.length === 0 ? 'Nothing uses them yet.' : `Used by ${kept.usedBy.join(', ')}.`}
        </p>
      )}
      <div className="grid gap-3 xl:grid-cols-2">
        <Panel className="p-4" label="Every week">
          <h3 className="mb-2 text-panel">Every week</h3>
          <div className="mb-2 grid grid-cols-2 gap-3">
            <Field label="Name" fault={faults.name}>
              {(p) => (
                <Input
                  {...p}
                  disabled={off}
                  maxLength={60}
                  value={draft.name}
                  onChange={(e) => set({ name: e.target.value })}
                />
              )}
            </Field>
            <Field label="Zone" fault={faults.zone}>
              {(p) => (
                <Input {...p} disabled={off} value={draft.zone} onChange={(e) => set({ zone: e.target.value })} />
              )}
            </Field>
          </div>
          {DAYS.map((dayName, d) => (
            <fieldset key={dayName} disabled={off} className="flex items-start gap-2 border-t border-rule py-1">
              <legend className="sr-only">{dayName}</legend>
              <span aria-hidden className="w-24 pt-1 text-small font-medium">
                {dayName}
              </span>
              <div className="flex flex-1 flex-col gap-1">
                {draft.weekly.map(
                  (w, i) =>
                    w.day === d + 1 && (
                      <div key={i} className="flex items-center gap-1.5">
                        <Input
                          aria-label={`${dayName} from`}
                          type="time"
                          className="!w-28 !py-0.5"
                          value={w.from}
                          onChange={(e) => setInterval(i, { from: e.target.value })}
                        />
                        –
                        <Input
                          aria-label={`${dayName} to`}
                          type="time"
                          className="!w-28 !py-0.5"
                          value={w.to}
                          onChange={(e) => setInterval(i, { to: e.target.value })}
                        />
                        {!off && (
                          <Button
                            small
                            kind="quiet"
                            aria-label={`Remove ${dayName} ${w.from} to ${w.to}`}
                            onClick={() => set({ weekly: draft.weekly.filter((_, j) => j !== i) })}
                          >
                            ×
                          </Button>
                        )}
                      </div>
                    ),
                )}
                {!draft.weekly.some((w) => w.day === d + 1) && (
                  <span className="pt-1 text-small text-ink-3">closed</span>
                )}
              </div>
              {!off && (
                <Button
                  small
                  kind="quiet"
                  aria-label={`Add an interval on ${dayName}`}
                  onClick={() => set({ weekly: [...draft.weekly, { day: d + 1, from: '09:00', to: '17:00' }] })}
                >
                  Add
                </Button>
              )}
            </fieldset>
          ))}
        </Panel>
        <Panel className="p-4" label="Dated days">
          <div className="mb-2 flex items-center">
            <h3 className="text-panel">Dated days</h3>
            <span className="ml-2 text-small text-ink-2">instead of the week</span>
            {!off && (
              <Button
                small
                className="ml-auto"
                onClick={() => {
                  const date = nextFree(draft.exceptions, localDate(view.now + 86_400_000, draft.zone));
                  set({
                    exceptions: [...draft.exceptions, { date, intervals: [], note: '' }].sort((a, b) =>
                      a.date < b.date ? -1 : 1,
                    ),
                  });
                }}
              >
                Add a day
              </Button>
            )}
          </div>
          {faults.exceptions && <p className="text-small text-clay">{faults.exceptions}</p>}
          <div className="max-h-[330px] overflow-y-auto" tabIndex={0} role="region" aria-label="List of dated days">
            <ul>
              {draft.exceptions.map((e, i) => (
                <li key={i} className="flex flex-wrap items-center gap-1.5 border-t border-rule py-1.5 text-small">
                  <Input
                    aria-label="Day"
                    type="date"
                    className="!w-[132px] !px-1.5 !py-0.5"
                    disabled={off}
                    value={e.date}
                    onChange={(x) => setDay(i, { ...e, date: x.target.value })}
                  />
                  <Input
                    aria-label={`Note for ${e.date}`}
                    placeholder="Note"
                    className="!w-28 !px-1.5 !py-0.5"
                    disabled={off}
                    maxLength={80}
                    value={e.note}
                    onChange={(x) => setDay(i, { ...e, note: x.target.value })}
                  />
                  {e.intervals.length === 0 ? (
                    <Pill tone="bad">closed</Pill>
                  ) : (
                    e.intervals.map((v, j) => (
                      <span key={j} className="inline-flex items-center gap-1">
                        <Input
                          aria-label={`${e.date} from`}
                          type="time"
                          className="!w-[104px] !px-1.5 !py-0.5"
                          disabled={off}
                          value={v.from}
                          onChange={(x) =>
                            setDay(i, {
                              ...e,
                              intervals: e.intervals.map((y, k) => (k === j ? { ...y, from: x.target.value } : y)),
                            })
                          }
                        />
                        –
                        <Input
                          aria-label={`${e.date} to`}
                          type="time"
                          className="!w-[104px] !px-1.5 !py-0.5"
                          disabled={off}
                          value={v.to}
                          onChange={(x) =>
                            setDay(i, {
                              ...e,
                              intervals: e.intervals.map((y, k) => (k === j ? { ...y, to: x.target.value } : y)),
                            })
                          }
                        />
                      </span>
                    ))
                  )}
                  {!off && (
                    <span className="ml-auto flex gap-1">
                      <Button
                        small
                        kind="quiet"
                        onClick={() =>
                          setDay(i, {
                            ...e,
                            intervals: e.intervals.length === 0 ? [{ from: '10:00', to: '14:00' }] : [],
                          })
                        }
                        aria-label={e.intervals.length === 0 ? `Open on ${e.date}` : `Close on ${e.date}`}
                      >
                        {e.intervals.length === 0 ? 'Open' : 'Close'}
                      </Button>
                      <Button
                        small
                        kind="quiet"
                        aria-label={`Remove ${e.date}`}
                        onClick={() => set({ exceptions: draft.exceptions.filter((_, j) => j !== i) })}
                      >
                        ×
                      </Button>
                    </span>
                  )}
                </li>
              ))}
              {draft.exceptions.length === 0 && (
                <li className="py-4 text-center text-small text-ink-3">
                  No dated day. Add one, or bring in a calendar.
                </li>
              )}
            </ul>
          </div>
        </Panel>
      </div>
      <YearStrip draft={draft} year={year} now={view.now} />
      <IsItOpen draft={draft} now={view.now} />
      {importing && kept && (
        <CalendarDialog
          hours={kept}
          onClose={() => setImporting(false)}
          onDone={() => {
            setImporting(false);
            void onReread(kept.id);
          }}
        />
      )}
    </form>
  );
}

const nextFree = (days: readonly DatedDay[], from: string): string => {
  let date = from;
  while (days.some((d) => d.date === date))
    date = new Date(Date.parse(`${date}T12:00:00Z`) + 86_400_000).toISOString().slice(0, 10);
  return date;
};

/** A year of days in one strip a month: how long each is open, dated days marked. */
function YearStrip({ draft, year, now }: { draft: Draft; year: number; now: number }) {
  const valid = (() => {
    try {
      new Intl.DateTimeFormat('en', { timeZone: draft.zone });
      return draft.exceptions.every((e) => /^\d{4}-\d{2}-\d{2}$/.test(e.date));
    } catch {
      return false;
    }
  })();
  if (!valid) return null;
  const today = localDate(now, draft.zone);
  const dated = new Map(draft.exceptions.map((e) => [e.date, e]));
  return (
    <Panel className="p-4" label={`The year ${year}`}>
      <h3 className="mb-2 text-panel">The year {year}</h3>
      <div
        role="img"
        aria-label={`${draft.exceptions.filter((e) => e.date.startsWith(String(year))).length} dated days in ${year}`}
        className="flex flex-col gap-[3px]"
      >
        {MONTHS.map((name, m) => (
          <div key={name} className="flex items-center gap-2">
            <span className="w-8 text-tiny text-ink-2">{name}</span>
            <div className="grid flex-1 grid-cols-[repeat(31,minmax(0,1fr))] gap-[2px]">
              {Array.from({ length: new Date(Date.UTC(year, m + 1, 0)).getUTCDate() }, (_, d) => {
                const date = `${year}-${String(m + 1).padStart(2, '0')}-${String(d + 1).padStart(2, '0')}`;
                const weekday = ((new Date(Date.UTC(year, m, d + 1)).getUTCDay() + 6) % 7) + 1;
                const exception = dated.get(date);
                const open = (exception?.intervals ?? draft.weekly.filter((w) => w.day === weekday)).length > 0;
                return (
                  <span
                    key={d}
                    title={`${date}: ${open ? 'open' : 'closed'}${exception ? `, ${exception.note || 'dated'}` : ''}`}
                    className={clsx(
                      'h-3.5 rounded-[3px]',
                      open ? 'bg-moss-wash' : 'bg-sunk',
                      exception && (open ? '!bg-moss' : '!bg-clay'),
                      date === today && 'outline-2 outline-ink',
                    )}
                  />
                );
              })}
            </div>
          </div>
        ))}
      </div>
      <p className="mt-2 flex gap-4 text-tiny text-ink-2">
        <span>
          <i className="mr-1 inline-block size-2.5 rounded-[3px] bg-moss-wash" />
          open
        </span>
        <span>
          <i className="mr-1 inline-block size-2.5 rounded-[3px] bg-sunk" />
          closed
        </span>
        <span>
          <i className="mr-1 inline-block size-2.5 rounded-[3px] bg-moss" />
          dated, open
        </span>
        <span>
          <i className="mr-1 inline-block size-2.5 rounded-[3px] bg-clay" />
          dated, closed
        </span>
      </p>
    </Panel>
  );
}

function IsItOpen({ draft, now }: { draft: Draft; now: number }) {
  const [date, setDate] = useState(localDate(now, draft.zone));
  const [time, setTime] = useState('12:00');
  let words = 'Choose a day and a time.';
  if (/^\d{4}-\d{2}-\d{2}$/.test(date) && /^\d{2}:\d{2}$/.test(time)) {
    try {
      const at = instantAt(draft.zone, date, time);
      const answer = openAt(draft, at);
      words = answer.open
        ? `Open${answer.until === null ? '' : `, until ${asDayTime(answer.until, draft.zone)}`}.`
        : `Closed${answer.opensAt === null ? '; not within a fortnight' : `; opens ${asDayTime(answer.opensAt, draft.zone)}`}.`;
      const seconds = openings(draft, at, 0, 0).reduce((sum, o) => sum + (o.end - o.start), 0) / 1000;
      words += ` ${+(seconds / 3600).toFixed(2)} h of opening that day.`;
    } catch {
      words = 'The zone is not known.';
    }
  }
  return (
    <Panel className="flex flex-wrap items-center gap-3 p-4" label="Is it open at">
      <h3 className="text-panel">Is it open at</h3>
      <Input
        aria-label="Day to ask about"
        type="date"
        className="!w-40"
        value={date}
        onChange={(e) => setDate(e.target.value)}
      />
      <Input
        aria-label="Time to ask about"
        type="time"
        className="!w-28"
        value={time}
        onChange={(e) => setTime(e.target.value)}
      />
      <p role="status" className="font-medium">
        {words}
      </p>
    </Panel>
  );
}

/** A calendar is read and shown first, then its days are put in place of the same days. */
function CalendarDialog({ hours, onClose, onDone }: { hours: HoursLine; onClose: () => void; onDone: () => void }) {
  const [text, setText] = useState('');
  const [found, setFound] = useState<HoursImport | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const read = (apply: 'yes' | 'no', words = text) =>
    setting<HoursImport>('import-hours', { id: hours.id, text: words, apply }).then(
      (r) => {
        setFault(null);
        setFound(r);
        if (r.applied) {
          toast.success(
            `${r.days.filter((d) => d.was !== 'same').length} days put into ${hours.name}; it can be undone in History.`,
          );
          onDone();
        }
      },
      (e: unknown) => {
        setFound(null);
        setFault(sentence(e));
      },
    );
  const changes = found?.days.filter((d) => d.was !== 'same') ?? [];
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Bring a calendar into ${hours.name}`}
      description="iCalendar: an all-day event closes its days; one with times opens its day from start to end instead of the week."
      wide
    >
      <div className="flex flex-col gap-3">
        <input
          type="file"
          accept=".ics,text/calendar"
          aria-label="Calendar file"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file)
              void file.text().then((t) => {
                setText(t);
                void read('no', t);
              });
          }}
        />
        <Field label="Or paste it here">
          {(p) => (
            <Area
              {...p}
              rows={4}
              value={text}
              onChange={(e) => {
                setText(e.target.value);
                setFound(null);
              }}
            />
          )}
        </Field>
        {fault && (
          <p role="alert" className="text-small text-clay">
            {fault}
          </p>
        )}
        {found && (
          <>
            <p role="status" className="text-small">
              {changes.length === 0
                ? 'Nothing would change.'
                : `${found.days.filter((d) => d.was === 'new').length} new days, ${found.days.filter((d) => d.was === 'changed').length} changed, ${found.days.filter((d) => d.was === 'same').length} the same.`}
            </p>
            <ul className="max-h-56 overflow-y-auto text-small">
              {found.days.map((d) => (
                <li key={d.date} className="flex gap-3 border-t border-rule py-0.5">
                  <span className="w-24 font-medium">{d.date}</span>
                  <span className="w-40">
                    {d.intervals.length === 0 ? 'closed' : d.intervals.map((v) => `${v.from}–${v.to}`).join(', ')}
                  </span>
                  <span className="flex-1 text-ink-2">{d.note}</span>
                  <Pill tone={d.was === 'same' ? 'plain' : 'warn'}>{d.was}</Pill>
                </li>
              ))}
            </ul>
            {found.faults.map((f) => (
              <p key={f} className="text-small text-brass-ink">
                {f}
              </p>
            ))}
          </>
        )}
        <div className="flex gap-2">
          {changes.length > 0 ? (
            <Button kind="primary" onClick={() => void read('yes')}>
              Put {changes.length} {changes.length === 1 ? 'day' : 'days'} in
            </Button>
          ) : (
            <Button kind="primary" disabled={text.trim() === ''} onClick={() => void read('no')}>
              Read it
            </Button>
          )}
          <Button kind="quiet" onClick={onClose}>
            Cancel
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
