import { object } from 'yup';
import type { ShownImage } from '../../core/bots/conversation';
import type { Channel } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { type FieldType, fieldValue } from '../../core/fieldvalue';
import { localTime } from '../../core/hours/weekly';
import { localised } from '../../core/localised';
import { fillReply, suggestReplies, summarise } from '../../core/messages/stockreplies';
import { cannotFile } from '../../core/outcomes';
import { DUTY_STATES, type DutyState } from '../../core/people/duty';
import { roomFor, usedLoad } from '../../core/people/load';
import { unable } from '../../core/routing/able';
import { heldBy, type WaitingVisit } from '../../core/routing/floor';
import { before } from '../../core/routing/roster';
import { decisionSentence } from '../../core/routing/trail';
import { scriptOf } from '../../data/bots';
import {
  contactsOfCustomer,
  decisionsOf,
  handledSince,
  type Leg,
  legsOf,
  legsSince,
  messagesOf,
  openLegsOf,
  openOfferOf,
  passedFields,
  privateValuesOf,
  readContact,
  readLeg,
  readVisit,
  valuesOf,
  visitsOf,
  writeValue,
} from '../../data/contacts';
import { AWAY_REASONS } from '../../data/duty';
import { readPeople, readPerson, readSkills } from '../../data/people';
import { waysOf } from '../../data/reach';
import {
  type FieldRecord,
  readDoor,
  readFields,
  readOutcomes,
  readQueue,
  readQueues,
  readWorkspace,
} from '../../data/settings';
import { type Actor, need } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { once } from '../ground/once';
import { exactly, id, oneOf, requiredText, text } from '../ground/schemas';
import { parse } from '../ground/validate';
import type { DeskLayout, DeskProfiles } from '../people/deskprofiles';
import type { Callbacks, CallingNow } from './callbacks';
import type { Conversations } from './conversations';
import type { LiveFloor } from './livefloor';
import { keepPrivate, opened, withTokens } from './privatevalues';

const ACTS = {
  duty: exactly(
    object({
      act: oneOf(['duty'], 'act'),
      duty: oneOf<DutyState>(DUTY_STATES, 'The state'),
      reason: text(60, 'The reason').optional(),
    }),
  ),
  accept: exactly(object({ act: oneOf(['accept'], 'act'), offerId: id('The offer') })),
  decline: exactly(object({ act: oneOf(['decline'], 'act'), offerId: id('The offer') })),
  say: exactly(object({ act: oneOf(['say'], 'act'), legId: id('The contact'), text: requiredText(4000, 'The text') })),
  end: exactly(object({ act: oneOf(['end'], 'act'), legId: id('The contact') })),
  file: exactly(
    object({ act: oneOf(['file'], 'act'), legId: id('The contact'), code: requiredText(8, 'The outcome code') }),
  ),
  claim: exactly(object({ act: oneOf(['claim'], 'act'), visitId: id('The contact') })),
  finish: exactly(object({ act: oneOf(['finish'], 'act'), legId: id('The contact') })),
  note: exactly(
    object({
      act: oneOf(['note'], 'act'),
      legId: id('The contact'),
      name: requiredText(60, 'The field'),
      value: text(500, 'The value').defined(),
    }),
  ),
  'pass-on': exactly(object({ act: oneOf(['pass-on'], 'act'), legId: id('The contact'), queueId: id('The queue') })),
} as const;
const isAct = (name: unknown): name is keyof typeof ACTS => typeof name === 'string' && name in ACTS;

