import type { Level } from './levels';

/** A rule that says who belongs to something: a team, a role, whoever has a skill at a level, everyone. */
export type Who =
  | { readonly by: 'team' | 'role'; readonly id: string }
  | { readonly by: 'skill'; readonly id: string; readonly atLeast: Level }
  | { readonly by: 'everyone' };
/** What rules look at in somebody. */
export type Candidate = {
  readonly id: string;
  readonly teamIds: readonly string[];
  readonly roleId: string;
  readonly levels: ReadonlyMap<string, number>;
};

export function belongs(who: Who, person: Candidate): boolean {
  switch (who.by) {
    case 'team':
      return person.teamIds.includes(who.id);
    case 'role':
      return person.roleId === who.id;
    case 'skill':
      return (person.levels.get(who.id) ?? 0) >= who.atLeast;
    case 'everyone':
      return true;
  }
}

/** Rules with their exceptions: whoever any rule takes in, and whoever is named, but nobody who is excepted. */
export type Membership = {
  readonly who: readonly Who[];
  readonly alsoIds: readonly string[];
  readonly exceptIds: readonly string[];
};
export const isMember = ({ who, alsoIds, exceptIds }: Membership, person: Candidate): boolean =>
  !exceptIds.includes(person.id) && (alsoIds.includes(person.id) || who.some((w) => belongs(w, person)));
