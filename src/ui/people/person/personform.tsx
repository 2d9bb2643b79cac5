'use client';

import { type ChangeEvent, useState } from 'react';
import { toast } from 'sonner';
import { type Channel, CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import type { PeopleView, PersonLine } from '@/services/people/peopleview';
import { Button } from '../../kit/button';
import { call, sentence, setting } from '../../kit/call';
import { ChannelMark } from '../../kit/channelmark';
import { Check, Field, Input } from '../../kit/field';
import { useSaving } from '../../kit/saving';
import { options, Select } from '../../kit/select';

type Form = {
  name: string;
  shownName: string;
  email: string;
  teamId: string;
  roleId: string;
  dutyProfileId: string;
  siteId: string;
  outbound: string;
};
/** What the form's own fields hold of a person. */
const fieldsOf = (p: PersonLine): Form => ({
  name: p.name,
  shownName: p.shownName,
  email: p.email,
  teamId: p.teamId,
  roleId: p.roleId,
  dutyProfileId: p.dutyProfileId,
  siteId: p.siteId ?? '',
  outbound: p.outbound,
});
/** The person as the act takes it. */
const bodyOf = (p: PersonLine) => ({
  id: p.id,
  revision: p.revision,
  name: p.name,
  shownName: p.shownName,
  email: p.email,
  teamId: p.teamId,
  alsoTeamIds: p.alsoTeamIds,
  setIds: p.setIds,
  siteId: p.siteId,
  roleId: p.roleId,
  outbound: p.outbound,
  dutyProfileId: p.dutyProfileId,
  most: p.most,
});

/** Adds or changes a person. A new one is invited by mail unless that is unticked. */
export function PersonForm({
  view,
  person,
  onDone,
}: {
  view: PeopleView;
  person: PersonLine | null;
  onDone: (id: string | null) => void;
}) {
  // Both are of the moment the form was opened: what somebody else changes meanwhile is shown when saving, not
  // slipped in.
  const [revision] = useState(person?.revision ?? 0);
  const [form, setForm] = useState<Form>(
    person
      ? fieldsOf(person)
      : {
          name: '',
          shownName: '',
          email: '',
          teamId: view.teams.find((t) => t.mayChange)?.id ?? '',
          roleId: 'agent',
          dutyProfileId: view.profiles[0]?.id ?? '',
          siteId: '',
          outbound: '',
        },
  );
  const [most, setMost] = useState<Partial<Record<Channel, number>>>({ ...person?.most });
  const [also, setAlso] = useState<readonly string[]>(person?.alsoTeamIds ?? []);
  const [sets, setSets] = useState<readonly string[]>(person?.setIds ?? []);
  const [invite, setInvite] = useState(true);
  const names = new Map(
    [...view.teams, ...view.sites, ...view.roles, ...view.profiles, ...view.sets].map((x) => [x.id, x.name]),
  );
  const { busy, faults, save, conflict } = useSaving('save-person', {
    latest: async () => {
      const p = (await call<PeopleView>('/api/read/people')).people.find((x) => x.id === person?.id);
      return p && bodyOf(p);
    },
    nameOf: (id) => names.get(id) ?? id,
    onTheirs: () => onDone(person?.id ?? null),
    onSaved: ({ id }) => onDone(id),
  });
  const roles = view.roles.filter((r) => r.mayGive || r.id === person?.roleId);
  const submit = async () => {
    const typed = { name: form.name.trim(), shownName: form.shownName.trim(), email: form.email.trim() };
    const saved = await save(
      {
        id: person?.id ?? null,
        revision,
        ...form,
        ...typed,
        outbound: form.outbound.trim(),
        siteId: form.siteId === '' ? null : form.siteId,
        alsoTeamIds: also.filter((t) => t !== form.teamId),
        setIds: sets,
        most,
      },
      `${form.name} saved.`,
    );
    if (!saved) return;
    if (!person && invite)
      await setting<{ sent: number }>('send-invitations', { personIds: [saved.id] }).then(
        () => toast.success(`An invitation is on its way to ${form.email}.`),
        (error: unknown) => toast.error(sentence(error)),
      );
    onDone(saved.id);
  };
  const toggle = (list: readonly string[], id: string, on: boolean) =>
    on ? [...list, id] : list.filter((x) => x !== id);
  const typed = (name: 'name' | 'shownName' | 'email' | 'outbound') => ({
    value: form[name],
    onChange: (e: ChangeEvent<HTMLInputElement>) => setForm({ ...form, [name]: e.target.value }),
  });
  const picked = (name: 'teamId' | 'siteId' | 'roleId' | 'dutyProfileId') => ({
    value: form[name],
    onChange: (chosen: string) => setForm({ ...form, [name]: chosen }),
  });
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
      aria-label={person ? `Change ${person.name}` : 'Add a person'}
      noValidate
    >
      {conflict}
      <h2 className="text-panel">{person ? `Change ${person.name}` : 'Add a person'}</h2>
      <Field label="Full name" fault={faults.name}>
        {(p) => <Input {...p} {...typed('name')} />}
      </Field>
      <Field label="Name shown to customers" fault={faults.shownName}>
        {(p) => <Input {...p} {...typed('shownName')} />}
      </Field>
      <Field
        label="E-mail address"
        fault={faults.email}
        {...(person?.above ? { hint: 'Theirs to change: they hold more than you do' } : {})}
      >
        {(p) => <Input {...p} type="email" readOnly={person?.above} {...typed('email')} />}
      </Field>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Team" fault={faults.teamId}>
          {(p) => (
            <Select {...p} {...picked('teamId')}>
              {options(view.teams.filter((t) => t.mayChange || t.id === person?.teamId))}
            </Select>
          )}
        </Field>
        <Field label="Site">
          {(p) => (
            <Select {...p} {...picked('siteId')}>
              <option value="">none</option>
              {options(view.sites)}
            </Select>
          )}
        </Field>
        <Field label="Role" fault={faults.roleId}>
          {(p) => (
            <Select {...p} {...picked('roleId')} disabled={person?.roleId === 'owner'}>
              {options(roles)}
            </Select>
          )}
        </Field>
        <Field label="Duty profile" fault={faults.dutyProfileId}>
          {(p) => (
            <Select {...p} {...picked('dutyProfileId')}>
              {options(view.profiles)}
            </Select>
          )}
        </Field>
      </div>
      <Field label="Shown when they call or text out" fault={faults.outbound}>
        {(p) => <Input {...p} {...typed('outbound')} placeholder="a number or name" />}
      </Field>
      <fieldset>
        <legend className="mb-1 text-small font-medium text-ink-2">
          How many at once; empty follows the profile, 0 turns it off
        </legend>
        <div className="grid grid-cols-4 gap-2">
          {CHANNELS.map((c) => (
            <span key={c} className="flex items-center gap-1.5">
              <ChannelMark channel={c} size={16} />
              <Input
                aria-label={`${CHANNEL_NAMES[c].name} at once`}
                type="number"
                min={0}
                max={20}
                className="!px-1.5"
                value={most[c] ?? ''}
                onChange={(e) => {
                  const next = { ...most };
                  if (Number.isNaN(e.target.valueAsNumber)) delete next[c];
                  else next[c] = e.target.valueAsNumber;
                  setMost(next);
                }}
              />
            </span>
          ))}
        </div>
      </fieldset>
      <details open={also.length + sets.length > 0}>
        <summary className="text-small font-medium text-ink-2">Further teams and skill sets</summary>
        <div className="mt-1 grid grid-cols-2 gap-x-2">
          {view.teams
            .filter((t) => t.id !== person?.teamId)
            .map((t) => (
              <Check
                key={t.id}
                label={t.name}
                checked={also.includes(t.id)}
                onChange={(e) => setAlso(toggle(also, t.id, e.target.checked))}
              />
            ))}
          {view.sets.map((t) => (
            <Check
              key={t.id}
              label={`set ${t.name}`}
              checked={sets.includes(t.id)}
              onChange={(e) => setSets(toggle(sets, t.id, e.target.checked))}
            />
          ))}
        </div>
      </details>
      {!person && (
        <Check label="Send an invitation by mail" checked={invite} onChange={(e) => setInvite(e.target.checked)} />
      )}
      <div className="flex gap-2 pt-1">
        <Button kind="primary" type="submit" disabled={busy}>
          {person ? 'Save' : 'Add'}
        </Button>
        {person && <Button onClick={() => onDone(null)}>Cancel</Button>}
      </div>
    </form>
  );
}
