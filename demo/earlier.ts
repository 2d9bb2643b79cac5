import { createAgenda } from '../src/core/agenda';
import { ratingsBy } from '../src/core/bots/ratings';
import type { Chance } from '../src/core/chance';
import { type Channel, isText } from '../src/core/channels';
import type { EventBody } from '../src/core/events';
import { plusDays } from '../src/core/hours/dates';
import { localDate, openings } from '../src/core/hours/weekly';
import { daySpan } from '../src/core/measures/calendar';
import { handleSeconds } from '../src/core/measures/handletime';
import { MISSED } from '../src/core/people/duty';
import type { Callback } from '../src/core/contact/contact';
import type { Act, RouterEvent } from '../src/core/routing/acts';
import { advance } from '../src/core/routing/advance';
import type { VisitKind, WaitingVisit } from '../src/core/routing/floor';
import type { Need } from '../src/core/routing/needs';
import { decide } from '../src/core/routing/pass';
import { createRouter } from '../src/core/routing/router';
import { scriptOf } from '../src/data/bots';
import { writeCallback } from '../src/data/callbacks';
import { writeCustomer } from '../src/data/customers';
import { SHIFTS } from '../src/data/duty';
import { type Happened, writeLife } from '../src/data/lives';
import { readPeople } from '../src/data/people';
import { writeValue } from '../src/data/values';
import { loadFloor } from '../src/services/contacts/floorload';
import { visitBegan } from '../src/services/contacts/routeracts';
import type { Host } from '../src/services/ground/host';
import { createStandInTelephone } from '../src/standins/telephone';
import { COMPANY } from './company';
import {
  addressAt,
  DECLINES,
  handleOf,
  missesOf,
  NOTHING_PLANTED,
  PASSED_ON,
  patienceOf,
  RATES,
  RATHER_CALLED,
  saidAtParts,
  usualRate,
} from './crowd';
import * as lines from './lines';
import { type Came, hourOf, type Week } from './week';

/**
 * The weeks before the ones that were lived through: the same people, shifts and queues and the product's own router,
 * with contacts that come as they came in a week that was lived through, hour by hour, and nothing of what was said. It
 * takes a tenth of the time.
 */

const HOUR = 3_600_000;
const SECOND = 1000;

/** Customers of these weeks are others than those of the weeks that are lived through. */
const OTHERS = 9000;

/** A contact that goes on, or is wrapped up. */
type Going = {
  readonly id: string;
  readonly channel: Channel;
  readonly started: Came['started'];
  readonly life: Happened[];
  /** A call that was promised to its customer. */
  promised: Callback | null;
  ended: boolean;
  turns: number;
};

