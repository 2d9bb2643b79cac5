'use client';

import { useState } from 'react';
import { type DatedDay, localDate } from '@/core/hours/weekly';
import type { HoursLine, HoursView } from '@/services/doors/hours';
import { Button, LinkButton } from '../kit/button';
import { DateField, TimeField } from '../kit/datefield';
import { doing } from '../kit/doing';
import { EditForm } from '../kit/editform';
import { Field, Input } from '../kit/field';
import { Panel, Pill } from '../kit/panel';
import { LaterButton } from '../drafts/laterbutton';
import type { GatheredThings } from '../drafts/usegathered';
import { CalendarDialog } from './calendardialog';
import { type Draft, HOURS_SHAPE } from './hoursdraft';
import { openingWords } from './hoursopening';
import { IsItOpen } from './isitopen';
import { YearStrip } from './yearstrip';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

export function HoursForm({
  gathered,
  draft,
  kept,
  view,
  onRead,
}: {
  gathered: GatheredThings<Draft>;
  draft: Draft;
  kept: HoursLine | undefined;
  view: HoursView;
  onRead: () => void;
}) {
  const { busy, faults, changed, notes } = gathered;
  const [importing, setImporting] = useState(false);
  const set = (change: Partial<Draft>) => gathered.set({ ...draft, ...change });
  const off = !view.mayChange;
  const remove = async () => {
    if (await doing('remove-hours', { id: draft.id }, `${draft.name} removed; it can be undone in History.`))
      await gathered.settled(draft.id, null);
  };
  const setInterval = (i: number, part: object) =>
    set({ weekly: draft.weekly.map((w, j) => (j === i ? { ...w, ...part } : w)) });
  const setDay = (i: number, day: DatedDay) => set({ exceptions: draft.exceptions.map((e, j) => (j === i ? day : e)) });
  const year = Number(localDate(view.now, draft.zone).slice(0, 4));
  return (
    <EditForm
      kind="hours"
      name={draft.name}
      marks={kept && <Pill tone={kept.opening.open ? 'good' : 'warn'}>{openingWords(kept)}</Pill>}
      tools={
        kept && (
          <>
            {!off && <Button onClick={() => setImporting(true)}>Bring in a calendar</Button>}
            <LinkButton href={`/api/hours.ics?id=${kept.id}`}>Take out as calendar</LinkButton>
          </>
        )
      }
      keptName={kept?.name ?? null}
      changed={changed}
      busy={busy}
      mayChange={view.mayChange}
      notes={notes}
      onUndo={gathered.undo}
      onRemove={kept?.usedBy.length === 0 ? () => void remove() : undefined}
      onApply={() => void gathered.apply(`${draft.name} applied; whatever uses it follows at once.`)}
      later={<LaterButton kind="hours" gathered={gathered} shape={HOURS_SHAPE} />}
    >
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
          {!off && (
            <p className="mb-1 text-small">
              <Button
                small
                onClick={() => set({ weekly: DAYS.map((_, d) => ({ day: d + 1, from: '00:00', to: '00:00' })) })}
              >
                Open always
              </Button>
            </p>
          )}
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
                        <TimeField
                          compact
                          aria-label={`${dayName} from`}

                          value={w.from}
                          onChange={(typed) => setInterval(i, { from: typed })}
                        />
                        –
                        <TimeField
                          compact
                          aria-label={`${dayName} to`}

                          value={w.to}
                          onChange={(typed) => setInterval(i, { to: typed })}
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
                  <DateField
                    compact
                    aria-label="Day"
                    className="!w-36"
                    disabled={off}
                    value={e.date}
                    onChange={(typed) => setDay(i, { ...e, date: typed })}
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
                        <TimeField
                          compact
                          aria-label={`${e.date} from`}

                          disabled={off}
                          value={v.from}
                          onChange={(typed) =>
                            setDay(i, {
                              ...e,
                              intervals: e.intervals.map((y, k) => (k === j ? { ...y, from: typed } : y)),
                            })
                          }
                        />
                        –
                        <TimeField
                          compact
                          aria-label={`${e.date} to`}

                          disabled={off}
                          value={v.to}
                          onChange={(typed) =>
                            setDay(i, {
                              ...e,
                              intervals: e.intervals.map((y, k) => (k === j ? { ...y, to: typed } : y)),
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
            onRead();
          }}
        />
      )}
    </EditForm>
  );
}

const nextFree = (days: readonly DatedDay[], from: string): string => {
  let date = from;
  while (days.some((d) => d.date === date))
    date = new Date(Date.parse(`${date}T12:00:00Z`) + 86_400_000).toISOString().slice(0, 10);
  return date;
};
