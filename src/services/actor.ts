import { LaneError } from '../core/errors';
import { mayDo, type Right, type Role } from '../core/people/rights';

/** Who asks. Made from a session, never from input. `teamIds` are the teams they supervise. */
export type Actor = { readonly personId: string; readonly name: string; readonly role: Role; readonly teamIds: readonly string[] };

/** Throws `not-allowed` unless the actor holds the right. */
export function need(actor: Actor, right: Right): void {
  if (!mayDo(actor.role, right)) throw new LaneError('not-allowed', `${roleWords(actor.role)} may not do this (${right}).`);
}

/** Whether an actor may change people of this team: those who may change everybody, and supervisors in their own teams. */
export const mayChangeTeam = (actor: Actor, teamId: string): boolean =>
  mayDo(actor.role, 'people.change') || (mayDo(actor.role, 'people.change-own-teams') && actor.teamIds.includes(teamId));

const roleWords = (role: Role): string => `${role === 'owner' || role === 'agent' ? 'An' : 'A'} ${role}`;
