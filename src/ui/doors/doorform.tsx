'use client';

import { CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import { languageName } from '@/core/localised';
import type { DoorsView } from '@/services/doors/doors';
import { Button } from '../kit/button';
import { Area, Check, Field, Input } from '../kit/field';
import { Panel } from '../kit/panel';
import { options, Select } from '../kit/select';
import { LaterButton } from '../drafts/laterbutton';
import type { GatheredThings } from '../drafts/usegathered';
import { DOOR_SHAPE, type Draft } from './doordraft';
import { RemoveButton } from '../removing/removebutton';
import { MeetsFields } from './meetsfields';
import { WhenClosedFields } from './whenclosedfields';

const LANGUAGES = ['en', 'es', 'fr', 'pl'];

export function DoorForm({
  gathered,
  draft,
  view,
}: {
  gathered: GatheredThings<Draft>;
  draft: Draft;
  view: DoorsView;
}) {
  const { kept, busy, faults, changed, notes } = gathered;
  const set = (change: Partial<Draft>) => gathered.set({ ...draft, ...change });
  const submit = () => void gathered.apply(`${draft.name} saved; it counts from the next contact on.`);
  const off = !view.mayChange;
  const versions = view.bots.find((b) => b.id === draft.botId)?.versions ?? [];
  return (
    <Panel className="self-start p-4" label={kept ? `Door ${kept.name}` : 'New door'}>
      {notes}
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          submit();
        }}
      >
        <h2 className="text-panel">{kept ? kept.name : 'New door'}</h2>
        <Field label="Name" fault={faults.name}>
          {(p) => <Input {...p} disabled={off} value={draft.name} onChange={(e) => set({ name: e.target.value })} />}
        </Field>
        <div className="grid grid-cols-2 gap-3">
          <Field label="Channel">
            {(p) => (
              <Select
                {...p}
                disabled={off}
                value={draft.channel}
                onChange={(chosen) => {
                  const channel = CHANNELS.find((c) => c === chosen);
                  // Whoever met customers by another channel may not by this one.
                  if (channel) set({ channel, meets: { by: 'bot' } });
                }}
              >
                {options(CHANNELS, (c) => CHANNEL_NAMES[c].name)}
              </Select>
            )}
          </Field>
          <Field label="Address" fault={faults.address}>
            {(p) => (
              <Input {...p} disabled={off} value={draft.address} onChange={(e) => set({ address: e.target.value })} />
            )}
          </Field>
        </div>
        <MeetsFields
          draft={draft}
          view={view}
          disabled={off}
          fault={faults.meets}
          onChange={(meets) => set({ meets, ...(meets.by === 'people' ? { trial: null } : {}) })}
        />
        {draft.meets.by !== 'people' && (
          <Field
            label={draft.meets.by === 'first-words' ? 'Bot for all other words' : 'Bot that answers'}
            hint="Always its live version"
          >
            {(p) => (
              <Select
                {...p}
                disabled={off}
                value={draft.botId}
                onChange={(chosen) => set({ botId: chosen, trial: null })}
              >
                {view.bots.map((b) => (
                  <option key={b.id} value={b.id}>
                    {b.name}
                    {b.liveVersion === null ? ' (never published)' : ` (version ${b.liveVersion})`}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        )}
        {draft.meets.by !== 'people' && (versions.length > 1 || draft.trial) && (
          <div className="grid grid-cols-2 gap-3">
            <Field label="Version on trial" hint="Some customers meet it, always the same ones" fault={faults.trial}>
              {(p) => (
                <Select
                  {...p}
                  disabled={off}
                  value={draft.trial?.version ?? ''}
                  onChange={(chosen) =>
                    set({
                      trial: chosen === '' ? null : { version: Number(chosen), percent: draft.trial?.percent ?? 10 },
                    })
                  }
                >
                  <option value="">none</option>
                  {versions.map((v) => (
                    <option key={v} value={v}>
                      version {v}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
            {draft.trial && (
              <Field label="Share of customers, %">
                {(p) => (
                  <Input
                    {...p}
                    type="number"
                    min={1}
                    max={99}
                    disabled={off}
                    value={draft.trial?.percent ?? 10}
                    onChange={(e) => {
                      if (draft.trial && !Number.isNaN(e.target.valueAsNumber))
                        set({
                          trial: {
                            ...draft.trial,
                            percent: Math.min(99, Math.max(1, Math.round(e.target.valueAsNumber))),
                          },
                        });
                    }}
                  />
                )}
              </Field>
            )}
          </div>
        )}
        <Field label="Opening hours">
          {(p) => (
            <Select {...p} disabled={off} value={draft.hoursId} onChange={(chosen) => set({ hoursId: chosen })}>
              {options(view.hours)}
            </Select>
          )}
        </Field>
        <fieldset disabled={off}>
          <legend className="mb-1 text-small font-medium text-ink-2">
            Languages, the first is spoken unless the customer asks
          </legend>
          <div className="flex flex-wrap gap-3">
            {LANGUAGES.map((l) => (
              <Check
                key={l}
                label={languageName(l)}
                checked={draft.languages.includes(l)}
                onChange={(e) =>
                  set({
                    languages: e.target.checked ? [...draft.languages, l] : draft.languages.filter((x) => x !== l),
                  })
                }
              />
            ))}
          </div>
        </fieldset>
        {draft.languages.map((l, i) => (
          <Field
            key={l}
            label={`Said when closed, ${languageName(l)}`}
            hint={i === 0 ? '{opens}: when it opens again; {reason}: why it was shut by hand' : undefined}
          >
            {(p) => (
              <Area
                {...p}
                rows={2}
                disabled={off}
                value={draft.closedWording[l] ?? ''}
                onChange={(e) => set({ closedWording: { ...draft.closedWording, [l]: e.target.value } })}
              />
            )}
          </Field>
        ))}
        <WhenClosedFields
          value={draft.whenClosed}
          ownId={draft.id}
          channel={draft.channel}
          view={view}
          disabled={off}
          fault={faults.whenClosed}
          onChange={(whenClosed) => set({ whenClosed })}
        />
        {view.mayChange && (
          <div className="flex flex-wrap items-center gap-2">
            <Button kind="primary" type="submit" disabled={!changed || busy}>
              {kept ? 'Apply' : 'Add the door'}
            </Button>
            <LaterButton kind="door" gathered={gathered} shape={DOOR_SHAPE} />
            {changed && <Button onClick={gathered.undo}>{kept ? 'Undo changes' : 'Forget it'}</Button>}
            <span className="text-small text-ink-3">{changed ? '' : 'Nothing changed'}</span>
            {kept && kept.id !== null && (
              <span className="ml-auto">
                <RemoveButton
                  kind="door"
                  id={kept.id}
                  name={kept.name}
                  onRemoved={() => void gathered.settled(kept.id, view.doors.find((d) => d.id !== kept.id)?.id ?? null)}
                />
              </span>
            )}
          </div>
        )}
      </form>
    </Panel>
  );
}
