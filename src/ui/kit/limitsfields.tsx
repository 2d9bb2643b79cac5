'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { Limits } from '@/core/routing/limits';
import { Input } from './field';

export const LIMIT_NAMES: Readonly<Record<keyof Limits, string>> = {
  atOnce: 'at once',
  perHour: 'an hour',
  perDay: 'a day',
  perMonth: 'a month',
};
const KINDS = Object.keys(LIMIT_NAMES) as (keyof Limits)[];
/** How much of each is used now. */
export type LimitsUsed = Readonly<Record<keyof Limits, number>>;

/** “at most 4 at once, 60 a day”: limits set in their sentence, each with its use so far; an empty one is without limit. */
export function LimitsFields({
  label,
  limits,
  used,
  disabled,
  onChange,
}: {
  label: string;
  limits: Limits;
  used?: LimitsUsed | undefined;
  disabled: boolean;
  onChange: (limits: Limits) => void;
}) {
  return (
    <span role="group" aria-label={label}>
      at most{' '}
      {KINDS.map((kind, i) => (
        <span key={kind} className="whitespace-nowrap">
          <Limit
            label={label}
            name={LIMIT_NAMES[kind]}
            limit={limits[kind]}
            disabled={disabled}
            onChange={(limit) => onChange({ ...limits, [kind]: limit })}
          />{' '}
          {LIMIT_NAMES[kind]}
          {used && <Used used={used[kind]} most={limits[kind]} />}
          {i < KINDS.length - 1 ? ', ' : ''}
        </span>
      ))}
    </span>
  );
}

/** What is used so far, of the limit where there is one. */
const Used = ({ used, most }: { used: number; most: number | null }) => (
  <span className={clsx('ml-1 text-tiny', most !== null && used >= most ? 'font-semibold text-clay' : 'text-ink-2')}>
    ({most === null ? `${used} so far` : `${used} of ${most}`})
  </span>
);

/** What is no limit is refused where it is typed, and the one before stands. */
function Limit({
  label,
  name,
  limit,
  disabled,
  onChange,
}: {
  label: string;
  name: string;
  limit: number | null;
  disabled: boolean;
  onChange: (limit: number | null) => void;
}) {
  const [refused, setRefused] = useState<string | null>(null);
  return (
    <>
      <Input
        aria-label={`${label}: ${name}`}
        aria-invalid={refused !== null}
        disabled={disabled}
        inputMode="numeric"
        placeholder="any"
        className="!inline-block !w-16 !px-1.5 !py-0.5 text-center"
        value={refused ?? limit ?? ''}
        onChange={(e) => {
          const typed = e.target.value.trim();
          const fits = typed === '' || /^\d{1,6}$/.test(typed);
          setRefused(fits ? null : e.target.value);
          if (fits) onChange(typed === '' ? null : Number(typed));
        }}
        onBlur={() => setRefused(null)}
      />
      {refused !== null && <span className="ml-1 text-tiny text-clay">a whole number, 0 or more</span>}
    </>
  );
}
