import type { Localised } from '../localised';
import type { Onward } from './onward';

/** A way out of waiting, taken by key, button or numbered text. Whoever takes none keeps their place. */
export type WaitChoice = 'callback' | 'message';
export const WAIT_CHOICES: readonly WaitChoice[] = ['callback', 'message'];

/** One thing that a stage does. Music and a question stay until another takes their place. */
export type StageAct =
  | { readonly does: 'lower'; readonly skillId: string; readonly by: number }
  | { readonly does: 'add-group'; readonly groupId: string }
  | { readonly does: 'add-partner'; readonly partnerId: string }
  | { readonly does: 'raise'; readonly by: number }
  | {
      readonly does: 'say';
      readonly wording: Localised;
      /** Said again so many seconds after; null for once. */ readonly everySeconds: number | null;
    }
  | { readonly does: 'play'; readonly music: string }
  | {
      readonly does: 'ask';
      readonly wording: Localised;
      readonly choices: readonly { readonly key: string; readonly what: WaitChoice }[];
      readonly everySeconds: number | null;
    }
  | { readonly does: 'move'; readonly onward: Onward };

/**
 * A moment on the wait clock. `early` lets it come as soon as everybody asked so far is full, but never before the
 * stage ahead of it.
 */
export type Stage = { readonly atSeconds: number; readonly early: boolean; readonly acts: readonly StageAct[] };

/** Whether a stage changes who may take the contact or how soon. */
export const changesRouting = (stage: Stage): boolean =>
  stage.acts.some(
    (a) =>
      a.does === 'lower' ||
      a.does === 'add-group' ||
      a.does === 'add-partner' ||
      a.does === 'raise' ||
      a.does === 'move',
  );

/** Levels lowered per skill by the first `count` stages together. */
export function loweredBy(stages: readonly Stage[], count: number): ReadonlyMap<string, number> {
  const lowered = new Map<string, number>();
  for (const stage of stages.slice(0, count))
    for (const act of stage.acts)
      if (act.does === 'lower') lowered.set(act.skillId, (lowered.get(act.skillId) ?? 0) + act.by);
  return lowered;
}

/** Priority added by the first `count` stages together. */
export const raisedBy = (stages: readonly Stage[], count: number): number =>
  stages
    .slice(0, count)
    .reduce((sum, stage) => stage.acts.reduce((s, act) => (act.does === 'raise' ? s + act.by : s), sum), 0);

/** Groups (or partner desks) added by the first `count` stages, each once, in order. */
export function addedBy(stages: readonly Stage[], count: number, does: 'add-group' | 'add-partner'): string[] {
  const ids = stages
    .slice(0, count)
    .flatMap((stage) =>
      stage.acts.flatMap((act) => (act.does === does ? [act.does === 'add-group' ? act.groupId : act.partnerId] : [])),
    );
  return [...new Set(ids)];
}

/** Stages in order of time; those at the same second are one. Empty ones fall away. */
export function inOrder(stages: readonly Stage[]): Stage[] {
  const bySecond = new Map<number, Stage>();
  for (const stage of stages) {
    const there = bySecond.get(stage.atSeconds);
    bySecond.set(
      stage.atSeconds,
      there ? { ...there, early: there.early || stage.early, acts: [...there.acts, ...stage.acts] } : stage,
    );
  }
  return [...bySecond.values()].filter((s) => s.acts.length > 0).sort((a, b) => a.atSeconds - b.atSeconds);
}
