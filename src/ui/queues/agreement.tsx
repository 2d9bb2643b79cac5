'use client';

import type { GroupsView, UseNow } from '@/services/queues/groupsview';
import { Input } from '../kit/field';
import type { LimitsUsed } from '../kit/limitsfields';
import { options, Select } from '../kit/select';

/** What groups and partner desks have in common: what they are called, and the hours and zone of their sentences. */

export const usedOf = (use: UseNow): LimitsUsed => ({
  atOnce: use.open,
  perHour: use.hour,
  perDay: use.day,
  perMonth: use.month,
});

type SetIn = {
  readonly disabled: boolean;
  readonly fault: string | undefined;
  readonly onChange: (value: string) => void;
};

export const NameIn = ({ name, hint, disabled, fault, onChange }: SetIn & { name: string; hint: string }) => (
  <p className="mb-1 flex items-center gap-2 text-small text-ink-2">
    <Input
      aria-label="Name"
      aria-invalid={fault !== undefined}
      className="!w-72 font-display !text-panel font-semibold"
      disabled={disabled}
      placeholder={hint}
      maxLength={60}
      value={name}
      onChange={(e) => onChange(e.target.value)}
    />
    {fault && <span className="text-clay">{fault}</span>}
  </p>
);

/** “their days are those of …” */
export const ZoneIn = ({ zone, disabled, fault, onChange }: SetIn & { zone: string }) => (
  <>
    their days are those of{' '}
    <Input
      aria-label="Zone of its days"
      aria-invalid={fault !== undefined}
      className="!inline-block !w-40 !px-1.5 !py-0.5"
      disabled={disabled}
      value={zone}
      onChange={(e) => onChange(e.target.value)}
    />
    .{fault && <span className="ml-1 text-small text-clay">{fault}</span>}
  </>
);

/** Hours chosen in their sentence. */
export const HoursIn = ({
  label,
  hoursId,
  view,
  onChange,
}: {
  label: string;
  hoursId: string | null;
  view: GroupsView;
  onChange: (hoursId: string | null) => void;
}) => (
  <Select
    compact
    aria-label={label}
    disabled={!view.mayChange}
    value={hoursId ?? ''}
    onChange={(chosen) => onChange(chosen === '' ? null : chosen)}
  >
    <option value="">always</option>
    {options(view.hours)}
  </Select>
);
