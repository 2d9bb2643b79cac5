import type { Channel } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { type DutyRow, type OwnRow, profileIdAt } from '../../core/people/duty';
import type { Db } from '../../data/database';
import { PERSON_ROWS, readProfile, readProfiles } from '../../data/dutyprofiles';
import { valueOf } from '../../data/documents';
import { readPeople, readPerson } from '../../data/people';
import { readQueue } from '../../data/queuesettings';
import { type Actor, mustHold, mustHoldEverywhere, sees } from '../ground/actor';
import { bind } from '../ground/bind';
import { recordChange, sameRevision, type Undoable } from '../ground/change';
import type { Tx } from '../ground/host';
import { parse } from '../ground/validate';
import { profileBody, putProfile } from './duty';
import { queueSideSchema } from './dutyschemas';
import { type DutyDeps, peopleOn } from './dutyview';

/** Band and delay by channel; band 0 is not taken. */
type ByChannel = Readonly<Partial<Record<Channel, { readonly band: number; readonly delaySeconds: number }>>>;

/** Who takes a queue, from the queue's side: each profile's row per channel, and those of single people. */
export type QueueSide = {
  readonly queueId: string;
  readonly channels: readonly Channel[];
  readonly rows: readonly {
    profileId: string;
    name: string;
    revision: number;
    people: number;
    onDuty: number;
    channels: ByChannel;
  }[];
  /** Everybody with the profile they are on now; `channels` has rows of their own, where they have any. */
  readonly people: readonly {
    personId: string;
    name: string;
    revision: number;
    profileId: string;
    ready: boolean;
    channels: ByChannel;
  }[];
  readonly mayChange: boolean;
};

const byChannel = (rows: readonly DutyRow[], queueId: string): ByChannel =>
  Object.fromEntries(
    rows
      .filter((r) => r.queueId === queueId)
      .map((r) => [r.channel, { band: r.band, delaySeconds: r.delaySeconds }] as const),
  );

/** Who takes a queue: every profile's rows for it, and people's own. */
export function viewQueueSide({ host }: DutyDeps, actor: Actor, queueId: string): QueueSide {
  mustHold(actor, 'settings.view');
  const queue = readQueue(host.db, queueId);
  if (!queue) throw new LaneError('not-found', 'There is no such queue.');
  const at = host.times.floor();
  const people = readPeople(host.db).filter((p) => p.active);
  const own = new Map(PERSON_ROWS.all(host.db).map((p) => [p.id, p]));
  return {
    queueId,
    channels: queue.channels,
    mayChange: actor.rights.includes('people.change') && actor.teams === 'all',
    rows: readProfiles(host.db).map((p) => {
      const on = people.filter((x) => profileIdAt(x, at) === p.id);
      return {
        profileId: p.id,
        name: p.name,
        revision: p.revision,
        people: on.length,
        onDuty: on.filter((x) => x.duty === 'ready').length,
        channels: byChannel(p.rows, queueId),
      };
    }),
    people: people
      .filter((p) => sees(actor, p))
      .map((p) => ({
        personId: p.id,
        name: p.name,
        revision: own.get(p.id)?.revision ?? 0,
        profileId: profileIdAt(p, at),
        ready: p.duty === 'ready',
        channels: byChannel(own.get(p.id)?.rows ?? [], queueId),
      })),
  };
}

const ownOf = (db: Db, personId: string) => {
  const there = PERSON_ROWS.one(db, personId);
  return there ? valueOf(there) : null;
};

/** Keeps somebody's own rows; with none left there is nothing of theirs to keep. */
function putOwn(tx: Tx, person: { readonly id: string; readonly name: string }, rows: readonly OwnRow[]): void {
  if (rows.length === 0) PERSON_ROWS.remove(tx.db, person.id);
  else PERSON_ROWS.write(tx.db, person.id, person.name, { rows });
}

