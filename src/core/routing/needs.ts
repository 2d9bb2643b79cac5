import type { Level } from '../people/levels';

/**
 * A skill that somebody must have to be able to take a contact: at this level or above, and not above `atMost`, which keeps
 * the best free for harder work. What is `firm` is never loosened while the contact waits.
 */
export type Need = {
  readonly skillId: string;
  readonly atLeast: Level;
  readonly atMost?: Level | undefined;
  readonly firm?: boolean | undefined;
};

/**
 * A need after the queue's and the hand-over's are put together, and as a stage may have left it. `atLeast` is 0 where only
 * a firm ceiling is left. `firmAtLeast` and `firmAtMost` say how far it may be loosened.
 */
export type MergedNeed = {
  readonly skillId: string;
  readonly atLeast: number;
  readonly atMost?: number;
  readonly firmAtLeast?: number;
  readonly firmAtMost?: number;
};

/**
 * The queue's needs and the hand-over's together: for each skill the higher `atLeast` and the lower `atMost`. Where the two
 * cross, `atMost` becomes `atLeast`; `crossed` names these skills.
 *
 * @example mergeNeeds([{ skillId: 'fr', atLeast: 2 }], [{ skillId: 'fr', atLeast: 3, firm: true }]).needs // [{
 * skillId: 'fr', atLeast: 3, firmAtLeast: 3 }]
 */
export function mergeNeeds(
  queue: readonly Need[],
  handOver: readonly Need[],
): { needs: MergedNeed[]; crossed: string[] } {
  const merged = new Map<string, { atLeast: number; atMost: number; firmAtLeast: number; firmAtMost: number }>();
  for (const { skillId, atLeast, atMost, firm } of [...queue, ...handOver]) {
    const there = merged.get(skillId) ?? { atLeast: 0, atMost: Infinity, firmAtLeast: 0, firmAtMost: Infinity };
    merged.set(skillId, {
      atLeast: Math.max(there.atLeast, atLeast),
      atMost: Math.min(there.atMost, atMost ?? Infinity),
      firmAtLeast: firm ? Math.max(there.firmAtLeast, atLeast) : there.firmAtLeast,
      firmAtMost: firm ? Math.min(there.firmAtMost, atMost ?? Infinity) : there.firmAtMost,
    });
  }
  const crossed: string[] = [];
  const needs = [...merged].map(([skillId, n]): MergedNeed => {
    const cross = n.atMost < n.atLeast;
    if (cross) crossed.push(skillId);
    // A ceiling that crosses a floor gives way, a firm one as well: else nobody could ever be able.
    const lift = (most: number) => (cross ? Math.max(most, n.atLeast) : most);
    return need(skillId, n.atLeast, lift(n.atMost), n.firmAtLeast, lift(n.firmAtMost));
  });
  return { needs, crossed };
}

const need = (
  skillId: string,
  atLeast: number,
  atMost: number,
  firmAtLeast: number,
  firmAtMost: number,
): MergedNeed => ({
  skillId,
  atLeast,
  ...(atMost < 5 ? { atMost } : {}),
  ...(firmAtLeast > 0 ? { firmAtLeast } : {}),
  ...(firmAtMost < 5 ? { firmAtMost } : {}),
});

/**
 * What is needed once stages have lowered some skills by so many levels in all: max(highest firm atLeast, merged − Σ
 * lowered). Lowering also lifts a ceiling that is not firm. Below level 1 the need is dropped, unless a firm ceiling
 * stays. A stage never makes a need stricter.
 */
export function needsAfter(merged: readonly MergedNeed[], lowered: ReadonlyMap<string, number>): readonly MergedNeed[] {
  if (lowered.size === 0) return merged;
  return merged.flatMap((n) => {
    const by = lowered.get(n.skillId);
    if (by === undefined || by <= 0) return [n];
    const atLeast = Math.max(n.firmAtLeast ?? 0, n.atLeast - by, 0);
    const atMost = n.firmAtMost ?? Infinity;
    return atLeast < 1 && atMost === Infinity ? [] : [need(n.skillId, atLeast, atMost, n.firmAtLeast ?? 0, atMost)];
  });
}

/** The first need that these levels do not meet, or null when all are met. A missing skill counts 0. */
export function unmetNeed<
  N extends { readonly skillId: string; readonly atLeast: number; readonly atMost?: number | undefined },
>(needs: readonly N[], levels: ReadonlyMap<string, number>): N | null {
  for (const n of needs) {
    const level = levels.get(n.skillId) ?? 0;
    if (level < n.atLeast || (n.atMost !== undefined && level > n.atMost)) return n;
  }
  return null;
}

/** Sum of a person's levels over the merged needs; a missing skill counts 0. */
export const levelSum = (needs: readonly { readonly skillId: string }[], levels: ReadonlyMap<string, number>): number =>
  needs.reduce((sum, n) => sum + (levels.get(n.skillId) ?? 0), 0);

/**
 * How far a person's levels are below and above the merged needs: the least shortfall comes first, then the least
 * surplus.
 */
export function distance(
  needs: readonly MergedNeed[],
  levels: ReadonlyMap<string, number>,
): { shortfall: number; surplus: number } {
  let [shortfall, surplus] = [0, 0];
  for (const n of needs) {
    const level = levels.get(n.skillId) ?? 0;
    shortfall += Math.max(0, n.atLeast - level);
    surplus += Math.max(0, level - n.atLeast);
  }
  return { shortfall, surplus };
}
