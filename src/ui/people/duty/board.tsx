'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { toast } from 'sonner';
import type { DutyView, ProfileLine } from '@/services/people/dutyview';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { Check, Field, Input } from '../../kit/field';
import { Panel, Pill } from '../../kit/panel';
import { Situation } from '../situation';
import { AtOnce } from './atonce';
import { Bands } from './bands';
import { Joining } from './joining';
import { LaterButton } from '../../drafts/laterbutton';
import type { GatheredThings } from '../../drafts/usegathered';
import { DUTY_SHAPE, type DutyDraft as Draft } from './dutydraft';
import { PutOn } from './puton';

export const draftOf = (p: ProfileLine): Draft => ({
  id: p.id,
  revision: p.revision,
  name: p.name,
  rows: p.rows,
  load: p.load,
  acceptSeconds: p.acceptSeconds,
  autoAccept: p.autoAccept,
  restSeconds: p.restSeconds,
});

export function Board({
  gathered,
  view,
  kept,
  draft,
  onPeople,
}: {
  gathered: GatheredThings<Draft>;
  view: DutyView;
  kept: ProfileLine | undefined;
  draft: Draft;
  /** Others are on the profile now. */
  onPeople: () => void;
}) {
  const { busy, faults, changed, notes } = gathered;
  const [removing, setRemoving] = useState(false);
  const [putting, setPutting] = useState(false);
  const set = (change: Partial<Draft>) => gathered.set({ ...draft, ...change });
  const off = !view.mayChange;
  const apply = () =>
    void gathered.apply<{ id: string; people: number }>(
      ({ people }) =>
        `${draft.name} applied to ${people} ${people === 1 ? 'person' : 'people'}; it counts from the next contact on.`,
    );
  const remove = () =>
    setting('remove-profile', { id: draft.id }).then(
      () => {
        toast.success(`${draft.name} removed. History can bring it back.`);
        setRemoving(false);
        void gathered.settled(draft.id, view.profiles.find((p) => p.id !== draft.id)?.id ?? null);
      },
      (error: unknown) => {
        toast.error(sentence(error));
        setRemoving(false);
      },
    );
  return (
    <Panel className="flex min-h-0 flex-col" label={draft.name || 'New duty profile'}>
      {notes}
      <div className="flex flex-wrap items-center gap-2 border-b border-rule px-4 py-2.5">
        <input
          aria-label="Name of the profile"
          aria-invalid={faults.name !== undefined}
          disabled={off}
          placeholder="Name of the profile"
          value={draft.name}
          onChange={(e) => set({ name: e.target.value })}
          className={clsx(
            'w-56 rounded-control border border-rule-strong bg-sheet px-2 py-1 font-display text-panel',
            'font-semibold disabled:border-transparent',
          )}
        />
        {kept && (
          <Pill>
            {kept.people} on it · {kept.onDuty} on duty
          </Pill>
        )}
        <span className="ml-auto flex items-center gap-2">
          {!off && kept && <Button onClick={() => setPutting(true)}>Put people on it…</Button>}
          {!off && kept && (
            <Button
              kind="quiet"
              onClick={() => gathered.set({ ...draft, id: null, revision: 0, name: `${draft.name} copy` })}
            >
              Copy
            </Button>
          )}
          {!off && kept && (
            <Button kind="quiet" onClick={() => setRemoving(true)}>
              Remove
            </Button>
          )}
          {changed && <Button onClick={gathered.undo}>{kept ? 'Undo changes' : 'Forget it'}</Button>}
          <LaterButton kind="duty-profile" gathered={gathered} shape={DUTY_SHAPE} />
          {!off && (
            <Button kind="primary" disabled={busy || !changed || draft.name.trim() === ''} onClick={apply}>
              {kept ? `Apply to ${kept.people} people` : 'Add the profile'}
            </Button>
          )}
        </span>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_330px] overflow-y-auto">
        <div className="px-4 py-3">
          <Bands view={view} rows={draft.rows} off={off} onRows={(rows) => set({ rows })} />
          <Joining view={view} rows={draft.rows} off={off} onRows={(rows) => set({ rows })} />
          <Situation view={view} draft={draft} />
        </div>
        <div className="border-l border-rule px-4 py-3">
          <AtOnce load={draft.load} off={off} onLoad={(load) => set({ load })} />
          <div className="mt-4 grid grid-cols-2 gap-2">
            <Field label="Seconds to accept" fault={faults.acceptSeconds}>
              {(p) => (
                <Input
                  {...p}
                  type="number"
                  min={5}
                  max={120}
                  disabled={off || draft.autoAccept}
                  value={Number.isNaN(draft.acceptSeconds) ? '' : draft.acceptSeconds}
                  onChange={(e) => set({ acceptSeconds: e.target.valueAsNumber })}
                />
              )}
            </Field>
            <Field label="Texts rest after (min)" hint="empty: never" fault={faults.restSeconds}>
              {(p) => (
                <Input
                  {...p}
                  type="number"
                  min={1}
                  max={1440}
                  disabled={off}
                  value={draft.restSeconds === null ? '' : draft.restSeconds / 60}
                  onChange={(e) =>
                    set({
                      restSeconds: Number.isNaN(e.target.valueAsNumber)
                        ? null
                        : Math.round(e.target.valueAsNumber * 60),
                    })
                  }
                />
              )}
            </Field>
          </div>
          <div className="mt-2">
            <Check
              label="Takes offers without asking"
              disabled={off}
              checked={draft.autoAccept}
              onChange={(e) => set({ autoAccept: e.target.checked })}
            />
          </div>
        </div>
      </div>
      {putting && kept && (
        <PutOn
          view={view}
          profile={kept}
          onClose={() => setPutting(false)}
          onDone={() => {
            setPutting(false);
            onPeople();
          }}
        />
      )}
      {removing && (
        <Dialog
          open
          onClose={() => setRemoving(false)}
          title={`Remove ${draft.name}`}
          description="A profile with people on it stays until they have another."
        >
          <div className="flex gap-2">
            <Button kind="danger" onClick={() => void remove()}>
              Remove
            </Button>
            <Button onClick={() => setRemoving(false)}>Cancel</Button>
          </div>
        </Dialog>
      )}
    </Panel>
  );
}