export const undoableOwnRows = (deps: DutyDeps): Readonly<Record<'own-rows', Undoable>> => ({
  'own-rows': {
    name: 'queues of a person’s own',
    path: (personId) => `/people?person=${personId}`,
    read: ownOf,
    restore: (tx, actor, personId, value) => {
      mustHoldEverywhere(actor, 'people.change');
      const person = readPerson(tx.db, personId);
      if (!person) throw new LaneError('not-found', 'This person is not there any more.');
      putOwn(tx, person, (value as { readonly rows: readonly OwnRow[] } | null)?.rows ?? []);
      deps.floor.refreshPeople(tx, [personId]);
    },
  },
});

/** Rows with those named put in place of what was there; band 0 of a profile is no row at all. */
const replaced = (rows: readonly DutyRow[], queueId: string, changed: readonly Omit<DutyRow, 'queueId'>[]): DutyRow[] =>
  changed.reduce<DutyRow[]>(
    (all, { channel, band, delaySeconds }) => [
      ...all.filter((r) => r.queueId !== queueId || r.channel !== channel),
      { queueId, channel, band, delaySeconds },
    ],
    [...rows],
  );

function grouped<T>(rows: readonly T[], key: (row: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const row of rows) groups.set(key(row), [...(groups.get(key(row)) ?? []), row]);
  return groups;
}

/** Sets a queue's rows in several profiles and of several people in one press. Gives how many people that touches. */
export function saveQueueSide(deps: DutyDeps, actor: Actor, input: unknown): { people: number } {
  mustHoldEverywhere(actor, 'people.change');
  const asked = parse(queueSideSchema, input);
  if (asked.rows.length + asked.own.length === 0)
    throw new LaneError('not-valid', 'Nothing to change.', [{ where: 'rows', what: 'are none' }]);
  return deps.host.transact((tx) => {
    const { queueId } = asked;
    const queue = readQueue(tx.db, queueId);
    for (const { channel } of [...asked.rows, ...asked.own])
      if (!queue?.channels.includes(channel))
        throw new LaneError('not-valid', 'There is no such queue on this channel.', [
          { where: 'queueId', what: 'is not known' },
        ]);
    const batch = tx.ids('batch');
    const touched = new Set<string>();
    for (const [profileId, mine] of grouped(asked.rows, (r) => r.profileId)) {
      const before = readProfile(tx.db, profileId);
      if (!before) throw new LaneError('not-found', 'A duty profile is not there any more.');
      sameRevision(before, mine[0]?.revision ?? 0, before.name);
      const after = {
        ...profileBody(before),
        rows: replaced(before.rows, queueId, mine).filter((r) => r.band > 0),
      };
      putProfile(deps, tx, after);
      recordChange(tx, actor, 'duty-profile', profileId, profileBody(before), after, { batch });
      for (const personId of peopleOn(deps, tx.db, profileId)) touched.add(personId);
    }
    for (const [personId, mine] of grouped(asked.own, (r) => r.personId)) {
      const person = readPerson(tx.db, personId);
      if (!person) throw new LaneError('not-found', 'Somebody is not there any more.');
      const before = PERSON_ROWS.one(tx.db, personId);
      sameRevision(before ?? { revision: 0 }, mine[0]?.revision ?? 0, person.name);
      const asProfile = new Set(mine.filter((r) => r.asProfile).map((r) => r.channel));
      putOwn(
        tx,
        person,
        replaced(before?.rows ?? [], queueId, mine).filter((r) => r.queueId !== queueId || !asProfile.has(r.channel)),
      );
      const label = { label: person.name, batch };
      recordChange(tx, actor, 'own-rows', personId, before ? valueOf(before) : null, ownOf(tx.db, personId), label);
      touched.add(personId);
    }
    deps.floor.refreshPeople(tx, [...touched]);
    return { people: touched.size };
  });
}

/** Who takes a queue, seen and changed from the queue's side. */
export const createQueueSide = (deps: DutyDeps) => ({
  undoable: undoableOwnRows(deps),
  ...bind(deps, { view: viewQueueSide, save: saveQueueSide }),
});
