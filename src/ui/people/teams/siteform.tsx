'use client';

import { useState } from 'react';
import type { SiteDetail } from '@/services/people/teamsview';
import { FormFoot } from '../../kit/editform';
import { Field, Input } from '../../kit/field';
import { Pill } from '../../kit/panel';
import { Select } from '../../kit/select';
import { type FormProps, useThing, zonesOf } from './thing';

export function SiteForm({ view, site, onDone }: FormProps & { site: SiteDetail | null }) {
  const [draft, setDraft] = useState<SiteDetail>(
    site ?? { id: '', name: '', zone: view.zone, address: '', people: 0, revision: 0 },
  );
  const { busy, faults, save, remove, conflict } = useThing(
    'site',
    'save-site',
    site?.id ?? null,
    view,
    (v) => v.sites.find((s) => s.id === site?.id),
    onDone,
  );
  const off = !view.mayChange;
  const submit = async () => {
    const done = await save(
      {
        id: site?.id ?? null,
        revision: draft.revision,
        name: draft.name.trim(),
        zone: draft.zone,
        address: draft.address.trim(),
      },
      `${draft.name} saved.`,
    );
    if (done) onDone(done.id);
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      {conflict}
      <div className="flex items-center gap-2">
        <h1 className="text-title">{site?.name ?? 'New site'}</h1>
        {site && <Pill>{site.people} people</Pill>}
      </div>
      <div className="mt-3 grid max-w-xl grid-cols-2 gap-3">
        <Field label="Name" fault={faults.name}>
          {(p) => (
            <Input
              {...p}
              required
              disabled={off}
              value={draft.name}
              onChange={(e) => setDraft({ ...draft, name: e.target.value })}
            />
          )}
        </Field>
        <Field label="Zone" fault={faults.zone}>
          {(p) => (
            <Select
              {...p}
              disabled={off}
              value={draft.zone}
              onChange={(chosen) => setDraft({ ...draft, zone: chosen })}
            >
              {zonesOf(view, draft.zone).map((z) => (
                <option key={z}>{z}</option>
              ))}
            </Select>
          )}
        </Field>
        <div className="col-span-2">
          <Field label="Address">
            {(p) => (
              <Input
                {...p}
                disabled={off}
                value={draft.address}
                onChange={(e) => setDraft({ ...draft, address: e.target.value })}
              />
            )}
          </Field>
        </div>
      </div>
      <FormFoot mayChange={view.mayChange} isNew={!site} busy={busy} onRemove={() => void remove()} />
    </form>
  );
}