/** A field that a person fills in. */
export type DeskField = {
  readonly name: string;
  readonly label: string;
  readonly type: FieldType;
  readonly value: string;
};
/** One earlier contact of the same customer. */
export type Earlier = {
  readonly contactId: string;
  readonly channel: Channel;
  readonly startedAt: number;
  readonly how: string | null;
};
export type DeskContact = {
  readonly legId: string;
  readonly contactId: string;
  readonly channel: Channel;
  readonly customer: string;
  readonly queue: string;
  readonly door: string;
  readonly language: string;
  readonly acceptedAt: number;
  readonly talking: boolean;
  readonly cost: number;
  readonly canPassTo: readonly { id: string; name: string }[];
  readonly fields: readonly { label: string; value: string }[];
  readonly toFill: readonly DeskField[];
  readonly why: string;
  readonly before: readonly Earlier[];
  /** A call to the customer that rings or is answered; what is said to the agent first; the codes of the queue with why one cannot be filed yet. */
  readonly calling: CallingNow | null;
  readonly opening: string;
  readonly outcomes: readonly { readonly code: string; readonly label: string; readonly whyNot: string | null }[];
  readonly wrapUp: 'person' | 'outcome' | 'up-to' | 'exactly';
  readonly filed: string | null;
  readonly messages: readonly {
    seq: number;
    from: 'customer' | 'bot' | 'person';
    name: string;
    text: string;
    at: number;
    image: ShownImage | null;
  }[];
  readonly lastFrom: 'customer' | 'bot' | 'person' | null;
  readonly resting: boolean;
  /** Stock replies in the customer's language with their placeholders filled; those that fit the last words first when suggestions are on. */
  readonly replies: readonly { id: string; set: string; title: string; text: string; fits: boolean }[];
  /** What the conversation came to, when the summary helper is on. */
  readonly summary: string | null;
};
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
  }[];
  readonly handledToday: number;
  readonly contacts: readonly DeskContact[];
  readonly outcomes: readonly { code: string; label: string }[];
  readonly offer: {
    readonly offerId: string;
    readonly channel: Channel;
    readonly queue: string;
    readonly customer: string;
    readonly cost: number;
    readonly realSecondsLeft: number;
    readonly why: string;
    readonly fields: readonly { label: string; value: string }[];
    readonly before: readonly Earlier[];
  } | null;
};

/** What the functions of this file are given first. */
export type DeskDeps = {
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly conversations: Conversations;
  readonly desks: DeskProfiles;
  readonly callbacks: Callbacks;
};

/** Fields that a queue shows, in its order. */
function fieldsOf({ host }: DeskDeps, queueId: string | undefined): FieldRecord[] {
  const all = readFields(host.db);
  const order = queueId === undefined ? null : (readQueue(host.db, queueId)?.fields ?? null);
  return order === null ? all : order.flatMap((fieldId) => all.filter((f) => f.id === fieldId));
}

const valuesKnown = ({ host }: DeskDeps, contactId: string) =>
  new Map(
    [...valuesOf(host.db, contactId), ...privateValuesOf(host.db, contactId)].map((v) => [
      v.name,
      opened(host.db, contactId, v.value),
    ]),
  );

/** What was passed on or noted, as the queue shows it. */
function known(deps: DeskDeps, contactId: string, queueId: string | undefined): { label: string; value: string }[] {
  const values = valuesKnown(deps, contactId);
  const passed = passedFields(deps.host.db, contactId);
  return fieldsOf(deps, queueId)
    .filter((f) => values.has(f.name) && passed.has(f.name) && !f.filledBy.includes('agent'))
    .map((f) => ({ label: f.label, value: values.get(f.name) ?? '' }));
}

/** Fields that a person fills in, with what stands in them. */
function toFill(deps: DeskDeps, contactId: string, queueId: string | undefined): DeskField[] {
  const values = valuesKnown(deps, contactId);
  return fieldsOf(deps, queueId)
    .filter((f) => f.filledBy.includes('agent'))
    .map((f) => ({ name: f.name, label: f.label, type: f.type, value: values.get(f.name) ?? '' }));
}

function why({ host }: DeskDeps, visitId: string, personId: string): string {
  const trail = decisionsOf(host.db, visitId)
    .filter((t) => t.chosen === personId)
    .at(-1);
  if (!trail) return '';
  const visit = readVisit(host.db, visitId);
  const skills = new Map(readSkills(host.db).map((s) => [s.id, s.name]));
  const needs = visit?.needs.map((n) => `${skills.get(n.skillId) ?? n.skillId} ${n.atLeast}`) ?? [];
  return `${decisionSentence(trail, () => 'You')}${needs.length > 0 ? ` ${needs.join(' and ')} or better ${needs.length === 1 ? 'was' : 'were'} needed.` : ''}`.replace(
    'You was',
    'You were',
  );
}

const languages = ({ host }: DeskDeps): readonly string[] => readWorkspace(host.db)?.languages ?? ['en'];

/** The codes a queue's agents see. */
const codesOf = ({ host }: DeskDeps, only: readonly string[] | null) =>
  readOutcomes(host.db).filter((o) => !o.retired && o.who === 'agents' && (only === null || only.includes(o.code)));

const contactSeconds = ({ host }: DeskDeps, leg: Leg): number =>
  ((leg.talkEndedAt ?? host.clocks.floor()) - leg.acceptedAt) / 1000;

/** Being full is no bar: whoever takes by hand chose to. */
const TAKES_ANYWAY: readonly string[] = ['channel-most', 'load', 'offer-pending'];

