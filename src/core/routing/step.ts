import { hash32 } from '../chance';
import { periodAt } from '../hours/weekly';
import type { Act, LeftHow, NewVisit, RouterEvent, RouterTimer } from './acts';
import { noteStanding } from './decision';
import { ruleFor } from './entryrules';
import { noteAnswer, noteHandled, noteJoined, noteLeft } from './expectedwait';
import { floorPerson, rowsOf, type FloorGroup, type FloorPerson, type WaitingVisit } from './floor';
import { NO_USES } from './limits';
import { mergeNeeds, type MergedNeed } from './needs';
import { endOffer, makeOffer, refresh, refreshGroup, release, reserve } from './offers';
import { countShare, joinShares, prefers } from './order';
import { dialOut, giveBackDial, numberOf, partnerAnswers, partnerDone, refreshNumber } from './partners';
import { ableMembers } from './pass';
import type { Onward, QueueSettings } from './queue';
import { joinLine, leaveLine, rosterOf, cohortOf } from './roster';
import { allFull, nextMoment, nextStage, placeAtStage, repeatDue, stagesOf } from './stages';
import type { Router, Touched } from './router';

/**
 * One thing that happened at an instant (floor ms): the router changes its floor and says what the driver must carry out. The
 * same floor and events always give the same acts. Instants never go back, and the driver delivers timers no later than
 * anything else of the same instant. Throws RangeError for a queue that is not known.
 */
export function step(router: Router, now: number, event: RouterEvent): Act[] {
  const acts: Act[] = [];
  const { touched } = router;
  touched.visits.clear();
  touched.people.clear();
  touched.all.clear();
  if (touched.trails.size > 0) touched.trails.clear();
  if (now >= router.dayEnds) newDay(router, now);
  if (now >= router.limitsDue) limitsDue(router, now, touched);
  happen(router, now, event, touched, acts);
  settleFloor(router, now, touched, acts);
  return acts;
}

function newDay(router: Router, now: number): void {
  if (router.dayEnds !== -Infinity) for (const person of router.floor.list) person.today = 0;
  router.dayEnds = periodAt(now, router.options.zone, 'day').end;
}

/** Offers, rings on, dials out and lets stages come early, until nothing more follows; then sets timers and notes trails. */
function settleFloor(router: Router, now: number, touched: Touched, acts: Act[]): void {
  const { visits, people, all } = touched;
  for (;;) {
    for (const visit of visits) all.add(visit);
    router.options.decide(router, now, visits, people, acts);
    if (router.ringing.size > 0) ringOn(router, now, acts);
    for (const visit of visits) if (visit.partners.length > 0) dialOut(router, visit, now, acts);
    if (!earlyStages(router, now, touched, acts)) break;
  }
  for (const visit of all) {
    if (router.lineOf.has(visit)) noteJoined(router, visit, now);
    if (!router.floor.waiting.has(visit.id)) continue;
    const kind = touched.trails.get(visit);
    if (kind && visit.offers.length === 0) acts.push({ do: 'trail', decision: noteStanding(router, kind, visit, now) });
    remind(router, visit, now, acts);
  }
  remindOfLimits(router, acts);
}

/** Hours opened or closed, or a calendar hour, day or month began: all that is otherwise by now is looked at together. */
function limitsDue(router: Router, now: number, touched: Touched): void {
  const passed = (at: number | null): boolean => at !== null && at <= now;
  for (const group of router.floor.groups.values()) {
    if (!passed(group.changesAt)) continue;
    const was = group.reached.length;
    refreshGroup(group, now);
    if (was > 0 && group.reached.length === 0) touchGroup(router, group, touched);
  }
  for (const partner of router.floor.partners.values()) for (const number of partner.numbers) {
    if (!passed(number.changesAt)) continue;
    refreshNumber(number, now);
    if (number.reached.length === 0) touchPartner(router, partner.id, touched);
  }
  for (const person of router.limited) {
    if (!passed(person.changesAt)) continue;
    refresh(router, person, now);
    touchPerson(router, person, touched);
  }
}

