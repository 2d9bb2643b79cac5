'use client';

import { CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import { languageName } from '@/core/localised';
import type { DoorLine, DoorsView } from '@/services/doors/doors';
import { Button } from '../kit/button';
import { call } from '../kit/call';
import { Area, Check, Field, Input } from '../kit/field';
import { Panel } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { options, Select } from '../kit/select';
import { type Draft, draftOf } from './doordraft';
import { MeetsFields } from './meetsfields';
import { WhenClosedFields } from './whenclosedfields';

const LANGUAGES = ['en', 'es', 'fr', 'pl'];

export function DoorForm({
  draft,
  kept,
  view,
  onChange,
  onSaved,
}: {
  draft: Draft;
  kept: DoorLine | undefined;
  view: DoorsView;
  onChange: (draft: Draft) => void;
  onSaved: (id: string) => void;
}) {
  const nameOf = (id: string) =>
    [...view.hours, ...view.bots, ...view.queues, ...view.doors, ...view.people].find((x) => x.id === id)?.name ?? id;
  const latest = async () => {
    const d = (await call<DoorsView>('/api/read/doors')).doors.find((x) => x.id === draft.id);
    return d && draftOf(d);
  };
  const { busy, faults, save, conflict } = useSaving('save-door', {
    latest,
    nameOf,
    onTheirs: () => onSaved(draft.id ?? ''),
    onSaved: ({ id }) => onSaved(id),
  });
  const set = (change: Partial<Draft>) => onChange({ ...draft, ...change });
  const changed = kept === undefined || JSON.stringify(draft) !== JSON.stringify(draftOf(kept));
  const submit = async () => {
    const saved = await save(draft, `${draft.name} saved; it counts from the next contact on.`);
    if (saved) onSaved(saved.id);
  };
  const off = !view.mayChange;
  const versions = view.bots.find((b) => b.id === draft.botId)?.versions ?? [];
  return (
    <Panel className="self-start p-4" label={kept ? `Door ${kept.name}` : 'New door'}>
      {conflict}
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
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
          <div className="flex items-center gap-2">
            <Button kind="primary" type="submit" disabled={!changed || busy}>
              {kept ? 'Apply' : 'Add the door'}
            </Button>
            {kept && changed && <Button onClick={() => onChange(draftOf(kept))}>Undo changes</Button>}
            <span className="text-small text-ink-3">{changed ? '' : 'Nothing changed'}</span>
          </div>
        )}
      </form>
    </Panel>
  );
}
