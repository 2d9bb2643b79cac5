'use client';

import type { ReactNode } from 'react';
import { Check } from './field';
import { options, Select } from './select';

type Named = { readonly id: string; readonly name: string };

/** Some out of many: those picked stand as chips, each taken out again; the rest is looked up and added. */
export function Picks({
  label,
  of,
  picked,
  onPicked,
  disabled = false,
  add = 'Add…',
  takeOut,
  none,
}: {
  label: string;
  of: readonly Named[];
  picked: readonly string[];
  onPicked: (ids: readonly string[]) => void;
  disabled?: boolean;
  add?: string;
  /** The name of a chip's button. */
  takeOut: (name: string) => string;
  none?: string;
}) {
  const nameOf = (id: string) => of.find((x) => x.id === id)?.name ?? id;
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      {picked.map((id) => (
        <span key={id} className="inline-flex items-center gap-1 rounded-full bg-sunk px-2.5 py-0.5 text-small">
          {nameOf(id)}
          {!disabled && (
            <button
              type="button"
              aria-label={takeOut(nameOf(id))}
              onClick={() => onPicked(picked.filter((x) => x !== id))}
            >
              ×
            </button>
          )}
        </span>
      ))}
      {!disabled && (
        <Select
          aria-label={label}
          value=""
          onChange={(id) => {
            if (id) onPicked([...picked, id]);
          }}
          compact
        >
          <option value="">{add}</option>
          {options(of.filter((x) => !picked.includes(x.id)))}
        </Select>
      )}
      {picked.length === 0 && none && <span className="text-small text-ink-2">{none}</span>}
    </div>
  );
}

/** Some out of few: all stand there and are ticked. The order stays that of the list. */
export const Ticks = <Id extends string>({
  of,
  ticked,
  onTicked,
  disabled = false,
}: {
  of: readonly { readonly id: Id; readonly name: ReactNode }[];
  ticked: readonly Id[];
  onTicked: (ids: readonly Id[]) => void;
  disabled?: boolean;
}) => (
  <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
    {of.map(({ id, name }) => (
      <Check
        key={id}
        label={name}
        disabled={disabled}
        checked={ticked.includes(id)}
        onChange={(e) => {
          const next = e.target.checked ? [...ticked, id] : ticked.filter((x) => x !== id);
          const inSight = of.map((x) => x.id).filter((x) => next.includes(x));
          // What this reader is not shown stays ticked.
          onTicked([...inSight, ...next.filter((x) => !inSight.includes(x))]);
        }}
      />
    ))}
  </div>
);
