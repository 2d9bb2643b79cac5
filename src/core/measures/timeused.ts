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
/** When turns were open, by their beginnings and ends in the same order: a year has tens of thousands for each person. */
export type OpenTimes = { readonly from: number[]; readonly to: number[] };
export type OpenTurns = { readonly calls: OpenTimes; readonly texts: OpenTimes };
export const noTurns = (): OpenTurns => ({ calls: { from: [], to: [] }, texts: { from: [], to: [] } });
export function addTurn({ calls, texts }: OpenTurns, channel: string, from: number, to: number): void {
  const times = channel === 'voice' ? calls : texts;
  times.from.push(from);
  times.to.push(to);
}

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
export function usesOf(states: readonly StateSpell[], turns: OpenTurns, from: number, to: number): UseSpell[] {
  const [inCalls, inTexts] = [openSpans(turns.calls), openSpans(turns.texts)];
  const sorted = cutsOf([...states, ...inCalls, ...inTexts], from, to);
  const [state, calls, texts] = [cursor(states), cursor(inCalls), cursor(inTexts)];
  const spells: { from: number; to: number; use: TimeUse | null }[] = [];
  let last: (typeof spells)[number] | null = null;
  for (let i = 0; i + 1 < sorted.length; i++) {
    const [start, end] = [sorted[i] as number, sorted[i + 1] as number];
    if (end === start) continue;
    const use = useOf(state(start), calls(start) !== null, texts(start) !== null);
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

function useOf(state: StateSpell | null, calls: boolean, texts: boolean): TimeUse | null {
  if (calls) return 'calls';
  if (texts) return 'texts';
  // Whoever goes off when they are empty is so only while something is open.
  if (!state || state.duty === 'off' || state.duty === 'away-when-empty') return null;
  if (state.duty === 'ready') return state.reachable ? 'ready' : 'unreachable';
  return `away ${state.reason ?? ''}`;
}

/** A stretch of time, [from, to). */
type Stretch = { readonly from: number; readonly to: number };
/** Which of some stretches, no two of which overlap, is at rising instants. */
function cursor<S extends Stretch>(stretches: readonly S[]): (at: number) => S | null {
  const sorted = [...stretches].sort((a, b) => a.from - b.from);
  let i = 0;
  return (at) => {
    while (i < sorted.length && (sorted[i] as S).to <= at) i++;
    const found = sorted[i];
    return found && found.from <= at ? found : null;
  };
}

/** When any of some turns was open, in order. What ended before it began never was. */
function openSpans(turns: OpenTimes): Stretch[] {
  const starts = Float64Array.from(turns.from).sort();
  const ends = Float64Array.from(turns.to, (to, i) => Math.max(to, turns.from[i] as number)).sort();
  const spans: Stretch[] = [];
  let [begun, over] = [0, 0];
  while (begun < starts.length) {
    const from = starts[begun++] as number;
    // As many have ended as have begun: none is open.
    while (over < begun) {
      if (begun < starts.length && (starts[begun] as number) <= (ends[over] as number)) begun++;
      else over++;
    }
    const to = ends[over - 1] as number;
    if (to > from) spans.push({ from, to });
  }
  return spans;
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
