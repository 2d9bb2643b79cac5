'use client';

import { clsx } from 'clsx';
import { useEffect, useState } from 'react';
import { CHANNEL_NAMES, CHANNELS, type Channel } from '@/core/channels';
import type { Level } from '@/core/people/levels';
import type { Need } from '@/core/routing/needs';
import type { PickingRule } from '@/core/routing/queue';
import type { Coverage, QueueLine, QueuesView } from '@/services/queues';
import { Button } from '../kit/button';
import { call, setting } from '../kit/call';
import { ChannelMark, ChannelMarks } from '../kit/channelmark';
import { Check, Field, Input, Select } from '../kit/field';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { WhoTakes } from './whotakes';

/** Ready-made picking orders: what they are called, what they mean, the rules they stand for. */
const ORDERS: readonly { readonly first: PickingRule; readonly name: string; readonly meaning: string; readonly rules: PickingRule[] }[] = [
  { first: 'longest-idle', name: 'Longest idle', meaning: 'Whoever has gone longest without a contact is asked first, so that turns are fair.', rules: ['longest-idle'] },
  { first: 'lightest-load', name: 'Lightest load', meaning: 'Whoever has the most room is asked first; then longest idle.', rules: ['lightest-load'] },
  { first: 'highest-level', name: 'Highest level', meaning: 'Whoever knows most of what is needed is asked first; then lightest load, then longest idle.', rules: ['highest-level', 'lightest-load'] },
];

type Draft = { id: string | null; revision: number; name: string; channels: Channel[]; goal: { percent: number; seconds: number }; needs: Need[]; order: PickingRule[]; wrapUpSeconds: number | null };
const draftOf = (q: QueueLine): Draft => ({ id: q.id, revision: q.revision, name: q.name, channels: [...q.channels], goal: { ...q.goal }, needs: q.needs.map((n) => ({ ...n })), order: [...q.order], wrapUpSeconds: q.wrapUpSeconds });
const EMPTY: Draft = { id: null, revision: 0, name: '', channels: ['voice', 'chat'], goal: { percent: 80, seconds: 30 }, needs: [], order: ['longest-idle'], wrapUpSeconds: null };

/** Queues and their settings. Changes are gathered, counted and applied in one press, from the next visit on. */
export function QueuesPage({ initial, chosen }: { initial: QueuesView; chosen: string | null }) {
  const { data, refetch } = useLive<QueuesView>('/api/read/queues', ['settings.changed', 'visit.began', 'visit.ended', 'person.duty'], initial);
  const view = data ?? initial;
  const first = view.queues.find((q) => q.id === chosen) ?? view.queues[0];
  const [draft, setDraft] = useState<Draft | null>(first ? draftOf(first) : null);
  const kept = view.queues.find((q) => q.id === draft?.id);
  return (
    <main className="grid gap-3 p-4 md:grid-cols-[250px_minmax(0,1fr)]">
      <Panel className="self-start p-2" label="Queues">
        <div className="flex items-center px-2 py-1.5"><h2 className="text-panel">Queues</h2>{view.mayChange && <Button small className="ml-auto" onClick={() => setDraft(EMPTY)}>New</Button>}</div>
        <ul>
          {view.queues.map((q) => (
            <li key={q.id}>
              <button type="button" aria-pressed={draft?.id === q.id} onClick={() => setDraft(draftOf(q))} className={clsx('flex w-full items-center gap-2 rounded-control border-l-3 px-2 py-1.5 text-left', draft?.id === q.id ? 'border-brass-2 bg-chosen' : 'border-transparent hover:bg-sunk')}>
                <span className="flex-1 truncate">{q.name}</span><ChannelMarks channels={q.channels} size={15} /><span className="w-6 text-right font-semibold" title="waiting now">{q.waiting}</span>
              </button>
            </li>
          ))}
        </ul>
      </Panel>
      {draft ? <div className="flex min-w-0 flex-col gap-3"><QueueForm key={draft.id ?? 'new'} draft={draft} kept={kept} view={view} onChange={setDraft} onSaved={(id) => { void refetch().then((r) => { const q = r.data?.queues.find((x) => x.id === id); if (q) setDraft(draftOf(q)); }); }} />{draft.id !== null && <WhoTakes queueId={draft.id} />}</div>
        : <Panel><Empty title="No queue yet">Contacts wait in queues until somebody who can take them is free.</Empty></Panel>}
    </main>
  );
}

