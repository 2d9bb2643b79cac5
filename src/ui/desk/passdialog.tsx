'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { PassTargets } from '@/services/contacts/passing';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { Area, Field, Input } from '../kit/field';
import { useLive } from '../kit/live';

/** Where a contact goes: a queue, somebody there first, or a group of it as well. */
export type PassedTo = {
  readonly queueId: string;
  readonly personId?: string;
  readonly groupId?: string;
  readonly name: string;
};
type Line = PassedTo & { readonly says: string; readonly heading: 'People' | 'Queues' | 'Groups' };

function linesOf(targets: PassTargets, ownQueueId: string): Line[] {
  const free = (n: number) => (n === 0 ? 'nobody free now' : n === 1 ? '1 person free' : `${n} people free`);
  return [
    ...targets.people.map((p): Line => ({
      heading: 'People',
      queueId: p.queueId,
      personId: p.id,
      name: p.name,
      says: p.now ? `free for ${p.queue} · ${p.room}` : `has no room now: waited for a while in ${p.queue}`,
    })),
    ...targets.queues.map((q): Line => ({
      heading: 'Queues',
      queueId: q.id,
      name: q.name,
      says: `${free(q.free)} · ${q.waiting} waiting`,
    })),
    ...targets.groups.map((g): Line => ({
      heading: 'Groups',
      queueId: ownQueueId,
      groupId: g.id,
      name: g.name,
      says: free(g.free),
    })),
  ];
}

/** Chosen first, done afterwards: to whom a contact is passed on, with a note that they read first. */
export function PassDialog({
  legId,
  queueId,
  customer,
  onPass,
  onClose,
}: {
  legId: string;
  /** The queue through which it came. */ queueId: string;
  customer: string;
  onPass: (to: PassedTo, note: string) => void;
  onClose: () => void;
}) {
  const { data, error } = useLive<PassTargets>(
    `/api/read/pass-targets?leg=${encodeURIComponent(legId)}`,
    ['person.duty', 'leg.began', 'leg.ended', 'offer.made', 'offer.ended'],
    undefined,
    5000,
  );
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState<Line | null>(null);
  const [note, setNote] = useState('');
  const all = data ? linesOf(data, queueId) : [];
  const found = all.filter((line) => line.name.toLowerCase().includes(typed.trim().toLowerCase()));
  const same = (a: Line, b: Line | null) =>
    b !== null && a.queueId === b.queueId && a.personId === b.personId && a.groupId === b.groupId;
  // Whoever cannot take it any more is not chosen any more either.
  const still = all.find((line) => same(line, chosen)) ?? null;
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Pass ${customer} on`}
      description="Nothing happens before you press Pass on."
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (still) onPass(still, note.trim());
        }}
      >
        <Input
          aria-label="Name of a person, queue or group"
          placeholder="Name of a person, queue or group"
          autoFocus
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
        <div
          role="radiogroup"
          aria-label="Pass it on to"
          className="max-h-64 overflow-y-auto rounded-control border border-rule"
        >
          {error && !data && <p className="p-3 text-clay">{error.message}</p>}
          {!data && !error && <p className="p-3 text-ink-2">Seeing who could take it…</p>}
          {data && found.length === 0 && <p className="p-3 text-ink-2">Nobody of that name can take it.</p>}
          {(['People', 'Queues', 'Groups'] as const).map((heading) => {
            const lines = found.filter((line) => line.heading === heading);
            return lines.length === 0 ? null : (
              <div key={heading}>
                <p className="bg-sunk px-3 py-0.5 text-tiny text-ink-2">{heading}</p>
                {lines.map((line) => (
                  <label
                    key={`${line.queueId} ${line.personId ?? ''} ${line.groupId ?? ''}`}
                    className={clsx(
                      'flex cursor-pointer items-baseline gap-2 border-b border-rule px-3 py-1 text-small',
                      same(line, chosen) ? 'bg-chosen' : 'hover:bg-sunk',
                    )}
                  >
                    <input
                      type="radio"
                      name="to"
                      className="accent-plum"
                      checked={same(line, chosen)}
                      onChange={() => setChosen(line)}
                    />
                    <span className="font-medium">{line.name}</span>
                    <span className="min-w-0 flex-1 text-right text-ink-2">{line.says}</span>
                  </label>
                ))}
              </div>
            );
          })}
        </div>
        <Field label="Note for whoever takes it" hint="They read it first; the customer never sees it">
          {(p) => <Area {...p} rows={2} maxLength={1000} value={note} onChange={(e) => setNote(e.target.value)} />}
        </Field>
        <div className="flex gap-2">
          <Button kind="primary" type="submit" disabled={!still}>
            {still ? `Pass on to ${still.name}` : 'Pass on'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
