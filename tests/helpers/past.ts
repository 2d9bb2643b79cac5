import type { Channel } from '../../src/core/channels';
import { plusDays } from '../../src/core/hours/dates';
import { startOfDay } from '../../src/core/hours/weekly';
import type { NotChosen } from '../../src/core/routing/trail';
import { writeCustomer } from '../../src/data/customers';
import type { Db } from '../../src/data/database';
import { appendEvent } from '../../src/data/events';
import { writeDecision } from '../../src/data/trails';

/** A contact as it once was: who took it after how long, or (null) that the customer gave up. */
export type PastContact = {
  /** When it began, floor ms. */
  readonly at: number;
  readonly queueId: string;
  readonly waitSeconds: number;
  readonly personId: string | null;
  readonly handleSeconds?: number;
  readonly channel?: Channel;
  readonly language?: string;
  readonly customerId?: string;
  /** Why others did not have it. */
  readonly others?: Readonly<Partial<Record<NotChosen, readonly string[]>>>;
  /** Whom it was offered to before, in vain. */
  readonly missedBy?: readonly string[];
};

/** Writes contacts that are over into the log, as the floor would have: event by event, with the decision of each. */
export function writePast(db: Db, contacts: readonly PastContact[]): void {
  db.transaction(() => {
    writeCustomer(db, { id: 'past', channel: 'voice', address: '+353209139999', name: null, vouched: true });
    contacts.forEach((contact, i) => writeOne(db, contact, `past${i}`));
  })();
}

function writeOne(
  db: Db,
  { at, queueId, waitSeconds, personId, handleSeconds = 300, channel = 'voice', ...more }: PastContact,
  id: string,
): void {
  const visitId = `${id}v`;
  const say = (event: Parameters<typeof appendEvent>[1], when: number) => appendEvent(db, event, when, when);
  const decided = at + waitSeconds * 1000;
  say(
    {
      type: 'contact.started',
      contactId: id,
      doorId: 'door_main',
      channel,
      customerId: more.customerId ?? 'past',
      language: more.language ?? 'en',
      botId: null,
      botVersion: null,
      open: true,
    },
    at,
  );
  say(
    {
      type: 'visit.began',
      contactId: id,
      visitId,
      queueId,
      channel,
      settingsVersion: 1,
      placedAt: at,
      needs: [],
      priority: 0,
      goalSeconds: 30,
      because: 'it came',
    },
    at,
  );
  for (const missed of more.missedBy ?? []) {
    const offer = { contactId: id, visitId, offerId: `${id}m${missed}`, personId: missed };
    say({ type: 'offer.made', ...offer, acceptBy: decided }, at);
    say({ type: 'offer.ended', ...offer, how: 'missed' }, decided);
  }
  if (personId === null) {
    say({ type: 'visit.ended', contactId: id, visitId, how: 'gave-up' }, decided);
    say({ type: 'contact.ended', contactId: id, how: 'gave-up' }, decided);
    return;
  }
  const offer = { contactId: id, visitId, offerId: `${id}o`, personId };
  say({ type: 'offer.made', ...offer, acceptBy: decided }, decided);
  writeDecision(db, visitId, {
    kind: 'offer',
    at: decided,
    settingsVersion: 1,
    waitedSeconds: waitSeconds,
    asked: 2,
    able: 1,
    chosen: personId,
    rank: 1,
    decidedBy: 'only-one',
    levelSum: null,
    others: more.others ?? {},
    lacking: Object.fromEntries((more.others?.skill ?? []).map((other) => [other, 'skill_fr'])),
  });
  say({ type: 'offer.ended', ...offer, how: 'accepted' }, decided);
  say({ type: 'visit.ended', contactId: id, visitId, how: 'accepted' }, decided);
  const leg = { contactId: id, legId: `${id}l`, personId };
  say({ type: 'leg.began', ...leg, visitId }, decided);
  const over = decided + handleSeconds * 1000;
  say({ type: 'leg.wrapping', ...leg, passedOn: false }, over);
  say({ type: 'leg.ended', ...leg, outcome: 'ADVICE', handleSeconds }, over);
  say({ type: 'contact.ended', contactId: id, how: 'resolved' }, over);
}

const HOUR = 3_600_000;

/**
 * Three weeks (Monday to Friday, from a Monday of a zone) of calls in one queue: forty a day over ten hours, each answered
 * after a few seconds by one of two people in turn. Mondays from ten to twelve of the last two weeks are missed: twenty-five
 * more an hour come, and wait two minutes.
 */
export function threeWeeks(
  monday: string,
  zone: string,
  queueId: string,
  [one, two]: readonly [string, string],
): PastContact[] {
  const contacts: PastContact[] = [];
  for (let week = 0; week < 3; week++)
    for (let day = 0; day < 5; day++) {
      const begins = startOfDay(plusDays(monday, week * 7 + day), zone);
      for (let hour = 8; hour < 18; hour++) {
        const missed = week > 0 && day === 0 && (hour === 10 || hour === 11);
        const many = missed ? 25 : 4;
        for (let i = 0; i < many; i++) {
          const personId = i % 4 === 3 ? two : one;
          contacts.push({
            at: begins + hour * HOUR + Math.floor((i * HOUR) / many),
            queueId,
            waitSeconds: missed ? 120 : 5 + i,
            personId,
            handleSeconds: 200 + 10 * ((hour + i) % 7),
            others: personId === one ? { [i % 2 === 0 ? 'skill' : 'away']: [two] } : { 'off-duty': [one] },
          });
        }
      }
    }
  return contacts;
}
