'use client';

import { type Range, useVirtualizer } from '@tanstack/react-virtual';
import { clsx } from 'clsx';
import { type ClipboardEvent, type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { isLevel } from '@/core/people/levels';
import type { PeopleView, PersonLine, StandingLine } from '@/services/people/peopleview';
import { Foot } from './foot';
import {
  type At,
  blockOf,
  copyText,
  fillBlock,
  fillDown,
  linesOf,
  pasteBlock,
  type SetLevel,
  sizeOf,
  type Sort,
} from './matrixgrid';
import { PersonRow, type RowActs } from './personrow';
import { COLUMN, FOOT, HEAD, LEFT, ROW, saysCell, x } from './sizes';

/** Rows and columns drawn beside those in sight, so that the cell with the focus never goes. */
const keeping =
  (also: number, count: number) =>
  ({ startIndex, endIndex, overscan }: Range): number[] => {
    const from = Math.max(0, startIndex - overscan);
    const to = Math.min(count - 1, endIndex + overscan);
    const shown = Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i);
    return also >= 0 && also < count && (also < from || also > to) ? [...shown, also].sort((a, b) => a - b) : shown;
  };

/**
 * Levels as ink, for any number of people and skills. One cell has the focus; Shift makes a block; digits set, 0
 * clears, N says never; Ctrl C, V and D copy, paste and fill down; Ctrl Z and Y undo and redo.
 */