/** When a limit that is reached, or opening hours, will be otherwise by time alone. */
function remindOfLimits(router: Router, acts: Act[]): void {
  if (router.floor.groups.size === 0 && router.floor.partners.size === 0 && router.limited.size === 0) return;
  let next = Infinity;
  const due = (kind: 'group' | 'number' | 'person', thing: { readonly id: string; changesAt: number | null; timerAt: number | null }): void => {
    if (thing.changesAt !== null) next = Math.min(next, thing.changesAt);
    if (thing.changesAt === thing.timerAt) return;
    thing.timerAt = thing.changesAt;
    acts.push({ do: 'timer', timer: { kind, id: thing.id }, at: thing.changesAt });
  };
  for (const group of router.floor.groups.values()) due('group', group);
  for (const partner of router.floor.partners.values()) for (const number of partner.numbers) due('number', number);
  for (const person of router.limited) due('person', person);
  router.limitsDue = next;
}

function remind(router: Router, visit: WaitingVisit, now: number, acts: Act[]): void {
  const at = nextMoment(router, visit, now);
  if (at === visit.timerAt) return;
  visit.timerAt = at;
  acts.push({ do: 'timer', timer: { kind: 'visit', id: visit.id }, at });
}

/** A visit that is rung at several people at once goes to more of them, up to its most. */
function ringOn(router: Router, now: number, acts: Act[]): void {
  for (const visit of router.ringing) {
    const { offering } = visit.queue;
    if (offering.way !== 'ring-all' || visit.offers.length === 0 || !router.floor.waiting.has(visit.id)) { router.ringing.delete(visit); continue; }
    while (visit.offers.length < offering.most) {
      const able = ableMembers(router, visit, now).filter((m) => !visit.refused.has(m.person.id));
      const next = able[0] && able.reduce((best, m) => (prefers(router, visit, m, best) < 0 ? m : best));
      if (!next) break;
      makeOffer(router, visit, next, now, null, acts);
    }
  }
}

/** Stages that may come as soon as everybody asked is full: each comes in its turn, and may let the next one come. */
function earlyStages(router: Router, now: number, touched: Touched, acts: Act[]): boolean {
  const due: WaitingVisit[] = [];
  for (const cohort of router.busy) if (cohort.early) for (const visit of cohort.waiting) if (allFull(router, visit, now)) due.push(visit);
  if (due.length === 0) return false;
  due.sort((a, b) => a.entry - b.entry);
  touched.visits.clear();
  touched.people.clear();
  for (const visit of due) stageDue(router, visit, now, true, touched, acts);
  return true;
}

function stageDue(router: Router, visit: WaitingVisit, now: number, early: boolean, touched: Touched, acts: Act[]): boolean {
  const move = nextStage(router, visit, now, early, acts);
  if (router.options.trails) touched.trails.set(visit, 'stage');
  // Nobody is there to hear the last words of a queue that is to call back; only to another queue it may move.
  const moves = move?.does === 'move' && (!visit.callback || move.onward.to === 'queue') ? move : null;
  if (moves && !onward(router, visit, moves.onward, now, touched, acts)) return false;
  joinLine(router, visit, now);
  touched.visits.add(visit);
  return true;
}

