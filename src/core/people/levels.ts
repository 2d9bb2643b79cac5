/** A skill level, 1 (some) to 5 (master). */
export type Level = 1 | 2 | 3 | 4 | 5;
export const LEVELS: readonly Level[] = [1, 2, 3, 4, 5];
export const SKILL_KINDS = ['product', 'task', 'language', 'licence'] as const;
export type SkillKind = (typeof SKILL_KINDS)[number];

export const isLevel = (n: unknown): n is Level => typeof n === 'number' && Number.isInteger(n) && n >= 1 && n <= 5;

/**
 * What is set on the person: a level, or `never` whatever teams and sets give. `until` is the last local day
 * (YYYY-MM-DD) it counts.
 */
export type OwnLevel = { readonly level: Level | 'never'; readonly until: string | null; readonly note: string };

/**
 * A level that comes with a team or a skill set; `viaTeamId` is the team a set was given to, null when given to the
 * person.
 */
export type Gift =
  | { readonly level: Level; readonly from: 'team'; readonly id: string }
  | { readonly level: Level; readonly from: 'set'; readonly id: string; readonly viaTeamId: string | null };

/** A level as it counts, and where it comes from. */
export type EffectiveLevel =
  { readonly level: Level; readonly from: 'own'; readonly until: string | null } | (Gift & { readonly until: null });

/** Whether something with a last day still counts on a local day. */
export const stillCounts = (until: string | null, today: string): boolean => until === null || today <= until;

/**
 * The level that counts for routing: the person's own where set; else, unless the person is marked never, the highest
 * of what teams and sets give (a team before a set, then the order given). Null means the person does not have the
 * skill. An own level or a never counts through its last day; after it, it is as if it were not set.
 *
 * @param today the local day in the person's zone, YYYY-MM-DD
 * @example effectiveLevel({ level: 2, until: null, note: '' }, [{ level: 5, from: 'team', id: 't' }], '2026-11-23')
 * // level 2, from 'own'
 */
export function effectiveLevel(
  own: OwnLevel | undefined,
  gifts: readonly Gift[],
  today: string,
): EffectiveLevel | null {
  if (own && stillCounts(own.until, today))
    return own.level === 'never' ? null : { level: own.level, from: 'own', until: own.until };
  let best: Gift | null = null;
  for (const gift of gifts) if (best === null || gift.level > best.level) best = gift;
  return best && { ...best, until: null };
}

export type Levels = Readonly<Record<string, Level>>;
/** What gives levels: a team with its own and its sets', by id. */
export type Givers = {
  readonly teams: ReadonlyMap<string, { readonly levels: Levels; readonly setIds: readonly string[] }>;
  readonly sets: ReadonlyMap<string, Levels>;
};
/** Whom teams and sets give to. The first team is the home team. */
export type Receiver = { readonly teamIds: readonly string[]; readonly setIds: readonly string[] };

/** Everything that teams and sets give to somebody, by skill id. */
export function giftsTo(person: Receiver, givers: Givers): Map<string, Gift[]> {
  const gifts = new Map<string, Gift[]>();
  const add = (levels: Levels | undefined, gift: (level: Level) => Gift) => {
    for (const skillId in levels) {
      const level = levels[skillId];
      if (level === undefined) continue;
      const there = gifts.get(skillId);
      if (there) there.push(gift(level));
      else gifts.set(skillId, [gift(level)]);
    }
  };
  for (const id of person.teamIds) add(givers.teams.get(id)?.levels, (level) => ({ level, from: 'team', id }));
  for (const id of person.setIds) add(givers.sets.get(id), (level) => ({ level, from: 'set', id, viaTeamId: null }));
  for (const viaTeamId of person.teamIds)
    for (const id of givers.teams.get(viaTeamId)?.setIds ?? [])
      add(givers.sets.get(id), (level) => ({ level, from: 'set', id, viaTeamId }));
  return gifts;
}

/** All effective levels of a person, by skill id. */
export function effectiveLevels(
  own: ReadonlyMap<string, OwnLevel>,
  gifts: ReadonlyMap<string, readonly Gift[]>,
  today: string,
): Map<string, EffectiveLevel> {
  const all = new Map<string, EffectiveLevel>();
  for (const [skill, set] of own) {
    const found = effectiveLevel(set, gifts.get(skill) ?? [], today);
    if (found) all.set(skill, found);
  }
  for (const [skill, given] of gifts) {
    if (own.has(skill)) continue;
    const found = effectiveLevel(undefined, given, today);
    if (found) all.set(skill, found);
  }
  return all;
}

/** Names for sentences, by id. */
export type Names = { readonly team: (id: string) => string; readonly set: (id: string) => string };

/** Where a level comes from, and what it sets aside, in a sentence. */
export function levelSentence(own: OwnLevel | undefined, gifts: readonly Gift[], today: string, names: Names): string {
  const source = (g: Gift) =>
    g.from === 'team'
      ? names.team(g.id)
      : `the set ${names.set(g.id)}${g.viaTeamId === null ? '' : `, given to ${names.team(g.viaTeamId)}`}`;
  const counts = effectiveLevel(own, gifts, today);
  const given = gifts.length > 0 ? ` (${gifts.map((g) => `${source(g)} would give ${g.level}`).join('; ')})` : '';
  if (own && !stillCounts(own.until, today)) {
    const was = own.level === 'never' ? 'The never' : `Level ${own.level}`;
    return (
      `${was} set on the person ended on ${own.until}. ` +
      `${counts && counts.from !== 'own' ? `Level ${counts.level} now comes from ${source(counts)}.` : 'Nothing else gives this skill.'}`
    );
  }
  const until = own?.until ? `, through ${own.until}` : '';
  if (own?.level === 'never') return `Marked never on the person${until}${given}.`;
  if (own) return `Level ${own.level} is set on the person${until}${given}.`;
  if (!counts || counts.from === 'own') return 'Nobody gave this skill.';
  const others = gifts
    .filter((g) => g !== gifts.find((x) => x.level === counts.level))
    .map((g) => `${source(g)} gives ${g.level}`);
  return `Level ${counts.level} comes from ${source(counts)}${others.length > 0 ? `; ${others.join('; ')}` : ''}.`;
}
