'use client';

import { options, Select } from '../../kit/select';

type Named = { readonly id: string; readonly name: string };

export function Pick({
  label,
  value,
  from,
  onChange,
}: {
  label: string;
  value: string;
  from: readonly Named[];
  onChange: (id: string) => void;
}) {
  return (
    <Select aria-label={label} className="!w-52 !py-1 text-small" value={value} onChange={(chosen) => onChange(chosen)}>
      {!from.some((x) => x.id === value) && <option value={value}>gone</option>}
      {options(from)}
    </Select>
  );
}
