'use client';

import { useState } from 'react';
import { instantAt, localDate, openAt, openings } from '@/core/hours/weekly';
import { DateField, TimeField } from '../kit/datefield';
import { asDayTime } from '../kit/figures';
import { Panel } from '../kit/panel';
import type { Draft } from './hoursdraft';

export function IsItOpen({ draft, now }: { draft: Draft; now: number }) {
  const [date, setDate] = useState(localDate(now, draft.zone));
  const [time, setTime] = useState('12:00');
  let words = 'Choose a day and a time.';
  if (/^\d{4}-\d{2}-\d{2}$/.test(date) && /^\d{2}:\d{2}$/.test(time)) {
    try {
      const at = instantAt(draft.zone, date, time);
      const answer = openAt(draft, at);
      words = answer.open
        ? `Open${answer.until === null ? '' : `, until ${asDayTime(answer.until, draft.zone)}`}.`
        : `Closed${answer.opensAt === null ? '; it does not open again' : `; opens ${asDayTime(answer.opensAt, draft.zone)}`}.`;
      const seconds = openings(draft, at, 0, 0).reduce((sum, o) => sum + (o.end - o.start), 0) / 1000;
      words += ` ${+(seconds / 3600).toFixed(2)} h of opening that day.`;
    } catch {
      words = 'The zone is not known.';
    }
  }
  return (
    <Panel className="flex flex-wrap items-center gap-3 p-4" label="Is it open at">
      <h3 className="text-panel">Is it open at</h3>
      <DateField
        aria-label="Day to ask about"

        className="!w-40"
        value={date}
        onChange={(typed) => setDate(typed)}
      />
      <TimeField
        aria-label="Time to ask about"

        value={time}
        onChange={(typed) => setTime(typed)}
      />
      <p role="status" className="font-medium">
        {words}
      </p>
    </Panel>
  );
}
