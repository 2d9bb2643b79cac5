import { isText } from '../../core/channels';
import { startOfToday } from '../../core/hours/weekly';
import { noteStillStanding } from '../../core/routing/expectedwait';
import { loadOf, type Dial, type WaitingVisit } from '../../core/routing/floor';
import { NO_USES, taken, type Uses } from '../../core/routing/limits';
import { recall } from '../../core/routing/memory';
import { refresh, refreshGroup } from '../../core/routing/offers';
import { refreshOutside } from '../../core/routing/partners';
import type { QueueSettings } from '../../core/routing/queue';
import { joinLine } from '../../core/routing/roster';
import type { Router } from '../../core/routing/router';
import { stagesOf } from '../../core/routing/stages';
import { advance } from '../../core/routing/advance';
import { newVisit, restoreVisit } from '../../core/routing/visit';
import { lastFloorInstant } from '../../data/floortime';
import { lastSeq } from '../../data/events';
import { callbackOf } from '../../data/callbacks';
import { openLegs } from '../../data/legs';
import { readDuties, readPeople } from '../../data/people';
import { queueAsOf } from '../../data/queuesettings';
import {
  callsCounted,
  contactsCounted,
  offersCounted,
  openPartnerCalls,
  partnerCallsOfVisit,
  readRouterMemory,
  takenSince,
} from '../../data/routermemory';
import { readOwnLevels } from '../../data/skills';
import { floorTimers } from '../../data/timers';
import { eachReadable, readable } from '../../data/readable';
import { offersOf, openOffers, openVisits, readVisit, type Visit } from '../../data/visits';
import { readWorkspace } from '../../data/workspace';
import type { Host } from '../ground/host';
import { groupFacts, partnerFacts, personFacts, queueFacts } from './floorsettings';

const MONTH_MS = 32 * 86_400_000;

/** Uses as the log has them: what was offered or dialled and not given back, oldest first, and what is still held. */
function usesFrom(counted: readonly { madeAt: number; open: number }[], zone: string): Uses {
  const uses = [...counted].sort((a, b) => a.madeAt - b.madeAt).reduce((u, c) => taken(u, zone, c.madeAt), NO_USES);
  return { ...uses, open: counted.filter((c) => c.open).length };
}

/** What settings say, read from the tables. */
function readSettings(host: Host, router: Router, now: number): void {
  const { db } = host;
  const day = theirDay(host, now);
  advance(router, now, { type: 'queues', queues: queueFacts(host, new Map()) });
  const own = readOwnLevels(db);
  advance(router, now, {
    type: 'people',
    gone: [],
    people: eachReadable(db, 'person', readPeople(db), (p) => ({
      ...personFacts(host, p, own.get(p.id) ?? new Map()),
      ...day(p.id),
    })),
  });
  advance(router, now, { type: 'groups', groups: groupFacts(host, router.floor.people) });
  advance(router, now, { type: 'partners', partners: partnerFacts(host) });
}

/** What settings say, as another router knows it: making it anew is most of the work, and nothing of it has changed. */
function takeSettings(host: Host, router: Router, known: Router, now: number): void {
  const { floor } = known;
  const day = theirDay(host, now);
  advance(router, now, { type: 'queues', queues: [...floor.queues.values()] });
  advance(router, now, {
    type: 'people',
    gone: [],
    people: [...floor.people.values()].map(({ id, profile, load, levels, limited }) => ({
      ...{ id, profile, load, levels, limited },
      ...day(id),
    })),
  });
  advance(router, now, { type: 'groups', groups: [...floor.groups.values()] });
  advance(router, now, { type: 'partners', partners: [...floor.partners.values()] });
}

/** What the day has brought to each person so far. */
function theirDay({ db }: Host, now: number) {
  const duties = readDuties(db);
  const today = takenSince(db, startOfToday(now, readWorkspace(db)?.zone ?? 'UTC'));
  return (personId: string) => ({
    duty: duties.get(personId)?.duty ?? ('off' as const),
    reachable: true,
    lastContactAt: duties.get(personId)?.lastContactAt ?? null,
    today: today.get(personId) ?? 0,
  });
}

