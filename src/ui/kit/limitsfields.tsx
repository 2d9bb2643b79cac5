'use client';

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
          <label key={kind} className="text-tiny text-ink-2">
            {LIMIT_NAMES[kind]}
            <Input
              aria-label={`${label}: ${LIMIT_NAMES[kind]}`}
              type="number"
              min={0}
              placeholder="no limit"
              className="!py-1"
              value={limits[kind] ?? ''}
              onChange={(e) =>
                onChange({
                  ...limits,
                  [kind]: Number.isNaN(e.target.valueAsNumber) ? null : Math.max(0, Math.round(e.target.valueAsNumber)),
                })
              }
            />
          </label>
        ))}
      </div>
    </fieldset>
  );
}