export function SkillsMatrix({
  view,
  standings,
  people,
  grouped,
  chosen,
  onChoose,
  onLevels,
  onUndo,
  onRedo,
}: {
  view: PeopleView;
  standings: ReadonlyMap<string, StandingLine>;
  people: readonly PersonLine[];
  grouped: boolean;
  chosen: string | null;
  onChoose: (id: string) => void;
  onLevels: (changes: readonly SetLevel[]) => void;
  onUndo: () => void;
  onRedo: () => void;
}) {
  const [sort, setSort] = useState<Sort>({ by: 'name' });
  const [at, setAt] = useState<At>({ row: 0, column: 0 });
  const [anchor, setAnchor] = useState<At>({ row: 0, column: 0 });
  const [touched, setTouched] = useState(false);
  const scroller = useRef<HTMLDivElement>(null);
  const { lines, ordered } = useMemo(() => linesOf(view, people, grouped, sort), [view, people, grouped, sort]);
  const lineOfRow = useMemo(() => lines.flatMap((line, i) => (line.kind === 'person' ? [i] : [])), [lines]);
  const skills = view.skills;
  const block = blockOf(anchor, at);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 6,
    scrollMargin: HEAD,
    scrollPaddingStart: HEAD,
    scrollPaddingEnd: FOOT,
    rangeExtractor: keeping(lineOfRow[at.row] ?? -1, lines.length),
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: skills.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => COLUMN,
    overscan: 4,
    scrollMargin: LEFT,
    scrollPaddingStart: LEFT,
    rangeExtractor: keeping(at.column, skills.length),
  });
  const wantsFocus = useRef(false);
  useEffect(() => {
    if (!wantsFocus.current) return;
    wantsFocus.current = false;
    scroller.current
      ?.querySelector<HTMLElement>(`[data-cell="${at.row}-${at.column}"]`)
      ?.focus({ preventScroll: true });
  }, [at]);
  useEffect(() => {
    if (at.row >= ordered.length && ordered.length > 0) {
      setAt({ row: 0, column: 0 });
      setAnchor({ row: 0, column: 0 });
    }
  }, [ordered.length, at.row]);

  const go = (row: number, column: number, extend: boolean) => {
    const to = {
      row: Math.min(Math.max(row, 0), ordered.length - 1),
      column: Math.min(Math.max(column, 0), skills.length - 1),
    };
    wantsFocus.current = true;
    setAt(to);
    if (!extend) setAnchor(to);
    rows.scrollToIndex(lineOfRow[to.row] ?? 0);
    columns.scrollToIndex(to.column);
  };
  const fill = (level: SetLevel['level']) => {
    const changes = fillBlock(ordered, skills, block, level);
    if (changes.length > 0) onLevels(changes);
    else if (!ordered.slice(block.top, block.bottom + 1).some((p) => p.mayChange))
      toast.error('These people are not yours to change.');
  };
  const press = (event: KeyboardEvent) => {
    const moves: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageUp: [-12, 0],
      PageDown: [12, 0],
    };
    const move = moves[event.key];
    const mod = event.ctrlKey || event.metaKey;
    const key = event.key.toLowerCase();
    const done = (work: () => void) => {
      event.preventDefault();
      work();
    };
    if (move)
      done(() =>
        go(
          mod && move[0] !== 0 ? (move[0] < 0 ? 0 : ordered.length - 1) : at.row + move[0],
          at.column + move[1],
          event.shiftKey,
        ),
      );
    else if (event.key === 'Home') done(() => go(mod ? 0 : at.row, 0, event.shiftKey));
    else if (event.key === 'End') done(() => go(mod ? ordered.length - 1 : at.row, skills.length - 1, event.shiftKey));
    else if (mod && key === 'a')
      done(() => {
        setAnchor({ row: 0, column: 0 });
        setAt({ row: ordered.length - 1, column: skills.length - 1 });
      });
    else if (mod && (key === 'y' || (key === 'z' && event.shiftKey))) done(onRedo);
    else if (mod && key === 'z') done(onUndo);
    else if (mod && key === 'd')
      done(() => {
        const changes = fillDown(ordered, skills, block);
        if (changes.length > 0) onLevels(changes);
      });
    else if (mod) return;
    else if (/^[0-5]$/.test(event.key))
      done(() => {
        const n = Number(event.key);
        if (n === 0 || isLevel(n)) fill(n === 0 ? 0 : n);
      });
    else if (key === 'delete' || key === 'backspace') done(() => fill(0));
    else if (key === 'n') done(() => fill('never'));
    else if (event.key === 'Enter')
      done(() => {
        const person = ordered[at.row];
        if (person) onChoose(person.id);
      });
    else if (event.key === 'Escape') done(() => setAnchor(at));
  };
  const copy = (event: ClipboardEvent) => {
    event.preventDefault();
    event.clipboardData.setData('text/plain', copyText(ordered, skills, block));
    toast(`${sizeOf(block)} ${sizeOf(block) === 1 ? 'cell' : 'cells'} copied.`);
  };
  const paste = (event: ClipboardEvent) => {
    event.preventDefault();
    const {
      changes,
      odd,
      block: filled,
    } = pasteBlock(ordered, skills, block, event.clipboardData.getData('text/plain'));
    setAnchor({ row: filled.top, column: filled.left });
    setAt({ row: filled.bottom, column: filled.right });
    if (changes.length > 0) onLevels(changes);
    if (odd > 0)
      toast.error(
        `${odd} pasted ${odd === 1 ? 'value is no level and was' : 'values are no levels and were'} left ` +
          `out. Levels are 1 to 5, N or empty.`,
      );
    else if (changes.length === 0) toast('Nothing to change: these levels are there already.');
  };

  // Rows keep what they drew while others scroll by, so what they call must stay the same.
  const acts = useRef<RowActs>({
    go: () => undefined,
    over: () => undefined,
    focused: () => undefined,
    choose: () => undefined,
  });
  acts.current = {
    go,
    choose: onChoose,
    over: (row, column) => {
      setAt({ row, column });
      wantsFocus.current = true;
    },
    focused: (row, column) => {
      if (!wantsFocus.current && (at.row !== row || at.column !== column)) {
        setAt({ row, column });
        setAnchor({ row, column });
      }
    },
  };
  if (ordered.length === 0)
    return <p className="py-10 text-center text-ink-2">Nobody matches. Clear the filter to see everybody.</p>;
  const drawn = columns.getVirtualItems();
  // What was needed is the whole company's: it says nothing beside some of its people.
  const whole = view.everybody && people.length === view.people.filter((p) => p.active).length;
  const columnsKey = drawn.map((c) => c.index).join(',');
  const width = LEFT + skills.length * COLUMN + 60;
  return (
    <div
      ref={scroller}
      className="h-full overflow-auto"
      onFocus={() => setTouched(true)}
      onKeyDown={press}
      onCopy={copy}
      onPaste={paste}
    >
      <div
        role="grid"
        aria-label="Skill levels"
        aria-rowcount={lines.length + 2}
        aria-colcount={skills.length + 2}
        aria-multiselectable="true"
        className="relative"
        style={{ width, height: HEAD + lines.length * ROW + FOOT }}
      >
        <div
          role="row"
          aria-rowindex={1}
          className="sticky top-0 z-20 border-b border-rule bg-sheet"
          style={{ height: HEAD, width }}
        >
          <div
            className="sticky left-0 z-10 flex h-full items-end bg-sheet pb-1 text-small text-ink-2"
            style={{ width: LEFT }}
          >
            {touched && (
              <p aria-hidden className="absolute top-1 left-2 line-clamp-3 w-[220px] text-tiny">
                {sizeOf(block) > 1
                  ? `${sizeOf(block)} cells picked: type a level for all of them`
                  : `${ordered[at.row]?.name ?? ''}, ${skills[at.column]?.name ?? ''}: ` +
                    `${saysCell(ordered[at.row]?.cells[skills[at.column]?.id ?? ''])}`}
              </p>
            )}
            <span role="columnheader" className="w-40 px-2">
              <button
                type="button"
                className={clsx('font-medium', sort.by === 'name' && 'text-ink')}
                onClick={() => setSort({ by: 'name' })}
              >
                Person
              </button>
            </span>
            <span role="columnheader" className="font-medium">
              State
            </span>
          </div>
          {drawn.map(({ index }) => {
            const skill = skills[index];
            const sorted = sort.by === 'skill' && sort.skillId === skill?.id;
            return (
              skill && (
                <div
                  key={skill.id}
                  role="columnheader"
                  aria-sort={sorted ? 'descending' : 'none'}
                  className="absolute bottom-0"
                  style={{ left: x(index), width: COLUMN, height: HEAD }}
                >
                  <button
                    type="button"
                    title={`${skill.name}: sort by level`}
                    onClick={() => setSort(sorted ? { by: 'name' } : { by: 'skill', skillId: skill.id })}
                    className={clsx(
                      'absolute bottom-1.5 left-[20px] origin-bottom-left -rotate-45 text-tiny font-medium whitespace-nowrap',
                      sorted ? 'text-plum' : 'text-ink-2 hover:text-ink',
                    )}
                  >
                    {skill.name}
                    {sorted ? ' ↓' : ''}
                  </button>
                </div>
              )
            );
          })}
        </div>
        {rows.getVirtualItems().map(({ index, start }) => {
          const line = lines[index];
          if (!line) return null;
          const place = { top: start, height: ROW, width };
          if (line.kind === 'team') {
            return (
              <div
                key={`team ${line.id}`}
                role="row"
                aria-rowindex={index + 2}
                className="absolute left-0 bg-sunk"
                style={place}
              >
                <div
                  role="rowheader"
                  className="sticky left-0 z-[5] flex h-full items-center bg-sunk px-2 text-small"
                  style={{ width: LEFT }}
                >
                  <b className="font-semibold">{line.name}</b>
                  <span className="text-ink-2">&nbsp;· {line.members.length} shown</span>
                </div>
                {drawn.map((c) => {
                  const n = line.members.filter((p) => (p.cells[skills[c.index]?.id ?? '']?.level ?? 0) > 0).length;
                  return (
                    <span
                      key={c.index}
                      role="gridcell"
                      className="absolute top-0 flex h-full items-center justify-center text-small text-ink-2"
                      style={{ left: x(c.index), width: COLUMN }}
                    >
                      {n === 0 ? '–' : n}
                    </span>
                  );
                })}
              </div>
            );
          }
          const { person, row } = line;
          const picks = sizeOf(block) > 1 && row >= block.top && row <= block.bottom;
          return (
            <PersonRow
              key={person.id}
              person={person}
              row={row}
              index={index}
              top={start}
              width={width}
              day={standings.get(person.id)}
              chosen={chosen === person.id}
              skills={skills}
              columns={columnsKey}
              focusColumn={at.row === row ? at.column : -1}
              pickFrom={picks ? block.left : -1}
              pickTo={picks ? block.right : -1}
              acts={acts}
            />
          );
        })}
        <div aria-hidden style={{ height: lines.length * ROW }} />
        <div
          role="row"
          aria-rowindex={lines.length + 2}
          className="sticky bottom-0 z-20 border-t border-rule-strong bg-sheet"
          style={{ height: FOOT, width }}
        >
          <div
            role="rowheader"
            className="sticky left-0 z-10 flex h-full flex-col justify-center bg-sheet px-2 text-small text-ink-2"
            style={{ width: LEFT }}
          >
            <span>{whole ? 'Hold it / busiest hour needed' : 'Hold it'}</span>
            <span className="text-tiny text-ink-3">{whole ? '' : 'of those shown; '}bars are levels 1 to 5</span>
          </div>
          {drawn.map(({ index }) => {
            const skill = skills[index];
            return (
              skill && (
                <Foot
                  key={skill.id}
                  name={skill.name}
                  left={x(index)}
                  people={ordered}
                  skillId={skill.id}
                  need={whole ? view.needs[skill.id] : undefined}
                />
              )
            );
          })}
        </div>
      </div>
    </div>
  );
}
