'use client';

import { yupResolver } from '@hookform/resolvers/yup';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { toast } from 'sonner';
import { object, string } from 'yup';
import { CHANNEL_NAMES, CHANNELS, type Channel } from '@/core/channels';
import { FULL, withOverrides } from '@/core/people/load';
import type { Role } from '@/core/people/rights';
import type { PeopleView, PersonLine } from '@/services/people';
import { Button } from '../kit/button';
import { Refused, sentence, setting } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Check, Field, Input, Select } from '../kit/field';
import { initials } from '../kit/figures';
import { Empty, Panel } from '../kit/panel';
import { StatePill } from './statepill';

type Form = { name: string; shownName: string; email: string; teamId: string; role: string; dutyProfileId: string };
const schema = object({
  name: string().trim().required('The name is missing').max(80, 'At most 80 characters'), shownName: string().trim().required('Customers need a name to see').max(40, 'At most 40 characters'),
  email: string().trim().required('The address is missing').email('This is not an e-mail address'), teamId: string().required(), role: string().required(), dutyProfileId: string().required(),
});

/** The chosen person: what they hold now, what they take in which order, and their settings. */
export function PersonPanel({ view, person, adding, onSaved, onProfile }: { view: PeopleView; person: PersonLine | null; adding: boolean; onSaved: (id: string) => void; onProfile: (id: string | 'new') => void }) {
  const [editing, setEditing] = useState(adding);
  if (!person && !adding) return <Panel><Empty title="Nobody chosen">Choose a person to see what they can take.</Empty></Panel>;
  const profile = view.profiles.find((p) => p.id === person?.dutyProfileId);
  return (
    <Panel className="min-h-0 overflow-y-auto p-4" label={person?.name ?? 'New person'}>
      {person && (
        <div className="mb-3 flex items-center gap-3"><span className="flex size-9 items-center justify-center rounded-full bg-mark-messaging font-semibold text-mark-ink">{initials(person.name)}</span>
          <div className="min-w-0 flex-1"><h2 className="truncate text-panel">{person.name}</h2><p className="truncate text-small text-ink-2">{view.teams.find((t) => t.id === person.teamId)?.name} · {person.role}</p><p className="truncate text-small text-ink-2">customers see {person.shownName}</p></div>
          <StatePill duty={person.duty} reason={person.dutyReason} reachable={person.reachable} open={person.open} /></div>
      )}
      {person && !editing ? (
        <>
          <h3 className="text-small">Load right now <span className="font-body font-normal text-ink-2">{person.used} of {FULL}</span></h3>
          <div className="mt-1 mb-3 h-4 overflow-hidden rounded bg-sunk" role="img" aria-label={`Load ${person.used} of 100`}><LoadBlocks person={person} cost={(c) => profile?.load[c].cost ?? 0} /></div>
          {profile && <Takes view={view} profile={profile} most={person.most} />}
          <div className="mt-4 flex flex-wrap gap-2">{person.mayChange && <Button onClick={() => setEditing(true)}>Change this person</Button>}{view.mayAdd && profile && <Button onClick={() => onProfile(profile.id)}>Change the duty profile</Button>}{view.mayAdd && <Button kind="quiet" onClick={() => onProfile('new')}>New duty profile</Button>}</div>
        </>
      ) : <PersonForm view={view} person={person} onDone={(id) => { setEditing(false); if (id) onSaved(id); }} />}
    </Panel>
  );
}

const BLOCK: Readonly<Record<Channel, string>> = { voice: 'bg-mark-voice', chat: 'bg-mark-chat', messaging: 'bg-mark-messaging', sms: 'bg-mark-sms' };
const LoadBlocks = ({ person, cost }: { person: PersonLine; cost: (channel: Channel) => number }) => (
  <span className="flex h-full gap-0.5">{person.open.map((c, i) => <span key={i} className={BLOCK[c]} style={{ width: `${cost(c)}%` }} />)}</span>
);

