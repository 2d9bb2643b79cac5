import { periodAt } from '../hours/weekly';
import type { Act, RouterEvent, RouterTimer } from './acts';
import { enter, stageDue } from './entering';
import { noteHandled, noteJoined } from './expectedwait';
import { setGroups, setMembers, setPeople } from './facts';
import type { WaitingVisit } from './floor';
import { finish, remove } from './leaving';
import { limitsDue, remindOfLimits } from './limitsdue';
import { makeOffer, refresh, release } from './offers';
import { joinShares, prefers } from './order';
import { dialOut, giveBackDial, numberOf, partnerAnswers, partnerDone, setPartners } from './partners';
import { ableMembers } from './pass';
import { joinLine, leaveLine } from './roster';
import type { Router } from './router';
import { allFull, nextMoment, repeatDue, stagesOf } from './stages';
import { noteStanding } from './standing';
import { accept, claim, turnDown } from './taking';
import { touchPartner, touchPerson } from './touched';

/**
 * One thing that happened at an instant (floor ms): the router changes its floor and says what the driver must carry
 * out. The same floor and events always give the same acts. Instants never go back, and the driver delivers timers no
 * later than anything else of the same instant. Throws RangeError for a queue that is not known.
 */
export function advance(router: Router, now: number, event: RouterEvent): Act[] {
  const { touched } = router;
  router.acts = [];
  touched.visits.clear();
  touched.people.clear();
  touched.all.clear();
  if (touched.trails.size > 0) touched.trails.clear();
  if (now >= router.dayEnds) newDay(router, now);
  if (now >= router.limitsDue) limitsDue(router, now);
  happen(router, now, event);
  settleFloor(router, now);
  return router.acts;
}

function newDay(router: Router, now: number): void {
  if (router.dayEnds !== -Infinity) for (const person of router.floor.list) person.today = 0;
  router.dayEnds = periodAt(now, router.options.zone, 'day').end;
}

/**
 * Offers, rings on, dials out and lets stages come early, until nothing more follows; then sets timers and notes
 * trails.
 */
function settleFloor(router: Router, now: number): void {
  const { visits, all } = router.touched;
  for (;;) {
    router.options.decide(router, now);
    const looked = visits.size;
    if (router.ringing.size > 0) ringOn(router, now);
    for (const visit of visits) all.add(visit);
    if (visits.size > looked) continue;
    for (const visit of visits) if (visit.partners.length > 0) dialOut(router, visit, now);
    if (!earlyStages(router, now)) break;
  }
  for (const visit of all) {
    if (router.lineOf.has(visit)) noteJoined(router, visit, now);
    if (!router.floor.waiting.has(visit.id)) continue;
    const kind = router.touched.trails.get(visit);
    if (kind && visit.offers.length === 0)
      router.acts.push({ do: 'trail', decision: noteStanding(router, kind, visit, now) });
    remind(router, visit, now);
  }
  remindOfLimits(router);
}

function remind(router: Router, visit: WaitingVisit, now: number): void {
  const at = nextMoment(router, visit, now);
  if (at === visit.timerAt) return;
  visit.timerAt = at;
  router.acts.push({ do: 'timer', timer: { kind: 'visit', id: visit.id }, at });
}

/** A visit that is rung at several people at once goes to more of them, up to its most. */
function ringOn(router: Router, now: number): void {
  for (const visit of router.ringing) {
    const { offering } = visit.queue;
    if (offering.way !== 'ring-all' || visit.offers.length === 0 || !router.floor.waiting.has(visit.id)) {
      router.ringing.delete(visit);
      continue;
    }
    while (visit.offers.length < offering.most) {
      const able = ableMembers(router, visit, now).filter((m) => !visit.refused.has(m.person.id));
      const next = able[0] && able.reduce((best, m) => (prefers(router, visit, m, best) < 0 ? m : best));
      if (!next) break;
      makeOffer(router, visit, next, now, null);
    }
  }
}

/** Stages that may come as soon as everybody asked is full: each comes in its turn, and may let the next one come. */
function earlyStages(router: Router, now: number): boolean {
  const due: WaitingVisit[] = [];
  for (const cohort of router.busy)
    if (cohort.early) for (const visit of cohort.waiting) if (allFull(router, visit, now)) due.push(visit);
  if (due.length === 0) return false;
  due.sort((a, b) => a.entry - b.entry);
  router.touched.visits.clear();
  router.touched.people.clear();
  for (const visit of due) stageDue(router, visit, now, true);
  return true;
}

