import { TZDate } from '@date-fns/tz';
import { type Agenda as AgendaOf, createAgenda } from '../src/core/agenda';
import { type Chance, seeded } from '../src/core/chance';
import { type Channel, isText } from '../src/core/channels';
import type { LaneEvent } from '../src/core/events';
import { openAt, openings } from '../src/core/hours/weekly';
import { isOpen, readContact } from '../src/data/contacts';
import { readCustomer } from '../src/data/customers';
import { type Door, readDoors } from '../src/data/doors';
import { SHIFTS } from '../src/data/duty';
import { readAllHours } from '../src/data/hours';
import { legsOf, openLegs, readLeg } from '../src/data/legs';
import { messagesOf, saidAt } from '../src/data/messages';
import { type Person, readPeople } from '../src/data/people';
import { openVisits, readVisit } from '../src/data/visits';
import type { Services } from '../src/services';
import { hasBotState } from '../src/data/askings';
import { contactState } from '../src/services/contacts/contactstate';
import { openNow } from '../src/services/doors/opennow';
import { COMPANY, DOORS } from './company';
import * as lines from './lines';

/**
 * Simulated customers and people. They know nothing of the inside: customers come by doors, read what they are asked,
 * wait and lose patience; people go on duty by their shifts, take what they are offered, talk and file outcomes. The
 * same crowd makes the history (on a virtual clock, as fast as it goes) and keeps the Floor moving live.
 */
type Agenda = AgendaOf<() => void>;
export type Crowd = {
  readonly agenda: Agenda;
  readonly hear: (events: readonly LaneEvent[]) => void;
  readonly begin: () => void;
};

const SECOND = 1000;
const MINUTE = 60_000;
/** Contacts an hour at the doors, by local hour, on an ordinary weekday; weekday factors Monday to Sunday. */
const BY_HOUR = [0, 0, 0, 0, 0, 0, 0, 3, 143, 258, 316, 306, 239, 220, 239, 249, 230, 153, 88, 64, 44, 4, 0, 0];
const BY_DAY = [1.12, 1.02, 1, 0.98, 1.02, 0.45, 0];
/**
 * What is worth finding in the days that are lived through: Mondays from 10 to 12 bring so many times the usual, most of
 * it people who would hire something new; who comes by the evening messages often writes Polish, which nobody in the
 * evening does; one person, who is often not at their desk, misses far more offers than the others; and people look for
 * the case label, do not find it, and leave.
 */
export type Planted = {
  readonly mondayPeak: number;
  readonly mondayHires: number;
  readonly polishEvenings: number;
  readonly missesOfAbsent: number;
  readonly leaveAtCase: number;
};
/** One in two hundred offers is missed, three are declined; and one in eighty leaves where a bot asks for something. */
export const MISSES = 0.005;
export const DECLINES = 0.015;
const LEAVES = 0.012;
const ABSENT = 'person_11';
/** How often somebody misses an offer. */
export const missesOf = (personId: string, planted: Planted): number =>
  personId === ABSENT ? planted.missesOfAbsent : MISSES;

export const WORTH_FINDING: Planted = {
  mondayPeak: 2,
  mondayHires: 0.6,
  polishEvenings: 0.45,
  missesOfAbsent: 0.13,
  leaveAtCase: 0.11,
};
/** Days like any others. */
export const NOTHING_PLANTED: Planted = {
  mondayPeak: 1,
  mondayHires: 0,
  polishEvenings: 0,
  missesOfAbsent: MISSES,
  leaveAtCase: LEAVES,
};

/** Contacts an hour at an instant of an ordinary week. */
export function usualRate(at: number): number {
  const local = new TZDate(at, COMPANY.zone);
  return (BY_HOUR[local.getHours()] ?? 0) * (BY_DAY[(local.getDay() + 6) % 7] ?? 0);
}

/** Addresses of simulated customers, so that they can be told from people who try the demo by hand. */
export const isSimulatedAddress = (address: string): boolean =>
  address.startsWith('+35320913') || address.endsWith('.example');

/** Where a made-up customer writes or calls from. */
export const addressAt = (channel: Channel, token: number): string =>
  channel === 'voice' || channel === 'sms' ? `+35320913${String(1000 + token)}` : `visitor-${token}@${channel}.example`;