/** Queues by band, one line per queue with its channels. */
function Takes({ view, profile, most }: { view: PeopleView; profile: PeopleView['profiles'][number]; most: PersonLine['most'] }) {
  const load = withOverrides(profile.load, most);
  const lines = new Map<string, { queue: string; band: number; delay: number; channels: Channel[] }>();
  for (const row of [...profile.rows].sort((a, b) => a.band - b.band)) {
    const key = `${row.queueId}|${row.band}|${row.delaySeconds}`;
    const line = lines.get(key) ?? { queue: view.queues.find((q) => q.id === row.queueId)?.name ?? row.queueId, band: row.band, delay: row.delaySeconds, channels: [] };
    if (load[row.channel].most > 0) line.channels.push(row.channel);
    lines.set(key, line);
  }
  return (
    <>
      <h3 className="mb-1 text-small">Takes, in this order <span className="font-body font-normal text-ink-2">duty: {profile.name}</span></h3>
      {profile.rows.length === 0 && <p className="text-small text-clay">This profile takes no queue.</p>}
      <ul className="divide-y divide-rule">{[...lines.values()].map((l, i) => <li key={i} className="flex items-center gap-2 py-1.5 text-small"><b className="w-3">{l.band}</b><span className="flex-1">{l.queue}</span><span className="inline-flex gap-1">{l.channels.map((c) => <ChannelMark key={c} channel={c} size={15} />)}{l.channels.length === 0 && <span className="text-clay">no channel</span>}</span><span className="w-16 text-right text-ink-2">{l.delay === 0 ? 'at once' : `after ${l.delay} s`}</span></li>)}</ul>
      <h3 className="mt-3 mb-1 text-small">At once</h3>
      <ul className="grid grid-cols-2 gap-x-4 text-small">{CHANNELS.map((c) => <li key={c} className="flex items-center gap-1.5 py-1"><ChannelMark channel={c} size={15} />{CHANNEL_NAMES[c].name}<b className="ml-auto">{load[c].most === 0 ? 'off' : load[c].most}</b></li>)}</ul>
    </>
  );
}

function PersonForm({ view, person, onDone }: { view: PeopleView; person: PersonLine | null; onDone: (savedId: string | null) => void }) {
  const { register, handleSubmit, setError, formState: { errors, isSubmitting } } = useForm<Form>({
    resolver: yupResolver(schema),
    defaultValues: person ?? { name: '', shownName: '', email: '', teamId: view.teams[0]?.id ?? '', role: 'agent', dutyProfileId: view.profiles[0]?.id ?? '' },
  });
  const [most, setMost] = useState<Partial<Record<Channel, number>>>({ ...person?.most });
  const [active, setActive] = useState(person?.active ?? true);
  const roles: readonly Role[] = person && !view.rolesToGive.includes(person.role) ? [person.role, ...view.rolesToGive] : view.rolesToGive;
  const save = async (form: Form) => {
    try {
      const { id } = await setting<{ id: string }>('save-person', { id: person?.id ?? null, revision: person?.revision ?? 0, name: form.name, shownName: form.shownName, email: form.email, teamId: form.teamId, role: form.role, dutyProfileId: form.dutyProfileId, most, active });
      toast.success(`${form.name} saved.`);
      onDone(id);
    } catch (error) {
      if (error instanceof Refused) for (const f of error.faults) if (f.where === 'email' || f.where === 'name' || f.where === 'shownName') setError(f.where, { message: f.what });
      toast.error(sentence(error));
    }
  };
  return (
    <form className="flex flex-col gap-2.5" onSubmit={(e) => void handleSubmit(save)(e)} aria-label={person ? `Change ${person.name}` : 'Add a person'} noValidate>
      {!person && <h2 className="text-panel">Add a person</h2>}
      <Field label="Full name" fault={errors.name?.message}>{(p) => <Input {...p} {...register('name')} />}</Field>
      <Field label="Name shown to customers" fault={errors.shownName?.message}>{(p) => <Input {...p} {...register('shownName')} />}</Field>
      <Field label="E-mail address" fault={errors.email?.message}>{(p) => <Input {...p} type="email" {...register('email')} />}</Field>
      <Field label="Team">{(p) => <Select {...p} {...register('teamId')}>{view.teams.map((t) => <option key={t.id} value={t.id}>{t.name}</option>)}</Select>}</Field>
      <Field label="Role">{(p) => <Select {...p} {...register('role')}>{roles.map((r) => <option key={r} value={r}>{r}</option>)}</Select>}</Field>
      <Field label="Duty profile">{(p) => <Select {...p} {...register('dutyProfileId')}>{view.profiles.map((d) => <option key={d.id} value={d.id}>{d.name}</option>)}</Select>}</Field>
      <fieldset><legend className="mb-1 text-small font-medium text-ink-2">How many at once; empty follows the profile, 0 turns it off</legend>
        <div className="grid grid-cols-4 gap-2">{CHANNELS.map((c) => <span key={c} className="flex items-center gap-1.5"><ChannelMark channel={c} size={16} /><Input aria-label={`${CHANNEL_NAMES[c].name} at once`} type="number" min={0} max={20} className="!px-1.5" value={most[c] ?? ''} onChange={(e) => { const next = { ...most }; if (Number.isNaN(e.target.valueAsNumber)) delete next[c]; else next[c] = e.target.valueAsNumber; setMost(next); }} /></span>)}</div></fieldset>
      {person && person.role !== 'owner' && <Check label="May sign in and take contacts" checked={active} onChange={(e) => setActive(e.target.checked)} />}
      <div className="flex gap-2 pt-1"><Button kind="primary" type="submit" disabled={isSubmitting}>{person ? 'Save' : 'Add'}</Button>{person && <Button onClick={() => onDone(null)}>Cancel</Button>}</div>
    </form>
  );
}
