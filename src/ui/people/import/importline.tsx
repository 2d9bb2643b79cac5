'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { PlannedLine, Target } from '@/core/people/importplan';
import { Button } from '../../kit/button';
import { Pill } from '../../kit/panel';

export type Kind = PlannedLine['kind'];

export const KINDS: readonly {
  readonly kind: Kind;
  readonly name: string;
  readonly tone: 'good' | 'plum' | 'plain' | 'bad';
}[] = [
  { kind: 'new', name: 'new', tone: 'good' },
  { kind: 'changed', name: 'changed', tone: 'plum' },
  { kind: 'unchanged', name: 'unchanged', tone: 'plain' },
  { kind: 'refused', name: 'refused', tone: 'bad' },
];

/** What the lines can be narrowed to: what they would do, and those that others' changes have met since they were seen. */
export type Shown = Kind | 'met' | '';

export type Edit = { readonly row: number; readonly column: number; readonly text: string };

export function Line({
  line,
  header,
  targets,
  onMend,
}: {
  line: PlannedLine;
  header: readonly string[];
  targets: readonly Target[];
  onMend: (e: Edit) => void;
}) {
  const kind = KINDS.find((k) => k.kind === line.kind);
  return (
    <tr className={clsx('border-t border-rule align-top', line.kind === 'unchanged' && 'text-ink-2')}>
      <td className="px-2 py-1.5 text-right text-ink-2">{line.row}</td>
      <td className="py-1.5">{kind && <Pill tone={kind.tone}>{kind.name}</Pill>}</td>
      <td className="py-1.5 pr-3">
        <span className="block">{line.name || 'no name'}</span>
        <span className="block text-tiny text-ink-2">{line.email}</span>
      </td>
      <td className="py-1.5 pr-2">
        {line.kind === 'refused' ? (
          <ul className="flex flex-col gap-1">
            {line.reasons.map((r, i) => (
              <li key={i} className="flex flex-wrap items-center gap-2">
                <span className="text-clay">{r.what}</span>
                {r.column >= 0 && r.column < targets.length && (
                  <Mend
                    row={line.row}
                    column={r.column}
                    name={header[r.column] ?? ''}
                    value={line.cells[r.column] ?? ''}
                    onMend={onMend}
                  />
                )}
              </li>
            ))}
          </ul>
        ) : line.changes.length === 0 ? (
          'nothing'
        ) : (
          line.changes
            .map((c) => (line.kind === 'new' ? `${c.what} ${c.to}` : `${c.what}: ${c.from || '–'} → ${c.to || '–'}`))
            .join(' · ')
        )}
      </td>
    </tr>
  );
}

/** A wrong cell, mended in place. */
function Mend({
  row,
  column,
  name,
  value,
  onMend,
}: {
  row: number;
  column: number;
  name: string;
  value: string;
  onMend: (e: Edit) => void;
}) {
  const [text, setText] = useState(value);
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        onMend({ row, column, text: text.trim() });
      }}
    >
      <input
        aria-label={`Row ${row}, ${name}`}
        value={text}
        onChange={(e) => setText(e.target.value)}
        className="w-52 rounded-control border border-rule-strong bg-sheet px-1.5 py-0.5"
      />
      <Button small type="submit" disabled={text.trim() === value}>
        Mend
      </Button>
    </form>
  );
}
