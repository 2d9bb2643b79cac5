'use client';

import {
  type Condition,
  conditionFrom,
  type ConditionRow,
  conditionSentence,
  countsPeople,
  FIGURE_WORDS,
  type Operator,
  OPERATOR_WORDS,
  OPERATORS,
  rowsFrom,
  peopleAsked,
  peopleSubject,
  subjectName,
  SUBJECTS,
  subjectThing,
  thingSubject,
} from '@/core/bots/conditions';
import { FIGURES } from '@/core/bots/model';
import type { Value as Compared } from '@/core/bots/value';
import { CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import { languageName } from '@/core/localised';
import { Button } from '../../kit/button';
import { Input } from '../../kit/field';
import { options, Select } from '../../kit/select';
import { useAround, valuesKnown } from './around';
import { PEOPLE, PeopleQuestion } from './peoplequestion';

type Type = 'text' | 'number' | 'yes-no';
const typeOf = (subject: string): Type => {
  const thing = subjectThing(subject);
  if (peopleAsked(subject)) return 'number';
  if (thing) return thing.kind === 'hours' ? 'yes-no' : 'number';
  return SUBJECTS.find((s) => s.subject === subject)?.type ?? 'text';
};
const BY_TYPE: Readonly<Record<Type, readonly Operator[]>> = {
  'yes-no': ['is'],
  number: ['is', 'is-not', 'more', 'at-least', 'less', 'at-most', 'is-set', 'is-not-set'],
  text: OPERATORS,
};
const first = (type: Type): Compared => (type === 'yes-no' ? true : type === 'number' ? 0 : '');

export function useThingNames(): (id: string) => string {
  const { view } = useAround();
  return (id) =>
    [...view.queues, ...view.teams, ...view.hours].find((t) => t.id === id)?.name ?? 'something that is gone';
}

/** A condition built by clicking: rows of what is compared with what, all or any of which must hold. */
export function ConditionRows({
  label,
  when,
  onChange,
}: {
  label: string;
  when: Condition;
  onChange: (when: Condition) => void;
}) {
  const around = useAround();
  const nameOf = useThingNames();
  const rows = rowsFrom(when) ?? { join: 'all' as const, rows: [] };
  const set = (next: readonly ConditionRow[], join = rows.join) => {
    if (next.length > 0) onChange(conditionFrom({ join, rows: next }));
  };
  const setRow = (index: number, change: Partial<ConditionRow>) =>
    set(rows.rows.map((r, i) => (i === index ? { ...r, ...change } : r)));
  const values = valuesKnown(around);
  return (
    <div className="flex flex-col gap-1">
      {rows.rows.map((row, i) => {
        const type = typeOf(row.subject);
        const thing = subjectThing(row.subject);
        const people = peopleAsked(row.subject);
        const known = row.subject.startsWith('values.') && !values.some((v) => `values.${v.name}` === row.subject);
        return (
          <div key={i} className="flex flex-wrap items-center gap-1.5">
            <span className="w-6 text-small text-ink-2">{i === 0 ? 'if' : rows.join === 'all' ? 'and' : 'or'}</span>
            <Select
              aria-label={`${label}: what, ${i + 1}`}
              className="!w-36 !py-1 text-small"
              value={people ? PEOPLE : thing ? thingSubject({ ...thing, within: null }) : row.subject}
              onChange={(chosen) => {
                if (chosen === PEOPLE)
                  return void (people || setRow(i, { subject: 'people.all.free', operator: 'at-least', value: 1 }));
                const to = typeOf(chosen);
                setRow(i, { subject: chosen, ...(to === type ? {} : { operator: 'is', value: first(to) }) });
              }}
            >
              <option value={PEOPLE}>how many people …</option>
              {known && <option value={row.subject}>{subjectName(row.subject, nameOf)}</option>}
              <optgroup label="Values">
                {values.map((v) => (
                  <option key={v.name} value={`values.${v.name}`}>
                    {v.name}
                  </option>
                ))}
              </optgroup>
              <optgroup label="Conversation and customer">
                {SUBJECTS.map((s) => (
                  <option key={s.subject} value={s.subject}>
                    {s.label}
                  </option>
                ))}
              </optgroup>
              <optgroup label="Hours">
                {around.view.hours.map((h) => (
                  <option key={h.id} value={`hours.${h.id}.open`}>
                    {h.name} is open
                  </option>
                ))}
              </optgroup>
              {around.view.queues.map((q) => (
                <optgroup key={q.id} label={q.name}>
                  {FIGURES.filter((f) => !countsPeople(f)).map((f) => (
                    <option key={f} value={`queue.${q.id}.${f}`}>
                      {FIGURE_WORDS[f]} in {q.name}
                    </option>
                  ))}
                </optgroup>
              ))}
            </Select>
            {people && (
              <PeopleQuestion
                label={label}
                row={i + 1}
                asked={people}
                onChange={(next) => setRow(i, { subject: peopleSubject(next) })}
              />
            )}
            {type !== 'yes-no' && (
              <Select
                aria-label={`${label}: comparison, ${i + 1}`}
                className="!w-28 !py-1 text-small"
                value={row.operator}
                onChange={(chosen) => {
                  const op = OPERATORS.find((o) => o === chosen);
                  if (op) setRow(i, { operator: op });
                }}
              >
                {options(BY_TYPE[type], (o) => OPERATOR_WORDS[o])}
              </Select>
            )}
            {row.operator !== 'is-set' && row.operator !== 'is-not-set' && (
              <Compared
                label={`${label}: with, ${i + 1}`}
                subject={row.subject}
                type={type}
                value={row.value}
                languages={around.view.languages}
                onChange={(value) => setRow(i, { value })}
              />
            )}
            {rows.rows.length > 1 && (
              <Button
                small
                kind="quiet"
                aria-label={`${label}: take row ${i + 1} out`}
                onClick={() => set(rows.rows.filter((_, j) => j !== i))}
              >
                ×
              </Button>
            )}
          </div>
        );
      })}
      <div className="flex items-center gap-1.5 pl-6">
        <Button
          small
          kind="quiet"
          onClick={() =>
            set([
              ...rows.rows,
              {
                subject: rows.rows[0]?.subject ?? 'channel',
                operator: 'is',
                value: first(typeOf(rows.rows[0]?.subject ?? 'channel')),
              },
            ])
          }
        >
          and, or…
        </Button>
        {rows.rows.length > 1 && (
          <Select
            aria-label={`${label}: all or any`}
            className="!w-36 !py-0.5 text-tiny"
            value={rows.join}
            onChange={(chosen) => set(rows.rows, chosen === 'any' ? 'any' : 'all')}
          >
            <option value="all">all must hold</option>
            <option value="any">any is enough</option>
          </Select>
        )}
        <span className="text-tiny text-ink-3">{conditionSentence(when, nameOf)}</span>
      </div>
    </div>
  );
}

function Compared({
  label,
  subject,
  type,
  value,
  languages,
  onChange,
}: {
  label: string;
  subject: string;
  type: Type;
  value: Compared;
  languages: readonly string[];
  onChange: (value: Compared) => void;
}) {
  if (type === 'yes-no')
    return (
      <Select
        aria-label={label}
        className="!w-24 !py-1 text-small"
        value={String(value)}
        onChange={(chosen) => onChange(chosen === 'true')}
      >
        <option value="true">yes</option>
        <option value="false">no</option>
      </Select>
    );
  if (subject === 'channel')
    return (
      <Select
        aria-label={label}
        className="!w-28 !py-1 text-small"
        value={String(value)}
        onChange={(chosen) => onChange(chosen)}
      >
        {!CHANNELS.some((c) => c === value) && <option value={String(value)}>choose</option>}
        {options(CHANNELS, (c) => CHANNEL_NAMES[c].name)}
      </Select>
    );
  if (subject === 'language')
    return (
      <Select
        aria-label={label}
        className="!w-28 !py-1 text-small"
        value={String(value)}
        onChange={(chosen) => onChange(chosen)}
      >
        {!languages.some((l) => l === value) && <option value={String(value)}>choose</option>}
        {options(languages, languageName)}
      </Select>
    );
  if (type === 'number')
    return (
      <Input
        aria-label={label}
        type="number"
        className="!w-14 !py-1 text-right text-small"
        value={Number(value)}
        onChange={(e) => {
          if (!Number.isNaN(e.target.valueAsNumber)) onChange(e.target.valueAsNumber);
        }}
      />
    );
  if (subject === 'date' || subject === 'time')
    return (
      <Input
        aria-label={label}
        type={subject}
        className="!w-28 !py-1 text-small"
        value={String(value)}
        onChange={(e) => onChange(e.target.value)}
      />
    );
  // A number typed is meant as one: "0" and 0 are the same to whoever writes it.
  return (
    <Input
      aria-label={label}
      className="!w-28 !py-1 text-small"
      maxLength={200}
      value={String(value)}
      onChange={(e) =>
        onChange(
          /^-?\d{1,9}$/.test(e.target.value) && String(Number(e.target.value)) === e.target.value
            ? Number(e.target.value)
            : e.target.value,
        )
      }
    />
  );
}
