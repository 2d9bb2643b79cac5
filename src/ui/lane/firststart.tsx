'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { languageName } from '@/core/localised';
import type { FirstStartView } from '@/services/workspace/firststart';
import { Button } from '../kit/button';
import { call, Refused, sentence } from '../kit/call';
import { Check, Field, Input } from '../kit/field';
import { Select } from '../kit/select';
import { DeadLink, Doorstep } from './doorstep';
import { differs, PasswordFields } from './passwordfields';

/** Languages that sentences of our own exist in; others are added as tags. */
const OFFERED = ['en', 'es', 'fr', 'pl', 'de', 'pt'] as const;
const countryNames = new Intl.DisplayNames('en', { type: 'region' });

/** The first owner names the workspace, where it is and what it speaks, and becomes its owner. Once. */
export const FirstStart = ({
  token,
  view,
  fault,
}: {
  token: string;
  view: FirstStartView | null;
  fault: string | null;
}) => (view ? <Begin token={token} view={view} /> : <DeadLink label="Begin" why={fault} />);

function Begin({ token, view }: { token: string; view: FirstStartView }) {
  const router = useRouter();
  const [form, setForm] = useState({ company: '', name: '', email: '', zone: '', country: '' });
  const [languages, setLanguages] = useState<readonly string[]>(['en']);
  const [typed, setTyped] = useState({ password: '', again: '' });
  const [wrong, setWrong] = useState<string | null>(null);
  const [faults, setFaults] = useState<Readonly<Record<string, string>>>({});
  const [busy, setBusy] = useState(false);
  const zone = form.zone || Intl.DateTimeFormat().resolvedOptions().timeZone;
  const submit = async () => {
    if (differs(typed)) return setWrong(differs(typed));
    setBusy(true);
    setWrong(null);
    setFaults({});
    try {
      const { email } = await call<{ email: string }>('/api/welcome', {
        body: {
          token,
          company: form.company.trim(),
          name: form.name.trim(),
          email: form.email.trim(),
          zone,
          country: form.country,
          languages,
          password: typed.password,
        },
      });
      await call('/api/session', { body: { email, password: typed.password } });
      router.push('/people');
      router.refresh();
    } catch (error) {
      if (error instanceof Refused) setFaults(Object.fromEntries(error.faults.map((f) => [f.where, f.what])));
      setWrong(sentence(error));
      setBusy(false);
    }
  };
  const text = (name: 'company' | 'name' | 'email') => ({
    required: true,
    value: form[name],
    onChange: (e: { target: { value: string } }) => setForm({ ...form, [name]: e.target.value }),
  });
  return (
    <Doorstep label="Begin" wide>
      <form
        className="grid grid-cols-2 gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <div className="col-span-2">
          <h1 className="text-panel">Begin a workspace</h1>
          <p className="text-small text-ink-2">
            Nothing reaches a customer before you open a door. All this can be changed later.
          </p>
        </div>
        <Field label="Name of the company" fault={faults.company}>
          {(p) => <Input {...p} {...text('company')} autoFocus maxLength={80} />}
        </Field>
        <Field label="Country" hint="How telephone numbers are read" fault={faults.country}>
          {(p) => (
            <Select {...p} value={form.country} onChange={(country) => setForm({ ...form, country })}>
              <option value="">Choose…</option>
              {[...view.countries]
                .map((code) => [code, countryNames.of(code) ?? code] as const)
                .sort((a, b) => a[1].localeCompare(b[1]))
                .map(([code, name]) => (
                  <option key={code} value={code}>
                    {name}
                  </option>
                ))}
            </Select>
          )}
        </Field>
        <Field label="Zone" fault={faults.zone}>
          {(p) => (
            <Select {...p} value={zone} onChange={(chosen) => setForm({ ...form, zone: chosen })}>
              {(view.zones.includes(zone) ? view.zones : [zone, ...view.zones]).map((z) => (
                <option key={z} value={z}>
                  {z}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <fieldset>
          <legend className="mb-1 text-small font-medium text-ink-2">Languages of your customers</legend>
          <div className="flex flex-wrap gap-x-3 gap-y-1">
            {OFFERED.map((tag) => (
              <Check
                key={tag}
                label={languageName(tag)}
                checked={languages.includes(tag)}
                onChange={(e) =>
                  setLanguages(e.target.checked ? [...languages, tag] : languages.filter((l) => l !== tag))
                }
              />
            ))}
          </div>
        </fieldset>
        <Field label="Your name" fault={faults.name}>
          {(p) => <Input {...p} {...text('name')} autoComplete="name" maxLength={80} />}
        </Field>
        <Field label="Your e-mail address" fault={faults.email}>
          {(p) => <Input {...p} {...text('email')} type="email" autoComplete="username" />}
        </Field>
        <PasswordFields value={typed} onChange={setTyped} />
        {wrong && (
          <p role="alert" className="col-span-2 text-small text-clay">
            {wrong}
          </p>
        )}
        <div className="col-span-2">
          <Button
            kind="primary"
            type="submit"
            disabled={busy || form.country === '' || languages.length === 0}
            title={form.country === '' ? 'Choose a country first' : undefined}
          >
            {busy ? 'Beginning…' : 'Begin'}
          </Button>
        </div>
      </form>
    </Doorstep>
  );
}
