'use client';

import { clsx } from 'clsx';
import { Link } from '../../kit/link';
import { useState } from 'react';
import type { PeopleView, PersonLine, StandingLine } from '@/services/people/peopleview';
import { Button } from '../../kit/button';
import { initials } from '../../kit/figures';
import { Empty, Panel, SidePanel } from '../../kit/panel';
import { StatePill } from '../../kit/statepill';
import { LevelList } from './levellist';
import { Now } from './now';
import { PersonForm } from './personform';
import { SwitchOff, switchPerson } from './switchoff';
import { Ways } from './ways';

/**
 * The chosen person: can a contact reach them, what they hold now, what they take in which order, and their settings.
 */
export function PersonPanel({
  view,
  standing,
  person,
  adding,
  onSaved,
}: {
  view: PeopleView;
  standing: StandingLine | null;
  person: PersonLine | null;
  adding: boolean;
  onSaved: (id: string) => void;
}) {
  const [editing, setEditing] = useState(adding);
  const [part, setPart] = useState<'now' | 'levels' | 'reach'>('now');
  const [leaving, setLeaving] = useState(false);
  if (!person && !adding)
    return (
      <Panel>
        <Empty title="Nobody chosen">Choose a person to see what they can take.</Empty>
      </Panel>
    );
  if (!person || editing) {
    return (
      <SidePanel label={person ? person.name : 'New person'}>
        <PersonForm
          view={view}
          person={person}
          onDone={(id) => {
            setEditing(false);
            if (id) onSaved(id);
          }}
        />
      </SidePanel>
    );
  }
  const parts = [
    ['now', 'Now'],
    ['levels', 'Levels'],
    ['reach', 'Ways'],
  ] as const;
  return (
    <SidePanel label={person.name}>
      <div className="mb-2 flex items-center gap-3">
        <span className="flex size-9 shrink-0 items-center justify-center rounded-full bg-mark-messaging font-semibold text-mark-ink">
          {initials(person.name)}
        </span>
        <div className="min-w-0 flex-1">
          <h2 className="truncate text-panel">{person.name}</h2>
          <p className="truncate text-small text-ink-2">
            {view.teams.find((t) => t.id === person.teamId)?.name ?? 'another team'}
            {person.alsoTeamIds.length > 0 && ` +${person.alsoTeamIds.length}`} · {person.roleName}
          </p>
        </div>
        {standing && (
          <StatePill
            duty={standing.duty}
            reason={standing.reason}
            reachable={standing.reachable}
            open={standing.open}
          />
        )}
      </div>
      <div role="tablist" aria-label="About this person" className="mb-3 flex gap-1 border-b border-rule">
        {parts.map(([id, name]) => (
          <button
            key={id}
            type="button"
            role="tab"
            aria-selected={part === id}
            onClick={() => setPart(id)}
            className={clsx(
              '-mb-px border-b-2 px-2.5 py-1 text-small font-medium',
              part === id ? 'border-plum text-plum' : 'border-transparent text-ink-2',
            )}
          >
            {name}
          </button>
        ))}
      </div>
      {part === 'now' && (
        <Now view={view} person={person} standing={standing} onEdit={() => setEditing(true)} onPart={setPart} />
      )}
      {part === 'levels' && <LevelList view={view} person={person} />}
      {part === 'reach' && <Ways person={person} />}
      <div className="mt-3 flex flex-wrap gap-x-2.5 gap-y-2 border-t border-rule pt-3">
        {person.mayChange && (
          <Button small onClick={() => setEditing(true)}>
            Change
          </Button>
        )}
        {person.mayChange &&
          person.roleId !== 'owner' &&
          !person.above &&
          (person.active ? (
            <Button small onClick={() => setLeaving(true)}>
              Switch off
            </Button>
          ) : (
            <Button small onClick={() => void switchPerson(person, true)}>
              Switch on
            </Button>
          ))}
        <Link className="self-center text-small text-plum underline" href={`/people/roles?person=${person.id}`}>
          Access
        </Link>
        {view.maySeeHistory && (
          <Link className="self-center text-small text-plum underline" href={`/history?thing=${person.id}`}>
            History
          </Link>
        )}
      </div>
      {leaving && <SwitchOff person={person} open={standing?.open.length ?? 0} onClose={() => setLeaving(false)} />}
    </SidePanel>
  );
}
