'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { ShiftImport, ShiftsView } from '@/services/people/shifts';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { FilePick } from '../../kit/filepick';
import { Select } from '../../kit/select';

/** CSV or iCalendar: read and shown first, then kept in one press. */
export function BringIn({ view, onClose, onDone }: { view: ShiftsView; onClose: () => void; onDone: () => void }) {
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
  const read = async (file: File) => {
    const t = await file.text();
    setName(file.name);
    setText(t);
    await run(t, ownerId, 'no');
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
        <FilePick label="Shift file" accept=".csv,.ics,text/csv,text/calendar" onFile={(file) => void read(file)}>
          Choose a file…
        </FilePick>
        <span className="text-small text-ink-2">{name === '' ? 'no file yet' : name}</span>
        <label className="ml-auto flex items-center gap-1.5 text-small">
          A calendar without addresses is for{' '}
          <Select
            value={ownerId}
            onChange={(chosen) => {
              setOwner(chosen);
              if (text !== '') void run(text, chosen, 'no');
            }}
            compact
          >
            <option value="">nobody chosen</option>
            {view.lines
              .filter((l) => l.mayChange)
              .map((l) => (
                <option key={l.ownerId} value={l.ownerId}>
                  {l.name}
                </option>
              ))}
          </Select>
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
