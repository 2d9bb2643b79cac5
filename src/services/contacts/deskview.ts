import type { Channel } from '../../core/channels';
import { LaneError } from '../../core/errors';
import type { DutyState } from '../../core/people/duty';
import { roomFor, usedLoad } from '../../core/people/load';
import { unable } from '../../core/routing/able';
import { heldBy, loadOf, type WaitingVisit } from '../../core/routing/floor';
import { before } from '../../core/routing/roster';
import { nameOf } from '../../data/names';
import { readContact } from '../../data/contacts';
import { membersOf } from '../../data/customerties';
import { AWAY_REASONS } from '../../data/duty';
import { handledSince, legsSince, openLegsOf } from '../../data/legs';
import { messagesOf } from '../../data/messages';
import { type OwnReply, ownRepliesOf } from '../../data/ownreplies';
import { readPeople, readPerson } from '../../data/people';
import { waysOf } from '../../data/reach';
import { missedSince, openOfferOf, readVisit } from '../../data/visits';
import { type Actor, mustHold } from '../ground/actor';
import type { DeskLayout } from '../people/desklayout';
import { customerName, isVouched } from './contactstate';
import { masked } from './privatevalues';
import {
  codesOf,
  contact,
  type DeskContact,
  type DeskDeps,
  type Earlier,
  earlier,
  known,
  knownBefore,
  noteFor,
  why,
} from './deskcontact';

export type DeskView = {
  readonly now: number;
  readonly name: string;
  readonly duty: DutyState;
  readonly reason: string | null;
  readonly since: number;
  readonly reachable: boolean;
  readonly used: number;
  readonly room: string;
  readonly layout: Pick<DeskLayout, 'name' | 'panels' | 'views'>;
  readonly reasons: readonly { name: string; minutes: number | null }[];
  readonly ways: readonly { id: string; address: string; verified: boolean; mayCall: boolean }[];
  readonly wayId: string | null;
  readonly today: readonly {
    contactId: string;
    channel: Channel;
    customer: string;
    endedAt: number;
    outcome: string | null;
  }[];
  readonly team: readonly {
    id: string;
    name: string;
    duty: DutyState;
    reason: string | null;
    open: readonly Channel[];
  }[];
  /** Contacts of queues that are taken by hand, longest waiting first, which this person could take. */
  readonly claimable: readonly {
    readonly visitId: string;
    readonly channel: Channel;
    readonly queue: string;
    readonly customer: string;
    readonly placedAt: number;
    readonly language: string;
    /** What was passed on with it, and what the customer said last: to look at before it is taken. */
    readonly fields: readonly { label: string; value: string }[];
    readonly said: string | null;
  }[];
  /** How many there are in all. */ readonly claimableInAll: number;
  readonly handledToday: number;
  /** The replies that they keep for themselves. */
  readonly ownReplies: readonly OwnReply[];
  /** Offers of today that were missed, the newest first. */
  readonly missed: readonly {
    readonly offerId: string;
    readonly queue: string;
    readonly customer: string;
    readonly at: number;
  }[];
  readonly contacts: readonly DeskContact[];
  readonly outcomes: readonly { code: string; label: string }[];
  readonly offer: {
    readonly offerId: string;
    readonly channel: Channel;
    readonly queue: string;
    readonly customer: string;
    readonly vouched: boolean;
    readonly cost: number;
    /** Whether it is a message that was left. */ readonly left: boolean;
    readonly realSecondsLeft: number;
    readonly why: string;
    readonly fields: readonly { label: string; value: string }[];
    readonly before: readonly Earlier[];
    readonly passNote: DeskContact['passNote'];
    /** The channels on which their customer has a contact open with this person already. */
    readonly openToo: readonly Channel[];
  } | null;
};

/** The most missed offers that are told. */
const MOST_MISSED = 10;

/** The most contacts to be taken by hand that are shown. */
const MOST_CLAIMABLE = 30;

/** What the customer of a contact said last, private values masked; null for nothing. */
const lastSaid = ({ host }: DeskDeps, contactId: string): string | null => {
  const said = messagesOf(host.db, contactId).findLast((m) => m.sender === 'customer');
  return said ? masked(said.text) : null;
};

/** Being full is no bar: whoever takes by hand chose to. */
const TAKES_ANYWAY: readonly string[] = ['channel-most', 'load', 'offer-pending'];

export function claimableBy({ floor, host }: DeskDeps, personId: string): WaitingVisit[] {
  const person = floor.router.floor.people.get(personId);
  if (!person) return [];
  return [...floor.router.floor.waiting.values()]
    .filter((v) => v.queue.offering.way === 'claim')
    .sort(before)
    .filter((v) => {
      const bar = unable(floor.router.floor, person, v, host.times.floor());
      return bar === null || TAKES_ANYWAY.includes(bar.why);
    });
}

