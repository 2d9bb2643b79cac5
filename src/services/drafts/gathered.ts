import type { DraftKind, PlanKind } from '../../core/drafts/kinds';
import type { Right } from '../../core/people/rights';
import type { Db } from '../../data/database';
import { readDoor } from '../../data/doors';
import { readProfile } from '../../data/dutyprofiles';
import { GROUPS, PARTNERS } from '../../data/groups';
import { readAllHours } from '../../data/hours';
import { readQueue } from '../../data/queuesettings';
import { COPIED_ROLES } from '../../data/roles';
import type { Actor } from '../ground/actor';

/** The right that each kind of gathered change takes. All but roles belong to everybody, and are changed by whoever reaches all. */
export const RIGHT_TO_CHANGE: Readonly<Record<DraftKind, Right>> = {
  queue: 'queues.change',
  group: 'queues.change',
  partner: 'queues.change',
  hours: 'doors.change',
  door: 'doors.change',
  'duty-profile': 'people.change',
  role: 'roles.change',
  phrasebook: 'bots.change',
};

/** A thing as its page gathers changes to it: what it is called, its revision, and all that can be changed. */
export type Gathered = {
  readonly name: string;
  readonly revision: number;
  readonly value: Readonly<Record<string, unknown>>;
};

const gathered = ({ id: _id, place: _place, revision, ...value }: Head & object): Gathered => ({
  name: value.name,
  revision,
  value,
});
type Head = { readonly id: string; readonly name: string; readonly revision: number; readonly place?: number };
const known = <T extends Head>(thing: T | undefined): Gathered | undefined => thing && gathered(thing);

/** Things as they are now, by their kind. */
const NOW: Readonly<Record<PlanKind, (db: Db, id: string) => Gathered | undefined>> = {
  queue: (db, id) => known(readQueue(db, id)),
  group: (db, id) => known(GROUPS.one(db, id)),
  partner: (db, id) => known(PARTNERS.one(db, id)),
  hours: (db, id) => known(readAllHours(db).find((h) => h.id === id)),
  door: (db, id) => {
    const door = readDoor(db, id);
    if (!door) return undefined;
    // What is set by hand is not gathered: it counts at once, and ends by itself.
    const { byHand: _byHand, ...settings } = door;
    return gathered(settings);
  },
  'duty-profile': (db, id) => known(readProfile(db, id)),
  role: (db, id) => known(COPIED_ROLES.one(db, id)),
};
export const gatheredNow = (db: Db, kind: PlanKind, id: string): Gathered | undefined => NOW[kind](db, id);

/** What applies each: the same acts as a press on their pages, with the same rights and checks. */
export type Applying = {
  readonly queues: { readonly save: Apply };
  readonly groups: { readonly saveGroup: Apply; readonly savePartner: Apply };
  readonly hours: { readonly save: Apply };
  readonly doors: { readonly save: Apply };
  readonly duty: { readonly saveProfile: Apply };
  readonly roles: { readonly save: Apply };
};
type Apply = (actor: Actor, input: unknown) => unknown;

/** Applies a version of a thing over the revision that it has. Throws what a press would be refused with. */
export function applyGathered(
  by: Applying,
  actor: Actor,
  kind: PlanKind,
  id: string,
  revision: number,
  value: Gathered['value'],
): void {
  const body = { id, revision, ...value };
  const apply: Readonly<Record<PlanKind, () => unknown>> = {
    queue: () => by.queues.save(actor, { id, revision, settings: value }),
    group: () => by.groups.saveGroup(actor, body),
    partner: () => by.groups.savePartner(actor, body),
    hours: () => by.hours.save(actor, body),
    door: () => by.doors.save(actor, body),
    'duty-profile': () => by.duty.saveProfile(actor, body),
    role: () => by.roles.save(actor, body),
  };
  apply[kind]();
}
