'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { type Limits, NO_LIMITS } from '@/core/routing/limits';
import type { GroupsView } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { LIMIT_NAMES, LimitsFields } from '../kit/limitsfields';
import { Panel } from '../kit/panel';
import { options, Select } from '../kit/select';

/** Limits that a single person has of their own, whatever asks them. */
export function OwnLimits({ view, onDone }: { view: GroupsView; onDone: () => void }) {
  const [personId, setPersonId] = useState('');
  const [limits, setLimits] = useState<Limits>(NO_LIMITS);
  const choose = (id: string) => {
    setPersonId(id);
    setLimits(view.own.find((o) => o.personId === id)?.limits ?? NO_LIMITS);
  };
  const keep = (value: Limits | null) =>
    setting('save-own-limits', { personId, limits: value }).then(
      () => {
        toast.success('Kept; it counts from the next decision on.');
        setPersonId('');
        onDone();
      },
      (e: unknown) => toast.error(sentence(e)),
    );
  return (
    <Panel className="p-3" label="People’s own limits">
      <h2 className="text-panel">People’s own limits</h2>
      <p className="mb-2 text-small text-ink-2">Beside load; a group may stand in place of them.</p>
      <ul className="mb-2 flex flex-col gap-0.5 text-small">
        {view.own.map((o) => (
          <li key={o.personId}>
            <button type="button" className="underline" onClick={() => choose(o.personId)}>
              {o.name}
            </button>{' '}
            <span className="text-ink-2">
              {(Object.keys(LIMIT_NAMES) as (keyof Limits)[])
                .filter((k) => o.limits[k] !== null)
                .map((k) => `${o.limits[k]} ${LIMIT_NAMES[k]}`)
                .join(', ')}
            </span>
          </li>
        ))}
      </ul>
      {view.mayChange && (
        <>
          <Select aria-label="Whose limits" value={personId} onChange={(chosen) => choose(chosen)}>
            <option value="">Choose a person…</option>
            {options(view.people)}
          </Select>
          {personId && (
            <div className="mt-2 flex flex-col gap-2">
              <LimitsFields label="At most" limits={limits} disabled={false} onChange={setLimits} />
              <div className="flex gap-2">
                <Button small kind="primary" onClick={() => void keep(limits)}>
                  Keep
                </Button>
                <Button small onClick={() => void keep(null)}>
                  No limits
                </Button>
              </div>
            </div>
          )}
        </>
      )}
    </Panel>
  );
}