/**
 * Fills an empty router from the tables: everything as it was when the last change was kept. What settings say is taken
 * from `known` where they have not changed since.
 */
export function loadFloor(
  host: Host,
  router: Router,
  rests: (leg: { id: string; personId: string; contactId: string; acceptedAt: number }) => boolean,
  reachable: (personId: string) => boolean,
  known: Router | null,
): void {
  const { floor } = router;
  const { db } = host;
  const now = host.times.floor();
  if (known) takeSettings(host, router, known, now);
  else readSettings(host, router, now);
  for (const person of floor.people.values()) person.reachable = reachable(person.id);
  for (const group of floor.groups.values()) {
    group.uses = usesFrom(offersCounted(db, 'group_id', group.id, now - MONTH_MS), group.zone);
    refreshGroup(router, group, now);
  }
  for (const person of floor.people.values())
    if (person.limited)
      person.uses = usesFrom(offersCounted(db, 'person_id', person.id, now - MONTH_MS), person.limited.zone);
  for (const partner of floor.partners.values()) {
    partner.uses = usesFrom(contactsCounted(db, partner.id, now - MONTH_MS), partner.zone);
    for (const number of partner.numbers)
      number.uses = usesFrom(callsCounted(db, number.id, now - MONTH_MS), number.zone);
    for (const thing of [partner, ...partner.numbers]) refreshOutside(thing, now);
  }
  for (const leg of openLegs(db)) {
    const person = floor.people.get(leg.personId);
    const visit = readVisit(db, leg.visitId);
    if (!person || !visit) continue;
    const resting = isText(visit.channel) && leg.talkEndedAt === null && rests(leg);
    // Whoever rings back somebody who left a message is in a call.
    const rung = visit.kind === 'message' ? callbackOf(db, visit.contactId) : undefined;
    const calls = rung?.callId === leg.id && (rung.state === 'dialling' || rung.state === 'talking');
    const load = calls ? 'voice' : loadOf(visit.kind, visit.channel);
    person.open.set(leg.id, {
      channel: load,
      kind: visit.kind,
      cost: person.load[load].cost,
      visitId: visit.id,
      queueId: visit.queueId,
      groupId: leg.groupId,
      acceptedAt: leg.acceptedAt,
      ...(resting ? { resting } : {}),
    });
  }
  loadVisits(host, router, now);
  for (const offer of openOffers(db)) {
    const visit = floor.waiting.get(offer.visitId);
    const person = floor.people.get(offer.personId);
    if (!visit || !person) continue;
    visit.offers = [...visit.offers, { offerId: offer.id, personId: person.id }];
    if (visit.queue.offering.way === 'ring-all') router.ringing.add(visit);
    person.pending = {
      offerId: offer.id,
      visitId: visit.id,
      channel: visit.load,
      cost: person.load[visit.load].cost,
      groupId: offer.groupId,
      madeAt: offer.madeAt,
    };
  }
  for (const person of floor.people.values()) refresh(router, person, now);
  recall(router, readRouterMemory(db));
  for (const visit of floor.waiting.values()) {
    joinLine(router, visit, now);
    // Whoever is asked what they want keeps their place meanwhile.
    const isAsked = visit.choosingUntil !== null && visit.offers.length === 0;
    if (isAsked || router.lineOf.has(visit)) noteStillStanding(router, visit, now);
  }
  // The timers that stand in the tables are those the router has asked for.
  for (const timer of floorTimers(db)) {
    const thing =
      timer.kind === 'visit-due'
        ? floor.waiting.get(timer.thingId)
        : timer.kind === 'group-due'
          ? floor.groups.get(timer.thingId)
          : timer.kind === 'person-due'
            ? floor.people.get(timer.thingId)
            : timer.kind === 'partner-due'
              ? floor.partners.get(timer.thingId)
              : [...floor.partners.values()].flatMap((p) => p.numbers).find((n) => n.id === timer.thingId);
    if (thing) thing.timerAt = timer.dueAt;
  }
  // Every visit has an event of its own, so that no entry number was ever above the log's.
  router.nextEntry = Math.max(router.nextEntry, lastSeq(db) + 1);
  router.learned.clear();
}

