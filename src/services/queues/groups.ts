import { parsePhoneNumberWithError } from 'libphonenumber-js';
import { array, mixed, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import type { Db } from '../../data/database';
import { type documents, valueOf } from '../../data/documents';
import { GROUPS, type PartnerBody, PARTNERS, PERSON_LIMITS } from '../../data/groups';
import { readAllHours } from '../../data/hours';
import { readPeople } from '../../data/people';
import { readRoles } from '../../data/roles';
import { readSkills } from '../../data/skills';
import { readTeams } from '../../data/teams';
import { zone } from '../doors/hours';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Undoable, recordChange, sameRevision } from '../ground/change';
import type { Tx } from '../ground/host';
import { exactly, id, oneOf, requiredText, whole } from '../ground/schemas';
import { whoSchema } from '../ground/whoschema';
import { parse } from '../ground/validate';
import { type GroupsDeps, usersOf, viewGroups } from './groupsview';
import { insteadSchema, limitsSchema } from './queueschema';

const ids = array(string().required()).max(500).required();

const record = <T>(label: string, check: (value: unknown) => value is T) =>
  mixed<Readonly<Record<string, T>>>()
    .required(`${label} is missing`)
    .test(
      'record',
      `${label} cannot be read`,
      (v) =>
        typeof v === 'object' &&
        v !== null &&
        !Array.isArray(v) &&
        Object.keys(v).length <= 500 &&
        Object.values(v).every(check),
    );
const isShare = (n: unknown): n is number => typeof n === 'number' && Number.isInteger(n) && n >= 1 && n <= 100;
const isRank = (v: unknown): v is { readonly rank: number; readonly weight: number } =>
  typeof v === 'object' && v !== null && 'rank' in v && 'weight' in v && isShare(v.rank) && isShare(v.weight);

const groupSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(60, 'The name'),
    zone,
    hoursId: string().nullable().defined(),
    limits: limitsSchema,
    instead: insteadSchema,
    who: array(whoSchema).max(20, 'At most 20 rules').required(),
    alsoIds: ids,
    exceptIds: ids,
    weights: record('The weights', isShare),
  }),
);

const numberSchema = exactly(
  object({
    id: string().nullable().defined(),
    name: requiredText(60, 'The number’s name'),
    address: requiredText(40, 'The number'),
    hoursId: string().nullable().defined(),
    limits: limitsSchema,
    perQueue: record('Rank and weight per queue', isRank),
  }),
);

const partnerSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(60, 'The name'),
    zone,
    hoursId: string().nullable().defined(),
    limits: limitsSchema,
    way: oneOf<PartnerBody['way']>(['one-by-one', 'all-at-once'], 'The way of dialling'),
    ringSeconds: whole(5, 120, 'How long it rings'),
    countsFromSeconds: whole(0, 3600, 'From when it counts'),
    numbers: array(numberSchema)
      .min(1, 'A partner desk needs at least one number')
      .max(20, 'At most 20 numbers')
      .required(),
  }),
);

const ownSchema = exactly(object({ personId: id('The person'), limits: limitsSchema.nullable().defined() }));

export type Groups = ReturnType<typeof createGroups>;

type Kind = 'group' | 'partner' | 'own-limits';
const STORES = { group: GROUPS, partner: PARTNERS, 'own-limits': PERSON_LIMITS } as const;

function drop(tx: Tx, kind: Kind, thingId: string): void {
  if (kind === 'own-limits') return PERSON_LIMITS.remove(tx.db, thingId);
  const users = usersOf(tx.db, kind, thingId);
  if (users.length > 0)
    throw new LaneError('not-now', `It is asked by ${users.join(', ')}. Take it out of their clocks first.`);
  (kind === 'group' ? GROUPS : PARTNERS).remove(tx.db, thingId);
}

function follow({ floor }: GroupsDeps, tx: Tx, kind: string, thingId: string): void {
  if (kind === 'own-limits') floor.refreshPeople(tx, [thingId]);
  else floor.refreshSettings(tx);
}

export const undoableGroups = (deps: GroupsDeps): Readonly<Record<Kind, Undoable>> => {
  const kept = (kind: Kind, name: string): Undoable => ({
    name,
    read: (db, thingId) => {
      const there = STORES[kind].one(db, thingId);
      return there ? valueOf(there) : null;
    },
    path: () => (kind === 'partner' ? '/queues/partners' : '/queues/groups'),
    restore: (tx, actor, thingId, value) => {
      mustHoldEverywhere(actor, 'queues.change');
      if (value === null) drop(tx, kind, thingId);
      else STORES[kind].restore(tx.db, thingId, value);
      follow(deps, tx, kind, thingId);
    },
  });
  return {
    group: kept('group', 'group'),
    partner: kept('partner', 'partner desk'),
    'own-limits': kept('own-limits', 'limits of a person'),
  };
};