export function viewDesk(deps: DeskDeps, actor: Actor, dayStart: number): DeskView {
  mustHold(actor, 'desk.work');
  const person = readPerson(deps.host.db, actor.personId);
  const there = deps.floor.router.floor.people.get(actor.personId);
  if (!person || !there) throw new LaneError('not-found', 'You are not on the floor.');
  const open = openOfferOf(deps.host.db, actor.personId);
  const visit = open && readVisit(deps.host.db, open.visitId);
  const offeredContact = visit && readContact(deps.host.db, visit.contactId);
  const legs = openLegsOf(deps.host.db, actor.personId);
  const layout = deps.desks.layoutFor(person);
  return {
    layout: { name: layout.name, panels: layout.panels, views: layout.views },
    reasons: AWAY_REASONS.all(deps.host.db).map((r) => ({ name: r.name, minutes: r.minutes })),
    ways: waysOf(deps.host.db, person.id).map((w) => ({
      id: w.id,
      address: w.address,
      verified: w.verifiedAt !== null,
      mayCall: w.mayCall,
    })),
    wayId: person.voiceWayId,
    today: layout.views.includes('today')
      ? legsSince(deps.host.db, person.id, dayStart, 30).map((l) => ({
          contactId: l.contactId,
          channel: l.channel,
          customer: l.customer,
          endedAt: l.endedAt,
          outcome: l.outcome,
        }))
      : [],
    team: layout.views.includes('team')
      ? readPeople(deps.host.db)
          .filter((p) => p.active && p.id !== person.id && p.teamId === person.teamId && p.duty !== 'off')
          .map((p) => ({
            id: p.id,
            name: p.name,
            duty: p.duty,
            reason: p.dutyReason,
            open: [...(deps.floor.router.floor.people.get(p.id)?.open.values() ?? [])].map((h) => h.channel),
          }))
      : [],
    now: deps.host.times.floor(),
    name: person.shownName,
    duty: person.duty,
    reason: person.dutyReason,
    since: person.dutySince,
    reachable: there.reachable,
    used: usedLoad(heldBy(there)),
    room: roomFor(there.load, heldBy(there)),
    handledToday: handledSince(deps.host.db, actor.personId, dayStart),
    ownReplies: ownRepliesOf(deps.host.db, actor.personId),
    missed: missedSince(deps.host.db, actor.personId, dayStart, MOST_MISSED).map((m) => {
      const c = readContact(deps.host.db, m.contactId);
      return {
        offerId: m.offerId,
        queue: nameOf(deps.host.db, m.queueId) ?? '',
        customer: c ? customerName(deps.host.db, c) : '',
        at: m.at,
      };
    }),
    claimable: claimableBy(deps, actor.personId)
      .slice(0, MOST_CLAIMABLE)
      .map((v) => {
        const c = readContact(deps.host.db, v.contactId);
        return {
          visitId: v.id,
          channel: v.channel,
          queue: v.queue.name,
          customer: c ? customerName(deps.host.db, c) : '',
          placedAt: v.placedAt,
          language: c?.language ?? '',
          fields: knownBefore(deps, v.contactId, v.queue.id),
          said: lastSaid(deps, v.contactId),
        };
      }),
    claimableInAll: claimableBy(deps, actor.personId).length,
    contacts: legs.flatMap((leg) => contact(deps, leg, layout) ?? []),
    outcomes: codesOf(deps, null).map(({ code, label }) => ({ code, label })),
    offer:
      open && visit && offeredContact
        ? {
            offerId: open.id,
            channel: visit.channel,
            queue: nameOf(deps.host.db, visit.queueId) ?? '',
            customer: customerName(deps.host.db, offeredContact),
            vouched: isVouched(deps.host.db, offeredContact),
            cost: there.load[loadOf(visit.kind, visit.channel)].cost,
            left: visit.kind === 'message',
            realSecondsLeft: Math.max(0, Math.round((open.acceptBy - deps.host.times.real()) / 1000)),
            why: why(deps, visit.id, actor.personId),
            fields: known(deps, offeredContact.id, visit.queueId),
            before: earlier(deps, offeredContact),
            passNote: noteFor(deps, offeredContact.id, deps.host.times.floor()),
            openToo: legs.flatMap((leg) => {
              const other = readContact(deps.host.db, leg.contactId);
              const same = other && membersOf(deps.host.db, offeredContact.customerId).includes(other.customerId);
              return same ? [other.channel] : [];
            }),
          }
        : null,
  };
}
