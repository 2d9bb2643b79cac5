'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { languageName } from '@/core/localised';
import type { LanguageRead } from '@/services/words/languagefile';
import type { TakenIn } from '@/services/words/takein';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { Pill } from '../../kit/panel';
import { Table } from '../../kit/table';

/** How many are listed; the rest are counted. */
const LISTED = 200;

/** What a file of words would change, before any of it is taken in. */
export function LanguageFile({
  language,
  from,
  text,
  read,
  onClose,
  onTaken,
}: {
  language: string;
  /** The language it was written from. */
  from: string;
  text: string;
  read: LanguageRead;
  onClose: () => void;
  onTaken: () => void;
}) {
  const [busy, setBusy] = useState(false);
  const { changes, faults } = read;
  const outdated = changes.filter((c) => c.outdated).length;
  const bots = changes.some((c) => c.kind === 'bot' || c.kind === 'shared-scene');
  const take = async () => {
    setBusy(true);
    try {
      const { sentences, skipped, reason } = await setting<TakenIn>('take-in-language', { language, text });
      if (skipped > 0) toast.error(`${skipped} ${skipped === 1 ? 'thing was' : 'things were'} left: ${reason ?? ''}`);
      else
        toast.success(`${sentences} ${sentences === 1 ? 'sentence is' : 'sentences are'} taken in.`, {
          description: bots ? 'Bots say them once they are published.' : 'History takes it back.',
        });
      onTaken();
    } catch (error) {
      toast.error(sentence(error));
      setBusy(false);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      wide
      title={`Words in ${languageName(language)}`}
      description={
        faults.length > 0
          ? 'The file has faults, so nothing is taken from it.'
          : changes.length === 0
            ? 'The file says what is there already.'
            : `${changes.length} ${changes.length === 1 ? 'sentence' : 'sentences'} would change` +
              (outdated > 0
                ? `; of ${outdated} the ${languageName(from)} they were written from is otherwise by now.`
                : '.')
      }
    >
      {faults.length > 0 ? (
        <ul className="max-h-80 overflow-y-auto text-small text-clay" role="alert">
          {faults.slice(0, 50).map((f) => (
            <li key={`${f.row} ${f.what}`}>
              Row {f.row}: {f.what}
            </li>
          ))}
          {faults.length > 50 && <li>and {faults.length - 50} more</li>}
        </ul>
      ) : (
        <>
          {changes.length > 0 && (
            <div className="max-h-[50vh] overflow-y-auto">
              <Table
                compact
                label="What the file changes"
                rows={changes.slice(0, LISTED)}
                idOf={(c) => c.id}
                rowClass={() => 'align-top'}
                columns={[
                  {
                    id: 'where',
                    head: 'Where',
                    cell: (c) => (
                      <>
                        {c.place} <span className="text-ink-2">{c.part}</span>{' '}
                        {c.outdated && <Pill tone="warn">outdated</Pill>}
                      </>
                    ),
                    className: 'w-56',
                  },
                  { id: 'now', head: 'Now', cell: (c) => c.from || '–', className: 'text-ink-2 whitespace-pre-line' },
                  { id: 'then', head: 'Then', cell: (c) => c.to || '–', className: 'whitespace-pre-line' },
                ]}
              />
              {changes.length > LISTED && (
                <p className="p-2 text-small text-ink-2">and {changes.length - LISTED} more</p>
              )}
            </div>
          )}
          {bots && (
            <p className="mt-2 text-small text-ink-2">
              Words of bots and shared scenes go into what is being written; customers meet them once the bots are
              published.
            </p>
          )}
          <div className="mt-3 flex gap-2">
            <Button kind="primary" disabled={busy || changes.length === 0} onClick={() => void take()}>
              {busy ? 'Taking in…' : 'Take them in'}
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </div>
        </>
      )}
    </Dialog>
  );
}
