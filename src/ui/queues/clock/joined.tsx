'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { Channel } from '@/core/channels';
import { localised } from '@/core/localised';
import type { QueueSettings } from '@/core/routing/queue';
import { Button } from '../../kit/button';
import { WordingField } from '../../kit/wording';

type Joined = QueueSettings['connect'];
const SIDES = [
  ['toCustomer', 'The customer', 'bg-plum text-on-plum'],
  ['toAgent', 'The agent', 'bg-tide-wash text-tide'],
] as const;

/** The last row of a clock, when the wait is over: what each side hears as they meet. */
export function Joined({
  channel,
  joined,
  languages,
  disabled,
  onChange,
}: {
  channel: Channel;
  joined: Joined;
  languages: readonly string[];
  disabled: boolean;
  onChange: (joined: Joined) => void;
}) {
  const [open, setOpen] = useState<keyof Joined | null>(null);
  const verb = channel === 'voice' ? 'hears' : 'reads';
  const side = SIDES.find(([key]) => key === open);
  return (
    <>
      <div
        className="grid grid-cols-[132px_minmax(0,1fr)] border-t border-rule py-1.5"
        role="group"
        aria-label="Joined"
      >
        <div className="pr-2">
          <p className="text-small font-semibold">Joined</p>
          <p className="text-tiny text-ink-2">as they meet, for all channels</p>
        </div>
        <div className="mr-6 grid grid-cols-2 gap-2 self-center">
          {SIDES.map(([key, name, look]) => {
            const words = localised(joined[key], languages[0] ?? 'en', languages);
            return (
              <button
                key={key}
                type="button"
                aria-pressed={open === key}
                aria-label={`${name} ${verb} first: ${words || 'nothing'}`}
                onClick={() => setOpen(open === key ? null : key)}
                className={clsx(
                  'h-7 truncate rounded-[7px] px-2 text-left text-small leading-7',
                  words ? look : 'border border-dashed border-rule-strong leading-[26px] text-ink-2',
                  open === key && 'ring-2 ring-ink',
                )}
              >
                {words || `${name} ${verb} nothing first`}
              </button>
            );
          })}
        </div>
      </div>
      {side && (
        <section aria-label="As they meet" className="mt-2 rounded-panel border border-rule bg-sunk p-3">
          <div className="mb-2 flex items-center">
            <h3 className="text-small font-semibold">As they meet</h3>
            <Button small className="ml-auto" onClick={() => setOpen(null)}>
              Done
            </Button>
          </div>
          <WordingField
            label={`${side[1]} ${verb} first`}
            wording={joined[side[0]]}
            languages={languages}
            disabled={disabled}
            onChange={(words) => onChange({ ...joined, [side[0]]: words })}
          />
        </section>
      )}
    </>
  );
}
