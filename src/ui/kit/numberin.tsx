'use client';

import { Input } from './field';

/** A number set where it stands in a sentence. What is typed counts once it is within its bounds. */
export function NumberIn({
  label,
  value,
  least,
  most,
  disabled,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  disabled: boolean;
  onChange: (value: number) => void;
}) {
  return (
    <Input
      key={value}
      aria-label={label}
      type="number"
      min={least}
      max={most}
      disabled={disabled}
      className="!inline-block !w-16 !px-1.5 !py-0.5 text-center"
      defaultValue={value}
      onChange={(e) => {
        const n = e.target.valueAsNumber;
        if (Number.isInteger(n) && n >= least && n <= most) onChange(n);
      }}
      onBlur={(e) => {
        e.target.value = String(value);
      }}
    />
  );
}
