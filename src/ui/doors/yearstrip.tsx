'use client';

import { clsx } from 'clsx';
import { localDate } from '@/core/hours/weekly';
import { Panel } from '../kit/panel';
import type { Draft } from './hoursdraft';

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** A year of days in one strip a month: how long each is open, dated days marked. */
export function YearStrip({ draft, year, now }: { draft: Draft; year: number; now: number }) {
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