function claimableBy({ floor, host }: DeskDeps, personId: string): WaitingVisit[] {
  const person = floor.router.floor.people.get(personId);
  if (!person) return [];
  return [...floor.router.floor.waiting.values()]
    .filter((v) => v.queue.offering.way === 'claim')
    .sort(before)
    .filter((v) => {
      const bar = unable(floor.router.floor, person, v, host.clocks.floor());
      return bar === null || TAKES_ANYWAY.includes(bar.why);
    });
}

/** The customer's last five contacts before this one. */
const earlier = ({ host }: DeskDeps, c: { id: string; customerId: string }): Earlier[] =>
  contactsOfCustomer(host.db, c.customerId, 6)
    .filter((b) => b.id !== c.id)
    .slice(0, 5)
    .map((b) => ({ contactId: b.id, channel: b.channel, startedAt: b.startedAt, how: b.endedHow }));

function myLeg({ host }: DeskDeps, actor: Actor, legId: string): Leg {
  const leg = readLeg(host.db, legId);
  if (!leg || leg.personId !== actor.personId || leg.endedAt !== null)
    throw new LaneError('not-found', 'This contact is not with you any more.');
  return leg;
}

function talking(deps: DeskDeps, actor: Actor, legId: string): Leg {
  const leg = myLeg(deps, actor, legId);
  if (leg.talkEndedAt !== null) throw new LaneError('not-now', 'This conversation has ended; file its outcome.');
  return leg;
}

function offered({ host }: DeskDeps, actor: Actor, offerId: string): void {
  if (openOfferOf(host.db, actor.personId)?.id !== offerId)
    throw new LaneError('not-now', 'This offer is over: the customer left, or the time to accept ran out.');
}

function repliesFor(
  { host }: DeskDeps,
  layout: DeskLayout,
  language: string,
  names: { customer: string; agent: string; company: string },
  lastWords: string,
): DeskContact['replies'] {
  const languages = readWorkspace(host.db)?.languages ?? ['en'];
  const all = layout.replies
    .map((r) => ({
      id: r.id,
      set: r.set,
      title: r.title,
      text: fillReply(localised(r.text, language, languages), names),
    }))
    .filter((r) => r.text !== '');
  const fitting =
    layout.helpers.includes('suggest') && lastWords !== '' ? suggestReplies(all, lastWords).slice(0, 3) : [];
  return [
    ...fitting.map((r) => ({ ...r, fits: true })),
    ...all.filter((r) => !fitting.includes(r)).map((r) => ({ ...r, fits: false })),
  ];
}

function contact(deps: DeskDeps, leg: Leg, layout: DeskLayout): DeskContact | null {
  const c = readContact(deps.host.db, leg.contactId);
  if (!c) return null;
  const visit = readVisit(deps.host.db, leg.visitId);
  const queue = visit && readQueue(deps.host.db, visit.queueId);
  const script = c.botId !== null && c.botVersion !== null ? scriptOf(deps.host.db, c.botId, c.botVersion) : undefined;
  const customer = deps.conversations.customerName(deps.host.db, c);
  const messages = messagesOf(deps.host.db, c.id).map((m) => ({
    seq: m.seq,
    from: m.sender,
    at: m.floorAt,
    text: opened(deps.host.db, c.id, m.text),
    image: m.image,
    name:
      m.sender === 'customer'
        ? customer
        : m.sender === 'bot'
          ? (script?.shownName ?? 'Bot')
          : (readPerson(deps.host.db, m.personId ?? '')?.shownName ?? 'Us'),
  }));
  const fields = known(deps, c.id, visit?.queueId);
  const words = messages.map((m) => ({ from: m.from, text: m.text }));
  const person = readPerson(deps.host.db, leg.personId);
  return {
    legId: leg.id,
    contactId: c.id,
    channel: c.channel,
    customer,
    queue: queue?.name ?? '',
    door: readDoor(deps.host.db, c.doorId)?.name ?? '',
    language: c.language,
    acceptedAt: leg.acceptedAt,
    talking: leg.talkEndedAt === null,
    cost: deps.floor.router.floor.people.get(leg.personId)?.open.get(leg.id)?.cost ?? 0,
    canPassTo: readQueues(deps.host.db)
      .filter((q) => q.channels.includes(c.channel) && q.id !== queue?.id)
      .map((q) => ({ id: q.id, name: q.name })),
    resting: deps.floor.router.floor.people.get(leg.personId)?.open.get(leg.id)?.resting ?? false,
    replies: layout.panels.talking.includes('replies')
      ? repliesFor(
          deps,
          layout,
          c.language,
          { customer, agent: person?.shownName ?? '', company: readWorkspace(deps.host.db)?.name ?? '' },
          words.filter((w) => w.from === 'customer').at(-1)?.text ?? '',
        )
      : [],
    summary: layout.helpers.includes('summary') ? summarise(fields, words) : null,
    fields,
    toFill: toFill(deps, c.id, visit?.queueId),
    why: why(deps, leg.visitId, leg.personId),
    before: earlier(deps, c),
    calling: deps.callbacks.callingNow(c.id),
    opening: queue ? localised(queue.connect.toAgent, languages(deps)[0] ?? 'en', languages(deps)) : '',
    wrapUp: queue?.wrapUp.way ?? 'person',
    filed: leg.outcome,
    outcomes: codesOf(deps, queue?.outcomes ?? null).map((o) => ({
      code: o.code,
      label: o.label,
      whyNot: cannotFile(o, contactSeconds(deps, leg)),
    })),
    messages,
    lastFrom: messages.at(-1)?.from ?? null,
  };
}

