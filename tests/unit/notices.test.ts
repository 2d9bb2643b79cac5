import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { LaneEvent } from '../../src/core/events';
import { eventsAfter, lastSeq } from '../../src/data/events';
import { readQueue } from '../../src/data/queuesettings';
import type { Actor } from '../../src/services/ground/actor';
import { eventsAfterLimited, noticesFor, noticesForContact } from '../../src/services/floor/stream';
import { handsIn, queueInput } from '../helpers/hands';
import { makeWorld, type World } from '../helpers/world';
import { STAND_IN } from '../../src/services/contacts/speaker';

let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());
const { lead, bertil, tamsin, odile, ready, chat, take } = handsIn(() => w);
/** What happens meanwhile, as one reader hears of it. */
const hears = (who: Actor, work: () => void): object[] => {
  const from = lastSeq(w.db);
  work();
  return eventsAfter(w.db, from, 1000).flatMap((e) => noticesFor(w.services, who)(e) ?? []);
};

describe('what a reader has missed', () => {
  it.each([
    [null, []],
    [-1, null],
    [1.5, null],
    [1_000_000, null],
    [NaN, null],
  ])('after %s: %j', (after, missed) => {
    chat();
    expect(eventsAfterLimited(w.services.host, after, 100)).toEqual({ newest: lastSeq(w.db), missed });
  });
  it('is given in order, up to as much as is sent; more than that is to be read anew', () => {
    const from = lastSeq(w.db);
    chat();
    const count = lastSeq(w.db) - from;
    const { missed } = eventsAfterLimited(w.services.host, from, count);
    expect(missed?.map((e: LaneEvent) => e.seq)).toEqual(Array.from({ length: count }, (_, i) => from + i + 1));
    expect(eventsAfterLimited(w.services.host, from, count - 1).missed).toBeNull();
    expect(eventsAfterLimited(w.services.host, lastSeq(w.db), 1).missed).toEqual([]);
  });
});

describe('who hears what', () => {
  it('an agent hears of their own contacts and of settings, and of nobody else’s', () => {
    ready(tamsin());
    const [theirs, mine] = [odile(), tamsin()];
    const heard = (who: Actor) =>
      hears(who, () => {
        const customer = chat(`guest-${who.personId}`);
        if (w.services.desk.view(mine, 0).offer) take(mine);
        customer.say('Are you there?');
      });
    expect(heard(mine)).toContainEqual(expect.objectContaining({ type: 'message.written' }));
    expect(heard(theirs)).toEqual([]);
    expect(
      hears(theirs, () =>
        w.services.queues.save(lead(), queueInput(readQueue(w.db, 'queue_billing'), { missedSetsAway: true })),
      ),
    ).toContainEqual(expect.objectContaining({ type: 'settings.changed' }));
  });
  it('a lead hears of everything by name; a supervisor of a team that something happened, not to whom', () => {
    const contactOf = (notices: object[]) => notices.map((n) => (n as { contactId: string | null }).contactId);
    const whole = hears(lead(), () => chat('guest-1'));
    expect(whole.length).toBeGreaterThan(0);
    expect(contactOf(whole).every((id) => id !== null)).toBe(true);
    const some = hears(bertil(), () => chat('guest-2'));
    expect(some.length).toBe(whole.length);
    expect(contactOf(some).every((id) => id === null)).toBe(true);
  });
  it('where contacts are taken by hand, whoever could take them hears that they come and go', () => {
    w.services.queues.save(lead(), queueInput(readQueue(w.db, 'queue_newhire'), { offering: { way: 'claim' } }));
    const customer = { leave: () => undefined as unknown };
    const types = hears(tamsin(), () => {
      const begun = w.services.channel.start(STAND_IN, { door: 'door_web', from: 'guest-9' }, null);
      for (const text of ['a new hire', 'trumpet']) w.services.channel.say(begun.contact, begun.token, { text }, null);
      customer.leave = () => w.services.channel.leave(begun.contact, begun.token);
    }).map((n) => (n as { type: string; contactId: string | null }).type);
    expect(types).toEqual(['visit.began']);
    expect(hears(tamsin(), () => customer.leave()).map((n) => (n as { type: string }).type)).toEqual(['visit.ended']);
  });
  it('a customer hears of their own contact only, and never of what is done about it inside', () => {
    ready(tamsin());
    const from = lastSeq(w.db);
    const one = chat('guest-1');
    chat('guest-2');
    take(tamsin());
    const source = noticesForContact(one.contact);
    const heard = eventsAfter(w.db, from, 1000).flatMap((e) => {
      const notice = source(e);
      return notice ? [[e, notice] as const] : [];
    });
    expect(heard.length).toBeGreaterThan(3);
    for (const [event, notice] of heard) {
      expect('contactId' in event && event.contactId).toBe(one.contact);
      expect(Object.keys(notice).sort()).toEqual(['seq', 'type']);
      expect(event.type).not.toMatch(/^(offer|value|person|bot)\./);
    }
  });
});
