'use client';

import { useState } from 'react';
import type { QueueSettings } from '@/core/routing/queue';
import type { QueuesView } from '@/services/queues/queuesview';
import { Button } from '../../kit/button';
import { Dialog } from '../../kit/dialog';
import { Check, Field } from '../../kit/field';
import { options, Select } from '../../kit/select';
import { draftOf } from '../draft';

type Settings = Omit<QueueSettings, 'id'>;
const PARTS: readonly { readonly name: string; readonly keys: readonly (keyof Settings)[] }[] = [
  { name: 'wait clocks', keys: ['clocks'] },
  { name: 'channels and goals', keys: ['channels', 'goals'] },
  { name: 'needed skills', keys: ['needs'] },
  { name: 'hours', keys: ['hoursId'] },
  { name: 'picking order and offering', keys: ['order', 'familiar', 'offering', 'missedSetsAway'] },
  { name: 'entry rules', keys: ['entryRules'] },
  { name: 'opening words', keys: ['connect'] },
  { name: 'wrap-up and outcomes', keys: ['wrapUp', 'outcomes'] },
  { name: 'fields at the Desk', keys: ['fields'] },
  { name: 'callbacks', keys: ['callback'] },
];

/** Takes over some settings of another queue into what is being changed; nothing is applied yet. */
export function CopyFrom({
  view,
  own,
  onClose,
  onCopy,
}: {
  view: QueuesView;
  own: string | null;
  onClose: () => void;
  onCopy: (part: Partial<Settings>) => void;
}) {
  const others = view.queues.filter((q) => q.id !== own);
  const [from, setFrom] = useState(others[0]?.id ?? '');
  const [parts, setParts] = useState<ReadonlySet<string>>(new Set(['wait clocks']));
  const copy = () => {
    const queue = others.find((q) => q.id === from);
    if (!queue) return;
    const { settings } = draftOf(queue);
    const keys = new Set(PARTS.filter((p) => parts.has(p.name)).flatMap((p) => p.keys));
    const picked = Object.fromEntries(
      Object.entries(settings).filter(([key]) => keys.has(key as keyof Settings)),
    ) as Partial<Settings>;
    // A rule or stage that would lead back to this queue has no meaning here.
    onCopy({
      ...picked,
      ...(picked.entryRules
        ? { entryRules: picked.entryRules.filter((r) => r.then.to !== 'queue' || r.then.queueId !== own) }
        : {}),
    });
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title="Copy from another queue"
      description="Choose what to take over. It joins your changes and is applied with them."
    >
      <div className="flex flex-col gap-3">
        <Field label="Queue">
          {(p) => (
            <Select {...p} value={from} onChange={(chosen) => setFrom(chosen)}>
              {options(others)}
            </Select>
          )}
        </Field>
        <fieldset>
          <legend className="mb-1 text-small font-medium text-ink-2">What to take over</legend>
          <div className="grid grid-cols-2 gap-1">
            {PARTS.map(({ name }) => (
              <Check
                key={name}
                label={name}
                checked={parts.has(name)}
                onChange={(e) => {
                  const next = new Set(parts);
                  if (e.target.checked) next.add(name);
                  else next.delete(name);
                  setParts(next);
                }}
              />
            ))}
          </div>
        </fieldset>
        <div className="flex gap-2">
          <Button kind="primary" disabled={parts.size === 0 || from === ''} onClick={copy}>
            Copy
          </Button>
          <Button kind="quiet" onClick={onClose}>
            Cancel
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
