'use client';

import { NO_LIMITS } from '@/core/routing/limits';
import type { GroupsView, PartnerLine } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { doing } from '../kit/doing';
import { EditForm } from '../kit/editform';
import { Field, Input } from '../kit/field';
import { LimitsFields } from '../kit/limitsfields';
import { Panel, Pill } from '../kit/panel';
import { LaterButton } from '../drafts/laterbutton';
import { type GatheredThings, nameIn, wholeShape } from '../drafts/usegathered';
import { options, Select } from '../kit/select';
import { UseTable } from './usetable';

type NumberDraft = Omit<PartnerLine['numbers'][number], 'id' | 'use'> & { readonly id: string | null };

export type Draft = Omit<PartnerLine, 'id' | 'numbers' | 'usedBy' | 'use'> & {
  readonly id: string | null;
  readonly numbers: readonly NumberDraft[];
};

export const draftOf = ({
  id,
  revision,
  name,
  zone,
  hoursId,
  limits,
  way,
  ringSeconds,
  countsFromSeconds,
  numbers,
}: PartnerLine): Draft => ({
  id,
  revision,
  name,
  zone,
  hoursId,
  limits,
  way,
  ringSeconds,
  countsFromSeconds,
  numbers: numbers.map(({ use: _use, ...n }) => n),
});

export const PARTNER_SHAPE = wholeShape<Draft>();

export const NEW_NUMBER: NumberDraft = {
  id: null,
  name: '',
  address: '',
  hoursId: null,
  limits: { ...NO_LIMITS, atOnce: 1 },
  perQueue: {},
};

function DeskHours({
  label,
  hoursId,
  view,
  fault,
  onChange,
}: {
  label: string;
  hoursId: string | null;
  view: GroupsView;
  fault?: string | undefined;
  onChange: (hoursId: string | null) => void;
}) {
  return (
    <Field label={label} fault={fault}>
      {(p) => (
        <Select
          {...p}
          disabled={!view.mayChange}
          value={hoursId ?? ''}
          onChange={(chosen) => onChange(chosen === '' ? null : chosen)}
        >
          <option value="">always</option>
          {options(view.hours)}
        </Select>
      )}
    </Field>
  );
}

