'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { useState } from 'react';
import { CHANNEL_NAMES, CHANNELS, type Channel } from '@/core/channels';
import { languageName } from '@/core/localised';
import type { DoorLine, DoorsView } from '@/services/doors/doors';
import { Button } from '../kit/button';
import { call } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Area, Check, Field, Input, Select } from '../kit/field';
import { asDayTime } from '../kit/figures';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';

const LANGUAGES = ['en', 'es', 'fr', 'pl'];
const openingWords = (opening: DoorLine['opening'], zone: string) =>
  opening.open
    ? opening.until === null
      ? 'open'
      : `open until ${asDayTime(opening.until, zone)}`
    : opening.opensAt === null
      ? 'closed'
      : `closed until ${asDayTime(opening.opensAt, zone)}`;

type Draft = {
  id: string | null;
  revision: number;
  name: string;
  channel: Channel;
  address: string;
  hoursId: string;
  botId: string;
  languages: string[];
  closedWording: Record<string, string>;
  trial: DoorLine['trial'];
};
const draftOf = (door: DoorLine): Draft => ({
  id: door.id,
  revision: door.revision,
  name: door.name,
  channel: door.channel,
  address: door.address,
  hoursId: door.hoursId,
  botId: door.botId,
  languages: [...door.languages],
  closedWording: { ...door.closedWording },
  trial: door.trial,
});

