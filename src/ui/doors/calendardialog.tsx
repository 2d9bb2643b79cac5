'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { TimesMean } from '@/core/formats/calendar/hours';
import type { HoursImport, HoursLine } from '@/services/doors/hours';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Area, Field } from '../kit/field';
import { FilePick } from '../kit/filepick';
import { fileText } from '../kit/fileread';
import { Pill } from '../kit/panel';
import { Select } from '../kit/select';

/** A calendar is read and shown first, then its days are put in place of the same days. */
export function CalendarDialog({
  hours,
  onClose,
  onDone,
}: {
  hours: HoursLine;
  onClose: () => void;
  onDone: () => void;
}) {
  const [text, setText] = useState('');
  const [timesMean, setTimesMean] = useState<TimesMean>('open');
  const [found, setFound] = useState<HoursImport | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const ask = (words: string, seen: HoursImport['days'] | null, mean = timesMean) =>
    setting<HoursImport>('import-hours', {
      id: hours.id,
      text: words,
      timesMean: mean,
      seen: seen && seen.map((d) => ({ date: d.date, over: d.over })),
    });
  const refused = (e: unknown) => {
    setFound(null);
    setFault(sentence(e));
  };
  const read = (words = text, mean = timesMean) =>
    ask(words, null, mean).then((r) => {
      setFault(null);
      setFound(r);
    }, refused);
  const changes = found?.days.filter((d) => d.was !== 'same') ?? [];
  const put = async () => {
    try {
      const { met } = await ask(text, changes);
      const done = changes.length - met.length;
      if (done > 0)
        toast.success(`${done} ${done === 1 ? 'day' : 'days'} put into ${hours.name}; it can be undone in History.`);
      if (met.length === 0) return onDone();
      setFound({ ...(await ask(text, null)), met });
    } catch (e) {
      refused(e);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Bring a calendar into ${hours.name}`}
      description="iCalendar: events of whole days close them, and those with times do what you choose here, by the clock of these hours."
      wide
    >
      <div className="flex flex-col gap-3">
        <span>
          <FilePick
            label="Calendar file"
            accept=".ics,text/calendar"
            onFile={(file) =>
              void fileText(file).then((t) => {
                setText(t);
                void read(t);
              })
            }
          >
            Choose a file…
          </FilePick>
        </span>
        <Field label="Events with times mean">
          {(p) => (
            <Select
              {...p}
              value={timesMean}
              onChange={(chosen) => {
                const mean = chosen as TimesMean;
                setTimesMean(mean);
                if (found) void read(text, mean);
              }}
            >
              <option value="open">open only then on their days</option>
              <option value="closed">closed then, of what would be open</option>
            </Select>
          )}
        </Field>
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
        {found && found.met.length > 0 && (
          <p role="status" className="rounded-control bg-brass-wash px-3 py-1.5 text-small text-brass-ink">
            Left: {found.met.join(', ')}. Somebody else changed that after you saw it; it is shown as it would be now.
          </p>
        )}
        {found && (
          <>
            <p role="status" className="text-small">
              {changes.length === 0
                ? 'Nothing would change.'
                : `${found.days.filter((d) => d.was === 'new').length} new days, ` +
                  `${found.days.filter((d) => d.was === 'changed').length} changed, ` +
                  `${found.days.filter((d) => d.was === 'same').length} the same.`}
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
            <Button kind="primary" onClick={() => void put()}>
              Put {changes.length} {changes.length === 1 ? 'day' : 'days'} in
            </Button>
          ) : (
            <Button kind="primary" disabled={text.trim() === ''} onClick={() => void read()}>
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