/** How long somebody waits before they give up, and how long a conversation takes; seconds. */
export const patienceOf = (chance: Chance, channel: Channel): number =>
  chance.exponential(channel === 'voice' ? 260 : channel === 'chat' ? 420 : 2400);
export const handleOf = (chance: Chance, channel: Channel): number =>
  isText(channel) ? chance.lognormal(540, 0.5) : chance.lognormal(350, 0.6);
/** At which parts of a conversation a customer says something, and is answered. */
export const saidAtParts = (channel: Channel): readonly number[] => (isText(channel) ? [0.35, 0.7] : [0.5]);
/** How many conversations are passed on; how many customers are asked back and would rather be called; how many rate. */
export const PASSED_ON = 0.03;
export const RATHER_CALLED = 0.125;
export const RATES = 0.6;

type Customer = {
  readonly channel: Channel;
  readonly language: string;
  readonly wants: lines.Wish;
  readonly token: number;
  /** What the bot said last, by its place in the log; 0 for nothing yet. */
  heard: number;
};

export function createCrowd(services: Services, chance: Chance, scale = 1, planted = WORTH_FINDING): Crowd {
  const { host, contacts, floor } = services;
  const due = createAgenda<() => void>();
  // Instants of the floor are whole milliseconds.
  const agenda: Agenda = { ...due, add: (at, act) => due.add(Math.ceil(at), act) };
  const customers = new Map<string, Customer>();
  const simulated = new Map<string, Person>(
    readPeople(host.db)
      .filter((p) => p.simulated)
      .map((p) => [p.id, p]),
  );
  const shifts = new Map(SHIFTS.all(host.db).map((s) => [s.id, s]));
  const weights = new Map<string, number>(DOORS.map((d) => [d.id, d.weight]));
  const now = () => host.times.floor();
  const later = (seconds: number, act: () => void) => agenda.add(now() + seconds * SECOND, act);
  const contactOpen = (id: string) => isOpen(host.db, id);

  // Customers -------------------------------------------------------------------------------------------------------

  const isMondayPeak = (local: TZDate): boolean =>
    local.getDay() === 1 && local.getHours() >= 10 && local.getHours() < 12;
  const rateAt = (at: number): number =>
    scale * usualRate(at) * (isMondayPeak(new TZDate(at, COMPANY.zone)) ? planted.mondayPeak : 1);
  /** Arrivals of a Poisson process whose rate changes by the hour: exponential gaps, none across an hour's end. */
  let hour = { end: 0, rate: 0 };
  function nextArrival(): void {
    const at = now();
    const hourEnd = (Math.floor(at / (60 * MINUTE)) + 1) * 60 * MINUTE;
    if (hour.end !== hourEnd) hour = { end: hourEnd, rate: rateAt(at) };
    const { rate } = hour;
    const gap = rate > 0 ? chance.exponential(3600 / rate) * SECOND : Infinity;
    if (at + gap >= hourEnd) agenda.add(hourEnd, nextArrival);
    else
      agenda.add(at + gap, () => {
        arrive();
        nextArrival();
      });
  }
  function pickDoor(): Door {
    const all = host.remembered('doors', readDoors);
    // Most people know when somebody is there.
    const open = all.filter((d) => openNow(host, d.hoursId).open);
    const doors = open.length > 0 && chance.next() < 0.93 ? open : all;
    let left = chance.next() * doors.reduce((sum, d) => sum + (weights.get(d.id) ?? 1), 0);
    return doors.find((d) => (left -= weights.get(d.id) ?? 1) < 0) ?? chance.pick(doors);
  }
  function arrive(): void {
    const door = pickDoor();
    const token = chance.below(9000);
    const address = addressAt(door.channel, token);
    const usual = chance.next() < 0.82 ? 'en' : chance.next() < 0.75 ? 'es' : 'fr';
    const language = door.id === 'door_evening' && chance.next() < planted.polishEvenings ? 'pl' : usual;
    const wants =
      isMondayPeak(new TZDate(now(), COMPANY.zone)) && chance.next() < planted.mondayHires
        ? 'hire'
        : lines.wish(chance);
    host.transact((tx) => {
      const { contactId } = contacts.arrive(tx, door, {
        address,
        vouched: door.channel !== 'chat',
        name: door.channel === 'chat' ? lines.customerName(token) : null,
        language,
      });
      if (!contactOpen(contactId)) return;
      customers.set(contactId, { channel: door.channel, language, wants, token, heard: 0 });
      later(3 + chance.exponential(6), () => answerBot(contactId));
    });
  }
  function answerBot(contactId: string): void {
    const customer = customers.get(contactId);
    if (!customer || !contactOpen(contactId)) return;
    const asked = saidAt(host.db, customer.heard);
    // Who waits for a person meanwhile answers only what they may choose.
    if (!asked || (!withBot(contactId) && asked.options.length === 0)) return;
    const leaves = /hire number|número de alquiler/i.test(asked.text) ? planted.leaveAtCase : LEAVES;
    host.transact((tx) => {
      if (chance.next() < leaves) return contacts.happen(tx, contactId, { type: 'customer-leaves' });
      const said = lines.answer(chance, customer.wants, customer.language, asked, customer.token);
      const key = customer.channel === 'voice' && /^[0-9*#]$/.test(said);
      contacts.happen(tx, contactId, {
        type: 'customer-says',
        input: key ? { type: 'key', key: said } : { type: 'text', text: said },
      });
    });
    if (withBot(contactId)) later(3 + chance.exponential(7), () => answerBot(contactId));
  }
  const withBot = (contactId: string): boolean => contactOpen(contactId) && hasBotState(host.db, contactId);

  function losePatience(contactId: string, visitId: string): void {
    if (contactOpen(contactId) && floor.router.floor.waiting.has(visitId))
      host.transact((tx) => contacts.happen(tx, contactId, { type: 'customer-leaves' }));
  }

  // People ----------------------------------------------------------------------------------------------------------

  /** Today's shift, as the product keeps it. */
  const shiftOf = (personId: string, at: number): { from: number; to: number } | null => {
    const shift = shifts.get(personId);
    const today = shift && openings({ zone: COMPANY.zone, ...shift }, at, 0, 0)[0];
    return today ? { from: today.start, to: today.end } : null;
  };
  const setDuty = (personId: string, duty: 'ready' | 'away' | 'away-when-empty', reason: string | null) =>
    host.transact((tx) => floor.setDuty(tx, personId, duty, reason));
  function planDay(): void {
    const at = now();
    const local = new TZDate(at, COMPANY.zone);
    for (const personId of simulated.keys()) {
      const shift = shiftOf(personId, at);
      const duty = floor.router.floor.people.get(personId)?.duty;
      if (!shift || shift.to <= at) {
        if (duty !== 'off') setDuty(personId, 'away-when-empty', null);
        continue;
      }
      const late = chance.below(240) * SECOND;
      agenda.add(Math.max(at, shift.from + late), () => setDuty(personId, 'ready', null));
      const lunch = shift.from + (3 + 1.5 * chance.next()) * 60 * MINUTE;
      if (lunch > at) {
        agenda.add(lunch, () => setDuty(personId, 'away', 'Lunch'));
        agenda.add(lunch + 40 * MINUTE, () => setDuty(personId, 'ready', null));
      }
      agenda.add(shift.to, () => setDuty(personId, 'away-when-empty', null));
    }
    agenda.add(
      new TZDate(local.getFullYear(), local.getMonth(), local.getDate() + 1, 5, 0, 0, COMPANY.zone).getTime(),
      planDay,
    );
  }

  function answerOffer(personId: string, offerId: string): void {
    const person = floor.router.floor.people.get(personId);
    if (person?.pending?.offerId !== offerId) return;
    // What is missed runs out, and they come back after a while.
    const [luck, misses] = [chance.next(), missesOf(personId, planted)];
    if (luck < misses)
      return later(240, () => {
        if (floor.router.floor.people.get(personId)?.duty === 'away') setDuty(personId, 'ready', null);
      });
    host.transact((tx) =>
      luck < misses + DECLINES ? floor.turnDown(tx, personId, 'declined') : floor.accept(tx, personId),
    );
  }

  /**
   * A simulated person talks to a customer: greets, answers a few times, ends. A real customer is answered as they
   * write.
   */
  function talk(legId: string, contactId: string, personId: string): void {
    const contact = readContact(host.db, contactId);
    if (!contact) return;
    const customer = customers.get(contactId);
    const text = isText(contact.channel);
    const handle = handleOf(chance, contact.channel);
    const name = simulated.get(personId)?.shownName ?? '';
    later(text ? 8 + chance.exponential(15) : 2, () =>
      personSays(legId, lines.greeting(chance, contact.language, name)),
    );
    if (customer) {
      for (const part of saidAtParts(contact.channel)) {
        later(handle * part, () => customerSays(contactId, lines.chatter(chance, customer.language)));
        later(handle * part + 20 + chance.exponential(20), () =>
          personSays(legId, lines.help(chance, contact.language)),
        );
      }
      later(handle, () => endTalk(legId));
    } else later(420, () => endTalk(legId));
  }
  const stillTalking = (legId: string) => {
    const leg = readLeg(host.db, legId);
    return leg && leg.talkEndedAt === null ? leg : null;
  };
  function personSays(legId: string, text: string): void {
    const leg = stillTalking(legId);
    if (leg) host.transact((tx) => contacts.happen(tx, leg.contactId, { type: 'person-says', legId, text }));
  }
  function customerSays(contactId: string, text: string): void {
    if (contactOpen(contactId))
      host.transact((tx) => contacts.happen(tx, contactId, { type: 'customer-says', input: { type: 'text', text } }));
  }
  const asked = new Set<string>();
  function press(contactId: string, key: string): void {
    const contact = readContact(host.db, contactId);
    if (contact && contact.endedAt === null && contactState(host.db, contact) === 'waiting')
      host.transact((tx) => contacts.happen(tx, contactId, { type: 'customer-says', input: { type: 'key', key } }));
  }
  function answerCall(contactId: string): void {
    if (contactOpen(contactId) && services.callbacks.callingNow(contactId)?.state === 'dialling')
      host.transact((tx) => contacts.happen(tx, contactId, { type: 'customer-picks-up', answered: true }));
  }
  function endTalk(legId: string): void {
    const leg = stillTalking(legId);
    if (!leg) return;
    const queueId = readVisit(host.db, leg.visitId)?.queueId;
    const other = queueId === 'queue_newhire' ? 'queue_billing' : 'queue_newhire';
    host.transact((tx) =>
      contacts.happen(
        tx,
        leg.contactId,
        chance.next() < PASSED_ON
          ? { type: 'passed-on', legId, queueId: other }
          : { type: 'talk-ends', legId, how: 'resolved' },
      ),
    );
  }
  function file(legId: string): void {
    const leg = readLeg(host.db, legId);
    if (leg && leg.endedAt === null && leg.talkEndedAt !== null)
      host.transact((tx) =>
        contacts.happen(tx, leg.contactId, { type: 'outcome', legId, outcome: lines.outcome(chance) }),
      );
  }

  // What happens -----------------------------------------------------------------------------------------------------

  function hearOne(e: LaneEvent): void {
    switch (e.type) {
      case 'visit.began':
        if (customers.has(e.contactId) && !e.callback)
          later(patienceOf(chance, e.channel), () => losePatience(e.contactId, e.visitId));
        break;
      case 'visit.asked':
        // One in eight would rather be called back: on their own number, as soon as possible.
        if (e.until !== null && customers.has(e.contactId) && !asked.has(e.contactId)) {
          asked.add(e.contactId);
          const keys = chance.next() < RATHER_CALLED ? ['1', '1', '1'] : [];
          keys.forEach((key, i) => later(3 + 4 * i + 2 * chance.next(), () => press(e.contactId, key)));
        }
        break;
      case 'callback.changed':
        if (e.state === 'dialling' && customers.has(e.contactId) && chance.next() < 0.75)
          later(4 + chance.exponential(4), () => answerCall(e.contactId));
        break;
      case 'offer.made':
        // Nobody misses an offer but those who are to: it runs out after 20 s.
        if (simulated.has(e.personId))
          later(Math.min(12, 2 + chance.exponential(3)), () => answerOffer(e.personId, e.offerId));
        break;
      case 'leg.began':
        if (simulated.has(e.personId)) talk(e.legId, e.contactId, e.personId);
        break;
      case 'message.written': {
        // A person who tries the demo by hand is answered: by a simulated agent, or by a simulated customer.
        const customer = customers.get(e.contactId);
        if (e.from === 'bot' && customer) customer.heard = e.seq;
        if (e.from === 'person' && customer && e.personId !== null && !simulated.has(e.personId))
          later(6 + chance.exponential(6), () => customerSays(e.contactId, lines.chatter(chance, customer.language)));
        if (e.from === 'customer' && !customer) {
          const leg = legsOf(host.db, e.contactId).find((l) => l.talkEndedAt === null);
          if (leg && simulated.has(leg.personId))
            later(4 + chance.exponential(4), () =>
              personSays(leg.id, lines.help(chance, readContact(host.db, e.contactId)?.language ?? 'en')),
            );
        }
        break;
      }
      case 'leg.wrapping':
        if (simulated.has(e.personId) && !e.passedOn) later(8 + chance.exponential(20), () => file(e.legId));
        break;
      case 'contact.ended':
        // Three in five answer what the bot asks at the end.
        if (e.how === 'resolved' && customers.has(e.contactId) && chance.next() < RATES)
          later(4 + chance.exponential(8), () => rate(e.contactId));
        customers.delete(e.contactId);
        break;
      default:
    }
  }

  function rate(contactId: string): void {
    const contact = readContact(host.db, contactId);
    if (contact && contactState(host.db, contact) === 'after')
      host.transact((tx) =>
        contacts.happen(tx, contactId, { type: 'customer-says', input: { type: 'text', text: lines.rating(chance) } }),
      );
  }

  /** Takes over what an earlier run left open, so that nobody stands about for ever. */
  function adopt(): void {
    const ours = (contactId: string): boolean => {
      const contact = readContact(host.db, contactId);
      const customer = contact && readCustomer(host.db, contact.customerId);
      if (!contact || !customer || !isSimulatedAddress(customer.address)) return false;
      customers.set(contactId, {
        channel: contact.channel,
        language: contact.language,
        wants: lines.wish(chance),
        token: chance.below(9000),
        heard: messagesOf(host.db, contactId).findLast((m) => m.sender === 'bot')?.seq ?? 0,
      });
      return true;
    };
    for (const visit of openVisits(host.db))
      if (ours(visit.contactId))
        later(patienceOf(chance, visit.channel), () => losePatience(visit.contactId, visit.id));
    for (const leg of openLegs(host.db)) {
      if (!ours(leg.contactId) || !simulated.has(leg.personId)) continue;
      later(30 + chance.exponential(240), () => (stillTalking(leg.id) ? endTalk(leg.id) : file(leg.id)));
      if (leg.talkEndedAt !== null) later(5, () => file(leg.id));
    }
  }

  return {
    agenda,
    hear: (events) => events.forEach(hearOne),
    begin: () => {
      adopt();
      planDay();
      nextArrival();
    },
  };
}

/**
 * Runs the crowd live on the floor's clock. When every door has closed for the day and nobody waits, the simulated day
 * skips to a quarter of an hour after the next opening.
 */
export function startCrowd(
  services: Services,
  clock: { floor: () => number; untilFloor: (at: number) => number; jumpTo: (at: number) => void },
  onFault: (error: unknown) => void,
): () => void {
  const { host } = services;
  skipNight(services, clock);
  const crowd = createCrowd(services, seeded(clock.floor() & 0x7fffffff));
  let timer: NodeJS.Timeout | undefined;
  const run = () => {
    try {
      for (let at = crowd.agenda.nextAt(); at !== null && at <= clock.floor(); at = crowd.agenda.nextAt())
        crowd.agenda.takeNext()?.();
      if (skipNight(services, clock)) crowd.begin();
    } catch (error) {
      onFault(error);
    }
    const at = crowd.agenda.nextAt();
    timer = setTimeout(run, Math.min(1000, at === null ? 1000 : Math.max(10, clock.untilFloor(at))));
  };
  const stop = host.listen(crowd.hear);
  crowd.begin();
  run();
  return () => {
    clearTimeout(timer);
    stop();
  };
}

function skipNight(services: Services, clock: { floor: () => number; jumpTo: (at: number) => void }): boolean {
  const { host, floor } = services;
  const at = clock.floor();
  const hours = readAllHours(host.db);
  const busy = floor.router.floor.waiting.size > 0 || openLegs(host.db).length > 0;
  if (busy || hours.length === 0 || hours.some((h) => openAt(h, at).open)) return false;
  const next = Math.min(...hours.map((h) => openings(h, at, 0, 8).find((o) => o.start > at)?.start ?? Infinity));
  if (!Number.isFinite(next)) return false;
  clock.jumpTo(next + 15 * MINUTE);
  return true;
}
