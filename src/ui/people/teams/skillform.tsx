'use client';

import { Link } from '../../kit/link';
import { useState } from 'react';
import { toast } from 'sonner';
import { SKILL_KINDS } from '@/core/people/levels';
import type { PeopleView } from '@/services/people/peopleview';
import type { SkillDetail } from '@/services/people/teamsview';
import { sentence, setting } from '../../kit/call';
import { FormFoot } from '../../kit/editform';
import { Field, Input } from '../../kit/field';
import { useLive } from '../../kit/live';
import { Looking } from '../../kit/looking';
import { Pill } from '../../kit/panel';
import { options, Select } from '../../kit/select';
import { CellInk } from '../matrix/cellink';
import { RemoveButton } from '../../removing/removebutton';
import { type FormProps, useThing } from './thing';

export function SkillForm({ view, skill, onDone }: FormProps & { skill: SkillDetail | null }) {
  const [name, setName] = useState(skill?.name ?? '');
  const [kind, setKind] = useState<string>(skill?.kind ?? 'task');
  const { busy, faults, save, conflict } = useThing(
    'skill',
    'save-skill',
    skill?.id ?? null,
    view,
    (v) => v.skills.find((s) => s.id === skill?.id),
    onDone,
  );
  const off = !view.mayChange;
  const submit = async () => {
    const done = await save(
      { id: skill?.id ?? null, revision: skill?.revision ?? 0, name: name.trim(), kind },
      `${name} saved.`,
    );
    if (done) onDone(done.id);
  };
  return (
    <>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        {conflict}
        <div className="flex items-center gap-2">
          <h1 className="text-title">{skill?.name ?? 'New skill'}</h1>
          {skill && (
            <Pill>{skill.usedBy.length === 0 ? 'no queue needs it' : `needed by ${skill.usedBy.join(', ')}`}</Pill>
          )}
        </div>
        <div className="mt-3 grid max-w-xl grid-cols-2 gap-3">
          <Field label="Name" fault={faults.name}>
            {(p) => <Input {...p} required disabled={off} value={name} onChange={(e) => setName(e.target.value)} />}
          </Field>
          <Field label="Kind">
            {(p) => (
              <Select {...p} disabled={off} value={kind} onChange={(chosen) => setKind(chosen)}>
                {options(SKILL_KINDS)}
              </Select>
            )}
          </Field>
        </div>
        <FormFoot mayChange={view.mayChange} isNew={!skill} busy={busy}>
          {skill && <RemoveButton kind="skill" id={skill.id} name={skill.name} onRemoved={() => onDone(null)} />}
        </FormFoot>
      </form>
      {skill && skill.ends.length > 0 && (
        <>
          <h2 className="mt-4 text-panel">Ends</h2>
          <ul className="mt-1 max-w-md">
            {skill.ends.map((e) => (
              <li key={e.personId} className="flex border-b border-rule py-1 text-small">
                <Link className="flex-1 underline" href={`/people?person=${e.personId}`}>
                  {e.name}
                </Link>
                <span className="text-ink-2">last day {e.until}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {skill && <Holders skillId={skill.id} />}
    </>
  );
}

/** Who has a skill at what level, set here for anybody. */
function Holders({ skillId }: { skillId: string }) {
  const { data, error, refetch } = useLive<PeopleView>('/api/read/people', ['settings.changed']);
  if (!data) return <Looking error={error} onAgain={refetch} what="Looking who has it…" />;
  const put = (personId: string, value: string) => {
    setting('set-levels', {
      changes: [{ personId, skillId, level: value === 'never' ? 'never' : Number(value) }],
    }).catch((error: unknown) => toast.error(sentence(error)));
  };
  const people = data.people
    .filter((p) => p.active)
    .sort((a, b) => (b.cells[skillId]?.level ?? -1) - (a.cells[skillId]?.level ?? -1) || a.name.localeCompare(b.name));
  return (
    <>
      <h2 className="mt-4 text-panel">
        People{' '}
        <span className="font-body text-small font-normal text-ink-2">
          {people.filter((p) => (p.cells[skillId]?.level ?? 0) > 0).length} have it
        </span>
      </h2>
      <ul className="mt-1 grid grid-cols-2 gap-x-6 xl:grid-cols-3">
        {people.map((p) => {
          const cell = p.cells[skillId];
          return (
            <li key={p.id} className="flex items-center gap-2 border-b border-rule py-1 text-small">
              <span className="w-9">
                <CellInk cell={cell} />
              </span>
              <Link className="min-w-0 flex-1 truncate" href={`/people?person=${p.id}`}>
                {p.name}
              </Link>
              <Select
                aria-label={`${p.name}: own level`}
                disabled={!p.mayChange}
                value={cell?.from === 'own' ? cell.level : cell?.from === 'never' ? 'never' : 0}
                onChange={(chosen) => put(p.id, chosen)}
                compact
              >
                <option value={0}>not set</option>
                {options([1, 2, 3, 4, 5])}
                <option value="never">never</option>
              </Select>
            </li>
          );
        })}
      </ul>
    </>
  );
}
