'use client';

import { clsx } from 'clsx';
import { Fragment, useRef, useState, type KeyboardEvent } from 'react';
import type { PeopleView, PersonLine } from '@/services/people';
import { StatePill } from './statepill';

const INK = ['', 'bg-level-1 text-on-level', 'bg-level-2 text-on-level', 'bg-level-3 text-on-level', 'bg-level-4 text-mark-ink', 'bg-level-5 text-mark-ink'];

/** Levels as ink: a grid with one cell in the tab order; arrows move, digits set, 0 clears, Enter opens the person. */
export function SkillsMatrix({ view, people, chosen, onChoose, onLevel, onUndo }: {
  view: PeopleView; people: readonly PersonLine[]; chosen: string | null; onChoose: (id: string) => void;
  onLevel: (change: { personId: string; skillId: string; level: number }) => void; onUndo: () => void;
}) {
  const [at, setAt] = useState({ row: 0, column: 0 });
  const grid = useRef<HTMLTableElement>(null);
  const groups = view.teams.map((team) => ({ team, members: people.filter((p) => p.teamId === team.id) })).filter((g) => g.members.length > 0);
  const ordered = groups.flatMap((g) => g.members);
  const focus = (row: number, column: number) => {
    const r = Math.min(Math.max(row, 0), ordered.length - 1);
    const c = Math.min(Math.max(column, 0), view.skills.length - 1);
    setAt({ row: r, column: c });
    grid.current?.querySelector<HTMLElement>(`[data-cell="${r}-${c}"]`)?.focus();
  };
  const press = (event: KeyboardEvent, person: PersonLine, skillId: string, row: number, column: number) => {
    const moves: Record<string, [number, number]> = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1], PageUp: [-10, 0], PageDown: [10, 0] };
    const move = moves[event.key];
    if (move) { event.preventDefault(); focus(row + move[0], column + move[1]); }
    else if (event.key === 'Home') { event.preventDefault(); focus(row, 0); }
    else if (event.key === 'End') { event.preventDefault(); focus(row, view.skills.length - 1); }
    else if (/^[0-5]$/.test(event.key) && person.mayChange) { event.preventDefault(); onLevel({ personId: person.id, skillId, level: Number(event.key) }); }
    else if (event.key.toLowerCase() === 'z' && (event.ctrlKey || event.metaKey)) { event.preventDefault(); onUndo(); }
    else if (event.key === 'Enter') { event.preventDefault(); onChoose(person.id); }
  };
  if (ordered.length === 0) return <p className="py-10 text-center text-ink-2">Nobody matches. Clear the name or the team.</p>;
  return (
    <table ref={grid} role="grid" aria-label="Skill levels" className="w-full border-separate border-spacing-0">
      <thead className="sticky top-0 z-10 bg-sheet">
        <tr>
          <th scope="col" className="w-44 border-b border-rule pb-1 text-left align-bottom text-small font-medium text-ink-2">Person</th><th scope="col" className="w-24 border-b border-rule pb-1 text-left align-bottom text-small font-medium text-ink-2">State</th>
          {view.skills.map((s) => <th key={s.id} scope="col" className="h-[86px] w-[38px] min-w-[38px] border-b border-rule align-bottom"><span className="block w-[38px] origin-bottom-left translate-x-[20px] -rotate-45 pb-1 text-left text-tiny font-medium whitespace-nowrap text-ink-2">{s.name}</span></th>)}
          <th aria-hidden className="min-w-10 border-b border-rule" />
        </tr>
      </thead>
      <tbody>
        {groups.map(({ team, members }) => (
          <Fragment key={team.id}>
            <tr className="bg-sunk"><th scope="rowgroup" colSpan={2} className="px-2 py-1 text-left text-small font-semibold">{team.name} <span className="font-normal text-ink-2">· {members.length} shown</span></th>
              {view.skills.map((s) => { const n = members.filter((p) => p.levels[s.id]).length; return <td key={s.id} className="text-center text-small text-ink-2">{n === 0 ? '–' : n}</td>; })}<td /></tr>
            {members.map((person) => {
              const row = ordered.indexOf(person);
              return (
                <tr key={person.id} className={clsx(chosen === person.id ? 'bg-chosen' : 'hover:bg-sunk/40')}>
                  <th scope="row" className="max-w-44 truncate border-b border-rule px-2 text-left font-normal"><button type="button" tabIndex={-1} onClick={() => onChoose(person.id)} className="max-w-full truncate">{person.name}</button></th>
                  <td className="border-b border-rule"><StatePill duty={person.duty} reason={person.dutyReason} reachable={person.reachable} open={person.open} /></td>
                  {view.skills.map((s, column) => {
                    const level = person.levels[s.id];
                    return (
                      <td key={s.id} role="gridcell" data-cell={`${row}-${column}`} tabIndex={at.row === row && at.column === column ? 0 : -1} aria-readonly={!person.mayChange}
                        aria-label={`${person.name}, ${s.name}: ${level ? `level ${level.level}, ${level.from === 'own' ? 'set on the person' : 'from the team'}` : 'none'}`}
                        onClick={() => focus(row, column)} onKeyDown={(e) => press(e, person, s.id, row, column)} className="cursor-cell border-b border-rule p-[3px] text-center">
                        <span className={clsx('mx-auto flex h-[24px] w-[30px] items-center justify-center rounded-[6px] text-small font-bold', level?.from === 'own' && INK[level.level], level?.from === 'team' && 'border border-dashed border-level-team text-plum')}>{level?.level ?? ''}</span>
                      </td>
                    );
                  })}
                  <td className="border-b border-rule" />
                </tr>
              );
            })}
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}