function happen(router: Router, now: number, event: RouterEvent, touched: Touched, acts: Act[]): void {
  const { floor } = router;
  switch (event.type) {
    case 'people': return setPeople(router, now, event.people, event.gone, touched);
    case 'groups': return setGroups(router, now, event.groups, touched);
    case 'partners': {
      const uses = new Map([...floor.partners.values()].flatMap((p) => p.numbers.map((n) => [n.id, n] as const)));
      floor.partners.clear();
      for (const p of event.partners) floor.partners.set(p.id, { ...p, numbers: p.numbers.map((n) => ({ ...n, uses: uses.get(n.id)?.uses ?? NO_USES, reached: [], changesAt: null, timerAt: null, share: uses.get(n.id)?.share ?? 0 })) });
      for (const p of floor.partners.values()) for (const n of p.numbers) refreshNumber(n, now);
      for (const visit of floor.waiting.values()) if (visit.partners.length > 0) touched.visits.add(visit);
      return;
    }
    case 'queues':
      for (const queue of event.queues) floor.queues.set(queue.settings.id, queue);
      return;
    case 'duty': {
      const person = floor.people.get(event.personId);
      if (!person || person.duty === event.duty) return;
      // Coming on duty counts as just having had a contact, so that newcomers do not jump the line of the idle.
      if (person.duty === 'off' && event.duty === 'ready') person.lastContactAt = now;
      const { pending } = person;
      const visit = pending && floor.waiting.get(pending.visitId);
      person.duty = event.duty;
      router.dutyVersion++;
      refresh(router, person, now);
      if (event.duty === 'ready') joinShares(router, person);
      // Going off while being asked is an answer: it is passed on without counting as missed.
      else if (visit) turnDown(router, person, visit, 'declined', now, touched, acts);
      return touchPerson(router, person, touched);
    }
    case 'reach': {
      const person = floor.people.get(event.personId);
      if (!person || person.reachable === event.reachable) return;
      person.reachable = event.reachable;
      router.dutyVersion++;
      refresh(router, person, now);
      return touchPerson(router, person, touched);
    }
    case 'enter': return enter(router, now, event.visit, touched, acts);
    case 'leave': {
      const visit = floor.waiting.get(event.visitId);
      if (visit) finish(router, visit, event.how, null, now, touched, acts);
      return;
    }
    case 'accept': {
      const person = floor.people.get(event.personId);
      const visit = person?.pending?.offerId === event.offerId ? floor.waiting.get(person.pending.visitId) : undefined;
      if (person && visit) accept(router, person, visit, event.legId, now, touched, acts);
      return;
    }
    case 'turn-down': {
      const person = floor.people.get(event.personId);
      const visit = person?.pending?.offerId === event.offerId ? floor.waiting.get(person.pending.visitId) : undefined;
      if (!person || !visit) return;
      if (event.how === 'missed' && visit.queue.missedSetsAway) {
        // Whoever is leaving anyway goes when their last contact is over, not into a break.
        person.duty = 'away';
        router.dutyVersion++;
        acts.push({ do: 'set-duty', personId: person.id, duty: 'away', missed: true });
      }
      return turnDown(router, person, visit, event.how, now, touched, acts);
    }
    case 'claim': return claim(router, event.visitId, event.personId, event.legId, now, touched, acts);
    case 'rest': {
      const person = floor.people.get(event.personId);
      const leg = person?.open.get(event.legId);
      if (!person || !leg) return;
      person.open.set(event.legId, { ...leg, resting: event.resting });
      refresh(router, person, now);
      return touchPerson(router, person, touched);
    }
    case 'leg-ended': {
      const person = floor.people.get(event.personId);
      const leg = person?.open.get(event.legId);
      if (!person || !leg) return;
      person.open.delete(event.legId);
      noteHandled(router, leg.queueId, leg.channel, now - leg.acceptedAt);
      // Somebody who leaves when empty goes with their last contact.
      if (person.duty === 'away-when-empty' && person.open.size === 0 && person.pending === null) {
        person.duty = 'off';
        router.dutyVersion++;
        acts.push({ do: 'set-duty', personId: person.id, duty: 'off', missed: false });
      }
      freeGroup(router, person, leg.groupId, 'ended', now, touched);
      return touchPerson(router, person, touched);
    }
    case 'chose': {
      const visit = floor.waiting.get(event.visitId);
      if (visit && visit.choosingUntil !== null) doneChoosing(router, visit, now, touched, acts);
      return;
    }
    case 'still-choosing': {
      const visit = floor.waiting.get(event.visitId);
      if (!visit) return;
      if (visit.choosingUntil === null) leaveLine(router, visit);
      visit.choosingUntil = event.until;
      acts.push({ do: 'choosing', visit, until: event.until });
      touched.visits.add(visit);
      return;
    }
    case 'dial-ended': return dialEnded(router, event.callId, event.how, now, touched, acts);
    case 'partner-done': {
      const done = partnerDone(router, event.callId, now);
      if (!done) return;
      acts.push({ do: 'call-over', visitId: done.call.visitId, contactId: done.call.contactId, callId: event.callId, how: 'done', counted: done.counted });
      return touchPartner(router, done.partner.id, touched);
    }
    case 'due': return timerDue(router, event.timer, now, touched, acts);
    case 'anew':
      for (const visit of floor.waiting.values()) {
        joinLine(router, visit, now);
        touched.visits.add(visit);
      }
  }
}

