'use client';

import { toast } from 'sonner';
import type { TeamsView } from '@/services/people/teamsview';
import { Button } from '../../kit/button';
import { call, sentence, setting } from '../../kit/call';
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
  const remove = () => {
    setting('remove-thing', { kind, id }).then(
      () => {
        toast.success('Removed. History can bring it back.');
        onDone(null);
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return { ...saving, remove };
}

export const Foot = ({
  view,
  isNew,
  busy,
  onRemove,
}: {
  view: TeamsView;
  isNew: boolean;
  busy: boolean;
  onRemove: () => void;
}) =>
  view.mayChange ? (
    <div className="mt-4 flex gap-2">
      <Button kind="primary" type="submit" disabled={busy}>
        {isNew ? 'Add' : 'Save'}
      </Button>
      {!isNew && (
        <Button kind="quiet" onClick={onRemove}>
          Remove
        </Button>
      )}
    </div>
  ) : null;

/** Zones to choose from, the present one among them whatever the list says. */
export const zonesOf = (view: TeamsView, now: string): readonly string[] =>
  view.zones.includes(now) ? view.zones : [now, ...view.zones];
