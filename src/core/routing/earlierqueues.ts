import type { Channel } from '../channels';
import { type Goal, QUEUE_DEFAULTS, type WrapUp } from './queue';

/** Queues as earlier versions of this code kept them, brought up step by step; a step is never changed again. */

type Old = Readonly<Record<string, unknown>>;

/** The first had one goal for all channels, and wrap-up in seconds or null. */
export function queueFromFirst({ goal, wrapUpSeconds, ...stored }: Old): object {
  const goals =
    stored.goals ?? (goal ? Object.fromEntries((stored.channels as Channel[]).map((c) => [c, goal as Goal])) : {});
  const wrapUp =
    stored.wrapUp ?? (typeof wrapUpSeconds === 'number' ? { way: 'up-to', seconds: wrapUpSeconds } : { way: 'person' });
  return { ...QUEUE_DEFAULTS, ...stored, goals, wrapUp };
}

type SecondAct = { readonly does: string; readonly choices?: readonly { readonly what: string }[] };
type SecondStage = { readonly acts: readonly SecondAct[] };
const WAYS: Readonly<Record<string, (seconds: number) => WrapUp>> = {
  person: () => ({ seconds: null, mayFinishEarly: true, needsOutcome: false }),
  outcome: () => ({ seconds: null, mayFinishEarly: true, needsOutcome: true }),
  'up-to': (seconds) => ({ seconds, mayFinishEarly: true, needsOutcome: false }),
  exactly: (seconds) => ({ seconds, mayFinishEarly: false, needsOutcome: false }),
};

/** The second had four ways to wrap up, and a key for waiting on: whoever presses nothing keeps their place. */
export function queueFromSecond(old: Old): object {
  const { way = 'person', seconds = 0 } = (old.wrapUp ?? {}) as { way?: string; seconds?: number };
  const act = (one: SecondAct): SecondAct => {
    if (one.does !== 'ask') return one;
    const { choices = [], ...rest } = one;
    const ways = choices.filter((choice) => choice.what !== 'keep');
    return ways.length > 0 ? { ...one, choices: ways } : { ...rest, does: 'say' };
  };
  const clocks = Object.entries((old.clocks ?? {}) as Record<string, readonly SecondStage[]>).map(
    ([channel, stages]) => [channel, stages.map((stage) => ({ ...stage, acts: stage.acts.map(act) }))],
  );
  return { ...old, wrapUp: (WAYS[way] ?? WAYS.person)?.(seconds), clocks: Object.fromEntries(clocks) as object };
}