/** A person can take more or less than before; a contact held for them has to be looked at as well. */
function touchPerson(router: Router, person: FloorPerson, touched: Touched): void {
  touched.people.add(person);
  if (router.heldFor.size > 0) for (const visit of router.heldFor.get(person.id) ?? []) touched.visits.add(visit);
}
const touchPartner = (router: Router, partnerId: string, touched: Touched): void => {
  for (const visit of router.floor.waiting.values()) if (visit.partners.includes(partnerId)) touched.visits.add(visit);
};
/** A group has room again: all its members may be asked again. */
function touchGroup(router: Router, group: FloorGroup, touched: Touched): void {
  for (const id of group.members.keys()) {
    const person = router.floor.people.get(id);
    if (person) touchPerson(router, person, touched);
  }
}
function freeGroup(router: Router, person: FloorPerson, groupId: string | null, how: Parameters<typeof release>[3], now: number, touched: Touched): void {
  const was = groupId === null ? 0 : (router.floor.groups.get(groupId)?.reached.length ?? 0);
  const group = release(router, person, groupId, how, now);
  if (group && was > 0 && group.reached.length === 0) touchGroup(router, group, touched);
}

function setPeople(router: Router, now: number, people: Extract<RouterEvent, { type: 'people' }>['people'], gone: readonly string[], touched: Touched): void {
  const { floor } = router;
  for (const { duty, reachable, lastContactAt, today, ...facts } of people) {
    const there = floor.people.get(facts.id);
    if (there) Object.assign(there, facts, { rows: rowsOf(facts.profile) });
    const person = there ?? floorPerson(facts, floor.list.length, { duty, reachable, lastContactAt, today });
    if (!there) {
      floor.people.set(person.id, person);
      floor.list.push(person);
      router.snapshot = null;
    }
    refresh(router, person, now);
    touchPerson(router, person, touched);
  }
  for (const id of gone) {
    const person = floor.people.get(id);
    if (!person) continue;
    person.duty = 'off';
    refresh(router, person, now);
    floor.people.delete(id);
  }
  router.peopleVersion++;
  router.dutyVersion++;
  router.delays.clear();
  for (const visit of floor.waiting.values()) {
    joinLine(router, visit, now);
    if (nextMoment(router, visit, now) !== visit.timerAt) touched.visits.add(visit);
  }
}

function setGroups(router: Router, now: number, groups: Extract<RouterEvent, { type: 'groups' }>['groups'], touched: Touched): void {
  const { floor } = router;
  const before = new Map(floor.groups);
  floor.groups.clear();
  for (const facts of groups) {
    const group: FloorGroup = { ...facts, uses: before.get(facts.id)?.uses ?? NO_USES, reached: [], changesAt: null, timerAt: null };
    floor.groups.set(group.id, group);
    refreshGroup(group, now);
  }
  router.peopleVersion++;
  for (const visit of floor.waiting.values()) if (visit.groups.length > 0) touched.visits.add(visit);
}

const plainNeeds = new WeakMap<QueueSettings, { needs: MergedNeed[]; crossed: string[] }>();
function merged(queue: QueueSettings, handOver: NewVisit['handOver']): { needs: MergedNeed[]; crossed: string[] } {
  if (handOver.length > 0) return mergeNeeds(queue.needs, handOver);
  let plain = plainNeeds.get(queue);
  if (!plain) plainNeeds.set(queue, (plain = mergeNeeds(queue.needs, [])));
  return plain;
}

/** What most visits have none of is shared, since it is only ever replaced. */
const NONE: readonly never[] = [];
const NO_OFFERS: WaitingVisit['offers'] = [];
const NO_REFUSALS: WaitingVisit['refused'] = new Map();
const NO_DIALS: WaitingVisit['dials'] = new Map();

