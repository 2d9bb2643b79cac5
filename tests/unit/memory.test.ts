import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createCrowd } from '../../demo/crowd';
import { seeded } from '../../src/core/chance';
import type { EventBody } from '../../src/core/events';
import { hasBotState, readBotState } from '../../src/data/askings';
import { isOpen, readContact } from '../../src/data/contacts';
import { row, rows, run } from '../../src/data/database';
import { openReader } from '../../src/data/databasefile';
import { callbackOf } from '../../src/data/callbacks';
import { legsOf, readLeg } from '../../src/data/legs';
import { forget } from '../../src/data/memory';
import { numberOf } from '../../src/data/contactnumbers';
import { lastCustomerWord, messagesOf, messageTimes, ownWords } from '../../src/data/messages';
import { clearTimer, dueTimers, nextTimer, setTimer } from '../../src/data/timers';
import { privateValuesOf } from '../../src/data/values';
import { readVisit, visitsOf } from '../../src/data/visits';
import { makeWorld, MORNING, type World } from '../helpers/world';

let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());

/** All that is remembered, of the contacts that came last and of everything that is due. */
function asRead() {
  const ids = rows<{ id: string }>(w.db, 'SELECT id FROM contacts ORDER BY no DESC LIMIT 40').map((c) => c.id);
  return structuredClone([
    nextTimer(w.db, 'real'),
    nextTimer(w.db, 'floor'),
    ...ids.map((id) => {
      const [visits, legs] = [visitsOf(w.db, id), legsOf(w.db, id)];
      return [
        readContact(w.db, id),
        isOpen(w.db, id),
        visits,
        visits.map((v) => readVisit(w.db, v.id)),
        legs,
        legs.map((l) => readLeg(w.db, l.id)),
        privateValuesOf(w.db, id),
        readBotState(w.db, id),
        hasBotState(w.db, id),
        callbackOf(w.db, id),
        lastCustomerWord(w.db, id),
        messageTimes(w.db, id),
        ownWords(w.db, id),
      ];
    }),
  ]);
}
/** What is remembered is what the tables say. */
function expectTrue(): void {
  const remembered = asRead();
  forget(w.db);
  expect(remembered).toEqual(asRead());
}

