'use client';

import { yupResolver } from '@hookform/resolvers/yup';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { toast } from 'sonner';
import { object, string } from 'yup';
import { type Channel, CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import type { PeopleView, PersonLine } from '@/services/people/peopleview';
import { Button } from '../../kit/button';
import { call, sentence, setting } from '../../kit/call';
import { ChannelMark } from '../../kit/channelmark';
import { Check, Field, Input, Select } from '../../kit/field';
import { useSaving } from '../../kit/saving';

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
const schema = object({
  name: string().trim().required('The name is missing').max(80, 'At most 80 characters'),
  shownName: string().trim().required('Customers need a name to see').max(40, 'At most 40 characters'),
  email: string().trim().required('The address is missing').email('This is not an e-mail address'),
  teamId: string().required('Choose a team'),
  roleId: string().required(),
  dutyProfileId: string().required('Choose a duty profile'),
  siteId: string().trim().ensure(),
  outbound: string().trim().ensure().max(60, 'At most 60 characters'),
});
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
  // Both are of the moment the form was opened: what somebody else changes meanwhile is shown when saving, not slipped in.
  const [revision] = useState(person?.revision ?? 0);
  const {
    register,
    handleSubmit,
    formState: { errors },
  } = useForm<Form>({
    resolver: yupResolver(schema),
    defaultValues: person
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
  });
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
  const submit = async (form: Form) => {
    const saved = await save(
      {
        id: person?.id ?? null,
        revision,
        ...form,
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
  const fault = (name: keyof Form) => errors[name]?.message ?? faults[name];
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(e) => void handleSubmit(submit)(e)}
      aria-label={person ? `Change ${person.name}` : 'Add a person'}
      noValidate
    >
      {conflict}
      <h2 className="text-panel">{person ? `Change ${person.name}` : 'Add a person'}</h2>
      <Field label="Full name" fault={fault('name')}>
        {(p) => <Input {...p} {...register('name')} />}
      </Field>
      <Field label="Name shown to customers" fault={fault('shownName')}>
        {(p) => <Input {...p} {...register('shownName')} />}
      </Field>
      <Field
        label="E-mail address"
        fault={fault('email')}
        {...(person?.above ? { hint: 'Theirs to change: they hold more than you do' } : {})}
      >
        {(p) => <Input {...p} type="email" readOnly={person?.above} {...register('email')} />}
      </Field>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Team" fault={fault('teamId')}>
          {(p) => (
            <Select {...p} {...register('teamId')}>
              {view.teams
                .filter((t) => t.mayChange || t.id === person?.teamId)
                .map((t) => (
                  <option key={t.id} value={t.id}>
                    {t.name}
                  </option>
                ))}
            </Select>
          )}
        </Field>
        <Field label="Site">
          {(p) => (
            <Select {...p} {...register('siteId')}>
              <option value="">none</option>
              {view.sites.map((t) => (
                <option key={t.id} value={t.id}>
                  {t.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <Field label="Role" fault={fault('roleId')}>
          {(p) => (
            <Select {...p} {...register('roleId')} disabled={person?.roleId === 'owner'}>
              {roles.map((r) => (
                <option key={r.id} value={r.id}>
                  {r.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <Field label="Duty profile" fault={fault('dutyProfileId')}>
          {(p) => (
            <Select {...p} {...register('dutyProfileId')}>
              {view.profiles.map((d) => (
                <option key={d.id} value={d.id}>
                  {d.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
      </div>
      <Field label="Shown when they call or text out" fault={fault('outbound')}>
        {(p) => <Input {...p} {...register('outbound')} placeholder="a number or name" />}
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
