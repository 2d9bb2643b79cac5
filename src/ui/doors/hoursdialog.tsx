'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { DoorsView } from '@/services/doors';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Field, Input } from '../kit/field';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** Weekly hours, a row per interval; an end before the start is on the next day. */
export function HoursDialog({ hours, zone: usual, mayChange, onClose, onSaved }: { hours: DoorsView['hours'][number] | null; zone: string; mayChange: boolean; onClose: () => void; onSaved: () => void }) {
  const [name, setName] = useState(hours?.name ?? '');
  const [zone, setZone] = useState(hours?.zone ?? usual);
  const [weekly, setWeekly] = useState(() => (hours?.weekly ?? [1, 2, 3, 4, 5].map((day) => ({ day, from: '09:00', to: '17:00' }))).map((w) => ({ ...w })));
  const [fault, setFault] = useState<string | null>(null);
  const change = (index: number, part: Partial<(typeof weekly)[number]>) => setWeekly(weekly.map((w, i) => (i === index ? { ...w, ...part } : w)));
  const save = async () => {
    try {
      await setting('save-hours', { id: hours?.id ?? null, revision: hours?.revision ?? 0, name, zone, weekly });
      toast.success(`${name} saved${hours && hours.usedBy > 0 ? `; ${hours.usedBy} doors follow it at once` : ''}.`);
      onSaved();
    } catch (error) {
      setFault(sentence(error));
    }
  };
  return (
    <Dialog open onClose={onClose} title={hours?.name ?? 'New opening hours'} description={hours ? `Used by ${hours.usedBy} doors` : 'Named once, shared by doors'}>
      <form className="flex flex-col gap-3" onSubmit={(e) => { e.preventDefault(); void save(); }}>
        <div className="grid grid-cols-2 gap-3">
          <Field label="Name">{(p) => <Input {...p} disabled={!mayChange} value={name} onChange={(e) => setName(e.target.value)} />}</Field>
          <Field label="Zone" hint="For example Europe/Dublin">{(p) => <Input {...p} disabled={!mayChange} value={zone} onChange={(e) => setZone(e.target.value)} />}</Field>
        </div>
        {DAYS.map((dayName, d) => (
          <fieldset key={dayName} disabled={!mayChange} className="flex items-start gap-2 border-t border-rule pt-2">
            <legend className="sr-only">{dayName}</legend><span aria-hidden className="w-24 pt-1 text-small font-medium">{dayName}</span>
            <div className="flex flex-1 flex-col gap-1.5">
              {weekly.map((w, i) => w.day === d + 1 && (
                <div key={i} className="flex items-center gap-2">
                  <Input aria-label={`${dayName} from`} type="time" className="!w-28" value={w.from} onChange={(e) => change(i, { from: e.target.value })} /><span className="text-small">to</span>
                  <Input aria-label={`${dayName} to`} type="time" className="!w-28" value={w.to} onChange={(e) => change(i, { to: e.target.value })} />
                  {mayChange && <Button small kind="quiet" aria-label={`Remove ${dayName} ${w.from} to ${w.to}`} onClick={() => setWeekly(weekly.filter((_, j) => j !== i))}>Remove</Button>}
                </div>
              ))}
              {!weekly.some((w) => w.day === d + 1) && <span className="pt-1 text-small text-ink-3">closed</span>}
            </div>
            {mayChange && <Button small kind="quiet" aria-label={`Add an interval on ${dayName}`} onClick={() => setWeekly([...weekly, { day: d + 1, from: '09:00', to: '17:00' }])}>Add</Button>}
          </fieldset>
        ))}
        {fault && <p role="alert" className="text-small text-clay">{fault}</p>}
        {mayChange && <Button kind="primary" type="submit">Apply</Button>}
      </form>
    </Dialog>
  );
}