describe('what is remembered of contacts and timers', () => {
  it('is what the tables say, whatever happens and whatever is undone', () => {
    const { services: s } = w;
    const eight = MORNING - 140 * 60_000;
    w.at(eight);
    const crowd = createCrowd(s, seeded(7), 0.25);
    s.host.listen(crowd.hear);
    crowd.begin();
    let undone = 0;
    for (let steps = 1; ; steps++) {
      const { real, floor } = s.timers.next();
      const next = Math.min(crowd.agenda.nextAt() ?? Infinity, real ?? Infinity, floor ?? Infinity);
      if (next > MORNING) break;
      if (next > s.host.times.floor()) w.at(next);
      const now = s.host.times.floor();
      const step = () =>
        (real !== null && real <= now) || (floor !== null && floor <= now)
          ? s.timers.runDue()
          : crowd.agenda.takeNext()?.();
      if (steps % 40 === 0) {
        // Done, and then undone with what it was within; then it is done again.
        const before = asRead();
        expect(() =>
          s.host.transact(() => {
            s.timers.runDue();
            for (const { id } of rows<{ id: string }>(w.db, 'SELECT id FROM contacts WHERE ended_at IS NULL LIMIT 3'))
              s.host.transact((tx) => s.contacts.happen(tx, id, { type: 'customer-leaves' }));
            throw new Error('undone');
          }),
        ).toThrow('undone');
        expect(asRead()).toEqual(before);
        undone++;
      }
      step();
      if (steps % 15 === 0) expectTrue();
    }
    expectTrue();
    expect(undone).toBeGreaterThan(20);
    expect(row<{ n: number }>(w.db, 'SELECT count(*) AS n FROM legs')?.n).toBeGreaterThan(30);
    expect(w.faults.splice(0)).toEqual([]);
  });
  it('is what the tables say after each event by itself, of every type that changes a contact', () => {
    const door = w.services.doors.view(w.actor('Noor Amsel')).doors[0];
    const from = { address: 'x', vouched: true, name: 'Ida', language: 'en' };
    if (!door) throw new Error('there is no door');
    const { contactId } = w.services.host.transact((tx) => w.services.contacts.arrive(tx, door, from));
    const [visitId, legId, personId] = ['visit_x', 'leg_x', 'person_04'];
    const visit = { contactId, visitId };
    const leg = { contactId, legId, personId };
    const life: readonly EventBody[] = [
      { type: 'bot.started', contactId, botId: 'bot_evening', botVersion: 1 },
      { type: 'contact.language', contactId, language: 'es' },
      {
        type: 'visit.began',
        ...visit,
        queueId: 'queue_repairs',
        channel: 'chat',
        settingsVersion: 1,
        placedAt: 1,
        needs: [],
        priority: 0,
        goalSeconds: 30,
        because: 'the bot handed over',
      },
      { type: 'visit.staged', ...visit, stage: 1, early: false },
      { type: 'visit.opened', ...visit, to: 'group', id: 'group_x' },
      { type: 'visit.asked', ...visit, until: 9 },
      { type: 'visit.ended', ...visit, how: 'accepted' },
      { type: 'leg.began', ...leg, visitId, groupId: null },
      { type: 'message.written', contactId, from: 'person', personId, lineId: null },
      { type: 'message.written', contactId, from: 'customer', personId: null, lineId: null },
      { type: 'leg.wrapping', ...leg, passedOn: false },
      { type: 'leg.filed', ...leg, outcome: 'ADVICE' },
      { type: 'leg.ended', ...leg, outcome: 'ADVICE', handleSeconds: 60 },
      { type: 'contact.ended', contactId, how: 'resolved' },
    ];
    w.services.host.transact((tx) => {
      for (const body of life) {
        const before = JSON.stringify(asRead());
        tx.emit(body);
        const after = asRead();
        forget(w.db);
        expect(after, body.type).toEqual(asRead());
        expect(JSON.stringify(after) !== before, body.type).toBe(true);
      }
    });
  });
  it('forgets one contact for each that is one too many: the first looked at, which reads as before', () => {
    const door = w.services.doors.view(w.actor('Noor Amsel')).doors[0];
    if (!door) throw new Error('there is no door');
    const from = { address: 'x', vouched: true, name: 'Ida', language: 'en' };
    const first = w.services.host.transact((tx) => w.services.contacts.arrive(tx, door, from)).contactId;
    const known = readContact(w.db, first);
    const [before, said] = [visitsOf(w.db, first), messageTimes(w.db, first)];
    const customerId = known?.customerId ?? '';
    w.services.host.transact((tx) => {
      for (let i = 0; i < 2000; i++)
        tx.emit({
          type: 'contact.started',
          contactId: `contact_many_${i}`,
          doorId: door.id,
          channel: door.channel,
          customerId,
          language: 'en',
          botId: null,
          botVersion: null,
        });
    });
    const late = readContact(w.db, 'contact_many_1');
    expect(readContact(w.db, first)).not.toBe(known);
    expect([readContact(w.db, first), visitsOf(w.db, first), messageTimes(w.db, first)]).toEqual([known, before, said]);
    // Most of the others are still remembered: one did not cost them all.
    expect(readContact(w.db, 'contact_many_1')).toBe(late);
    expect(visitsOf(w.db, 'contact_many_1999')).toBe(visitsOf(w.db, 'contact_many_1998'));
  });
  it('knows no number of a contact whose beginning was undone: the next one has it', () => {
    const door = w.services.doors.view(w.actor('Noor Amsel')).doors[0];
    if (!door) throw new Error('there is no door');
    const arrive = () =>
      w.services.host.transact((tx) =>
        w.services.contacts.arrive(tx, door, { address: 'x', vouched: true, name: 'Ida', language: 'en' }),
      ).contactId;
    let undone = '';
    expect(() =>
      w.services.host.transact(() => {
        undone = arrive();
        throw new Error('undone');
      }),
    ).toThrow('undone');
    expect(numberOf(w.db, arrive())).not.toBeNull();
    expect(numberOf(w.db, undone)).toBeNull();
    expect(messagesOf(w.db, undone)).toEqual([]);
  });
  it('is shared, and nobody can change it', () => {
    const { services: s } = w;
    const { contacts, host } = s;
    const door = s.doors.view(w.actor('Noor Amsel')).doors[0];
    expect(door).toBeDefined();
    if (!door) return;
    const from = { address: 'x', vouched: true, name: 'Ida', language: 'en' };
    const { contactId } = host.transact((tx) => contacts.arrive(tx, door, from));
    const contact = readContact(w.db, contactId);
    expect(readContact(w.db, contactId)).toBe(contact);
    expect(() => Object.assign(contact ?? {}, { language: 'pl' })).toThrow(TypeError);
    // What was refused before it changed anything costs nothing; what was undone is read anew.
    const refused = (work: () => void) =>
      expect(() =>
        host.transact(() => {
          work();
          throw new Error('refused');
        }),
      ).toThrow('refused');
    refused(() => undefined);
    expect(readContact(w.db, contactId)).toBe(contact);
    refused(() => setTimer(w.db, 'bot-waits', 'nobody', 'real', 5));
    expect(readContact(w.db, contactId)).not.toBe(contact);
    expect(readContact(w.db, contactId)).toEqual(contact);
  });
  it('a connection that only reads remembers nothing: it sees what was changed since', () => {
    const file = row<{ file: string }>(w.db, 'SELECT file FROM pragma_database_list')?.file ?? '';
    const reader = openReader(file);
    const due = () => nextTimer(reader, 'real');
    setTimer(w.db, 'post-due', 'a', 'real', 50);
    expect(due()).toBe(50);
    clearTimer(w.db, 'post-due', 'a');
    expect(due()).not.toBe(50);
    reader.close();
  });
});

describe('timers that are remembered', () => {
  it('the first is known through setting, moving, clearing and setting aside', () => {
    run(w.db, 'DELETE FROM timers');
    forget(w.db);
    const first = () => nextTimer(w.db, 'floor');
    expect(first()).toBeNull();
    setTimer(w.db, 'bot-waits', 'a', 'floor', 300);
    setTimer(w.db, 'bot-waits', 'b', 'floor', 200);
    expect(first()).toBe(200);
    setTimer(w.db, 'bot-waits', 'b', 'floor', 400);
    expect(first()).toBe(300);
    setTimer(w.db, 'bot-waits', 'a', 'real', 300);
    expect([first(), nextTimer(w.db, 'real')]).toEqual([400, 300]);
    clearTimer(w.db, 'bot-waits', 'a');
    clearTimer(w.db, 'bot-waits', 'never set');
    expect([first(), nextTimer(w.db, 'real')]).toEqual([400, null]);
    expect(dueTimers(w.db, 0, 400).map((t) => t.thingId)).toEqual(['b']);
  });
});
