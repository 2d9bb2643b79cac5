'use client';

import type { PeopleAsked } from '@/core/bots/conditions';
import { Select } from '../../kit/select';
import { useAround } from './around';
import { HorizonInput } from './horizoninput';

/** Stands for the question about people among what a condition can ask. */
export const PEOPLE = 'people';

const ANYWHERE = 'anywhere';
const placeKey = ({ who, place }: PeopleAsked): string =>
  who === 'last' ? 'last' : place ? `${place.kind} ${place.id}` : ANYWHERE;

/** “How many people, in …, are …”: one question, whoever is meant and wherever they are. */
export function PeopleQuestion({
  label,
  row,
  asked,
  onChange,
}: {
  label: string;
  row: number;
  asked: PeopleAsked;
  onChange: (asked: PeopleAsked) => void;
}) {
  const { view } = useAround();
  const inQueue = asked.place?.kind === 'queue';
  const known = (kind: 'queue' | 'team', id: string) =>
    (kind === 'queue' ? view.queues : view.teams).some((t) => t.id === id);
  const gone = asked.place && asked.place.kind !== 'hours' && !known(asked.place.kind, asked.place.id);
  return (
    <>
      <Select
        aria-label={`${label}: which people, ${row}`}
        className="!w-36 !py-1 text-small"
        value={placeKey(asked)}
        onChange={(chosen) => {
          const [kind, id = ''] = chosen.split(' ');
          if (chosen === 'last') onChange({ ...asked, who: 'last', place: null });
          else if (kind === 'queue' || kind === 'team') onChange({ ...asked, who: 'all', place: { kind, id } });
          else onChange({ ...asked, who: 'all', place: null });
        }}
      >
        <option value={ANYWHERE}>anywhere</option>
        <option value="last">who dealt with them last</option>
        {gone && <option value={placeKey(asked)}>in something that is gone</option>}
        <optgroup label="In a queue">
          {view.queues.map((q) => (
            <option key={q.id} value={`queue ${q.id}`}>
              in {q.name}
            </option>
          ))}
        </optgroup>
        <optgroup label="In a team">
          {view.teams.map((t) => (
            <option key={t.id} value={`team ${t.id}`}>
              in {t.name}
            </option>
          ))}
        </optgroup>
      </Select>
      <Select
        aria-label={`${label}: are what, ${row}`}
        className="!w-32 !py-1 text-small"
        value={asked.are}
        onChange={(chosen) => {
          if (chosen === 'onDuty' || chosen === 'free' || chosen === 'able') onChange({ ...asked, are: chosen });
        }}
      >
        <option value="onDuty">are on duty</option>
        <option value="free">are free</option>
        {inQueue && <option value="able">could take it</option>}
      </Select>
      {inQueue && (
        <HorizonInput
          label={`${label}: until when, ${row}`}
          within={asked.within}
          onChange={(within) => onChange({ ...asked, within })}
        />
      )}
    </>
  );
}
