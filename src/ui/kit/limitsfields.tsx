'use client';

import { useState } from 'react';
import type { Limits } from '@/core/routing/limits';
import { Input } from './field';

export const LIMIT_NAMES: Readonly<Record<keyof Limits, string>> = {
  atOnce: 'at once',
  perHour: 'an hour',
  perDay: 'a day',
  perMonth: 'a month',
};

/** Limits side by side; an empty one is without limit. */
export function LimitsFields({
  label,
  limits,
  disabled,
  onChange,
}: {
  label: string;
  limits: Limits;
  disabled: boolean;
  onChange: (limits: Limits) => void;
}) {
  return (
    <fieldset disabled={disabled}>
      <legend className="mb-1 text-small font-medium text-ink-2">{label}</legend>
      <div className="grid grid-cols-4 gap-2">
        {(Object.keys(LIMIT_NAMES) as (keyof Limits)[]).map((kind) => (
          <Limit
            key={kind}
            label={label}
            name={LIMIT_NAMES[kind]}
            limit={limits[kind]}
            onChange={(limit) => onChange({ ...limits, [kind]: limit })}
          />
        ))}
      </div>
    </fieldset>
  );
}

/** What is no limit is refused where it is typed, and the one before stands. */
function Limit({
  label,
  name,
  limit,
  onChange,
}: {
  label: string;
  name: string;
  limit: number | null;
  onChange: (limit: number | null) => void;
}) {
  const [refused, setRefused] = useState<string | null>(null);
  return (
    <label className="text-tiny text-ink-2">
      {name}
      <Input
        aria-label={`${label}: ${name}`}
        aria-invalid={refused !== null}
        inputMode="numeric"
        placeholder="no limit"
        className="!py-1"
        value={refused ?? limit ?? ''}
        onChange={(e) => {
          const typed = e.target.value.trim();
          const fits = typed === '' || /^\d{1,6}$/.test(typed);
          setRefused(fits ? null : e.target.value);
          if (fits) onChange(typed === '' ? null : Number(typed));
        }}
        onBlur={() => setRefused(null)}
      />
      {refused !== null && <span className="text-clay">a whole number, 0 or more</span>}
    </label>
  );
}
