import type { Localised } from '../localised';
import { localised } from '../localised';
import { loweredBy, type Stage, type StageAct } from './clock';
import { spokenSeconds, type ActPlace } from './clockedit';
import { mergeNeeds, needsAfter, type Need } from './needs';

/** A stretch of a row of the clock: from one second to another. `place` is the act it can be changed by. */
export type Segment = { readonly from: number; readonly to: number; readonly place: ActPlace | null };
export type HearsSegment = Segment &
  ({ readonly kind: 'say'; readonly wording: Localised } | { readonly kind: 'music'; readonly music: string });
export type KnowSegment = Segment & { readonly atLeast: number; readonly atMost: number | null };

const each = function* (stages: readonly Stage[]): Generator<{ at: number; act: StageAct; place: ActPlace }> {
  for (const [s, stage] of stages.entries())
    for (const [a, act] of stage.acts.entries()) yield { at: stage.atSeconds, act, place: { stage: s, act: a } };
};

/**
 * What a caller hears, one thing after another until `end`: a message is as long as it takes to speak, then the music
 * goes on.
 */
export function hears(stages: readonly Stage[], end: number, language: string): HearsSegment[] {
  type Heard = {
    readonly at: number;
    readonly act: Extract<StageAct, { does: 'say' | 'play' }>;
    readonly place: ActPlace;
  };
  const heard: Heard[] = [];
  for (const { at, act, place } of each(stages))
    if (act.does === 'say' || act.does === 'play') heard.push({ at, act, place });
  // Within a second a message comes before the music that follows it.
  heard.sort((a, b) => a.at - b.at || (a.act.does === b.act.does ? 0 : a.act.does === 'say' ? -1 : 1));
  const out: HearsSegment[] = [];
  let music: { music: string; place: ActPlace } | null = null;
  let free = 0;
  const play = (to: number) => {
    if (music && to > free) out.push({ kind: 'music', from: free, to, ...music });
    free = Math.max(free, to);
  };
  for (const { at, act, place } of heard) {
    play(at);
    if (act.does === 'play') {
      music = { music: act.music, place };
      continue;
    }
    const next = heard.find((h) => h.at > at && h.act.does === 'say')?.at ?? end;
    const to = Math.min(next, Math.max(free, at) + spokenSeconds(localised(act.wording, language)));
    out.push({ kind: 'say', from: Math.max(free, at), to, wording: act.wording, place });
    free = to;
  }
  play(end);
  return out;
}

/** What a caller may choose: each question until the next, or the end. */
export function mayChoose(
  stages: readonly Stage[],
  end: number,
): (Segment & { readonly act: Extract<StageAct, { does: 'ask' }> })[] {
  const asked: { at: number; act: Extract<StageAct, { does: 'ask' }>; place: ActPlace }[] = [];
  for (const { at, act, place } of each(stages)) if (act.does === 'ask') asked.push({ at, act, place });
  return asked.map((a, i) => ({ from: a.at, to: asked[i + 1]?.at ?? end, place: a.place, act: a.act }));
}

/**
 * The level needed of each skill as stages loosen it. The piece before the first loosening has no act; 0 is not
 * needed any more.
 */
export function mustKnow(
  needs: readonly Need[],
  stages: readonly Stage[],
  end: number,
): { skillId: string; segments: KnowSegment[] }[] {
  const merged = mergeNeeds(needs, []).needs;
  return merged.map(({ skillId }) => {
    const segments: KnowSegment[] = [];
    const levelAfter = (count: number) =>
      needsAfter(merged, loweredBy(stages, count)).find((n) => n.skillId === skillId);
    let from = 0;
    let place: ActPlace | null = null;
    const push = (to: number, count: number) => {
      const need = levelAfter(count);
      if (to > from) segments.push({ from, to, place, atLeast: need?.atLeast ?? 0, atMost: need?.atMost ?? null });
    };
    stages.forEach((stage, s) => {
      const act = stage.acts.findIndex((a) => a.does === 'lower' && a.skillId === skillId);
      if (act < 0) return;
      push(stage.atSeconds, s);
      from = stage.atSeconds;
      place = { stage: s, act };
    });
    push(end, stages.length);
    return { skillId, segments };
  });
}

/** Skills that the queue itself does not need, loosened for contacts whose bot asks for them. */
export function loosenedOnly(
  needs: readonly Need[],
  stages: readonly Stage[],
  end: number,
): { skillId: string; segments: (Segment & { readonly by: number })[] }[] {
  const rows = new Map<string, (Segment & { readonly by: number })[]>();
  for (const { at, act, place } of each(stages)) {
    if (act.does !== 'lower' || needs.some((n) => n.skillId === act.skillId)) continue;
    const row = rows.get(act.skillId) ?? [];
    const last = row.pop();
    rows.set(act.skillId, [
      ...row,
      ...(last ? [{ ...last, to: at }] : []),
      { from: at, to: end, place, by: (last?.by ?? 0) + act.by },
    ]);
  }
  return [...rows].map(([skillId, segments]) => ({ skillId, segments }));
}

/** Groups and partner desks, each from when it is added. */
export function whoIsAdded(
  stages: readonly Stage[],
  end: number,
): (Segment & { readonly act: Extract<StageAct, { does: 'add-group' | 'add-partner' }> })[] {
  const out: (Segment & { readonly act: Extract<StageAct, { does: 'add-group' | 'add-partner' }> })[] = [];
  for (const { at, act, place } of each(stages))
    if (act.does === 'add-group' || act.does === 'add-partner') out.push({ from: at, to: end, place, act });
  return out;
}

/** What else happens: more priority, and moving on. */
export function alsoHappens(
  stages: readonly Stage[],
  end: number,
): (Segment & { readonly act: Extract<StageAct, { does: 'raise' | 'move' }> })[] {
  const out: (Segment & { readonly act: Extract<StageAct, { does: 'raise' | 'move' }> })[] = [];
  for (const { at, act, place } of each(stages))
    if (act.does === 'raise' || act.does === 'move') out.push({ from: at, to: end, place, act });
  return out.map((s, i) => ({
    ...s,
    to:
      s.act.does === 'move'
        ? Math.min(end, s.from + end / 5)
        : (out.slice(i + 1).find((o) => o.act.does === 'move')?.from ?? s.to),
  }));
}

/** The last second that the clock's page shows: some way past the last stage and the goal. */
export const clockEnd = (stages: readonly Stage[], goalSeconds: number): number =>
  Math.max(60, Math.ceil(Math.max((stages.at(-1)?.atSeconds ?? 0) * 1.3, goalSeconds * 2) / 30) * 30);
