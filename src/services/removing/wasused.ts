import { object } from 'yup';
import type { Right } from '../../core/people/rights';
import { RETIRED_KINDS, type RetiredKind } from '../../core/removing/kinds';
import { wasUsedSince } from '../../data/retired';
import { type Actor, mustHoldOne } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id, oneOf } from '../ground/schemas';
import { parse } from '../ground/validate';

/** The right that removing each kind takes. */
export const RIGHT_TO_REMOVE: Readonly<Record<RetiredKind, Right>> = {
  queue: 'queues.change',
  door: 'doors.change',
  bot: 'bots.change',
  group: 'queues.change',
  partner: 'queues.change',
  skill: 'people.change',
  team: 'people.change',
  field: 'bots.change',
};
export const RIGHTS_TO_REMOVE = [...new Set(Object.values(RIGHT_TO_REMOVE))];
export const thingSchema = exactly(
  object({ kind: oneOf<RetiredKind>(RETIRED_KINDS, 'The kind'), id: id('What it is about') }),
);

/** Whether anything ever happened with a thing. Looks at every contact where nothing has: for a thread of its own. */
export function readWasUsed({ db }: Pick<Host, 'db'>, actor: Actor, input: unknown): boolean {
  mustHoldOne(actor, RIGHTS_TO_REMOVE);
  const asked = parse(thingSchema, input);
  return wasUsedSince(db, asked.kind, asked.id, 0);
}
