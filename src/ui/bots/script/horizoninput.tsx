'use client';

import type { Horizon } from '@/core/routing/horizon';
import { Input } from '../../kit/field';
import { Select } from '../../kit/select';

/** Until when somebody may join who is counted: now, within so many seconds of waiting, or at any stage of the wait clock. */
export const HorizonInput = ({
  label,
  within,
  onChange,
}: {
  label: string;
  within: Horizon;
  onChange: (within: Horizon) => void;
}) => (
  <>
    <Select
      aria-label={label}
      className="!w-28 !py-1 text-small"
      value={within === null ? 'any' : within === 0 ? 'now' : 'within'}
      onChange={(chosen) => onChange(chosen === 'any' ? null : chosen === 'now' ? 0 : 20)}
    >
      <option value="any">at any stage</option>
      <option value="now">now</option>
      <option value="within">within</option>
    </Select>
    {within !== null && within > 0 && (
      <>
        <Input
          aria-label={`${label}: seconds`}
          type="number"
          min={1}
          max={3600}
          className="!w-14 !py-1 text-right text-small"
          value={within}
          onChange={(e) => {
            const { valueAsNumber: seconds } = e.target;
            if (Number.isInteger(seconds) && seconds >= 1 && seconds <= 3600) onChange(seconds);
          }}
        />
        <span className="pr-1">s</span>
      </>
    )}
  </>
);
