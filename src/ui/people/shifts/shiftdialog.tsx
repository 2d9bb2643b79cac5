'use client';

import { useState } from 'react';
import type { Shift } from '@/core/people/coverage';
import type { ShiftLine, ShiftsView } from '@/services/people/shifts';
import { Button } from '../../kit/button';
import { call } from '../../kit/call';
import { DateField, TimeField } from '../../kit/datefield';
import { Dialog } from '../../kit/dialog';
import { doing } from '../../kit/doing';
import { FormFoot } from '../../kit/editform';
import { Input } from '../../kit/field';
import { useSaving } from '../../kit/saving';
import { DAYS } from './days';

export function ShiftDialog({ line, onClose, onSaved }: { line: ShiftLine; onClose: () => void; onSaved: () => void }) {
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
  const times = (from: string, to: string, put: (from: string, to: string) => void, what: string) => (
    <>
      <TimeField
        compact
        required
        disabled={off}
        aria-label={`${what} from`}
        value={from}
        onChange={(typed) => put(typed, to)}
      />
      –
      <TimeField
        compact
        required
        disabled={off}
        aria-label={`${what} to`}
        value={to}
        onChange={(typed) => put(from, typed)}
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
  const remove = async () => {
    if (await doing('remove-shift', { ownerId: line.ownerId }, 'Taken away.')) onSaved();
  };
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`Shift of ${line.name}`}
      description={
        `Times in ${line.zone}. ` +
        (line.kind === 'team'
          ? 'It counts for everybody in the team without a shift of their own.'
          : line.from === 'team'
            ? 'Now as the team; saving makes it their own.'
            : '')
      }
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
                    <DateField
                      compact
                      required
                      disabled={off}
                      aria-label="Day"
                      value={e.date}
                      onChange={(typed) => put({ date: typed })}
                      className="!w-36"
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
        <FormFoot
          mayChange={!off}
          isNew={false}
          busy={busy}
          onRemove={line.own ? () => void remove() : undefined}
          removing={line.kind === 'team' ? 'Take it away' : 'As the team again'}
        >
          <Button onClick={onClose}>Cancel</Button>
        </FormFoot>
      </form>
    </Dialog>
  );
}