export function viewDesk(deps: DeskDeps, actor: Actor, dayStart: number): DeskView {
  need(actor, 'desk.work');
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
    now: deps.host.clocks.floor(),
    name: person.shownName,
    duty: person.duty,
    reason: person.dutyReason,
    since: person.dutySince,
    reachable: there.reachable,
    used: usedLoad(heldBy(there)),
    room: roomFor(there.load, heldBy(there)),
    handledToday: handledSince(deps.host.db, actor.personId, dayStart),
    claimable: claimableBy(deps, actor.personId).map((v) => {
      const c = readContact(deps.host.db, v.contactId);
      return {
        visitId: v.id,
        channel: v.channel,
        queue: v.queue.name,
        customer: c ? deps.conversations.customerName(deps.host.db, c) : '',
        placedAt: v.placedAt,
      };
    }),
    contacts: legs.flatMap((leg) => contact(deps, leg, layout) ?? []),
    outcomes: codesOf(deps, null).map(({ code, label }) => ({ code, label })),
    offer:
      open && visit && offeredContact
        ? {
            offerId: open.id,
            channel: visit.channel,
            queue: readQueue(deps.host.db, visit.queueId)?.name ?? '',
            customer: deps.conversations.customerName(deps.host.db, offeredContact),
            cost: there.load[visit.channel].cost,
            realSecondsLeft: Math.max(0, Math.round((open.acceptBy - deps.host.clocks.real()) / 1000)),
            why: why(deps, visit.id, actor.personId),
            fields: known(deps, offeredContact.id, visit.queueId),
            before: earlier(deps, offeredContact),
          }
        : null,
  };
}

/** A sign that the Desk is there; every 15 s from an open Desk. */
export function beatOf({ floor }: DeskDeps, actor: Actor): void {
  need(actor, 'desk.work');
  floor.beat(actor.personId);
}