export function PartnerForm({
  gathered,
  draft,
  kept,
  view,
}: {
  gathered: GatheredThings<Draft>;
  draft: Draft;
  kept: PartnerLine | undefined;
  view: GroupsView;
}) {
  const nameOf = nameIn(view.queues, view.hours);
  const { busy, faults, changed, notes } = gathered;
  const set = (change: Partial<Draft>) => gathered.set({ ...draft, ...change });
  const setNumber = (i: number, change: Partial<NumberDraft>) =>
    set({ numbers: draft.numbers.map((n, j) => (j === i ? { ...n, ...change } : n)) });
  const off = !view.mayChange;
  const remove = async () => {
    if (
      await doing(
        'remove-asked',
        { kind: 'partner', id: draft.id },
        `${draft.name} removed; it can be undone in History.`,
      )
    )
      await gathered.settled(draft.id, null);
  };
  const whole = (value: number, least: number) => (Number.isNaN(value) ? least : Math.round(value));
  return (
    <EditForm
      kind="partner desk"
      name={draft.name}
      marks={
        kept && <Pill>{kept.usedBy.length === 0 ? 'no queue rings it' : `rung by ${kept.usedBy.join(', ')}`}</Pill>
      }
      keptName={kept?.name ?? null}
      changed={changed}
      busy={busy}
      mayChange={view.mayChange}
      notes={notes}
      onUndo={gathered.undo}
      onRemove={() => void remove()}
      onApply={() => void gathered.apply(`${draft.name} applied; it counts from the next call on.`)}
      later={<LaterButton kind="partner" gathered={gathered} shape={PARTNER_SHAPE} />}
    >
      <Panel className="flex flex-col gap-3 p-4" label="The desk as a whole">
        <div className="grid gap-3 sm:grid-cols-3">
          <Field label="Name" fault={faults.name}>
            {(p) => (
              <Input
                {...p}
                disabled={off}
                value={draft.name}
                maxLength={60}
                onChange={(e) => set({ name: e.target.value })}
              />
            )}
          </Field>
          <Field label="Numbers are dialled">
            {(p) => (
              <Select
                {...p}
                disabled={off}
                value={draft.way}
                onChange={(chosen) => set({ way: chosen === 'all-at-once' ? 'all-at-once' : 'one-by-one' })}
              >
                <option value="one-by-one">one by one</option>
                <option value="all-at-once">all at once</option>
              </Select>
            )}
          </Field>
          <Field label="Each rings, s">
            {(p) => (
              <Input
                {...p}
                type="number"
                min={5}
                max={120}
                disabled={off}
                value={draft.ringSeconds}
                onChange={(e) => set({ ringSeconds: whole(e.target.valueAsNumber, 5) })}
              />
            )}
          </Field>
          <Field label="Counts from, s" hint="Shorter calls use up no cap">
            {(p) => (
              <Input
                {...p}
                type="number"
                min={0}
                max={3600}
                disabled={off}
                value={draft.countsFromSeconds}
                onChange={(e) => set({ countsFromSeconds: whole(e.target.valueAsNumber, 0) })}
              />
            )}
          </Field>
          <Field label="Zone of its days" fault={faults.zone}>
            {(p) => <Input {...p} disabled={off} value={draft.zone} onChange={(e) => set({ zone: e.target.value })} />}
          </Field>
          <DeskHours
            label="Hours of the desk"
            hoursId={draft.hoursId}
            view={view}
            fault={faults.hoursId}
            onChange={(hoursId) => set({ hoursId })}
          />
        </div>
        <LimitsFields
          label="Contacts at most, by all its numbers"
          limits={draft.limits}
          disabled={off}
          onChange={(limits) => set({ limits })}
        />
        {kept && <UseTable use={kept.use} limits={kept.limits} />}
      </Panel>
      {draft.numbers.map((n, i) => {
        const live = kept?.numbers.find((x) => x.id === n.id);
        return (
          <Panel key={n.id ?? `new${i}`} className="flex flex-col gap-3 p-4" label={n.name || `Number ${i + 1}`}>
            <div className="flex items-end gap-3">
              <div className="w-56">
                <Field label="Number’s name">
                  {(p) => (
                    <Input
                      {...p}
                      disabled={off}
                      value={n.name}
                      maxLength={60}
                      onChange={(e) => setNumber(i, { name: e.target.value })}
                    />
                  )}
                </Field>
              </div>
              <div className="w-52">
                <Field label="Number" fault={faults.numbers}>
                  {(p) => (
                    <Input
                      {...p}
                      disabled={off}
                      placeholder="+ country code …"
                      value={n.address}
                      onChange={(e) => setNumber(i, { address: e.target.value })}
                    />
                  )}
                </Field>
              </div>
              <div className="w-48">
                <DeskHours
                  label="Hours of this number"
                  hoursId={n.hoursId}
                  view={view}
                  onChange={(hoursId) => setNumber(i, { hoursId })}
                />
              </div>
              {!off && draft.numbers.length > 1 && (
                <Button
                  small
                  kind="quiet"
                  className="mb-1 ml-auto"
                  aria-label={`Remove ${n.name}`}
                  onClick={() => set({ numbers: draft.numbers.filter((_, j) => j !== i) })}
                >
                  Remove
                </Button>
              )}
            </div>
            <LimitsFields
              label="Calls at most"
              limits={n.limits}
              disabled={off}
              onChange={(limits) => setNumber(i, { limits })}
            />
            {live && <UseTable use={live.use} limits={live.limits} />}
            <div>
              <p className="text-small font-medium text-ink-2">Rank and weight, per queue that rings it</p>
              <ul className="mt-1 flex flex-col gap-1 text-small">
                {Object.entries(n.perQueue).map(([queueId, place]) => (
                  <li key={queueId} className="flex items-center gap-2">
                    <span className="w-40">{nameOf(queueId)}</span>rank{' '}
                    <Input
                      aria-label={`Rank for ${nameOf(queueId)}`}
                      type="number"
                      min={1}
                      max={100}
                      className="!w-16 !py-0.5"
                      disabled={off}
                      value={place.rank}
                      onChange={(e) =>
                        setNumber(i, {
                          perQueue: { ...n.perQueue, [queueId]: { ...place, rank: whole(e.target.valueAsNumber, 1) } },
                        })
                      }
                    />{' '}
                    weight{' '}
                    <Input
                      aria-label={`Weight for ${nameOf(queueId)}`}
                      type="number"
                      min={1}
                      max={100}
                      className="!w-16 !py-0.5"
                      disabled={off}
                      value={place.weight}
                      onChange={(e) =>
                        setNumber(i, {
                          perQueue: {
                            ...n.perQueue,
                            [queueId]: { ...place, weight: whole(e.target.valueAsNumber, 1) },
                          },
                        })
                      }
                    />
                    {!off && (
                      <Button
                        small
                        kind="quiet"
                        aria-label={`Forget ${nameOf(queueId)}`}
                        onClick={() => {
                          const { [queueId]: _gone, ...rest } = n.perQueue;
                          setNumber(i, { perQueue: rest });
                        }}
                      >
                        Remove
                      </Button>
                    )}
                  </li>
                ))}
              </ul>
              {!off && (
                <Select
                  aria-label={`Rank for another queue, ${n.name}`}
                  className="mt-1 !w-80"
                  value=""
                  onChange={(chosen) => {
                    if (chosen) setNumber(i, { perQueue: { ...n.perQueue, [chosen]: { rank: 1, weight: 1 } } });
                  }}
                >
                  <option value="">Rank 1, weight 1; set for a queue…</option>
                  {options(view.queues.filter((q) => !(q.id in n.perQueue)))}
                </Select>
              )}
            </div>
          </Panel>
        );
      })}
      {!off && (
        <Button className="self-start" onClick={() => set({ numbers: [...draft.numbers, NEW_NUMBER] })}>
          Add a number
        </Button>
      )}
    </EditForm>
  );
}
