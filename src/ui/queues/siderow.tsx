'use client';

import type { ReactNode } from 'react';
import { type Channel, CHANNEL_NAMES } from '@/core/channels';
import { options, Select } from '../kit/select';

/** Band and delay on a channel; band 0 is not taken. */
export type SideCell = { readonly band: number; readonly delaySeconds: number };
/** What stands in a cell: a row of its own, or what the person's profile says. */
export type SideValue = SideCell | 'as-profile';

const CONTROL = 'rounded-control border border-rule-strong bg-sheet px-1 py-0.5 text-small';
const AS_PROFILE = 'as';

const inWords = ({ band, delaySeconds }: SideCell): string =>
  band === 0 ? 'not' : delaySeconds > 0 ? `${band} after ${delaySeconds} s` : String(band);

/** One line of who takes a queue: a band, and from which second it counts, on each of its channels. */
export function SideRow({
  name,
  head,
  people,
  channels,
  valueOf,
  profile,
  disabled,
  onChange,
}: {
  name: string;
  head: ReactNode;
  people: ReactNode;
  channels: readonly Channel[];
  valueOf: (c: Channel) => SideValue;
  /** What stands where a person has nothing of their own; null for a profile itself. */
  profile: ((c: Channel) => SideCell) | null;
  disabled: boolean;
  onChange: (c: Channel, value: SideValue) => void;
}) {
  return (
    <tr className="border-t border-rule">
      <th scope="row" className="py-1 pr-2 text-left font-medium">
        {head}
      </th>
      <td className="pr-2 text-ink-2">{people}</td>
      {channels.map((c) => {
        const value = valueOf(c);
        const row = value === 'as-profile' ? null : value;
        return (
          <td key={c} className="pr-2">
            <span className="flex items-center gap-1">
              <Select
                aria-label={`${name} by ${CHANNEL_NAMES[c].name}: band`}
                disabled={disabled}
                value={row ? row.band : AS_PROFILE}
                onChange={(chosen) =>
                  onChange(
                    c,
                    chosen === AS_PROFILE
                      ? 'as-profile'
                      : { band: Number(chosen), delaySeconds: row?.delaySeconds ?? profile?.(c).delaySeconds ?? 0 },
                  )
                }
                compact
              >
                {profile && <option value={AS_PROFILE}>as profile: {inWords(profile(c))}</option>}
                <option value={0}>{profile ? 'not' : '–'}</option>
                {options([1, 2, 3, 4, 5])}
              </Select>
              {row && row.band > 0 && (
                <input
                  aria-label={`${name} by ${CHANNEL_NAMES[c].name}: after seconds`}
                  type="number"
                  min={0}
                  max={3600}
                  disabled={disabled}
                  value={row.delaySeconds}
                  onChange={(e) =>
                    onChange(c, {
                      band: row.band,
                      delaySeconds: Number.isInteger(e.target.valueAsNumber)
                        ? Math.min(3600, Math.max(0, e.target.valueAsNumber))
                        : 0,
                    })
                  }
                  className={`${CONTROL} w-14`}
                />
              )}
            </span>
          </td>
        );
      })}
    </tr>
  );
}
