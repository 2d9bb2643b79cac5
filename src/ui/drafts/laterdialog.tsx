'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { PlanKind } from '@/core/drafts/kinds';
import { instantAt, localDate, localTime } from '@/core/hours/weekly';
import type { PlansView } from '@/services/drafts/plans';
import { Button } from '../kit/button';
import { Refused, sentence, setting } from '../kit/call';
import { DateField, TimeField } from '../kit/datefield';
import { Dialog } from '../kit/dialog';
import { Check, Field, Input } from '../kit/field';
import { asDayTime } from '../kit/figures';
import { useLive } from '../kit/live';
import { Looking } from '../kit/looking';

type Planned = {
  readonly kind: PlanKind;
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly value: object;
};

/** When a gathered change is to come, and whether it goes back by itself. */
export function LaterDialog({
  planned,
  onClose,
  onDone,
}: {
  planned: Planned;
  onClose: () => void;
  onDone: () => void;
}) {
  const { data, error, refetch } = useLive<PlansView>('/api/read/plans', ['settings.changed']);
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Change ${planned.name} later`}
      description="It is tried over that day’s settings now, and comes by itself then."
    >
      {data ? (
        <LaterForm planned={planned} now={data.now} zone={data.zone} onClose={onClose} onDone={onDone} />
      ) : (
        <Looking error={error} onAgain={refetch} />
      )}
    </Dialog>
  );
}

function LaterForm({
  planned: { name, ...planned },
  now,
  zone,
  onClose,
  onDone,
}: {
  planned: Planned;
  now: number;
  zone: string;
  onClose: () => void;
  onDone: () => void;
}) {
  const tomorrow = localDate(now + 24 * 3_600_000, zone);
  const [from, setFrom] = useState({ date: tomorrow, time: '08:00' });
  const [until, setUntil] = useState<{ date: string; time: string } | null>(null);
  const [note, setNote] = useState('');
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const at = ({ date, time }: { date: string; time: string }) => instantAt(zone, date, time);
  const submit = async () => {
    setBusy(true);
    setRefused(null);
    try {
      await setting('plan-change', {
        ...planned,
        from: at(from),
        until: until && at(until),
        note: note.trim(),
      });
      toast.success(
        `${name} changes ${asDayTime(at(from), zone)}${until ? `, until ${asDayTime(at(until), zone)}` : ''}.`,
      );
      onDone();
    } catch (error) {
      setRefused(error instanceof Refused ? error.message : sentence(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      <fieldset className="flex items-end gap-2">
        <legend className="mb-1 text-small font-medium text-ink-2">From</legend>
        <DateField aria-label="First day" value={from.date} onChange={(date) => setFrom({ ...from, date })} />
        <TimeField aria-label="From what time" value={from.time} onChange={(time) => setFrom({ ...from, time })} />
      </fieldset>
      <Check
        label="It goes back by itself"
        checked={until !== null}
        onChange={(e) =>
          setUntil(
            e.target.checked
              ? { date: localDate(at(from) + 24 * 3_600_000, zone), time: localTime(at(from), zone).slice(11, 16) }
              : null,
          )
        }
      />
      {until && (
        <fieldset className="flex items-end gap-2">
          <legend className="mb-1 text-small font-medium text-ink-2">Until</legend>
          <DateField aria-label="Last day" value={until.date} onChange={(date) => setUntil({ ...until, date })} />
          <TimeField
            aria-label="Until what time"
            value={until.time}
            onChange={(time) => setUntil({ ...until, time })}
          />
        </fieldset>
      )}
      <Field label="What for" hint="Stands with it in the list">
        {(p) => <Input {...p} maxLength={200} value={note} onChange={(e) => setNote(e.target.value)} />}
      </Field>
      {refused && (
        <p role="alert" className="rounded-control bg-clay-wash px-3 py-1.5 text-small text-clay">
          {refused}
        </p>
      )}
      <p className="text-tiny text-ink-2">Times are {zone.split('/').at(-1)?.replaceAll('_', ' ')}’s.</p>
      <div className="flex gap-2">
        <Button kind="primary" type="submit" disabled={busy}>
          {busy ? 'Trying it…' : 'Plan it'}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </form>
  );
}
