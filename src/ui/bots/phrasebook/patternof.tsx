'use client';

import { patternFrom } from '@/core/bots/pattern';
import type { Recognised } from '@/core/phrases/book';
import { Field, Input } from '../../kit/field';

type Pattern = Extract<Recognised, { kind: 'pattern' }>;

export function PatternOf({
  recognised,
  mayChange,
  onChange,
}: {
  recognised: Pattern;
  mayChange: boolean;
  onChange: (next: Pattern) => void;
}) {
  const compiled = patternFrom(recognised.pattern);
  const fits = recognised.example === '' || compiled?.matcher(recognised.example).find() === true;
  return (
    <div className="grid max-w-2xl grid-cols-2 gap-3">
      <Field label="Written like (RE2 pattern)" fault={compiled ? undefined : 'The pattern cannot be read.'}>
        {(p) => (
          <Input
            {...p}
            disabled={!mayChange}
            maxLength={200}
            className="font-mono text-small"
            value={recognised.pattern}
            onChange={(e) => onChange({ ...recognised, pattern: e.target.value })}
          />
        )}
      </Field>
      <Field
        label="An example"
        {...(fits
          ? { hint: recognised.example === '' ? 'Shown to whoever builds a bot' : 'It fits.' }
          : { fault: 'The example does not fit.' })}
      >
        {(p) => (
          <Input
            {...p}
            disabled={!mayChange}
            maxLength={60}
            value={recognised.example}
            onChange={(e) => onChange({ ...recognised, example: e.target.value })}
          />
        )}
      </Field>
    </div>
  );
}
