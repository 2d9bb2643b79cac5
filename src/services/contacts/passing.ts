import { LaneError } from '../../core/errors';
import { roomFor } from '../../core/people/load';
import { unable } from '../../core/routing/able';
import { heldBy } from '../../core/routing/floor';
import { newVisit } from '../../core/routing/visit';
import type { WaitingVisit } from '../../core/routing/floor';
import type { QueueSettings } from '../../core/routing/queue';
import { type Contact, readContact } from '../../data/contacts';
import type { Leg } from '../../data/legs';
import { readPeople } from '../../data/people';
import { GROUPS } from '../../data/groups';
import { readQueue, readQueues } from '../../data/queuesettings';
import { readVisit } from '../../data/visits';
import type { DeskDeps } from './deskcontact';

/** Somebody who could take a contact: by which queue, whether now or once they have room. */
export type PassPerson = {
  readonly id: string;
  readonly name: string;
  readonly queueId: string;
  readonly queue: string;
  readonly now: boolean;
  readonly room: string;
};
/** Where a contact can be passed on to; `free` is how many people there could take it now. */
export type PassTargets = {
  readonly people: readonly PassPerson[];
  readonly queues: readonly {
    readonly id: string;
    readonly name: string;
    readonly free: number;
    readonly waiting: number;
  }[];
  readonly groups: readonly { readonly id: string; readonly name: string; readonly free: number }[];
};

const FULL: readonly string[] = ['channel-most', 'load', 'offer-pending'];

/** The contact as it would stand in a queue, open to a group where one is named. */
function wouldWait(
  { host }: DeskDeps,
  contact: Contact,
  queue: QueueSettings & { readonly id: string },
  groupId: string | null = null,
): WaitingVisit {
  const now = host.times.floor();
  const { visit } = newVisit(
    queue,
    0,
    0,
    {
      id: 'passed-on',
      contactId: contact.id,
      queueId: queue.id,
      channel: contact.channel,
      placedAt: now,
      handOver: [],
      priority: 0,
      familiarId: null,
      kind: 'live',
      because: '',
      passed: [],
    },
    now,
  );
  return groupId === null ? visit : { ...visit, groups: [groupId] };
}

/** Who else could take a contact, in which queues, and which groups could be asked besides. */
export function passTargets(deps: DeskDeps, leg: Leg): PassTargets {
  const { host, floor } = deps;
  const contact = readContact(host.db, leg.contactId);
  if (!contact) throw new LaneError('not-found', 'There is no such contact.');
  const own = readVisit(host.db, leg.visitId)?.queueId;
  const all = readQueues(host.db)
    .filter((q) => q.channels.includes(contact.channel))
    .sort((a, b) => Number(b.id === own) - Number(a.id === own));
  const visits = new Map(all.map((queue) => [queue.id, wouldWait(deps, contact, queue)]));
  const names = new Map(readPeople(host.db).map((p) => [p.id, p.name]));
  const now = host.times.floor();
  const free = new Map<string, number>();
  const people: PassPerson[] = [];
  for (const person of floor.router.floor.people.values()) {
    if (person.id === leg.personId) continue;
    let best: PassPerson | null = null;
    for (const queue of all) {
      const visit = visits.get(queue.id);
      const bar = visit && unable(floor.router.floor, person, visit, now);
      if (bar === null) free.set(queue.id, (free.get(queue.id) ?? 0) + 1);
      if (!visit || best?.now || (bar && (best || !FULL.includes(bar.why)))) continue;
      best = {
        id: person.id,
        name: names.get(person.id) ?? '',
        queueId: queue.id,
        queue: queue.name,
        now: bar === null,
        room: roomFor(person.load, heldBy(person)),
      };
    }
    if (best) people.push(best);
  }
  const waiting = [...floor.router.floor.waiting.values()];
  const ownQueue = all.find((q) => q.id === own);
  return {
    people: people.sort((a, b) => Number(b.now) - Number(a.now) || a.name.localeCompare(b.name)),
    queues: all
      .filter((q) => q.id !== own)
      .map((q) => ({
        id: q.id,
        name: q.name,
        free: free.get(q.id) ?? 0,
        waiting: waiting.filter((v) => v.queue.id === q.id).length,
      })),
    groups: !ownQueue
      ? []
      : GROUPS.all(host.db).map((g) => {
          const visit = wouldWait(deps, contact, ownQueue, g.id);
          const members = floor.router.floor.groups.get(g.id)?.members;
          const able = [...(members?.keys() ?? [])].filter((id) => {
            const person = floor.router.floor.people.get(id);
            return person && person.id !== leg.personId && unable(floor.router.floor, person, visit, now) === null;
          });
          return { id: g.id, name: g.name, free: able.length };
        }),
  };
}

/** Throws `not-now` where whom a contact is passed on to cannot take it, not even once they have room. */
export function mustTake(deps: DeskDeps, leg: Leg, queueId: string, personId: string): void {
  const contact = readContact(deps.host.db, leg.contactId);
  const queue = readQueue(deps.host.db, queueId);
  const person = personId === leg.personId ? undefined : deps.floor.router.floor.people.get(personId);
  const bar =
    contact && queue?.channels.includes(contact.channel) && person
      ? unable(deps.floor.router.floor, person, wouldWait(deps, contact, queue), deps.host.times.floor())
      : undefined;
  if (bar === undefined || (bar !== null && !FULL.includes(bar.why)))
    throw new LaneError(
      'not-now',
      'They cannot take it any more: they are off duty, away, or this is not theirs to take.',
    );
}
