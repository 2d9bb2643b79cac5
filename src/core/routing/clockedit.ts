import type { Channel } from '../channels';
import { inOrder, type Stage, type StageAct } from './clock';

/** One act of a clock, by its place. */
export type ActPlace = { readonly stage: number; readonly act: number };
type Placed = { readonly stages: readonly Stage[]; readonly place: ActPlace | null };

export const actAt = (stages: readonly Stage[], place: ActPlace | null): StageAct | null =>
  place ? (stages[place.stage]?.acts[place.act] ?? null) : null;
const LATEST_SECONDS = 86_400;
const whole = (seconds: number): number => Math.min(LATEST_SECONDS, Math.max(0, Math.round(seconds)));

/** Puts an act at a second: into the stage that is there, or into a new one. */
export function addAct(stages: readonly Stage[], atSeconds: number, act: StageAct): Placed {
  const at = whole(atSeconds);
  const after = inOrder([...stages, { atSeconds: at, early: false, acts: [act] }]);
  const stage = after.findIndex((s) => s.atSeconds === at);
  return { stages: after, place: { stage, act: (after[stage]?.acts.length ?? 1) - 1 } };
}

/** Takes an act out; a stage without acts goes with it. */
export const removeAct = (stages: readonly Stage[], place: ActPlace): readonly Stage[] =>
  stages
    .map((s, i) => (i === place.stage ? { ...s, acts: s.acts.filter((_, j) => j !== place.act) } : s))
    .filter((s) => s.acts.length > 0);

/**
 * Moves one act to another second. Others of its stage stay; a stage that may come early keeps that only for those
 * that stay.
 */
export function moveAct(stages: readonly Stage[], place: ActPlace, toSeconds: number): Placed {
  const act = actAt(stages, place);
  const from = stages[place.stage];
  if (!act || !from || whole(toSeconds) === from.atSeconds) return { stages, place: act ? place : null };
  const alone = from.acts.length === 1;
  const moved = addAct(removeAct(stages, place), toSeconds, act);
  // An act alone in its stage takes along that it may come early.
  if (!alone || !from.early) return moved;
  return { ...moved, stages: moved.stages.map((s) => (s.atSeconds === whole(toSeconds) ? { ...s, early: true } : s)) };
}

export const changeAct = (stages: readonly Stage[], place: ActPlace, act: StageAct): readonly Stage[] =>
  stages.map((s, i) => (i === place.stage ? { ...s, acts: s.acts.map((a, j) => (j === place.act ? act : a)) } : s));

export const setEarly = (stages: readonly Stage[], stage: number, early: boolean): readonly Stage[] =>
  stages.map((s, i) => (i === stage ? { ...s, early } : s));

/** How long a text takes to speak, seconds: about 2.5 words a second, with a pause. */
export const spokenSeconds = (text: string): number =>
  Math.max(2, Math.round(text.split(/\s+/).filter(Boolean).length / 2.5) + 1);

/** A clock of one channel as it can be on another: only callers hear music, and only calls are rung outside. */
export const copiedTo = (channel: Channel, stages: readonly Stage[]): readonly Stage[] =>
  channel === 'voice'
    ? stages
    : stages
        .map((s) => ({ ...s, acts: s.acts.filter((a) => a.does !== 'play' && a.does !== 'add-partner') }))
        .filter((s) => s.acts.length > 0);
