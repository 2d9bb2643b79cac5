'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { PeopleView, PersonLine } from '@/services/people/peopleview';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { TimeField } from '../../kit/datefield';
import { asDayTime, asTime } from '../../kit/figures';
import { options, Select } from '../../kit/select';

/** Another duty profile for now, until a time. */
export function ForNow({ view, person, zone }: { view: PeopleView; person: PersonLine; zone: string }) {
  const [open, setOpen] = useState(false);
  const [profileId, setProfileId] = useState('');
  const [until, setUntil] = useState('14:00');
  const put = (id: string | null) =>
    setting<{ until: number | null }>('set-for-now', {
      personId: person.id,
      profileId: id,
      until: id === null ? null : until,
    }).then(
      ({ until: at }) => {
        toast.success(at === null ? `${person.name} is back on their own profile.` : `Until ${asDayTime(at, zone)}.`);
        setOpen(false);
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  if (person.forNow) {
    return (
      <p className="mb-3 rounded-control bg-brass-wash px-2.5 py-1.5 text-small text-brass-ink">
        On <b>{view.profiles.find((p) => p.id === person.forNow?.profileId)?.name}</b> until{' '}
        {asTime(person.forNow.until, zone)}.{' '}
        {person.mayChange && (
          <button type="button" className="underline" onClick={() => void put(null)}>
            End it now
          </button>
        )}
      </p>
    );
  }
  if (!person.mayChange) return null;
  if (!open)
    return (
      <p className="mb-3">
        <Button small onClick={() => setOpen(true)}>
          Another profile for now…
        </Button>
      </p>
    );
  return (
    <form
      className="mb-3 flex flex-wrap items-center gap-1.5 rounded-control bg-sunk p-2 text-small"
      onSubmit={(e) => {
        e.preventDefault();
        void put(profileId);
      }}
    >
      <Select
        aria-label="Profile for now"
        value={profileId}
        onChange={(chosen) => setProfileId(chosen)}
        compact
        className="min-w-0 flex-1"
      >
        <option value="">Choose…</option>
        {options(view.profiles.filter((p) => p.id !== person.dutyProfileId))}
      </Select>
      until <TimeField compact aria-label="Until" required value={until} onChange={(typed) => setUntil(typed)} />
      <Button small kind="primary" type="submit" disabled={profileId === ''}>
        Move
      </Button>
      <Button small kind="quiet" onClick={() => setOpen(false)}>
        Cancel
      </Button>
    </form>
  );
}
