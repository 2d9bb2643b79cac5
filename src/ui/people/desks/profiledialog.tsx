'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import {
  DESK_PANEL_IDS,
  DESK_PANELS,
  DESK_VIEW_IDS,
  DESK_VIEWS,
  type DeskProfile,
  HELPER_IDS,
  helperBar,
  HELPERS,
  MOMENT_WORDS,
  MOMENTS,
  PLAIN_DESK,
} from '@/core/people/deskprofile';
import type { DeskProfilesView } from '@/services/people/desklayout';
import { Button } from '../../kit/button';
import { call } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { doing } from '../../kit/doing';
import { FormFoot } from '../../kit/editform';
import { Check, Field, Input } from '../../kit/field';
import { useSaving } from '../../kit/saving';

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
  const flip = <T extends string>(list: readonly T[], item: T): T[] =>
    list.includes(item) ? list.filter((x) => x !== item) : [...list, item];
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
        <table className="mt-3 w-full text-small">
          <thead>
            <tr className="text-left text-tiny text-ink-2">
              <th className="py-1 font-medium">Panel</th>
              {MOMENTS.map((m) => (
                <th key={m} className="w-28 font-medium">
                  {MOMENT_WORDS[m]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {DESK_PANEL_IDS.map((panel) => (
              <tr key={panel} className="border-t border-rule">
                <th scope="row" className="py-1.5 text-left font-medium">
                  {DESK_PANELS[panel].name} <span className="font-normal text-ink-2">{DESK_PANELS[panel].says}</span>
                </th>
                {MOMENTS.map((m) => (
                  <td key={m}>
                    {(DESK_PANELS[panel].at as readonly string[]).includes(m) ? (
                      <input
                        type="checkbox"
                        className="size-4 accent-plum"
                        disabled={off}
                        aria-label={`${DESK_PANELS[panel].name} ${MOMENT_WORDS[m]}`}
                        checked={draft.panels[m].includes(panel)}
                        onChange={() =>
                          setDraft({ ...draft, panels: { ...draft.panels, [m]: flip(draft.panels[m], panel) } })
                        }
                      />
                    ) : (
                      <span className="text-ink-3">–</span>
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        <div className="mt-3 grid grid-cols-3 gap-4">
          <fieldset>
            <legend className="text-small font-semibold">Helpers</legend>
            {HELPER_IDS.map((h) => {
              const bar = helperBar(h, draft, new Set(view.helpers));
              return (
                <div key={h} className="py-0.5">
                  <Check
                    label={HELPERS[h].name}
                    disabled={off}
                    checked={draft.helpers.includes(h)}
                    onChange={() => setDraft({ ...draft, helpers: flip(draft.helpers, h) })}
                  />
                  {bar && (
                    <p className={clsx('pl-5 text-tiny', draft.helpers.includes(h) ? 'text-brass-ink' : 'text-ink-3')}>
                      {bar}
                    </p>
                  )}
                </div>
              );
            })}
          </fieldset>
          <fieldset>
            <legend className="text-small font-semibold">Stock replies</legend>
            {view.sets.map((s) => (
              <div key={s.id} className="py-0.5">
                <Check
                  label={s.name}
                  disabled={off}
                  checked={draft.stockSetIds.includes(s.id)}
                  onChange={() => setDraft({ ...draft, stockSetIds: flip(draft.stockSetIds, s.id) })}
                />
              </div>
            ))}
            {view.sets.length === 0 && <p className="text-small text-ink-2">No set yet.</p>}
          </fieldset>
          <fieldset>
            <legend className="text-small font-semibold">Views</legend>
            {DESK_VIEW_IDS.map((v) => (
              <div key={v} className="py-0.5">
                <Check
                  label={DESK_VIEWS[v].name}
                  disabled={off}
                  checked={draft.views.includes(v)}
                  onChange={() => setDraft({ ...draft, views: flip(draft.views, v) })}
                />
                <p className="pl-[22px] text-tiny text-ink-2">{DESK_VIEWS[v].says}</p>
              </div>
            ))}
          </fieldset>
        </div>
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