function happen(router: Router, now: number, event: RouterEvent): void {
  const { floor } = router;
  switch (event.type) {
    case 'people':
      return setPeople(router, now, event.people, event.gone);
    case 'groups':
      return setGroups(router, now, event.groups);
    case 'members':
      return setMembers(router, event.changes);
    case 'partners': {
      setPartners(floor, now, event.partners);
      for (const visit of floor.waiting.values()) if (visit.partners.length > 0) router.touched.visits.add(visit);
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
      else if (visit) turnDown(router, person, visit, 'declined', now);
      return touchPerson(router, person);
    }
    case 'reach': {
      const person = floor.people.get(event.personId);
      if (!person || person.reachable === event.reachable) return;
      person.reachable = event.reachable;
      router.dutyVersion++;
      refresh(router, person, now);
      return touchPerson(router, person);
    }
    case 'enter':
      return enter(router, now, event.visit);
    case 'leave': {
      const visit = floor.waiting.get(event.visitId);
      if (visit) finish(router, visit, event.how, null, now);
      return;
    }
    case 'accept': {
      const person = floor.people.get(event.personId);
      const visit = person?.pending?.offerId === event.offerId ? floor.waiting.get(person.pending.visitId) : undefined;
      if (person && visit) accept(router, person, visit, event.legId, now);
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
        router.acts.push({ do: 'set-duty', personId: person.id, duty: 'away', missed: true });
      }
      return turnDown(router, person, visit, event.how, now);
    }
    case 'claim':
      return claim(router, event.visitId, event.personId, event.legId, now);
    case 'rest': {
      const person = floor.people.get(event.personId);
      const leg = person?.open.get(event.legId);
      if (!person || !leg) return;
      person.open.set(event.legId, { ...leg, resting: event.resting });
      refresh(router, person, now);
      return touchPerson(router, person);
    }
    case 'holds-call': {
      const person = router.floor.people.get(event.personId);
      const leg = person?.open.get(event.legId);
      if (!person || !leg) return;
      person.open.set(event.legId, { ...leg, channel: 'voice', cost: person.load.voice.cost, resting: false });
      refresh(router, person, now);
      return touchPerson(router, person);
    }
    case 'leg-ended': {
      const person = floor.people.get(event.personId);
      const leg = person?.open.get(event.legId);
      if (!person || !leg) return;
      person.open.delete(event.legId);
      if (leg.kind !== 'message') noteHandled(router, leg.queueId, leg.channel, now - leg.acceptedAt);
      // Somebody who leaves when empty goes with their last contact.
      if (person.duty === 'away-when-empty' && person.open.size === 0 && person.pending === null) {
        person.duty = 'off';
        router.dutyVersion++;
        router.acts.push({ do: 'set-duty', personId: person.id, duty: 'off', missed: false });
      }
      release(router, person, leg.groupId, 'ended', now);
      return touchPerson(router, person);
    }
    case 'chose': {
      const visit = floor.waiting.get(event.visitId);
      if (visit && visit.choosingUntil !== null) doneChoosing(router, visit, now);
      return;
    }
    case 'still-choosing': {
      const visit = floor.waiting.get(event.visitId);
      if (!visit) return;
      if (visit.choosingUntil === null) leaveLine(router, visit);
      visit.choosingUntil = event.until;
      router.acts.push({ do: 'choosing', visit, until: event.until });
      router.touched.visits.add(visit);
      return;
    }
    case 'dial-ended':
      return dialEnded(router, event.callId, event.how, now);
    case 'partner-done': {
      const done = partnerDone(router, event.callId, now);
      if (!done) return;
      router.acts.push({
        do: 'call-over',
        visitId: done.call.visitId,
        contactId: done.call.contactId,
        callId: event.callId,
        how: 'done',
        counted: done.counted,
      });
      return touchPartner(router, done.partner.id);
    }
    case 'due':
      return timerDue(router, event.timer, now);
    case 'anew':
      for (const visit of floor.waiting.values()) {
        joinLine(router, visit, now);
        router.touched.visits.add(visit);
      }
  }
}

function doneChoosing(router: Router, visit: WaitingVisit, now: number): void {
  visit.choosingUntil = null;
  router.acts.push({ do: 'choosing', visit, until: null });
  joinLine(router, visit, now);
  router.touched.visits.add(visit);
}

function dialEnded(router: Router, callId: string, how: 'answered' | 'no-answer' | 'busy', now: number): void {
  for (const visit of router.floor.waiting.values()) {
    const dial = visit.dials.get(callId);
    if (!dial) continue;
    touchPartner(router, dial.partnerId);
    if (how === 'answered') {
      partnerAnswers(router, visit, dial, now);
      router.acts.push({ do: 'partner-answered', visit, callId: dial.callId });
      if (router.options.trails) router.acts.push({ do: 'trail', decision: noteStanding(router, 'end', visit, now) });
      remove(router, visit, now, 'otherwise');
      router.touched.visits.delete(visit);
      router.acts.push({ do: 'ended', visit, how: 'moved-on', onward: { to: 'partner', partnerId: dial.partnerId } });
    } else {
      giveBackDial(router, visit, dial, now);
      router.acts.push({
        do: 'call-over',
        visitId: visit.id,
        contactId: visit.contactId,
        callId: dial.callId,
        how,
        counted: false,
      });
      visit.refused = new Map(visit.refused).set(dial.numberId, now);
      joinLine(router, visit, now);
      router.touched.visits.add(visit);
    }
    return;
  }
}

function timerDue(router: Router, timer: RouterTimer, now: number): void {
  switch (timer.kind) {
    case 'visit': {
      const visit = router.floor.waiting.get(timer.id);
      if (!visit) return;
      visit.timerAt = null;
      if (visit.choosingUntil !== null && visit.choosingUntil <= now) doneChoosing(router, visit, now);
      while (visit.enteredAt + (stagesOf(visit)[visit.stage]?.atSeconds ?? Infinity) * 1000 <= now)
        if (!stageDue(router, visit, now, false)) return;
      repeatDue(router, visit, now);
      joinLine(router, visit, now);
      router.touched.visits.add(visit);
      return;
    }
    // What is due of limits was looked at before; it is asked for again when it is to change once more.
    case 'group': {
      const group = router.floor.groups.get(timer.id);
      if (group) group.timerAt = null;
      return;
    }
    case 'partner': {
      const partner = router.floor.partners.get(timer.id);
      if (partner) partner.timerAt = null;
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