/** Carries out one act of the Desk, once per key. Throws `not-now` when the moment has passed. */
export function actAtDesk(
  deps: DeskDeps,
  actor: Actor,
  input: unknown,
  key: string | null,
): { done: true; legId: string | null } {
  need(actor, 'desk.work');
  const name = typeof input === 'object' && input !== null && 'act' in input ? input.act : undefined;
  if (!isAct(name))
    throw new LaneError('not-valid', `act must be one of ${Object.keys(ACTS).join(', ')}.`, [
      { where: 'act', what: 'is not known' },
    ]);
  return once(deps.host, key, actor.personId, input, (tx) => {
    let legId: string | null = null;
    switch (name) {
      case 'duty': {
        const { duty, reason } = parse(ACTS.duty, input);
        const known = AWAY_REASONS.all(tx.db).map((r) => r.name);
        if (duty === 'away' && reason !== undefined && known.length > 0 && !known.includes(reason))
          throw new LaneError('not-valid', `There is no away reason ${reason}.`, [
            { where: 'reason', what: 'is not known' },
          ]);
        if (duty === 'ready') deps.floor.beat(actor.personId);
        deps.floor.setDuty(tx, actor.personId, duty, duty === 'away' ? (reason ?? known[0] ?? 'Break') : null);
        break;
      }
      case 'accept':
        offered(deps, actor, parse(ACTS.accept, input).offerId);
        legId = deps.floor.accept(tx, actor.personId);
        break;
      case 'decline':
        offered(deps, actor, parse(ACTS.decline, input).offerId);
        deps.floor.turnDown(tx, actor.personId, 'declined');
        break;
      case 'say': {
        const say = parse(ACTS.say, input);
        deps.conversations.personSays(tx, talking(deps, actor, say.legId), say.text);
        break;
      }
      case 'end':
        deps.conversations.endTalk(tx, talking(deps, actor, parse(ACTS.end, input).legId), 'resolved', false);
        break;
      case 'file': {
        const file = parse(ACTS.file, input);
        const leg = myLeg(deps, actor, file.legId);
        const outcome = readOutcomes(tx.db).find((o) => o.code === file.code);
        if (!outcome)
          throw new LaneError('not-valid', `There is no outcome code ${file.code}.`, [
            { where: 'code', what: 'is not known' },
          ]);
        const bar = cannotFile(outcome, contactSeconds(deps, leg));
        if (bar)
          throw new LaneError('not-valid', `${file.code} cannot be filed: ${bar}.`, [{ where: 'code', what: bar }]);
        if (leg.talkEndedAt === null) deps.conversations.endTalk(tx, leg, 'resolved', false);
        // Where wrap-up lasts exactly so long, the outcome is kept and the time runs on.
        if (deps.conversations.wrapUpOf(tx, leg).way === 'exactly')
          tx.emit({
            type: 'leg.filed',
            contactId: leg.contactId,
            legId: leg.id,
            personId: leg.personId,
            outcome: file.code,
          });
        else deps.conversations.finish(tx, readLeg(tx.db, leg.id) ?? leg, file.code);
        break;
      }
      case 'claim': {
        const { visitId } = parse(ACTS.claim, input);
        if (!claimableBy(deps, actor.personId).some((v) => v.id === visitId))
          throw new LaneError('not-now', 'Somebody else has it, the customer left, or it is not yours to take.');
        legId = tx.ids('leg');
        deps.floor.run(tx, { type: 'claim', visitId, personId: actor.personId, legId });
        break;
      }
      case 'finish': {
        const leg = myLeg(deps, actor, parse(ACTS.finish, input).legId);
        const { way } = deps.conversations.wrapUpOf(tx, leg);
        if (leg.talkEndedAt === null) throw new LaneError('not-now', 'This conversation goes on; end it first.');
        if (way === 'outcome') throw new LaneError('not-now', 'This queue asks for an outcome before wrap-up ends.');
        if (way === 'exactly')
          throw new LaneError('not-now', 'Wrap-up in this queue lasts exactly as long as it says.');
        deps.conversations.finish(tx, leg, leg.outcome);
        break;
      }
      case 'note': {
        const note = parse(ACTS.note, input);
        const leg = myLeg(deps, actor, note.legId);
        const field = fieldsOf(deps, readVisit(tx.db, leg.visitId)?.queueId).find(
          (f) => f.name === note.name && f.filledBy.includes('agent'),
        );
        if (!field)
          throw new LaneError('not-valid', 'This field is not filled in here.', [
            { where: 'name', what: 'is not known' },
          ]);
        const value =
          note.value === ''
            ? ''
            : fieldValue(
                field.type,
                note.value,
                languages(deps)[0] ?? 'en',
                localTime(tx.floorAt, readWorkspace(tx.db)?.zone ?? 'UTC'),
              );
        if (value === null)
          throw new LaneError('not-valid', `“${note.value}” cannot be read as ${field.label.toLowerCase()}.`, [
            { where: 'value', what: 'cannot be read' },
          ]);
        if (field.private) keepPrivate(tx, leg.contactId, field.name, String(value));
        else writeValue(tx.db, leg.contactId, field.name, withTokens(tx.db, leg.contactId, String(value)));
        tx.emit({ type: 'value.set', contactId: leg.contactId, name: field.name });
        break;
      }
      case 'pass-on': {
        const pass = parse(ACTS['pass-on'], input);
        deps.conversations.passOn(tx, talking(deps, actor, pass.legId), pass.queueId);
        break;
      }
    }
    return { done: true as const, legId };
  });
}

/** Whether events about this contact may reach this person's Desk. */
export const concernsDesk = ({ host }: DeskDeps, personId: string, contactId: string): boolean =>
  legsOf(host.db, contactId).some((l) => l.personId === personId) ||
  visitsOf(host.db, contactId).some((v) => openOfferOf(host.db, personId)?.visitId === v.id);

/** What a person does with contacts. Everything here is about the actor's own Desk. */
export const createDesk = (deps: DeskDeps) =>
  bind(deps, { view: viewDesk, beat: beatOf, act: actAtDesk, concerns: concernsDesk });