/** A visit as it stands at its beginning. */
export function newVisit(queue: QueueSettings, version: number, entry: number, n: NewVisit, now: number): { visit: WaitingVisit; crossed: readonly string[] } {
  const { needs, crossed } = merged(queue, n.handOver);
  return {
    crossed, visit: {
      id: n.id, contactId: n.contactId, hash: hash32(n.contactId), channel: n.channel, queue, settingsVersion: version, handOver: n.handOver, merged: needs, needs, basePriority: n.priority, priority: n.priority,
      placedAt: n.placedAt, enteredAt: now, entry, passed: n.passed, callback: n.callback, familiarId: queue.familiar ? n.familiarId : null, stage: 0, stagedAt: NONE, groups: NONE, partners: NONE,
      refused: NO_REFUSALS, offers: NO_OFFERS, dials: NO_DIALS, choosingUntil: null, repeats: NONE, timerAt: null,
    },
  };
}

function enter(router: Router, now: number, n: NewVisit, touched: Touched, acts: Act[]): void {
  const queue = router.floor.queues.get(n.queueId);
  if (!queue) throw new RangeError(`there is no queue ${n.queueId} on the floor`);
  const { visit, crossed } = newVisit(queue.settings, queue.version, router.nextEntry++, n, now);
  router.floor.waiting.set(visit.id, visit);
  acts.push({ do: 'began', visit, because: n.because, crossed });
  if (visit.familiarId !== null) {
    const held = router.heldFor.get(visit.familiarId);
    if (held) held.add(visit);
    else router.heldFor.set(visit.familiarId, new Set([visit]));
  }
  // A call we promised is not turned away at the door of its own queue.
  const rule = visit.callback || queue.settings.entryRules.length === 0 ? null : ruleFor(router, queue, visit, now);
  if (rule && !onward(router, visit, rule.then, now, touched, acts)) return;
  while ((stagesOf(visit)[visit.stage]?.atSeconds ?? 1) <= 0) if (!stageDue(router, visit, now, false, touched, acts)) return;
  joinLine(router, visit, now);
  touched.visits.add(visit);
  if (router.options.trails) touched.trails.set(visit, 'entry');
}

/** Sends a visit where a rule or a stage says. Gives whether it still waits here. */
function onward(router: Router, visit: WaitingVisit, to: Onward, now: number, touched: Touched, acts: Act[]): boolean {
  switch (to.to) {
    case 'group':
      visit.groups = [...new Set([...visit.groups, to.groupId])];
      acts.push({ do: 'opened', visit, to: 'group', id: to.groupId });
      return true;
    case 'partner':
      visit.partners = [...new Set([...visit.partners, to.partnerId])];
      acts.push({ do: 'opened', visit, to: 'partner', id: to.partnerId });
      return true;
    case 'queue': {
      const target = router.floor.queues.get(to.queueId);
      const passed = [...visit.passed, visit.queue.id];
      // Overflow never goes in a circle, and never to where the channel is not taken: then the contact stays.
      if (!target || passed.includes(to.queueId) || !target.settings.channels.includes(visit.channel)) return true;
      finish(router, visit, 'moved-on', to, now, touched, acts);
      enter(router, now, { id: router.options.newId('visit'), contactId: visit.contactId, queueId: to.queueId, channel: visit.channel, placedAt: visit.placedAt, handOver: visit.handOver, priority: visit.basePriority, familiarId: visit.familiarId, callback: visit.callback, because: `overflow from ${visit.queue.name}`, passed }, touched, acts);
      return false;
    }
    case 'end': finish(router, visit, 'closed-by-us', to, now, touched, acts); return false;
    case 'message': finish(router, visit, 'message-left', to, now, touched, acts); return false;
    case 'callback': finish(router, visit, 'callback-asked', to, now, touched, acts); return false;
    case 'scene': finish(router, visit, 'moved-on', to, now, touched, acts); return false;
  }
}