/** Where contacts come in: each address with its hours and bot. */
export function DoorsPage({ initial, chosen }: { initial: DoorsView; chosen: string | null }) {
  const { data, refetch } = useLive<DoorsView>('/api/read/doors', ['settings.changed'], initial);
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(() => {
    const door = view.doors.find((d) => d.id === chosen) ?? view.doors[0];
    return door ? draftOf(door) : null;
  });
  // A new door keeps the hours that most doors keep.
  const doorsWith = (hoursId: string): number => view.doors.filter((d) => d.hoursId === hoursId).length;
  const usual = view.hours.toSorted((a, b) => doorsWith(b.id) - doorsWith(a.id))[0]?.id ?? '';
  const add = () =>
    setDraft({
      id: null,
      revision: 0,
      name: '',
      channel: 'chat',
      address: '',
      hoursId: usual,
      botId: view.bots[0]?.id ?? '',
      languages: ['en'],
      closedWording: { en: 'We are closed just now.' },
      trial: null,
    });
  const kept = view.doors.find((d) => d.id === draft?.id);
  return (
    <main className="grid gap-3 p-4 lg:grid-cols-[minmax(0,1fr)_380px]">
      <Panel className="min-w-0" label="Doors">
        <div className="flex items-center gap-3 border-b border-rule px-4 py-3">
          <h1 className="text-title">Where contacts come in</h1>
          <Pill>{view.doors.length} doors</Pill>
          <Pill tone="good">{view.doors.filter((d) => d.opening.open).length} open now</Pill>
          {view.mayChange && (
            <Button kind="primary" className="ml-auto" onClick={add}>
              Add a door
            </Button>
          )}
        </div>
        {view.doors.length === 0 ? (
          <Empty title="No door yet">
            Add one for a telephone number, a web chat, a messaging account or an SMS number.
          </Empty>
        ) : (
          <table className="w-full text-left">
            <thead className="text-tiny text-ink-2">
              <tr>
                <th className="px-4 py-2 font-medium">Door</th>
                <th className="font-medium">Address</th>
                <th className="font-medium">Bot</th>
                <th className="font-medium">Hours</th>
                <th className="pr-4 font-medium">Languages</th>
              </tr>
            </thead>
            <tbody>
              {view.doors.map((door) => (
                <tr
                  key={door.id}
                  className={clsx('border-t border-rule', draft?.id === door.id ? 'bg-chosen' : 'hover:bg-sunk/50')}
                >
                  <td className="px-4 py-2.5">
                    <button
                      type="button"
                      aria-pressed={draft?.id === door.id}
                      className="flex items-center gap-2 text-left font-medium"
                      onClick={() => setDraft(draftOf(door))}
                    >
                      <ChannelMark channel={door.channel} />
                      {door.name}
                    </button>
                  </td>
                  <td className="text-ink-2">{door.address}</td>
                  <td>
                    {door.botName}{' '}
                    {door.botLive === null ? (
                      <Pill tone="bad">never published</Pill>
                    ) : (
                      <Pill>version {door.botLive}</Pill>
                    )}
                    {door.trial && (
                      <Pill tone="warn" className="ml-1">
                        {door.trial.version} on trial, {door.trial.percent}%
                      </Pill>
                    )}
                  </td>
                  <td>
                    <Pill tone={door.opening.open ? 'good' : 'warn'}>
                      {openingWords(door.opening, view.hours.find((h) => h.id === door.hoursId)?.zone ?? 'UTC')}
                    </Pill>
                  </td>
                  <td className="pr-4 text-small text-ink-2">{door.languages.join(' ')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <div className="border-t border-rule px-4 py-3">
          <div className="flex items-center gap-2">
            <h2 className="text-panel">Opening hours</h2>
            <Link
              href="/doors/hours"
              className="ml-auto rounded-control border border-rule-strong px-2 py-0.5 font-display text-small font-semibold hover:bg-sunk"
            >
              {view.mayChange ? 'Change hours' : 'Look at hours'}
            </Link>
          </div>
          <ul className="mt-1 divide-y divide-rule">
            {view.hours.map((h) => (
              <li key={h.id} className="flex items-center gap-3 py-2">
                <span className="w-40 font-medium">{h.name}</span>
                <span className="text-small text-ink-2">{h.zone}</span>
                <Pill tone={h.opening.open ? 'good' : 'warn'}>{openingWords(h.opening, h.zone)}</Pill>
                <span className="text-small text-ink-2">
                  {h.usedBy} {h.usedBy === 1 ? 'door' : 'doors'}
                </span>
              </li>
            ))}
          </ul>
        </div>
      </Panel>
      {draft && (
        <DoorForm
          key={draft.id ?? 'new'}
          draft={draft}
          kept={kept}
          view={view}
          onChange={setDraft}
          onSaved={(id) => {
            void refetch().then((r) => {
              const door = r.data?.doors.find((d) => d.id === id);
              if (door) setDraft(draftOf(door));
            });
          }}
        />
      )}
    </main>
  );
}

function DoorForm({
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
  const nameOf = (id: string) => [...view.hours, ...view.bots].find((x) => x.id === id)?.name ?? id;
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
                onChange={(e) => {
                  const channel = CHANNELS.find((c) => c === e.target.value);
                  if (channel) set({ channel });
                }}
              >
                {CHANNELS.map((c) => (
                  <option key={c} value={c}>
                    {CHANNEL_NAMES[c].name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <Field label="Address" fault={faults.address}>
            {(p) => (
              <Input {...p} disabled={off} value={draft.address} onChange={(e) => set({ address: e.target.value })} />
            )}
          </Field>
        </div>
        <Field label="Bot that answers" hint="Always its live version">
          {(p) => (
            <Select
              {...p}
              disabled={off}
              value={draft.botId}
              onChange={(e) => set({ botId: e.target.value, trial: null })}
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
        {(versions.length > 1 || draft.trial) && (
          <div className="grid grid-cols-2 gap-3">
            <Field label="Version on trial" hint="Some customers meet it, always the same ones" fault={faults.trial}>
              {(p) => (
                <Select
                  {...p}
                  disabled={off}
                  value={draft.trial?.version ?? ''}
                  onChange={(e) =>
                    set({
                      trial:
                        e.target.value === ''
                          ? null
                          : { version: Number(e.target.value), percent: draft.trial?.percent ?? 10 },
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
            <Select {...p} disabled={off} value={draft.hoursId} onChange={(e) => set({ hoursId: e.target.value })}>
              {view.hours.map((h) => (
                <option key={h.id} value={h.id}>
                  {h.name}
                </option>
              ))}
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
        {draft.languages.map((l) => (
          <Field key={l} label={`Said when closed, ${languageName(l)}`}>
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
