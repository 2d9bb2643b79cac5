'use client';

import { useState } from 'react';
import type { DutyView } from '@/services/people/dutyview';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { Check, Input } from '../kit/field';
import { useSaving } from '../kit/saving';

/** Why somebody may be away: the lead's own list, paid or not, with how long each usually takes. */
export function AwayReasons({ view, onClose, onSaved }: { view: DutyView; onClose: () => void; onSaved: () => void }) {
  const [reasons, setReasons] = useState<
    readonly { id: string | null; name: string; paid: boolean; minutes: number | null }[]
  >(view.reasons);
  const { busy, save } = useSaving('save-away-reasons');
  const off = !view.mayChange;
  const put = (i: number, change: Partial<(typeof reasons)[number]>) =>
    setReasons(reasons.map((r, j) => (j === i ? { ...r, ...change } : r)));
  return (
    <Dialog
      open
      onClose={onClose}
      title="Away reasons"
      description="What people choose from when they step away from the Desk."
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void save({ reasons: reasons.map((r) => ({ ...r, name: r.name.trim() })) }, 'Away reasons saved.').then(
            (ok) => {
              if (ok) onSaved();
            },
          );
        }}
      >
        <ul className="flex flex-col gap-1.5">
          {reasons.map((r, i) => (
            <li key={i} className="flex items-center gap-2">
              <Input
                aria-label="Reason"
                required
                maxLength={40}
                disabled={off}
                value={r.name}
                onChange={(e) => put(i, { name: e.target.value })}
              />
              <Input
                aria-label={`${r.name}: usual minutes`}
                type="number"
                min={1}
                max={480}
                placeholder="min"
                disabled={off}
                className="!w-20"
                value={r.minutes ?? ''}
                onChange={(e) =>
                  put(i, { minutes: Number.isNaN(e.target.valueAsNumber) ? null : e.target.valueAsNumber })
                }
              />
              <span className="text-small text-ink-2">min</span>
              <Check
                label="paid"
                disabled={off}
                checked={r.paid}
                onChange={(e) => put(i, { paid: e.target.checked })}
              />
              {!off && (
                <Button
                  small
                  kind="quiet"
                  aria-label={`Remove ${r.name}`}
                  disabled={reasons.length === 1}
                  onClick={() => setReasons(reasons.filter((_, j) => j !== i))}
                >
                  ×
                </Button>
              )}
            </li>
          ))}
        </ul>
        {!off && (
          <div className="mt-3 flex gap-2">
            <Button kind="primary" type="submit" disabled={busy}>
              Save
            </Button>
            <Button onClick={() => setReasons([...reasons, { id: null, name: '', paid: true, minutes: 15 }])}>
              Add a reason
            </Button>
          </div>
        )}
      </form>
    </Dialog>
  );
}