/** A visit is over without a person having taken it. Whoever was being asked is free again. */
function finish(router: Router, visit: WaitingVisit, how: LeftHow, to: Onward | null, now: number, touched: Touched, acts: Act[]): void {
  if (router.options.trails) acts.push({ do: 'trail', decision: noteStanding(router, 'end', visit, now) });
  remove(router, visit, now, how === 'gave-up' ? 'gave-up' : 'otherwise', acts);
  for (const { personId } of visit.offers) withdraw(router, personId, visit, 'withdrawn', now, touched, acts);
  for (const dial of [...visit.dials.values()]) {
    giveBackDial(router, visit, dial, now);
    acts.push({ do: 'call-over', visitId: visit.id, contactId: visit.contactId, callId: dial.callId, how: 'not-needed', counted: false });
    touchPartner(router, dial.partnerId, touched);
  }
  touched.visits.delete(visit);
  acts.push({ do: 'ended', visit, how, onward: to });
}
function withdraw(router: Router, personId: string, visit: WaitingVisit, how: 'withdrawn' | 'taken', now: number, touched: Touched, acts: Act[]): void {
  const person = router.floor.people.get(personId);
  if (!person?.pending) return;
  const was = person.pending.groupId === null ? 0 : (router.floor.groups.get(person.pending.groupId)?.reached.length ?? 0);
  const group = endOffer(router, person, visit, how, now, acts);
  if (group && was > 0 && group.reached.length === 0) touchGroup(router, group, touched);
  touchPerson(router, person, touched);
}
function remove(router: Router, visit: WaitingVisit, now: number, how: 'gave-up' | 'taken' | 'otherwise', acts: Act[]): void {
  leaveLine(router, visit);
  noteLeft(router, visit, now, how);
  router.floor.waiting.delete(visit.id);
  if (visit.familiarId !== null) {
    const held = router.heldFor.get(visit.familiarId);
    held?.delete(visit);
    if (held?.size === 0) router.heldFor.delete(visit.familiarId);
  }
  if (visit.timerAt !== null) acts.push({ do: 'timer', timer: { kind: 'visit', id: visit.id }, at: null });
  visit.timerAt = null;
}

function accept(router: Router, person: FloorPerson, visit: WaitingVisit, legId: string, now: number, touched: Touched, acts: Act[]): void {
  const { pending } = person;
  if (!pending) return;
  visit.offers = visit.offers.length === 1 ? NO_OFFERS : visit.offers.filter((o) => o.offerId !== pending.offerId);
  person.pending = null;
  acts.push({ do: 'offer-over', offerId: pending.offerId, visit, personId: person.id, how: 'accepted' });
  noteAnswer(router, visit, now - pending.madeAt);
  take(router, person, visit, pending.groupId, legId, false, now, touched, acts);
}
/** The visit is over and a leg begins; whoever else was asked is free again, which is not counted against them. */
function take(router: Router, person: FloorPerson, visit: WaitingVisit, groupId: string | null, legId: string, byHand: boolean, now: number, touched: Touched, acts: Act[]): void {
  person.open.set(legId, { channel: visit.channel, cost: person.load[visit.channel].cost, visitId: visit.id, queueId: visit.queue.id, groupId, acceptedAt: now });
  person.lastContactAt = now;
  person.today++;
  const weight = visit.groups.reduce<number | undefined>((w, id) => w ?? router.floor.groups.get(id)?.members.get(person.id), undefined) ?? 1;
  countShare(router, visit, person.id, weight);
  remove(router, visit, now, 'taken', acts);
  for (const other of visit.offers) withdraw(router, other.personId, visit, 'taken', now, touched, acts);
  refresh(router, person, now);
  acts.push({ do: 'took', visit, personId: person.id, legId, groupId, byHand }, { do: 'ended', visit, how: 'accepted', onward: null });
  touchPerson(router, person, touched);
}

function turnDown(router: Router, person: FloorPerson, visit: WaitingVisit, how: 'declined' | 'missed' | 'withdrawn', now: number, touched: Touched, acts: Act[]): void {
  if (how !== 'withdrawn') visit.refused = new Map(visit.refused).set(person.id, now);
  const was = person.pending?.groupId ? (router.floor.groups.get(person.pending.groupId)?.reached.length ?? 0) : 0;
  const group = endOffer(router, person, visit, how, now, acts);
  if (group && was > 0 && group.reached.length === 0) touchGroup(router, group, touched);
  joinLine(router, visit, now);
  touched.visits.add(visit);
  touchPerson(router, person, touched);
}

