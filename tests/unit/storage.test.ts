import { copyFileSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { codeOfType, EVENT_VERSION, packedBody, SHAPES, typeOfCode, upcast } from '../../src/core/eventshapes';
import { contactOf } from '../../src/core/events';
import type { Trail } from '../../src/core/routing/trail';
import { earlierToken } from '../../src/data/contacts';
import { type Db, row, rows, run } from '../../src/data/database';
import { openDatabase } from '../../src/data/databasefile';
import { deflated, inflated } from '../../src/data/deflated';
import { eventsAfter, lastSeq, replayAll, wholeLog } from '../../src/data/events';
import { messagesOf } from '../../src/data/messages';
import { packContact, packedLife } from '../../src/data/packed';
import { decisionsOf, forgetTrailPeople, numberedTrail, storedTrail, trailFrom } from '../../src/data/trails';
import { readCustomer } from '../../src/data/customers';
import { PACKED_AFTER_MS } from '../../src/services/contacts/packing';
import { fillHistory } from '../../demo/fill';
import { OLD_EVENTS } from '../helpers/oldevents';
import { everything } from '../helpers/validacts';
import { makeWorld, MIGRATIONS, MORNING, type World } from '../helpers/world';

describe('how events are kept', () => {
  const at = { seq: 7, floorAt: 1795622529168, realAt: null };
  it('there is an example of every type there is, under its own number', () => {
    expect(OLD_EVENTS.map((e) => e.says.type).sort()).toEqual(Object.keys(SHAPES).sort());
    expect(new Set(Object.values(SHAPES).map((s) => s.code)).size).toBe(OLD_EVENTS.length);
    for (const { says, code } of OLD_EVENTS)
      expect([codeOfType(says.type), typeOfCode(code)]).toEqual([code, says.type]);
  });
  it.each(OLD_EVENTS.map((e) => [e.says.type, e] as const))('%s reads as it was meant, by every version', (_t, e) => {
    const contactId = contactOf(e.says);
    const read = { ...e.says, seq: 7, v: EVENT_VERSION, floorAt: at.floorAt, realAt: at.floorAt };
    expect(upcast({ ...at, code: e.code, v: 1, contactId, body: e.first })).toEqual(read);
    expect(upcast({ ...at, code: e.code, v: 2, contactId, body: e.second })).toEqual(read);
    expect(packedBody(e.says)).toBe(e.second);
  });
  it('what an older event lacks is absent; what is from the future is refused', () => {
    const began = OLD_EVENTS.find((e) => e.says.type === 'visit.began');
    const short = upcast({
      ...at,
      code: 10,
      v: 2,
      contactId: 'c',
      body: JSON.stringify((JSON.parse(began?.second ?? '[]') as unknown[]).slice(0, 9)),
    });
    expect(short).not.toHaveProperty('handOver');
    expect(short).not.toHaveProperty('entry');
    expect(() => upcast({ ...at, code: 25, v: EVENT_VERSION + 1, contactId: 'c', body: null })).toThrow(/newer/);
    expect(() => upcast({ ...at, code: 999, v: EVENT_VERSION, contactId: 'c', body: null })).toThrow(/newer/);
  });
});

describe('how trails are kept', () => {
  let w: World;
  beforeEach(() => {
    w = makeWorld();
  });
  afterEach(() => w.close());
  const person = fc.integer({ min: 1, max: 2000 }).map((n) => `person_${n}`);
  const trails: fc.Arbitrary<Trail> = fc.uniqueArray(person, { maxLength: 80 }).chain((people) =>
    fc.record({
      kind: fc.constantFrom('entry' as const, 'stage' as const, 'offer' as const, 'end' as const),
      at: fc.integer({ min: 0, max: 4e12 }),
      settingsVersion: fc.nat(),
      waitedSeconds: fc.nat(),
      asked: fc.nat(),
      able: fc.nat(),
      chosen: fc.option(person),
      decidedBy: fc.constantFrom('longest-idle' as const, 'tie' as const, null),
      levelSum: fc.option(fc.nat()),
      others: fc.constant({
        'off-duty': people.slice(0, 20),
        skill: people.slice(20, 40),
        'later-in-order': people.slice(40),
      }),
      lacking: fc.constant(Object.fromEntries(people.slice(20, 40).map((p, i) => [p, `skill_${i % 3}`]))),
      later: fc.constant(Object.fromEntries(people.slice(40).map((p) => [p, 'longest-idle' as const]))),
    }),
  );
  /** People within a reason have no order. */
  const sorted = (trail: Trail): Trail => ({
    ...trail,
    others: Object.fromEntries(Object.entries(trail.others).map(([why, people]) => [why, [...people].sort()])),
  });
  it('any trail comes out as it went in, small numbers and deflating notwithstanding', () => {
    fc.assert(
      fc.property(trails, (trail) => {
        const numbered = numberedTrail(w.db, trail);
        expect(sorted(trailFrom(w.db, numbered))).toEqual(sorted(trail));
        expect(sorted(storedTrail(w.db, deflated(numbered, 1)))).toEqual(sorted(trail));
      }),
      { numRuns: 60 },
    );
  });
  it('one kept before reads as it was; one of a dictionary to come is refused', () => {
    const old =
      '{"at":5,"settingsVersion":8,"waitedSeconds":12,"asked":1,"able":1,"chosen":"person_07","decidedBy":"only-one","levelSum":4,"others":{"off-duty":["person_35"]},"lacking":{}}';
    expect(storedTrail(w.db, old)).toMatchObject({ chosen: 'person_07', others: { 'off-duty': ['person_35'] } });
    expect(() => inflated(Buffer.of(9, 1, 2))).toThrow(/dictionary 9/);
  });
  it('a number that was made in a change that was undone is nobody’s', () => {
    const trail = {
      at: 1,
      settingsVersion: 1,
      waitedSeconds: 0,
      asked: 0,
      able: 0,
      decidedBy: null,
      levelSum: null,
    } as const;
    const kept = (chosen: string) => ({ ...trail, chosen, others: {}, lacking: {} });
    const { host } = w.services;
    run(w.db, 'DELETE FROM trail_people');
    expect(() =>
      host.transact((tx) => {
        tx.ifUndone(() => forgetTrailPeople(tx.db));
        numberedTrail(tx.db, kept('person_gone'));
        throw new Error('undone');
      }),
    ).toThrow('undone');
    expect(trailFrom(w.db, numberedTrail(w.db, kept('person_new'))).chosen).toBe('person_new');
    expect(trailFrom(w.db, numberedTrail(w.db, kept('person_gone'))).chosen).toBe('person_gone');
  });
});

describe('a contact that is packed', () => {
  let w: World;
  beforeEach(() => {
    w = makeWorld();
    const eight = MORNING - 140 * 60_000;
    w.at(eight);
    fillHistory(w.db, eight, MORNING, 11, 0.2, () => undefined);
    w.at(MORNING);
  });
  afterEach(() => w.close());
  const contacts = () =>
    rows<{ id: string; no: number; endedAt: number | null }>(
      w.db,
      'SELECT id, no, ended_at AS endedAt FROM contacts ORDER BY no',
    );
  const read = () =>
    contacts().map((c) => ({
      id: c.id,
      said: messagesOf(w.db, c.id),
      trails: rows<{ id: string }>(w.db, 'SELECT id FROM visits WHERE contact_id = ? ORDER BY rowid', c.id).map((v) =>
        decisionsOf(w.db, v.id),
      ),
    }));
  const log = (db: Db) => [...wholeLog(db)].map(({ contact: _c, ...e }) => e);
  const bytes = () => Number(row<{ n: number }>(w.db, 'SELECT sum(pgsize - unused) AS n FROM dbstat')?.n);
  const packAll = () => {
    for (const c of contacts())
      if (c.endedAt !== null) packContact(w.db, c.no, (kept) => numberedTrail(w.db, storedTrail(w.db, kept)));
  };

  it('reads as before: transcripts, trails, the log; and what is made from the log is the same', () => {
    const before = { read: read(), log: log(w.db) };
    const made = ({ contacts, visits, offers, legs, partner_calls, people }: ReturnType<typeof everything>) => ({
      contacts,
      visits,
      offers,
      legs,
      partner_calls,
      people,
    });
    const tables = made(everything(w));
    expect(before.log.length).toBe(eventsAfter(w.db, 0, 1e6).length);
    packAll();
    expect(row(w.db, 'SELECT count(*) AS n FROM packed_contacts')).not.toEqual({ n: 0 });
    expect(read()).toEqual(before.read);
    expect(log(w.db)).toEqual(before.log);
    replayAll(w.db);
    expect(made(everything(w))).toEqual(tables);
    expect(read()).toEqual(before.read);
  });
  it('the log has come as far as before, though its last events are packed', () => {
    const end = lastSeq(w.db);
    expect(end).toBe(eventsAfter(w.db, 0, 1e6).at(-1)?.seq);
    packAll();
    run(w.db, 'DELETE FROM messages');
    run(w.db, 'DELETE FROM events');
    expect(lastSeq(w.db)).toBe(end);
  });
  it('takes less than half of what it took; erasing a private value erases it there too', () => {
    const before = bytes();
    const n = contacts().length;
    packAll();
    expect((before - bytes()) / n).toBeGreaterThan(1500);
    const hidden = row<{ contactId: string; value: string; id: string }>(
      w.db,
      `SELECT p.contact_id AS contactId, p.value, p.id FROM private_values p JOIN contacts c ON c.id = p.contact_id
        WHERE c.ended_at IS NOT NULL`,
    );
    if (!hidden) throw new Error('nobody gave a private value');
    for (const { no } of contacts()) {
      const life = packedLife(w.db, no);
      if (life) expect(JSON.stringify(life).includes(hidden.value)).toBe(false);
    }
    expect(JSON.stringify(messagesOf(w.db, hidden.contactId))).toContain(hidden.id);
  });
  it('is packed when it has been over for two weeks, in turns, and nothing open is', async () => {
    const open = contacts().filter((c) => c.endedAt === null).length;
    expect(await w.services.packing.pack()).toBe(false);
    expect(rows(w.db, 'SELECT 1 FROM packed_contacts')).toEqual([]);
    const before = read();
    w.at(MORNING + PACKED_AFTER_MS + 3_600_000);
    while (await w.services.packing.pack());
    const packed = rows(w.db, 'SELECT 1 FROM packed_contacts').length;
    expect(packed).toBeGreaterThan(20);
    expect(packed).toBeLessThanOrEqual(contacts().length - open);
    expect(read()).toEqual(before);
    await w.services.packing.pack();
    expect(rows(w.db, 'SELECT 1 FROM packed_contacts').length).toBe(packed);
    // It can still be opened where contacts are read.
    const { id } = contacts()[0] ?? { id: '' };
    expect(w.services.floorView.contact(w.actor('Noor Amsel'), id).messages.length).toBeGreaterThan(0);
  });
});

describe('a contact whose rows cannot be read', () => {
  it('is reported and left as it is, and keeps no other from being packed', async () => {
    const w = makeWorld();
    const eight = MORNING - 100 * 60_000;
    w.at(eight);
    fillHistory(w.db, eight, MORNING, 13, 0.2, () => undefined);
    const broken = row<{ no: number; visit: string }>(
      w.db,
      `SELECT c.no, v.id AS visit FROM contacts c JOIN visits v ON v.contact_id = c.id JOIN decisions d ON d.visit_id = v.id
        WHERE c.ended_at IS NOT NULL ORDER BY c.no LIMIT 1`,
    );
    if (!broken) throw new Error('nobody was routed');
    run(w.db, "UPDATE decisions SET trail = x'01ffff' WHERE visit_id = ?", broken.visit);
    w.at(MORNING + PACKED_AFTER_MS + 3_600_000);
    await w.services.packing.pack();
    expect(w.faults.splice(0).length).toBeGreaterThan(0);
    expect(packedLife(w.db, broken.no)).toBeNull();
    expect(row(w.db, 'SELECT 1 FROM events WHERE seq = ?', broken.no)).toBeDefined();
    expect(rows(w.db, 'SELECT 1 FROM packed_contacts').length).toBeGreaterThan(5);
    w.close();
  });
});

describe('a workspace of an earlier step with contacts in it', () => {
  let folder: string;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'lane-step-'));
  });
  afterEach(() => rmSync(folder, { recursive: true, force: true }));
  const steps = readdirSync(MIGRATIONS)
    .filter((f) => /^\d{3}-/.test(f))
    .sort();
  /** A conversation as all steps before the tenth kept it. */
  const CONTACT = `
    INSERT INTO teams (id, name, zone, place) VALUES ('t', 'T', 'UTC', 0);
    INSERT INTO duty_profiles (id, name, body, revision) VALUES ('d', 'D', '{"rows":[],"load":{},"acceptSeconds":20}', 1);
    INSERT INTO customers (id, channel, address, name) VALUES ('u', 'chat', 'guest-1', 'Ida');
    INSERT INTO customers (id, channel, address, name) VALUES ('n', 'sms', '+353209140001', NULL);
    INSERT INTO contacts (id, door_id, channel, customer_id, language, started_at, ended_at, ended_how) VALUES ('c1', 'door', 'chat', 'u', 'en', 100, 900, 'resolved'), ('c2', 'door', 'sms', 'n', 'en', 500, NULL, NULL);
    INSERT INTO visits (id, entry, contact_id, queue_id, channel, settings_version, placed_at, entered_at, ended_at, ended_how, needs, priority, goal_seconds) VALUES ('v1', 4, 'c1', 'q', 'chat', 1, 300, 300, 400, 'accepted', '[]', 0, 30);
    INSERT INTO decisions (visit_id, trail) VALUES ('v1', '{"at":400,"settingsVersion":1,"waitedSeconds":1,"asked":1,"able":1,"chosen":"p","decidedBy":"only-one","levelSum":null,"others":{"off-duty":["x"]},"lacking":{}}');
    INSERT INTO events (seq, type, v, floor_at, real_at, contact_id, body) VALUES
      (1, 'contact.started', 1, 100, 100, 'c1', '{"type":"contact.started","contactId":"c1","doorId":"door","channel":"chat","customerId":"u","language":"en","botId":null,"botVersion":null}'),
      (2, 'message.written', 1, 150, 151, 'c1', '{"type":"message.written","contactId":"c1","messageId":"m1","from":"customer","personId":null,"lineId":null}'),
      (3, 'person.duty', 1, 200, 200, NULL, '{"type":"person.duty","personId":"p","duty":"ready","reason":null}'),
      (4, 'visit.began', 1, 300, 300, 'c1', '{"type":"visit.began","contactId":"c1","visitId":"v1","queueId":"q","channel":"chat","settingsVersion":1,"placedAt":300,"needs":[],"priority":0,"goalSeconds":30,"because":"the bot handed over"}'),
      (5, 'visit.ended', 1, 400, 400, 'c1', '{"type":"visit.ended","contactId":"c1","visitId":"v1","how":"accepted"}'),
      (6, 'contact.started', 1, 500, 500, 'c2', '{"type":"contact.started","contactId":"c2","doorId":"door","channel":"sms","customerId":"n","language":"en","botId":null,"botVersion":null}'),
      (7, 'contact.ended', 1, 900, 900, 'c1', '{"type":"contact.ended","contactId":"c1","how":"resolved"}');
    INSERT INTO messages (id, seq, contact_id, sender, person_id, line_id, text, options, floor_at) VALUES ('m1', 2, 'c1', 'customer', NULL, NULL, 'A string snapped', '[{"key":"1","label":"Yes"}]', 150);
    INSERT INTO private_values (id, contact_id, name, value) VALUES ('pv', 'c1', 'number', '204816');`;
  const KEYS = `INSERT INTO contact_keys (contact_id, token_hash, bot_state) VALUES ('c1', 'hash-1', NULL), ('c2', 'hash-2', '{"lineId":"x"}');
    INSERT INTO acts (key, real_at, request, answer) VALUES ('start:k', 1, '{"from":"planted"}', '{"token":"planted"}');`;

  it.each(steps.filter((f) => f < '010').map((f) => [f]))(
    '%s is brought up to now, and nothing of it is lost',
    (last) => {
      const first = mkdtempSync(join(tmpdir(), 'lane-steps-'));
      for (const f of steps.filter((s) => s <= last)) copyFileSync(join(MIGRATIONS, f), join(first, f));
      const old = openDatabase(folder, first);
      old.db.exec(
        last < '009'
          ? CONTACT + KEYS
          : CONTACT.replace(
              /INSERT INTO customers \(id, channel, address, name\) VALUES \(([^)]*)\)/g,
              'INSERT INTO customers (id, channel, address, name, vouched) VALUES ($1, 1)',
            ),
      );
      old.close();
      rmSync(first, { recursive: true });

      const { db, close } = openDatabase(folder, MIGRATIONS);
      expect(messagesOf(db, 'c1')).toEqual([
        {
          seq: 2,
          sender: 'customer',
          personId: null,
          lineId: null,
          text: 'A string snapped',
          options: [{ key: '1', label: 'Yes' }],
          floorAt: 150,
          ssml: null,
          mayInterrupt: true,
          image: null,
        },
      ]);
      expect(decisionsOf(db, 'v1')).toMatchObject([{ chosen: 'p', others: { 'off-duty': ['x'] } }]);
      const events = eventsAfter(db, 0, 100);
      expect(events.map((e) => [e.seq, e.type, contactOf(e), e.floorAt, e.realAt])).toEqual([
        [1, 'contact.started', 'c1', 100, 100],
        [2, 'message.written', 'c1', 150, 151],
        [3, 'person.duty', null, 200, 200],
        [4, 'visit.began', 'c1', 300, 300],
        [5, 'visit.ended', 'c1', 400, 400],
        [6, 'contact.started', 'c2', 500, 500],
        [7, 'contact.ended', 'c1', 900, 900],
      ]);
      const tables = () => ({
        contacts: rows(db, 'SELECT * FROM contacts ORDER BY id'),
        visits: rows(db, 'SELECT * FROM visits ORDER BY id'),
      });
      const before = tables();
      packContact(db, 1, (kept) => numberedTrail(db, storedTrail(db, kept)));
      replayAll(db);
      expect(tables()).toEqual(before);
      expect(messagesOf(db, 'c1')).toHaveLength(1);
      expect(rows(db, 'SELECT value FROM private_values')).toEqual([{ value: '204816' }]);
      if (last < '009') {
        // Whoever was talking goes on with the token they have; what repeats were remembered by is forgotten.
        expect([earlierToken(db, 'c1'), earlierToken(db, 'c2')]).toEqual([null, 'hash-2']);
        expect([readCustomer(db, 'u')?.vouched, readCustomer(db, 'n')?.vouched]).toEqual([false, true]);
        expect(JSON.stringify(rows(db, 'SELECT * FROM sqlite_schema'))).not.toContain('CREATE TABLE acts');
        expect(rows(db, 'SELECT contact_id, state FROM bot_places')).toEqual([
          { contact_id: 'c2', state: '{"lineId":"x"}' },
        ]);
      }
      expect(lastSeq(db)).toBe(7);
      expect(db.pragma('foreign_key_check')).toEqual([]);
      close();
    },
  );
});
