'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { BulkResult } from '@/services/people/bulk';
import type { DutyView, ProfileLine } from '@/services/people/dutyview';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { Input } from '../../kit/field';

/** Puts people on a duty profile from the profile's own page: found by name, team or the profile they are on. */
export function PutOn({
  view,
  profile,
  onClose,
  onDone,
}: {
  view: DutyView;
  profile: ProfileLine;
  onClose: () => void;
  onDone: () => void;
}) {
  const [sought, setSought] = useState('');
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [busy, setBusy] = useState(false);
  const nameOf = (id: string) => view.profiles.find((p) => p.id === id)?.name ?? 'no profile';
  const others = view.people.filter((p) => p.profileId !== profile.id);
  const words = sought.trim().toLowerCase();
  const found = others.filter((p) => `${p.name} ${p.team} ${nameOf(p.profileId)}`.toLowerCase().includes(words));
  const pick = (ids: readonly string[], on: boolean) => {
    const next = new Set(picked);
    for (const id of ids) {
      if (on) next.add(id);
      else next.delete(id);
    }
    setPicked(next);
  };
  const all = found.length > 0 && found.every((p) => picked.has(p.id));
  const apply = async () => {
    setBusy(true);
    try {
      const done = await setting<BulkResult>('bulk-people', {
        personIds: [...picked],
        set: { dutyProfileId: profile.id },
        apply: true,
      });
      const put = new Set(done.changes.map((c) => c.personId)).size;
      toast.success(
        `${put} ${put === 1 ? 'person is' : 'people are'} on ${profile.name}. One undo in History takes it back.`,
      );
      for (const { name, why } of done.refused) toast.error(`${name}: ${why}`);
      onDone();
    } catch (error) {
      toast.error(sentence(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`Put people on ${profile.name}`}
      description="They leave the profile they are on; what they have open stays with them."
    >
      <div className="flex items-center gap-3">
        <Input
          aria-label="Find people by name, team or profile"
          placeholder="Name, team or profile…"
          className="!w-72"
          value={sought}
          onChange={(e) => setSought(e.target.value)}
        />
        <label className="flex items-center gap-2 text-small">
          <input
            type="checkbox"
            checked={all}
            disabled={found.length === 0}
            onChange={(e) =>
              pick(
                found.map((p) => p.id),
                e.target.checked,
              )
            }
          />
          all {found.length} found
        </label>
      </div>
      <div
        className="mt-2 h-80 overflow-y-auto rounded-control border border-rule"
        role="region"
        aria-label="People who are on another profile"
        tabIndex={0}
      >
        {found.length === 0 ? (
          <p className="p-3 text-small text-ink-2">
            {others.length === 0 ? 'Everybody is on this profile.' : 'Nobody else is found by these words.'}
          </p>
        ) : (
          <ul>
            {found.map((p) => (
              <li key={p.id} className="border-b border-rule">
                <label className="grid grid-cols-[16px_1fr_1fr_1fr] items-center gap-2 px-2 py-1 text-small">
                  <input type="checkbox" checked={picked.has(p.id)} onChange={(e) => pick([p.id], e.target.checked)} />
                  <span className="truncate font-medium">{p.name}</span>
                  <span className="truncate text-ink-2">{p.team}</span>
                  <span className="truncate text-ink-2">{nameOf(p.profileId)}</span>
                </label>
              </li>
            ))}
          </ul>
        )}
      </div>
      <div className="mt-4 flex gap-2">
        <Button kind="primary" disabled={busy || picked.size === 0} onClick={() => void apply()}>
          Put {picked.size} on it
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