function QueueForm({ draft, kept, view, onChange, onSaved }: { draft: Draft; kept: QueueLine | undefined; view: QueuesView; onChange: (d: Draft) => void; onSaved: (id: string) => void }) {
  const nameOf = (id: string) => view.skills.find((s) => s.id === id)?.name ?? id;
  const latest = async () => { const q = (await call<QueuesView>('/api/read/queues')).queues.find((x) => x.id === draft.id); return q && draftOf(q); };
  const { busy, faults, save, conflict } = useSaving('save-queue', { latest, nameOf, onTheirs: () => onSaved(draft.id ?? ''), onSaved: ({ id }) => onSaved(id) });
  const [preview, setPreview] = useState<readonly Coverage[] | null>(null);
  const set = (change: Partial<Draft>) => onChange({ ...draft, ...change });
  const changed = kept === undefined || JSON.stringify(draft) !== JSON.stringify(draftOf(kept));
  const asked = JSON.stringify(draft);
  useEffect(() => {
    if (!changed || !view.mayChange) return setPreview(null);
    let live = true;
    const timer = setTimeout(() => {
      setting<Coverage[]>('preview-queue', JSON.parse(asked) as Draft).then((c) => { if (live) setPreview(c); }, () => { if (live) setPreview(null); });
    }, 300);
    return () => { live = false; clearTimeout(timer); };
  }, [asked, changed, view.mayChange]);
  const submit = async () => {
    const saved = await save(draft, `${draft.name} applied; it counts from the next contact on.`);
    if (saved) onSaved(saved.id);
  };
  const off = !view.mayChange;
  const skills = new Map(view.skills.map((s) => [s.id, s.name]));
  const coverage = preview ?? (changed && kept === undefined ? null : kept?.coverage) ?? null;
  const unused = view.skills.filter((s) => !draft.needs.some((n) => n.skillId === s.id));
  const order = ORDERS.find((o) => o.first === draft.order[0]);
  return (
    <form className="flex min-w-0 flex-col gap-3" aria-label={kept?.name ?? 'New queue'} onSubmit={(e) => { e.preventDefault(); void submit(); }}>{conflict}
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="text-title">{draft.name || 'New queue'}</h1><ChannelMarks channels={draft.channels} />
        <Pill>answer {draft.goal.percent}% within {draft.goal.seconds} s</Pill>
        <span className="ml-auto flex items-center gap-2">
          {kept && changed && <Button onClick={() => onChange(draftOf(kept))}>Undo changes</Button>}
          {view.mayChange && <Button kind="primary" type="submit" disabled={!changed || busy}>{kept ? (changed ? 'Apply from the next contact' : 'Nothing changed') : 'Add the queue'}</Button>}
        </span>
      </div>
      <div className="grid gap-3 lg:grid-cols-2">
        <Panel className="p-4" label="What it takes"><h2 className="mb-3 text-panel">What it takes</h2>
          <div className="flex flex-col gap-3">
            <Field label="Name" fault={faults.name}>{(p) => <Input {...p} disabled={off} value={draft.name} onChange={(e) => set({ name: e.target.value })} />}</Field>
            <fieldset disabled={off}><legend className="mb-1 text-small font-medium text-ink-2">Channels</legend>
              <div className="flex flex-wrap gap-4">{CHANNELS.map((c) => <Check key={c} checked={draft.channels.includes(c)} onChange={(e) => set({ channels: CHANNELS.filter((x) => (x === c ? e.target.checked : draft.channels.includes(x))) })} label={<span className="inline-flex items-center gap-1"><ChannelMark channel={c} size={15} />{CHANNEL_NAMES[c].name}</span>} />)}</div>
              {faults.channels && <p className="text-tiny text-clay">{faults.channels}</p>}</fieldset>
            <div className="grid grid-cols-2 gap-3">
              <Field label="Goal: percent answered" fault={faults['goal.percent']}>{(p) => <Input {...p} type="number" min={1} max={100} disabled={off} value={draft.goal.percent} onChange={(e) => set({ goal: { ...draft.goal, percent: e.target.valueAsNumber } })} />}</Field>
              <Field label="within seconds" fault={faults['goal.seconds']}>{(p) => <Input {...p} type="number" min={1} disabled={off} value={draft.goal.seconds} onChange={(e) => set({ goal: { ...draft.goal, seconds: e.target.valueAsNumber } })} />}</Field>
            </div>
            <Field label="Wrap-up ends by itself after, seconds" hint="Empty: the person decides. It holds the contact’s load.">{(p) => <Input {...p} type="number" min={0} max={3600} disabled={off} value={draft.wrapUpSeconds ?? ''} onChange={(e) => set({ wrapUpSeconds: Number.isNaN(e.target.valueAsNumber) ? null : e.target.valueAsNumber })} />}</Field>
          </div>
        </Panel>
        <Panel className="p-4" label="Must know"><h2 className="text-panel">Must know</h2><p className="mb-3 text-small text-ink-2">Everybody asked needs each of these at this level or better. A bot’s hand-over may add more.</p>
          {draft.needs.length === 0 && <p className="mb-2 text-small text-ink-3">No skill is needed.</p>}
          <ul className="flex flex-col gap-2">
            {draft.needs.map((n) => (
              <li key={n.skillId} className="flex items-center gap-2"><span className="flex-1">{skills.get(n.skillId) ?? n.skillId}</span>
                <Select aria-label={`Level of ${skills.get(n.skillId) ?? ''}`} className="!w-36" disabled={off} value={n.atLeast} onChange={(e) => set({ needs: draft.needs.map((x) => (x === n ? { ...n, atLeast: Number(e.target.value) as Level } : x)) })}>{[1, 2, 3, 4, 5].map((l) => <option key={l} value={l}>at least {l}</option>)}</Select>
                {!off && <Button small kind="quiet" aria-label={`Remove ${skills.get(n.skillId) ?? ''}`} onClick={() => set({ needs: draft.needs.filter((x) => x !== n) })}>Remove</Button>}</li>
            ))}
          </ul>
          {!off && unused.length > 0 && <Select aria-label="Add a needed skill" className="mt-2" value="" onChange={(e) => { if (e.target.value) set({ needs: [...draft.needs, { skillId: e.target.value, atLeast: 3 }] }); }}><option value="">Add a skill…</option>{unused.map((s) => <option key={s.id} value={s.id}>{s.name}</option>)}</Select>}
        </Panel>
        <Panel className="p-4" label="Picks the person by"><h2 className="mb-2 text-panel">Picks the person by</h2>
          <div role="radiogroup" aria-label="Picking order" className="flex flex-col gap-1">
            {ORDERS.map((o) => (
              <label key={o.first} className={clsx('flex gap-2 rounded-control border p-2', o === order ? 'border-brass-2 bg-chosen' : 'border-rule')}><input type="radio" name="order" className="mt-1 accent-plum" disabled={off} checked={o === order} onChange={() => set({ order: [...o.rules] })} /><span><span className="font-display font-semibold">{o.name}</span><span className="block text-small text-ink-2">{o.meaning}</span></span></label>
            ))}
          </div>
        </Panel>
        <Panel className="p-4" label="Who could take it"><h2 className="text-panel">Who could take it</h2><p className="mb-2 text-small text-ink-2">{changed ? 'Counted with your changes, not applied yet.' : 'Counted now.'} Busy people count as able: they have the skills and take the queue.</p>
          {coverage === null ? <p className="text-small text-ink-3">{kept ? 'Counting…' : 'People take a queue by their duty profiles; add it there once it exists.'}</p> : (
            <table className="w-full text-small"><thead className="text-tiny text-ink-2"><tr><th className="py-1 text-left font-medium">Channel</th><th className="text-right font-medium">Able, on duty</th><th className="text-right font-medium">Asked, on duty</th><th className="text-right font-medium">Able, everybody</th></tr></thead>
              <tbody>{coverage.map((c) => {
                const before = kept?.coverage.find((k) => k.channel === c.channel);
                return <tr key={c.channel} className="border-t border-rule"><td className="py-1.5"><span className="inline-flex items-center gap-1.5"><ChannelMark channel={c.channel} size={15} />{CHANNEL_NAMES[c.channel].name}</span></td>
                  <td className={clsx('text-right font-semibold', c.able === 0 && 'text-clay')}>{before && before.able !== c.able ? `${before.able} → ` : ''}{c.able}</td><td className="text-right">{c.onDuty}</td><td className={clsx('text-right', c.everybody === 0 && 'font-semibold text-clay')}>{before && before.everybody !== c.everybody ? `${before.everybody} → ` : ''}{c.everybody}</td></tr>;
              })}</tbody></table>
          )}
          {coverage?.some((c) => c.everybody === 0) && <p role="status" className="mt-2 text-small text-clay">Nobody at all could take {coverage.filter((c) => c.everybody === 0).map((c) => CHANNEL_NAMES[c.channel].name.toLowerCase()).join(' or ')} contacts of this queue.</p>}
        </Panel>
      </div>
    </form>
  );
}