/** Lets the people of a database go through the days from `from` to `until`; gives the number of contacts. */
export function fillEarlier(
  clocked: (now: () => number) => Host,
  week: Week,
  {
    from,
    until,
    chance,
    scale,
  }: { readonly from: number; readonly until: number; readonly chance: Chance; readonly scale: number },
): number {
  let now = from;
  const host = clocked(() => now);
  const { db, ids } = host;
  const router = createRouter({ newId: ids, zone: COMPANY.zone, trails: false, decide });
  loadFloor(
    host,
    router,
    () => false,
    () => true,
    null,
  );
  const agenda = createAgenda<() => void>();
  const later = (seconds: number, act: () => void) => agenda.add(Math.ceil(now + seconds * SECOND), act);
  const telephone = createStandInTelephone();
  const going = new Map<string, Going>();
  const legs = new Map<
    string,
    { readonly contact: Going; readonly visitId: string; readonly acceptedAt: number; readonly signs: number[] }
  >();
  const timers = new Map<string, number>();
  const customers = new Map<string, string>();
  let contacts = 0;

  const happen = (event: RouterEvent): void => {
    for (const act of [...advance(router, now, event)]) carryOut(act);
  };
  const add = (contact: Going, body: EventBody) => void contact.life.push({ at: now, body });
  const says = (contact: Going, sender: 'customer' | 'bot' | 'person', personId: string | null = null) =>
    add(contact, { type: 'message.written', contactId: contact.id, from: sender, personId, lineId: null });
  const visitOf = (visit: { readonly contactId: string; readonly id: string }) => ({
    contactId: visit.contactId,
    visitId: visit.id,
  });

  // Customers -------------------------------------------------------------------------------------------------------

  function planHour(): void {
    const came = week.get(hourOf(now)) ?? [];
    const gap = 3600 / (scale * usualRate(now));
    if (came.length > 0)
      for (let at = chance.exponential(gap); at < 3600; at += chance.exponential(gap))
        later(at, () => arrive(chance.pick(came)));
    if (now + HOUR < until) later(3600, planHour);
  }
  function customerFor({ channel }: Came['started']): string {
    const token = chance.below(OTHERS);
    const address = addressAt(channel, OTHERS + token);
    // One number on two channels is two customers, as it is for those who come now; they are joined when they come again.
    const key = `${channel} ${address}`;
    let id = customers.get(key);
    if (id === undefined) {
      customers.set(key, (id = ids('customer')));
      writeCustomer(db, {
        id,
        channel,
        address,
        name: channel === 'chat' ? lines.customerName(token) : null,
        vouched: channel !== 'chat',
      });
    }
    return id;
  }
  function arrive({ started, before, entered }: Came): void {
    const id = ids('contact');
    const contact: Going = { id, channel: started.channel, started, life: [], promised: null, ended: false, turns: 0 };
    going.set(id, contact);
    contacts++;
    add(contact, { ...started, contactId: id, customerId: customerFor(started) });
    for (const { after, body } of before)
      contact.life.push({ at: now + after, body: { ...body, contactId: id } as EventBody });
    if (entered === null) {
      contact.ended = true;
      over(contact);
    } else later(entered.after / SECOND, () => enter(contact, entered.queueId, entered));
  }
  function enter(
    contact: Going,
    queueId: string,
    {
      needs,
      priority,
      because,
      kind = 'live',
    }: { needs: readonly Need[]; priority: number; because: string; kind?: VisitKind },
  ): void {
    const visitId = ids('visit');
    happen({
      type: 'enter',
      visit: {
        id: visitId,
        contactId: contact.id,
        queueId,
        channel: contact.channel,
        placedAt: now,
        handOver: needs,
        priority,
        familiarId: null,
        kind,
        because,
        passed: [],
      },
    });
    if (kind === 'live') later(patienceOf(chance, contact.channel), () => leave(contact, 'gave-up'));
  }
  function leave(contact: Going, how: 'gave-up' | 'callback-asked'): boolean {
    const visit = [...(waiting.get(contact.id) ?? [])][0];
    if (!visit) return false;
    happen({ type: 'leave', visitId: visit.id, how });
    if (how === 'gave-up') end(contact, 'gave-up');
    return true;
  }
  /** Visits that wait, by contact. */
  const waiting = new Map<string, Set<WaitingVisit>>();
  function end(contact: Going, how: Extract<EventBody, { type: 'contact.ended' }>['how']): void {
    if (contact.ended) return;
    contact.ended = true;
    add(contact, { type: 'contact.ended', contactId: contact.id, how });
    over(contact);
  }
  /** What is over, and wrapped up, is written. */
  function over(contact: Going): void {
    if (!contact.ended || contact.turns > 0 || !going.delete(contact.id)) return;
    writeLife(db, contact.life, null);
    if (contact.promised)
      writeCallback(db, {
        ...contact.promised,
        endedAt: now,
        state: contact.promised.reachedAt === null ? 'expired' : 'reached',
      });
    if (rated.has(contact.id))
      writeValue(db, contact.id, ratingName(contact.started) ?? '', rated.get(contact.id) ?? '');
    rated.delete(contact.id);
  }
  const rated = new Map<string, string>();
  const names = new Map<string, string | null>();
  function ratingName({ botId, botVersion }: Came['started']): string | null {
    if (botId === null || botVersion === null) return null;
    let name = names.get(botId);
    if (name === undefined) {
      const script = scriptOf(db, botId, botVersion);
      names.set(botId, (name = script ? ([...ratingsBy(script).keys()][0] ?? null) : null));
    }
    return name;
  }

  // People ----------------------------------------------------------------------------------------------------------

  const people = new Set(
    readPeople(db)
      .filter((p) => p.simulated)
      .map((p) => p.id),
  );
  const shifts = SHIFTS.all(db).filter((s) => people.has(s.id));
  function setDuty(personId: string, duty: 'ready' | 'away' | 'away-when-empty', reason: string | null): void {
    const person = router.floor.people.get(personId);
    if (!person) return;
    const state = duty === 'away-when-empty' && person.open.size === 0 && !person.pending ? 'off' : duty;
    noteDuty(personId, state, reason);
    happen({ type: 'duty', personId, duty: state });
  }
  const noteDuty = (personId: string, duty: 'ready' | 'away' | 'away-when-empty' | 'off', reason: string | null) =>
    host.transact((tx) => tx.emit({ type: 'person.duty', personId, duty, reason }));
  function planDay(): void {
    for (const shift of shifts) {
      const today = openings({ zone: COMPANY.zone, ...shift }, now, 0, 0)[0];
      if (!today || today.end <= now) continue;
      const at = (instant: number, act: () => void) => agenda.add(Math.max(now, Math.ceil(instant)), act);
      at(today.start + chance.below(240) * SECOND, () => setDuty(shift.id, 'ready', null));
      const lunch = today.start + (3 + 1.5 * chance.next()) * HOUR;
      if (lunch > now) {
        at(lunch, () => setDuty(shift.id, 'away', 'Lunch'));
        at(lunch + 40 * 60 * SECOND, () => setDuty(shift.id, 'ready', null));
      }
      at(today.end, () => setDuty(shift.id, 'away-when-empty', null));
    }
    const tomorrow = daySpan(plusDays(localDate(now, COMPANY.zone), 1), COMPANY.zone).from;
    if (tomorrow < until) agenda.add(tomorrow, planDay);
  }
  function answer(personId: string, offerId: string): void {
    const person = router.floor.people.get(personId);
    if (person?.pending?.offerId !== offerId) return;
    const [luck, misses] = [chance.next(), missesOf(personId, NOTHING_PLANTED)];
    if (luck < misses) {
      later(20, () => happen({ type: 'turn-down', offerId, personId, how: 'missed' }));
      later(240, () => void (router.floor.people.get(personId)?.duty === 'away' && setDuty(personId, 'ready', null)));
    } else if (luck < misses + DECLINES) happen({ type: 'turn-down', offerId, personId, how: 'declined' });
    else happen({ type: 'accept', offerId, personId, legId: ids('leg') });
  }
  function talk(contact: Going, personId: string, legId: string, callback: boolean): void {
    const leg = legs.get(legId);
    if (!leg) return;
    const text = isText(contact.channel);
    const handle = handleOf(chance, contact.channel);
    const sign = (after: number, sender: 'customer' | 'person') =>
      later(after, () => {
        if (!legs.has(legId)) return;
        leg.signs.push(now);
        says(contact, sender, sender === 'person' ? personId : null);
      });
    sign(text ? 8 + chance.exponential(15) : 2, 'person');
    for (const part of saidAtParts(contact.channel)) {
      sign(handle * part, 'customer');
      sign(Math.min(handle, handle * part + 20 + chance.exponential(20)), 'person');
    }
    later(handle, () => {
      const passedOn = !callback && chance.next() < PASSED_ON;
      const talkEndedAt = now;
      add(contact, { type: 'leg.wrapping', contactId: contact.id, legId, personId, passedOn });
      const wrapUp = passedOn ? 0 : 8 + chance.exponential(20);
      if (!passedOn) {
        if (chance.next() < RATES && ratingName(contact.started) !== null) {
          rated.set(contact.id, lines.rating(chance));
          says(contact, 'bot');
          says(contact, 'customer');
        }
        contact.turns++;
        end(contact, 'resolved');
        contact.turns--;
      }
      later(wrapUp, () => {
        legs.delete(legId);
        contact.turns--;
        add(contact, {
          type: 'leg.ended',
          contactId: contact.id,
          legId,
          personId,
          outcome: passedOn ? null : lines.outcome(chance),
          handleSeconds: handleSeconds(contact.channel, {
            acceptedAt: leg.acceptedAt,
            talkEndedAt,
            endedAt: now,
            signs: leg.signs,
          }),
        });
        happen({ type: 'leg-ended', personId, legId });
        if (passedOn)
          enter(
            contact,
            contact.life.some(({ body }) => body.type === 'visit.began' && body.queueId === 'queue_newhire')
              ? 'queue_billing'
              : 'queue_newhire',
            {
              needs: [],
              priority: 0,
              because: 'passed on',
            },
          );
        over(contact);
      });
    });
  }

  // What the router wants -------------------------------------------------------------------------------------------

  function carryOut(act: Act): void {
    switch (act.do) {
      case 'began': {
        const { visit } = act;
        const contact = going.get(visit.contactId);
        if (!contact) break;
        let of = waiting.get(contact.id);
        if (!of) waiting.set(contact.id, (of = new Set()));
        of.add(visit);
        add(contact, visitBegan(act));
        break;
      }
      case 'offer': {
        const contact = going.get(act.visit.contactId);
        if (!contact) break;
        add(contact, {
          type: 'offer.made',
          ...visitOf(act.visit),
          offerId: act.offerId,
          personId: act.person.id,
          acceptBy: now + 20 * SECOND,
          groupId: act.groupId,
        });
        later(Math.min(12, 2 + chance.exponential(3)), () => answer(act.person.id, act.offerId));
        break;
      }
      case 'offer-over': {
        const contact = going.get(act.visit.contactId);
        if (contact)
          add(contact, {
            type: 'offer.ended',
            ...visitOf(act.visit),
            offerId: act.offerId,
            personId: act.personId,
            how: act.how,
          });
        break;
      }
      case 'took': {
        const contact = going.get(act.visit.contactId);
        if (!contact) break;
        contact.turns++;
        legs.set(act.legId, { contact, visitId: act.visit.id, acceptedAt: now, signs: [] });
        add(contact, {
          type: 'leg.began',
          ...visitOf(act.visit),
          legId: act.legId,
          personId: act.personId,
          groupId: act.groupId,
          byHand: act.byHand,
        });
        if (act.visit.kind === 'callback' && contact.promised)
          contact.promised = { ...contact.promised, reachedAt: now };
        talk(contact, act.personId, act.legId, act.visit.kind === 'callback');
        break;
      }
      case 'ended': {
        const contact = going.get(act.visit.contactId);
        waiting.get(act.visit.contactId)?.delete(act.visit);
        if (waiting.get(act.visit.contactId)?.size === 0) waiting.delete(act.visit.contactId);
        if (!contact) break;
        add(contact, { type: 'visit.ended', ...visitOf(act.visit), how: act.how });
        const { visit, onward } = act;
        if (act.how !== 'callback-asked' && onward?.to !== 'callback') break;
        // Whoever would rather be called back is, when somebody is there for it.
        const { queue } = visit;
        contact.promised = {
          id: ids('callback'),
          contactId: contact.id,
          queueId: queue.id,
          number: addressAt(contact.channel, 0),
          placedAt: visit.placedAt,
          askedAt: now,
          fromAt: now,
          untilAt: null,
          expiresAt: now + 24 * HOUR,
          attempts: 1,
          nextAt: null,
          state: 'planned',
          callId: null,
          reachedAt: null,
          endedAt: null,
          outcome: null,
          needs: visit.handOver,
          priority: visit.basePriority,
          most: null,
        };
        later(60 + chance.exponential(900), () =>
          enter(contact, queue.callback.queueId ?? queue.id, {
            needs: visit.handOver,
            priority: visit.basePriority,
            because: 'called back',
            kind: 'callback',
          }),
        );
        break;
      }
      case 'stage': {
        const contact = going.get(act.visit.contactId);
        if (contact) add(contact, { type: 'visit.staged', ...visitOf(act.visit), stage: act.stage, early: act.early });
        break;
      }
      case 'perform': {
        const contact = going.get(act.visit.contactId);
        if (contact && act.act.does === 'say') says(contact, 'bot');
        break;
      }
      case 'choosing': {
        const contact = going.get(act.visit.contactId);
        if (!contact) break;
        add(contact, { type: 'visit.asked', ...visitOf(act.visit), until: act.until });
        if (act.until === null) break;
        says(contact, 'bot');
        later(4, () => {
          if (!router.floor.waiting.has(act.visit.id)) return;
          says(contact, 'customer');
          if (chance.next() < RATHER_CALLED) leave(contact, 'callback-asked');
          else happen({ type: 'chose', visitId: act.visit.id });
        });
        break;
      }
      case 'dial': {
        const contact = going.get(act.visit.contactId);
        const answers = telephone.answersAfter(act.address, act.callId);
        if (contact)
          add(contact, {
            type: 'partner.dialled',
            ...visitOf(act.visit),
            callId: act.callId,
            partnerId: act.partnerId,
            numberId: act.numberId,
          });
        agenda.add(answers === null ? act.ringUntil : Math.min(act.ringUntil, now + answers * SECOND), () =>
          happen({ type: 'dial-ended', callId: act.callId, how: answers === null ? 'no-answer' : 'answered' }),
        );
        break;
      }
      case 'partner-answered': {
        const contact = going.get(act.visit.contactId);
        if (contact) add(contact, { type: 'partner.answered', ...visitOf(act.visit), callId: act.callId });
        later(telephone.talksFor(act.callId), () => happen({ type: 'partner-done', callId: act.callId }));
        break;
      }
      case 'call-over': {
        const contact = going.get(act.contactId);
        if (!contact) break;
        add(contact, {
          type: 'partner.ended',
          contactId: act.contactId,
          visitId: act.visitId,
          callId: act.callId,
          how: act.how,
          counted: act.counted,
        });
        if (act.how === 'done') end(contact, 'resolved');
        break;
      }
      case 'set-duty':
        noteDuty(act.personId, act.duty, act.missed ? MISSED : null);
        break;
      case 'timer': {
        const key = `${act.timer.kind} ${act.timer.id}`;
        if (act.at === null) timers.delete(key);
        else {
          const { at } = act;
          timers.set(key, at);
          agenda.add(at, () => {
            if (timers.get(key) !== at) return;
            timers.delete(key);
            happen({ type: 'due', timer: act.timer });
          });
        }
      }
    }
  }

  planDay();
  planHour();
  for (;;) {
    const due = agenda.nextAt();
    // Whoever came before the end is served.
    if (due === null || (due > until && going.size === 0)) break;
    now = Math.max(now, due);
    agenda.takeNext()?.();
  }
  return contacts;
}
