import type { Channel } from '../channels';
import type { DutyState } from '../people/duty';

/** How somebody was, [from, to) in floor ms: their duty with its reason, and whether they could be reached. */
export type StateSpell = {
  readonly from: number;
  readonly to: number;
  readonly duty: DutyState;
  readonly reason: string | null;
  readonly reachable: boolean;
};
/** A turn of theirs while it was open, wrap-up included: [from, to) in floor ms. */
export type OpenTurn = { readonly from: number; readonly to: number; readonly channel: Channel };

/**
 * What somebody's time went into: with a call open, with only texts open, ready with none, out of reach, or away for a
 * reason (`away …`). Off duty with nothing open is no part of it.
 */
export type TimeUse = 'calls' | 'texts' | 'ready' | 'unreachable' | `away ${string}`;

/** A stretch of time in which somebody was in one use. */
export type UseSpell = { readonly from: number; readonly to: number; readonly use: TimeUse | null };

/** What is open at each moment: how often it changed, and to what. */
export type Step = { readonly at: number; readonly open: number };

/**
 * A person's time in [from, to), stretch by stretch: each moment is in one use, or in none while they are off duty. What
 * they have open counts before what they are on duty for.
 */
export function usesOf(
  states: readonly StateSpell[],
  turns: readonly OpenTurn[],
  from: number,
  to: number,
): UseSpell[] {
  const cuts = new Set([from, to]);
  for (const { from: a, to: b } of [...states, ...turns])
    for (const cut of [a, b]) if (cut > from && cut < to) cuts.add(cut);
  const sorted = [...cuts].sort((a, b) => a - b);
  const [state, open] = [cursor(states), cursorOfOpen(turns)];
  const spells: UseSpell[] = [];
  for (let i = 0; i + 1 < sorted.length; i++) {
    const [start, end] = [sorted[i] as number, sorted[i + 1] as number];
    const use = useOf(state(start), open(start));
    const last = spells.at(-1);
    if (last && last.use === use && last.to === start) spells[spells.length - 1] = { ...last, to: end };
    else spells.push({ from: start, to: end, use });
  }
  return spells;
}

function useOf(state: StateSpell | null, open: { readonly calls: number; readonly texts: number }): TimeUse | null {
  if (open.calls > 0) return 'calls';
  if (open.texts > 0) return 'texts';
  // Whoever goes off when they are empty is so only while something is open.
  if (!state || state.duty === 'off' || state.duty === 'away-when-empty') return null;
  if (state.duty === 'ready') return state.reachable ? 'ready' : 'unreachable';
  return `away ${state.reason ?? ''}`;
}

/** The spell at rising instants. */
function cursor(states: readonly StateSpell[]): (at: number) => StateSpell | null {
  const sorted = [...states].sort((a, b) => a.from - b.from);
  let i = 0;
  return (at) => {
    while (i < sorted.length && (sorted[i] as StateSpell).to <= at) i++;
    const found = sorted[i];
    return found && found.from <= at ? found : null;
  };
}

/** How many calls and texts are open at rising instants. */
function cursorOfOpen(turns: readonly OpenTurn[]): (at: number) => { calls: number; texts: number } {
  const changes = turns
    .filter((t) => t.to > t.from)
    .flatMap((t) => [
      { at: t.from, by: 1, voice: t.channel === 'voice' },
      { at: t.to, by: -1, voice: t.channel === 'voice' },
    ])
    .sort((a, b) => a.at - b.at);
  const open = { calls: 0, texts: 0 };
  let i = 0;
  return (at) => {
    for (; i < changes.length && (changes[i]?.at ?? Infinity) <= at; i++) {
      const change = changes[i];
      if (change) open[change.voice ? 'calls' : 'texts'] += change.by;
    }
    return open;
  };
}

/** Seconds in each use. */
export function secondsUsed(spells: readonly UseSpell[]): ReadonlyMap<TimeUse, number> {
  const seconds = new Map<TimeUse, number>();
  for (const { from, to, use } of spells)
    if (use !== null) seconds.set(use, (seconds.get(use) ?? 0) + (to - from) / 1000);
  return seconds;
}

/**
 * Occupancy: with anything open ÷ (that + ready with none); null without either. Somebody who cannot be reached is not
 * ready.
 */
export function occupancy(seconds: ReadonlyMap<TimeUse, number>): number | null {
  const busy = (seconds.get('calls') ?? 0) + (seconds.get('texts') ?? 0);
  const all = busy + (seconds.get('ready') ?? 0);
  return all === 0 ? null : busy / all;
}

/** How many turns were open, change by change, from an instant on; the most at one moment and the mean over [from, to). */
export function openSteps(
  turns: readonly OpenTurn[],
  from: number,
  to: number,
): { readonly steps: readonly Step[]; readonly most: number; readonly mean: number } {
  const changes = new Map<number, number>();
  const bump = (at: number, by: number) => changes.set(at, (changes.get(at) ?? 0) + by);
  for (const turn of turns) {
    const [start, end] = [Math.max(turn.from, from), Math.min(turn.to, to)];
    if (end <= start) continue;
    bump(start, 1);
    bump(end, -1);
  }
  let [open, area, most, last] = [0, 0, 0, from];
  const steps: Step[] = [{ at: from, open: 0 }];
  for (const [at, by] of [...changes].sort((a, b) => a[0] - b[0])) {
    if (by === 0) continue;
    area += open * (at - last);
    open += by;
    last = at;
    most = Math.max(most, open);
    if (steps.at(-1)?.at === at) steps[steps.length - 1] = { at, open };
    else steps.push({ at, open });
  }
  return { steps, most, mean: to > from ? area / (to - from) : 0 };
}