function knownHours(db: Db, hoursId: string | null): void {
  if (hoursId !== null && !readAllHours(db).some((h) => h.id === hoursId))
    throw new LaneError('not-valid', 'These hours are not there any more.', [
      { where: 'hoursId', what: 'is not known' },
    ]);
}

function unique(all: readonly { id: string; name: string }[], thingId: string | null, name: string): void {
  const twin = all.find((o) => o.id !== thingId && o.name.toLowerCase() === name.toLowerCase());
  if (twin) throw new LaneError('not-valid', `${twin.name} is there already.`, [{ where: 'name', what: 'is taken' }]);
}

/** One way for both: checks the revision, keeps, notes, and lets the floor follow. */
function save<T extends object>(
  deps: GroupsDeps,
  actor: Actor,
  kind: 'group' | 'partner',
  store: ReturnType<typeof documents<T>>,
  asked: { id: string | null; revision: number; name: string },
  check: (tx: Tx) => T,
): { id: string } {
  return deps.host.transact((tx) => {
    const all = store.all(tx.db);
    const before = all.find((g) => g.id === asked.id);
    if (asked.id !== null && !before) throw new LaneError('not-found', 'It is not there any more.');
    sameRevision(before, asked.revision, asked.name);
    unique(all, asked.id, asked.name);
    const thingId = asked.id ?? tx.ids(kind);
    const body = check(tx);
    store.write(tx.db, thingId, asked.name, body);
    recordChange(tx, actor, kind, thingId, before ? valueOf(before) : null, { name: asked.name, ...body });
    follow(deps, tx, kind, thingId);
    return { id: thingId };
  });
}

export function saveGroup(deps: GroupsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'queues.change');
  const { id: groupId, revision, name, ...body } = parse(groupSchema, input);
  return save(deps, actor, 'group', GROUPS, { id: groupId, revision, name }, (tx) => {
    knownHours(tx.db, body.hoursId);
    const known = {
      team: new Set(readTeams(tx.db).map((t) => t.id)),
      role: new Set(readRoles(tx.db).map((r) => r.id)),
      skill: new Set(readSkills(tx.db).map((s) => s.id)),
    };
    for (const who of body.who)
      if (who.by !== 'everyone' && !known[who.by].has(who.id))
        throw new LaneError('not-valid', `A rule names a ${who.by} that is not there any more.`, [
          { where: 'who', what: 'is not known' },
        ]);
    return body;
  });
}

export function savePartner(deps: GroupsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'queues.change');
  const { id: partnerId, revision, name, ...body } = parse(partnerSchema, input);
  return save(deps, actor, 'partner', PARTNERS, { id: partnerId, revision, name }, (tx) => ({
    ...body,
    numbers: body.numbers.map((n) => {
      for (const hoursId of [body.hoursId, n.hoursId]) knownHours(tx.db, hoursId);
      let address: string;
      try {
        address = parsePhoneNumberWithError(n.address).number;
      } catch {
        throw new LaneError(
          'not-valid',
          `${n.address} is not a telephone number in international form: + and the country code first.`,
          [{ where: 'numbers', what: 'is not a telephone number' }],
        );
      }
      return { ...n, id: n.id ?? tx.ids('number'), address };
    }),
  }));
}

/** Limits of one person's own, or none (null). */
export function saveOwnLimits(deps: GroupsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'queues.change');
  const asked = parse(ownSchema, input);
  return deps.host.transact((tx) => {
    const person = readPeople(tx.db).find((p) => p.id === asked.personId);
    if (!person) throw new LaneError('not-found', 'There is no such person.');
    const before = PERSON_LIMITS.one(tx.db, person.id);
    const limits = asked.limits === null || Object.values(asked.limits).every((l) => l === null) ? null : asked.limits;
    if (limits) PERSON_LIMITS.write(tx.db, person.id, person.name, { limits });
    else drop(tx, 'own-limits', person.id);
    recordChange(
      tx,
      actor,
      'own-limits',
      person.id,
      before ? valueOf(before) : null,
      limits ? { name: person.name, limits } : null,
      { label: person.name },
    );
    follow(deps, tx, 'own-limits', person.id);
    return { id: person.id };
  });
}

/** Groups, partner desks and people's own limits: who is asked besides the duty profiles, and how much they take. */
export const createGroups = (deps: GroupsDeps) => ({
  undoable: undoableGroups(deps),
  ...bind(deps, { view: viewGroups, saveGroup, savePartner, saveOwnLimits }),
});
