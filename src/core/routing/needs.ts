import type { Level } from '../people/levels';

/** A skill that somebody must have, at this level or above, to be able to take a contact. */
export type Need = { readonly skillId: string; readonly atLeast: Level };

/** The queue's needs and the hand-over's together: for each skill the higher `atLeast`. */
export function mergeNeeds(queue: readonly Need[], handOver: readonly Need[]): Need[] {
  const merged = new Map<string, Need>();
  for (const need of [...queue, ...handOver]) {
    const there = merged.get(need.skillId);
    if (!there || need.atLeast > there.atLeast) merged.set(need.skillId, need);
  }
  return [...merged.values()];
}

/** The first need that these levels do not meet, or null when all are met. */
export const unmetNeed = (needs: readonly Need[], levels: ReadonlyMap<string, number>): Need | null =>
  needs.find((need) => (levels.get(need.skillId) ?? 0) < need.atLeast) ?? null;

/** Sum of a person's levels over the needs; a missing skill counts 0. */
export const levelSum = (needs: readonly Need[], levels: ReadonlyMap<string, number>): number =>
  needs.reduce((sum, need) => sum + (levels.get(need.skillId) ?? 0), 0);
