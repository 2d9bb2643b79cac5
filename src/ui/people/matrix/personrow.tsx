'use client';

import { clsx } from 'clsx';
import { memo, type RefObject } from 'react';
import type { PeopleView, PersonLine, StandingLine } from '@/services/people/peopleview';
import { StatePill } from '../../kit/statepill';
import { CellInk } from './cellink';
import { COLUMN, LEFT, ROW, saysCell, x } from './sizes';

export type RowActs = {
  go: (row: number, column: number, extend: boolean) => void;
  over: (row: number, column: number) => void;
  focused: (row: number, column: number) => void;
  choose: (id: string) => void;
};

/**
 * One person's line, drawn anew only when something in it changed. `columns` are the numbers of the columns in sight.
 */
export const PersonRow = memo(function PersonRow({
  person,
  row,
  index,
  top,
  width,
  day,
  chosen,
  skills,
  columns,
  focusColumn,
  pickFrom,
  pickTo,
  acts,
}: {
  person: PersonLine;
  row: number;
  index: number;
  top: number;
  width: number;
  day: StandingLine | undefined;
  chosen: boolean;
  skills: PeopleView['skills'];
  columns: string;
  focusColumn: number;
  pickFrom: number;
  pickTo: number;
  acts: RefObject<RowActs>;
}) {
  const tint = chosen ? 'bg-chosen' : 'bg-sheet';
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      className={clsx('absolute left-0 border-b border-rule [contain:layout_style]', tint, focusColumn >= 0 && 'z-[4]')}
      style={{ top, height: ROW, width }}
    >
      <div className={clsx('sticky left-0 z-[5] flex h-full items-center', tint)} style={{ width: LEFT }}>
        <span role="rowheader" className="flex w-40 items-center gap-1 px-2">
          <button
            type="button"
            tabIndex={-1}
            onClick={() => acts.current.choose(person.id)}
            className="min-w-0 truncate"
          >
            {person.name}
          </button>
          {person.stop && person.meant && (
            <span
              title={`No contact can reach them: ${person.stop}`}
              className="rounded-full bg-clay-wash px-1 text-tiny font-bold text-clay"
            >
              !
            </span>
          )}
        </span>
        <span role="gridcell">
          {day && <StatePill duty={day.duty} reason={day.reason} reachable={day.reachable} open={day.open} />}
        </span>
      </div>
      {columns
        .split(',')
        .map(Number)
        .map((column) => {
          const skill = skills[column];
          if (!skill) return null;
          const cell = person.cells[skill.id];
          const here = focusColumn === column;
          const picked = column >= pickFrom && column <= pickTo && pickFrom >= 0;
          const says = saysCell(cell);
          return (
            <div
              key={skill.id}
              role="gridcell"
              data-cell={`${row}-${column}`}
              tabIndex={here ? 0 : -1}
              aria-readonly={!person.mayChange}
              aria-selected={picked || here}
              aria-colindex={column + 3}
              aria-label={`${person.name}, ${skill.name}: ${says}`}
              title={cell ? says : undefined}
              onMouseDown={(e) => {
                if (e.shiftKey) e.preventDefault();
                acts.current.go(row, column, e.shiftKey);
              }}
              onMouseEnter={(e) => {
                if (e.buttons === 1) acts.current.over(row, column);
              }}
              onFocus={() => acts.current.focused(row, column)}
              className={clsx(
                'absolute top-0 flex h-full cursor-cell items-center justify-center select-none focus:z-[3]',
                picked && 'bg-lamp/40',
              )}
              style={{ left: x(column), width: COLUMN }}
            >
              <CellInk cell={cell} />
            </div>
          );
        })}
    </div>
  );
});
