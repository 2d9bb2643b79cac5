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
  const sorted = cutsOf([...states, ...turns], from, to);
  const [state, calls, texts] = [
    cursor(states),
    openAt(turns.filter((turn) => turn.channel === 'voice')),
    openAt(turns.filter((turn) => turn.channel !== 'voice')),
  ];
  const spells: { from: number; to: number; use: TimeUse | null }[] = [];
  let last: (typeof spells)[number] | null = null;
  for (let i = 0; i + 1 < sorted.length; i++) {
    const [start, end] = [sorted[i] as number, sorted[i + 1] as number];
    if (end === start) continue;
    const use = useOf(state(start), calls(start), texts(start));
    if (last !== null && last.use === use) last.to = end;
    else spells.push((last = { from: start, to: end, use }));
  }
  return spells;
}

/** The instants in [from, to] at which something may change, in order; some more than once. */
function cutsOf(
  all: readonly { readonly from: number; readonly to: number }[],
  from: number,
  to: number,
): Float64Array {
  const cuts = new Float64Array(2 * all.length + 2);
  cuts[0] = from;
  cuts[1] = to;
  all.forEach((one, i) => {
    cuts[2 * i + 2] = Math.min(Math.max(one.from, from), to);
    cuts[2 * i + 3] = Math.min(Math.max(one.to, from), to);
  });
  return cuts.sort();
}

function useOf(state: StateSpell | null, calls: number, texts: number): TimeUse | null {
  if (calls > 0) return 'calls';
  if (texts > 0) return 'texts';
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

/** How many turns are open at rising instants. */
function openAt(turns: readonly OpenTurn[]): (at: number) => number {
  const some = turns.filter((turn) => turn.to > turn.from);
  const starts = Float64Array.from(some, (turn) => turn.from).sort();
  const ends = Float64Array.from(some, (turn) => turn.to).sort();
  let [begun, over] = [0, 0];
  return (at) => {
    while (begun < starts.length && (starts[begun] as number) <= at) begun++;
    while (over < ends.length && (ends[over] as number) <= at) over++;
    return begun - over;
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
