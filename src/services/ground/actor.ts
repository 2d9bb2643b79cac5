import { LaneError } from '../../core/errors';
import { holds, outranks, reaches, RIGHT_WORDS, type Right, type Standing } from '../../core/people/rights';
import type { Db } from '../../data/database';
import { readPerson } from '../../data/people';
import { readRole, standingOfPerson } from '../../data/roles';

/** Who asks, what they hold and for which teams. Made from a session, never from input. */
export type Actor = Standing & {
  readonly personId: string;
  readonly name: string;
  readonly roleId: string;
  readonly roleName: string;
};

/** The actor that an active person is now, or null. Read anew each time, so that a changed role counts at once. */
export function actorOf(db: Db, personId: string): Actor | null {
  const person = readPerson(db, personId);
  if (!person?.active) return null;
  const { role, rights, teams } = standingOfPerson(db, personId);
  return { personId, name: person.name, roleId: role.id, roleName: role.name, rights, teams };
}

/** Throws `not-allowed` unless the actor holds the right. */
export function mustHold(actor: Actor, right: Right): void {
  if (!holds(actor, right))
    throw new LaneError('not-allowed', `The role ${actor.roleName} may not ${RIGHT_WORDS[right]}.`);
}

/** Throws `not-allowed` unless the actor holds one of the rights. */
export function mustHoldOne(actor: Actor, rights: readonly Right[]): void {
  if (!rights.some((right) => holds(actor, right)))
    throw new LaneError(
      'not-allowed',
      `The role ${actor.roleName} may not ${rights.map((r) => RIGHT_WORDS[r]).join(', or ')}.`,
    );
}

/** For what belongs to everybody: the right is needed, and for all teams. */
export function mustHoldEverywhere(actor: Actor, right: Right): void {
  mustHold(actor, right);
  if (actor.teams !== 'all')
    throw new LaneError('not-allowed', `Your role holds for your teams only, and this concerns everybody.`);
}

type Member = { readonly id: string; readonly teamId: string; readonly alsoTeamIds: readonly string[] };
/** Whether somebody is in one of the actor's teams, or is the actor. */
export const sees = (actor: Actor, person: Member): boolean =>
  person.id === actor.personId || reaches(actor, person.teamId) || person.alsoTeamIds.some((id) => reaches(actor, id));
/** Whether an actor may change people whose home is this team. */
export const mayChangeTeam = (actor: Actor, teamId: string): boolean =>
  holds(actor, 'people.change') && reaches(actor, teamId);

export function mustReach(actor: Actor, teamId: string): void {
  mustHold(actor, 'people.change');
  if (!reaches(actor, teamId)) throw new LaneError('not-allowed', 'You may change people of your own teams only.');
}
/** Whether somebody holds more than the actor, who is not themselves. Without a role they hold nothing. */
export function isAbove(db: Db, actor: Actor, person: { readonly id: string; readonly roleId: string }): boolean {
  const role = person.id === actor.personId ? undefined : readRole(db, person.roleId);
  return role !== undefined && outranks(role, actor);
}
/** Nobody takes over, switches off or demotes whoever holds more than they do. */
export function mustNotBeAbove(
  db: Db,
  actor: Actor,
  person: { readonly id: string; readonly name: string; readonly roleId: string },
): void {
  if (isAbove(db, actor, person))
    throw new LaneError(
      'not-allowed',
      `${person.name} holds more than you do, so their address, role and account are not yours to change.`,
    );
}

/** Somebody outside the actor's teams is as if they were not there. */
export function mustSee<P extends Member>(actor: Actor, person: P | undefined): P {
  if (!person || !sees(actor, person))
    throw new LaneError('not-found', 'There is no such person, or they are not in your teams.');
  return person;
}
