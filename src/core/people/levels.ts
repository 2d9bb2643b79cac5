/** A skill level, 1 (some) to 5 (master). */
export type Level = 1 | 2 | 3 | 4 | 5;
export type SkillKind = 'product' | 'task' | 'language' | 'licence';

export const isLevel = (n: number): n is Level => Number.isInteger(n) && n >= 1 && n <= 5;

/** A level as it counts, and where it comes from. */
export type EffectiveLevel = { readonly level: Level; readonly from: 'own' | 'team' };

/**
 * The level that counts for routing: the person's own where set, else what the team gives.
 * Both absent means the person does not have the skill.
 */
export function effectiveLevel(own: Level | undefined, team: Level | undefined): EffectiveLevel | null {
  if (own !== undefined) return { level: own, from: 'own' };
  return team === undefined ? null : { level: team, from: 'team' };
}

/** All effective levels of a person, by skill id. */
export function effectiveLevels(own: ReadonlyMap<string, Level>, team: ReadonlyMap<string, Level>): Map<string, EffectiveLevel> {
  const all = new Map<string, EffectiveLevel>();
  for (const skill of new Set([...own.keys(), ...team.keys()])) {
    const found = effectiveLevel(own.get(skill), team.get(skill));
    if (found) all.set(skill, found);
  }
  return all;
}
