'use client';

import { useState } from 'react';
import { type DeskProfile, MOMENTS, PLAIN_DESK } from '@/core/people/deskprofile';
import type { DeskProfilesView } from '@/services/people/desklayout';
import { Button } from '../../kit/button';
import { call } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { doing } from '../../kit/doing';
import { FormFoot } from '../../kit/editform';
import { Field, Input } from '../../kit/field';
import { useSaving } from '../../kit/saving';
import { DeskAt } from './deskat';

export function ProfileDialog({
  view,
  profile,
  onClose,
  onSaved,
}: {
  view: DeskProfilesView;
  profile: DeskProfilesView['profiles'][number] | null;
  onClose: () => void;
  onSaved: () => void;
}) {
  const [draft, setDraft] = useState<DeskProfile>(profile ?? { ...PLAIN_DESK, id: '', name: '' });
  const { busy, faults, save, conflict } = useSaving('save-desk-profile', {
    latest: async () => {
      const p = (await call<DeskProfilesView>('/api/read/desks')).profiles.find((x) => x.id === profile?.id);
      return p;
    },
    nameOf: (id) => view.sets.find((s) => s.id === id)?.name ?? id,
    onTheirs: onSaved,
    onSaved,
  });
  const off = !view.mayChange;
  const submit = async () => {
    if (
      await save(
        {
          id: profile?.id ?? null,
          revision: profile?.revision ?? 0,
          name: draft.name.trim(),
          panels: draft.panels,
          helpers: draft.helpers,
          stockSetIds: draft.stockSetIds,
          views: draft.views,
        },
        `${draft.name} saved.`,
      )
    )
      onSaved();
  };
  const remove = async () => {
    const gone = { kind: 'desk-profile', id: profile?.id };
    if (await doing('remove-desk-thing', gone, 'Removed. History can bring it back.')) onSaved();
  };
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={profile?.name ?? 'New desk profile'}
      description={
        profile
          ? profile.people.length === 0
            ? 'Nobody has it.'
            : `${profile.people.slice(0, 5).join(', ')}${profile.people.length > 5 ? ` and ${profile.people.length - 5} more` : ''} ` +
              `${profile.people.length === 1 ? 'has' : 'have'} it.`
          : 'What a Desk shows at each moment'
      }
    >
      {conflict}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <div className="max-w-xs">
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
        </div>
        <div className="mt-3 grid grid-cols-3 gap-3">
          {MOMENTS.map((moment) => (
            <DeskAt key={moment} moment={moment} draft={draft} view={view} off={off} onChange={setDraft} />
          ))}
        </div>
        <p className="mt-2 text-tiny text-ink-2">
          A part stands where it helps, and a helper within the part it works through. Lists stand at the left of the
          Desk at all moments.
        </p>
        {faults.helpers && (
          <p role="alert" className="mt-2 text-small text-clay">
            {faults.helpers}
          </p>
        )}
        <FormFoot mayChange={!off} isNew={!profile} busy={busy} onRemove={() => void remove()}>
          <Button onClick={onClose}>Cancel</Button>
        </FormFoot>
      </form>
    </Dialog>
  );
}
