'use client';

import type { TeamsView } from '@/services/people/teamsview';
import { call } from '../../kit/call';
import { doing } from '../../kit/doing';
import { useSaving } from '../../kit/saving';

export type Kind = 'team' | 'skill' | 'skill-set' | 'site';
export type FormProps = { readonly view: TeamsView; readonly onDone: (id: string | null) => void };

/** Saving and removing one thing of a kind, with both versions shown when somebody else changed it. */
export function useThing(
  kind: Kind,
  act: string,
  id: string | null,
  view: TeamsView,
  pick: (v: TeamsView) => { revision: number } | undefined,
  onDone: (id: string | null) => void,
) {
  const names = new Map(
    [...view.teams, ...view.skills, ...view.sets, ...view.sites, ...view.people].map((x) => [x.id, x.name]),
  );
  const saving = useSaving(act, {
    latest: async () => pick(await call<TeamsView>('/api/read/teams')),
    nameOf: (x) => names.get(x) ?? x,
    onTheirs: () => onDone(id),
    onSaved: (a) => onDone(a.id),
  });
  const remove = async () => {
    if (await doing('remove-thing', { kind, id }, 'Removed. History can bring it back.')) onDone(null);
  };
  return { ...saving, remove };
}

/** Zones to choose from, the present one among them whatever the list says. */
export const zonesOf = (view: TeamsView, now: string): readonly string[] =>
  view.zones.includes(now) ? view.zones : [now, ...view.zones];