/** Somebody takes a contact by hand, when they could take it at all; they may be full, since they chose to. */
function claim(router: Router, visitId: string, personId: string, legId: string, now: number, touched: Touched, acts: Act[]): void {
  const visit = router.floor.waiting.get(visitId);
  const person = router.floor.people.get(personId);
  if (!visit || !person || visit.offers.length > 0 || visit.dials.size > 0) return;
  const group = rosterOf(router, cohortOf(router, visit, now)).of[person.index]?.group ?? null;
  reserve(router, person, group, now);
  take(router, person, visit, group?.id ?? null, legId, true, now, touched, acts);
}

function doneChoosing(router: Router, visit: WaitingVisit, now: number, touched: Touched, acts: Act[]): void {
  visit.choosingUntil = null;
  acts.push({ do: 'choosing', visit, until: null });
  joinLine(router, visit, now);
  touched.visits.add(visit);
}

function dialEnded(router: Router, callId: string, how: 'answered' | 'no-answer' | 'busy', now: number, touched: Touched, acts: Act[]): void {
  for (const visit of router.floor.waiting.values()) {
    const dial = visit.dials.get(callId);
    if (!dial) continue;
    touchPartner(router, dial.partnerId, touched);
    if (how === 'answered') {
      partnerAnswers(router, visit, dial, now, acts);
      acts.push({ do: 'partner-answered', visit, callId: dial.callId });
      if (router.options.trails) acts.push({ do: 'trail', decision: noteStanding(router, 'end', visit, now) });
      remove(router, visit, now, 'otherwise', acts);
      touched.visits.delete(visit);
      acts.push({ do: 'ended', visit, how: 'moved-on', onward: { to: 'partner', partnerId: dial.partnerId } });
    } else {
      giveBackDial(router, visit, dial, now);
      acts.push({ do: 'call-over', visitId: visit.id, contactId: visit.contactId, callId: dial.callId, how, counted: false });
      visit.refused = new Map(visit.refused).set(dial.numberId, now);
      joinLine(router, visit, now);
      touched.visits.add(visit);
    }
    return;
  }
}

function timerDue(router: Router, timer: RouterTimer, now: number, touched: Touched, acts: Act[]): void {
  switch (timer.kind) {
    case 'visit': {
      const visit = router.floor.waiting.get(timer.id);
      if (!visit) return;
      visit.timerAt = null;
      if (visit.choosingUntil !== null && visit.choosingUntil <= now) doneChoosing(router, visit, now, touched, acts);
      while (visit.enteredAt + (stagesOf(visit)[visit.stage]?.atSeconds ?? Infinity) * 1000 <= now) if (!stageDue(router, visit, now, false, touched, acts)) return;
      repeatDue(visit, now, acts);
      joinLine(router, visit, now);
      touched.visits.add(visit);
      return;
    }
    // What is due of limits was looked at before; it is asked for again when it is to change once more.
    case 'group': {
      const group = router.floor.groups.get(timer.id);
      if (group) group.timerAt = null;
      return;
    }
    case 'number': {
      const found = numberOf(router, timer.id);
      if (found) found.number.timerAt = null;
      return;
    }
    case 'person': {
      const person = router.floor.people.get(timer.id);
      if (person) person.timerAt = null;
    }
  }
}

/** Restores a visit that was waiting before a stop, at the stage it had reached. */
export function restoreVisit(router: Router, visit: WaitingVisit): void {
  placeAtStage(visit, visit.stage, visit.groups, visit.partners);
  router.floor.waiting.set(visit.id, visit);
  router.nextEntry = Math.max(router.nextEntry, visit.entry + 1);
  if (visit.familiarId !== null) router.heldFor.set(visit.familiarId, (router.heldFor.get(visit.familiarId) ?? new Set()).add(visit));
}
