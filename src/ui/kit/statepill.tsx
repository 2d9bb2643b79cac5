import { CHANNEL_NAMES, type Channel } from '@/core/channels';
import type { DutyState } from '@/core/people/duty';
import { Pill } from './panel';

export type Standing = {
  readonly duty: DutyState;
  readonly reason: string | null;
  readonly reachable: boolean;
  readonly open: readonly Channel[];
  readonly wrapping?: boolean;
};

/** What somebody is doing, in a word: stored states and the labels that come from what they hold. */
export function StatePill({ duty, reason, reachable, open, wrapping = false }: Standing) {
  if (duty === 'off') return <Pill>Off</Pill>;
  if (!reachable) return <Pill tone="bad">Out of reach</Pill>;
  if (open.length > 0) {
    if (wrapping && open.length === 1) return <Pill tone="warn">Wrap-up</Pill>;
    if (open.includes('voice')) return <Pill tone="plum">Call</Pill>;
    return (
      <Pill tone="tide">{open.length === 1 ? CHANNEL_NAMES[open[0] ?? 'chat'].name : `${open.length} texts`}</Pill>
    );
  }
  if (duty === 'away') return <Pill tone="warn">{reason ?? 'Away'}</Pill>;
  if (duty === 'away-when-empty') return <Pill tone="warn">Leaving</Pill>;
  return <Pill tone="good">Ready</Pill>;
}
