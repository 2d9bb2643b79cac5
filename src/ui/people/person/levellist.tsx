'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { PeopleView, PersonLine, PersonView } from '@/services/people/peopleview';
import { sentence, setting } from '../../kit/call';
import { DateField } from '../../kit/datefield';
import { useLive } from '../../kit/live';
import { Looking } from '../../kit/looking';
import { options, Select } from '../../kit/select';
import { CellInk } from '../matrix/cellink';

const LEVELS = [
  ['0', 'not set'],
  ['1', '1'],
  ['2', '2'],
  ['3', '3'],
  ['4', '4'],
  ['5', '5'],
  ['never', 'never'],
] as const;

/** Each of a person's levels in a sentence, with its own level, last day and note to set. */
export function LevelList({ view, person }: { view: PeopleView; person: PersonLine }) {
  const { data, error, refetch } = useLive<PersonView>(`/api/read/person?id=${person.id}`, ['settings.changed']);
  const [adding, setAdding] = useState('');
  const put = (skillId: string, level: string, until: string | null, note: string) =>
    setting('set-levels', {
      changes: [
        {
          personId: person.id,
          skillId,
          level: level === 'never' ? 'never' : Number(level),
          until: level === '0' ? null : until,
          note,
        },
      ],
    }).then(
      () => undefined,
      (error: unknown) => void toast.error(sentence(error)),
    );
  if (!data) return <Looking error={error} onAgain={refetch} />;
  const rest = view.skills.filter((s) => !data.levels.some((l) => l.skillId === s.id));
  return (
    <>
      {data.levels.length === 0 && <p className="text-small text-ink-2">No skill yet, own or given.</p>}
      <ul className="divide-y divide-rule">
        {data.levels.map((l) => (
          <li key={l.skillId} className="py-2">
            <div className="flex items-center gap-2">
              <CellInk cell={person.cells[l.skillId]} />
              <b className="min-w-0 flex-1 truncate text-small">{l.name}</b>
              <Select
                aria-label={`${l.name}: own level`}
                disabled={!person.mayChange}
                compact
                value={String(l.own?.level ?? 0)}
                onChange={(chosen) => void put(l.skillId, chosen, l.own?.until ?? null, l.own?.note ?? '')}
              >
                {LEVELS.map(([v, n]) => (
                  <option key={v} value={v}>
                    {n}
                  </option>
                ))}
              </Select>
            </div>
            <p className="mt-0.5 text-tiny text-ink-2">{l.sentence}</p>
            {l.own && person.mayChange && (
              <div className="mt-1 flex items-center gap-1.5 text-tiny text-ink-2">
                <label className="flex items-center gap-1">
                  last day{' '}
                  <DateField
                    compact
                    aria-label={`${l.name}: last day`}
                    value={l.own.until ?? ''}
                    onChange={(typed) =>
                      void put(l.skillId, String(l.own?.level ?? 0), typed === '' ? null : typed, l.own?.note ?? '')
                    }
                    className="!w-36"
                  />
                </label>
                <input
                  aria-label={`${l.name}: note`}
                  placeholder="note"
                  maxLength={200}
                  defaultValue={l.own.note}
                  onBlur={(e) => {
                    if (e.target.value.trim() !== l.own?.note)
                      void put(l.skillId, String(l.own?.level ?? 0), l.own?.until ?? null, e.target.value.trim());
                  }}
                  className="min-w-0 flex-1 rounded-control border border-rule-strong bg-sheet px-1 py-0.5"
                />
              </div>
            )}
          </li>
        ))}
      </ul>
      {person.mayChange && rest.length > 0 && (
        <div className="mt-2 flex gap-1.5">
          <Select
            aria-label="Give another skill"
            className="!py-1 text-small"
            value={adding}
            onChange={(chosen) => {
              setAdding('');
              if (chosen) void put(chosen, '1', null, '');
            }}
          >
            <option value="">Give another skill…</option>
            {options(rest)}
          </Select>
        </div>
      )}
    </>
  );
}
