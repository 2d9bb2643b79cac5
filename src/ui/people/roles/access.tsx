'use client';

import { Link } from '../../kit/link';
import type { AccessView } from '@/services/people/roles';
import { useLive } from '../../kit/live';
import { Looking } from '../../kit/looking';

export function Access({ personId }: { personId: string }) {
  const { data, error, refetch } = useLive<AccessView>(`/api/read/access?id=${personId}`, ['settings.changed']);
  if (!data) return <Looking error={error} onAgain={refetch} />;
  const list = (names: readonly string[] | 'all', none: string) =>
    names === 'all' ? 'all of them' : names.length === 0 ? none : names.join(', ');
  return (
    <div className="mt-3 text-small">
      <p>
        <Link className="font-semibold underline" href={`/people?person=${data.personId}`}>
          {data.name}
        </Link>{' '}
        is {data.role}
        {!data.active && ', switched off'}.
      </p>
      <h3 className="mt-3">Can</h3>
      <ul>
        {data.can.map((c) => (
          <li key={c} className="py-px">
            <span className="mr-1.5 text-moss" aria-hidden>
              ✓
            </span>
            {c}
          </li>
        ))}
        {data.can.length === 0 && <li className="text-ink-2">nothing</li>}
      </ul>
      <h3 className="mt-3">Sees</h3>
      <p className="text-ink-2">
        {data.people} of {data.of} people · teams: {list(data.teams, 'none')} · queues: {list(data.queues, 'none')}
      </p>
      {data.cannot.length > 0 && (
        <>
          <h3 className="mt-3">Cannot</h3>
          <ul className="text-ink-2">
            {data.cannot.map((c) => (
              <li key={c} className="py-px">
                <span className="mr-1.5" aria-hidden>
                  –
                </span>
                {c}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