function loadVisits(host: Host, router: Router, now: number): void {
  const { db } = host;
  const { floor } = router;
  const versions = new Map<string, QueueSettings | undefined>();
  /** Settings of one version are one object, the floor's own where they are still in force. */
  const settingsOf = (queueId: string, version: number): QueueSettings | undefined => {
    const key = `${queueId} ${version}`;
    if (!versions.has(key)) {
      const then = queueAsOf(db, queueId, version);
      const current = floor.queues.get(queueId)?.settings;
      const twin = [...versions.values(), current].find(
        (s) => s !== undefined && JSON.stringify(s) === JSON.stringify(then),
      );
      versions.set(key, twin ?? then);
    }
    return versions.get(key);
  };
  const lastAt = lastFloorInstant(db) ?? now;
  // One that cannot be taken up is left out and named; the others are as they were.
  for (const v of openVisits(db)) readable(db, 'visit', { ...v, name: '' }, () => loadVisit(v));

  function loadVisit(v: Visit): void {
    const queue = settingsOf(v.queueId, v.settingsVersion);
    if (!queue) throw new Error('its queue is not there any more');
    const { visit: fresh } = newVisit(
      queue,
      v.settingsVersion,
      v.entry,
      {
        id: v.id,
        contactId: v.contactId,
        queueId: v.queueId,
        channel: v.channel,
        placedAt: v.placedAt,
        handOver: v.handOver,
        priority: v.priority,
        familiarId: v.familiarId,
        personId: v.familiarId,
        kind: v.kind,
        because: '',
        passed: v.passed,
      },
      v.enteredAt,
    );
    const visit: WaitingVisit = {
      ...fresh,
      merged: v.needs,
      needs: v.needs,
      stage: v.stagedAt.length,
      stagedAt: [...v.stagedAt],
      choosingUntil: v.choosingUntil,
      groups: v.opened.flatMap((o) => (o.to === 'group' ? [o.id] : [])),
      partners: v.opened.flatMap((o) => (o.to === 'partner' ? [o.id] : [])),
    };
    const refused = new Map<string, number>();
    const dials = new Map<string, Dial>();
    for (const offer of offersOf(db, v.id))
      if (offer.endedHow === 'declined' || offer.endedHow === 'missed') refused.set(offer.personId, offer.endedAt ?? 0);
    for (const call of partnerCallsOfVisit(db, v.id)) {
      if (call.endedAt === null)
        dials.set(call.id, {
          callId: call.id,
          partnerId: call.partnerId,
          numberId: call.numberId,
          startedAt: call.startedAt,
        });
      else if (call.endedHow === 'no-answer' || call.endedHow === 'busy') refused.set(call.numberId, call.endedAt);
    }
    visit.refused = refused;
    visit.dials = dials;
    stagesOf(visit)
      .slice(0, visit.stage)
      .forEach((stage, i) => {
        for (const act of visit.kind === 'live' ? stage.acts : []) {
          if (act.does !== 'say' && act.does !== 'ask' && act.does !== 'play') continue;
          visit.repeats = visit.repeats.filter((r) => r.act.does !== act.does);
          if (act.does === 'play' || act.everySeconds === null) continue;
          const from = visit.stagedAt[i] ?? visit.enteredAt;
          visit.repeats = [
            ...visit.repeats,
            {
              act,
              nextAt: from + (Math.floor((lastAt - from) / (act.everySeconds * 1000)) + 1) * act.everySeconds * 1000,
            },
          ];
        }
      });
    restoreVisit(router, visit);
  }
  for (const call of openPartnerCalls(db)) {
    const queueId = readVisit(db, call.visitId)?.queueId;
    if (call.answeredAt !== null && queueId !== undefined)
      floor.partnerCalls.set(call.id, {
        callId: call.id,
        partnerId: call.partnerId,
        numberId: call.numberId,
        startedAt: call.startedAt,
        answeredAt: call.answeredAt,
        queueId,
        visitId: call.visitId,
        contactId: call.contactId,
      });
  }
}
