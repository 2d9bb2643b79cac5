'use client';

import { clsx } from 'clsx';
import { type ReactNode, useId } from 'react';
import { type Into, VALUE_NAME } from '@/core/bots/value';
import { Input } from '../../kit/field';
import { Select } from '../../kit/select';
import { useAround, valuesKnown } from './around';

/** The name of a value, offered as it is typed with where it is set. */
export function ValueInput({
  label,
  name,
  onChange,
  className = '!w-44',
  placeholder,
}: {
  label: string;
  name: string;
  onChange: (name: string) => void;
  className?: string;
  placeholder?: string;
}) {
  const around = useAround();
  const list = useId();
  return (
    <>
      <Input
        aria-label={label}
        list={list}
        placeholder={placeholder}
        aria-invalid={name !== '' && !VALUE_NAME.test(name)}
        className={clsx(className, '!py-1 text-small')}
        maxLength={60}
        value={name}
        onChange={(e) => onChange(e.target.value)}
      />
      <datalist id={list}>
        {valuesKnown(around).map((v) => (
          <option key={v.name} value={v.name}>
            {v.from}
          </option>
        ))}
      </datalist>
    </>
  );
}

/** Where something is remembered, and for how long. An empty name remembers nothing, where that may be. */
export function IntoInput({
  label,
  into,
  onChange,
}: {
  label: string;
  into: Into | null;
  onChange: (into: Into | null) => void;
}) {
  return (
    <span className="inline-flex items-center gap-1">
      <ValueInput
        label={label}
        className="!w-28"
        name={into?.name ?? ''}
        placeholder="nothing"
        onChange={(name) => onChange(name === '' ? null : { name, scope: into?.scope ?? 'conversation' })}
      />
      {into && (
        <Select
          aria-label={`${label}: kept for`}
          className="!w-40 !py-1 text-small"
          value={into.scope}
          onChange={(chosen) => onChange({ ...into, scope: chosen === 'scene' ? 'scene' : 'conversation' })}
        >
          <option value="conversation">the conversation</option>
          <option value="scene">this scene only</option>
        </Select>
      )}
    </span>
  );
}

/** A label beside small controls. */
export const Row = ({ label, children }: { label: string; children: ReactNode }) => (
  <div className="flex flex-wrap items-center gap-2 text-small">
    <span className="w-28 shrink-0 text-ink-2">{label}</span>
    {children}
  </div>
);

/** A whole number typed within bounds. */
export function Whole({
  label,
  value,
  least,
  most,
  unit,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  unit?: string;
  onChange: (value: number) => void;
}) {
  return (
    <span className="inline-flex items-center gap-1 text-small">
      <Input
        aria-label={label}
        type="number"
        min={least}
        max={most}
        className="!w-16 !py-1 text-right text-small"
        value={value}
        onChange={(e) => {
          if (!Number.isNaN(e.target.valueAsNumber))
            onChange(Math.min(most, Math.max(least, Math.round(e.target.valueAsNumber))));
        }}
      />
      {unit}
    </span>
  );
}
