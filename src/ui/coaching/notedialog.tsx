'use client';

import { type FormEvent, useState } from 'react';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { doing } from '../kit/doing';
import { Area, Check, Field } from '../kit/field';
import { Select } from '../kit/select';

type One = { readonly id: string; readonly name: string };

/** Writes a note about one of some people, or (where there is a contact) about nobody in particular. */
export function NoteDialog({
  people,
  contactId,
  onClose,
  onChanged,
}: {
  people: readonly One[];
  contactId: string | null;
  onClose: () => void;
  onChanged: () => void;
}) {
  const [personId, setPersonId] = useState(people[0]?.id ?? '');
  const [words, setWords] = useState('');
  const [shared, setShared] = useState(false);
  const [toTalk, setToTalk] = useState(false);
  const whom = people.find((p) => p.id === personId);
  const write = (event: FormEvent) => {
    event.preventDefault();
    void doing(
      'write-note',
      {
        personId: whom?.id ?? null,
        contactId,
        words: words.trim(),
        shared: whom !== undefined && shared,
        toTalk: whom !== undefined && toTalk,
      },
      'The note is kept.',
    ).then((done) => {
      // What was written stays there while it is not kept.
      if (!done) return;
      onClose();
      onChanged();
    });
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title="Write a note"
      description={
        whom
          ? `Whoever coaches ${whom.name} reads it${shared ? `, and so does ${whom.name}` : ''}.`
          : 'Whoever coaches and may read this contact reads it.'
      }
    >
      <form onSubmit={write} className="flex flex-col gap-3">
        {(contactId !== null || people.length > 1) && (
          <Field label="About">
            {(p) => (
              <Select {...p} value={personId} onChange={setPersonId}>
                {contactId !== null && <option value="">the contact, nobody in particular</option>}
                {people.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        )}
        <Field label="Note">
          {(p) => (
            <Area {...p} rows={4} required maxLength={2000} value={words} onChange={(e) => setWords(e.target.value)} />
          )}
        </Field>
        {whom && (
          <div className="flex flex-wrap gap-x-5 gap-y-1">
            <Check
              label={`To be talked about with ${whom.name}`}
              checked={toTalk}
              onChange={(e) => setToTalk(e.target.checked)}
            />
            <Check label={`${whom.name} reads it too`} checked={shared} onChange={(e) => setShared(e.target.checked)} />
          </div>
        )}
        <div className="flex gap-2">
          <Button kind="primary" type="submit" disabled={words.trim() === ''}>
            Keep the note
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
