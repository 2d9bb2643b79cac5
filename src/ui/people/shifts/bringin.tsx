'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { ShiftImport, ShiftsView } from '@/services/people/shifts';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { FilePick } from '../../kit/filepick';
import { fileText } from '../../kit/fileread';
import { Select } from '../../kit/select';

/** CSV or iCalendar: read and shown first, then kept in one press. */
export function BringIn({ view, onClose, onDone }: { view: ShiftsView; onClose: () => void; onDone: () => void }) {
  const [text, setText] = useState('');
  const [name, setName] = useState('');
  const [ownerId, setOwner] = useState('');
  const [preview, setPreview] = useState<ShiftImport | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const ask = (words: string, owner: string, seen: ShiftImport['lines'] | null) =>
    setting<ShiftImport>('import-shifts', {
      text: words,
      ownerId: owner === '' ? null : owner,
      seen: seen && seen.map((l) => ({ ownerId: l.ownerId, over: l.over })),
    });
  const show = async (words: string, owner: string) => {
    setFault(null);
    try {
      setPreview(await ask(words, owner, null));
    } catch (error) {
      setPreview(null);
      setFault(sentence(error));
    }
  };
  const keep = async () => {
    setFault(null);
    try {
      const { lines, met } = await ask(text, ownerId, preview?.lines ?? []);
      if (lines.length > 0) toast.success(`Shifts of ${lines.length} kept. History can take them back.`);
      if (met.length === 0) return onDone();
      // What was kept would be kept again; what others have changed is looked at before it is replaced.
      const now = await ask(text, ownerId, null);
      setPreview({ ...now, lines: now.lines.filter((l) => met.includes(l.name)), met });
    } catch (error) {
      setFault(sentence(error));
    }
  };
  const read = async (file: File) => {
    const t = await fileText(file);
    setName(file.name);
    setText(t);
    await show(t, ownerId);
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
              if (text !== '') void show(text, chosen);
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
      {preview && preview.met.length > 0 && (
        <p role="status" className="mt-3 rounded-control bg-brass-wash px-3 py-1.5 text-small text-brass-ink">
          These were left: somebody else changed their shifts after you saw them. Keeping them replaces that.
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
        <Button kind="primary" disabled={!preview || preview.lines.length === 0} onClick={() => void keep()}>
          Keep {preview?.lines.length ?? 0} {preview?.lines.length === 1 ? 'shift' : 'shifts'}
        </Button>
        <Button onClick={preview?.met.length ? onDone : onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
