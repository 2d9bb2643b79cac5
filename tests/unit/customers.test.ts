import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { contactsOfCustomer, readContact } from '../../src/data/contacts';
import { customerAt, readCustomer } from '../../src/data/customers';
import { hintOf, membersOf, standsFor, tiesAround } from '../../src/data/customerties';
import { rows, run } from '../../src/data/database';
import { replayAll } from '../../src/data/events';
import { lastDealtWith } from '../../src/data/routermemory';
import { BOT_TESTS } from '../../src/data/bots';
import { packContact } from '../../src/data/packed';
import { numberedTrail, storedTrail } from '../../src/data/trails';
import type { Services } from '../../src/services';
import { STAND_IN } from '../../src/services/contacts/speaker';
import type { Actor } from '../../src/services/ground/actor';
import { handsIn } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { end, hear, over, scriptOf } from '../helpers/scripts';
import { sized } from '../helpers/size';
import { codeIn, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { lead, bertil, tamsin, odile, chat, ready, take } = handsIn(() => w);
const { live, meet } = botsIn(() => w);

const act = (who: Actor, name: string, input: object) => Promise.resolve(s.act(name, who, input));
const customerOf = (contactId: string): string => readContact(w.db, contactId)?.customerId ?? '';
const view = (who: Actor, customerId: string) => s.reading('customer', who, { id: customerId });
const joining = (customerId: string, otherId: string) => ({ customerId, otherId, contactId: null });
/** Somebody who came, and left again. */
function came(from: string, door = 'door_web'): string {
  const { contact, token } = s.channel.start(STAND_IN, { door, from, name: from }, null);
  s.channel.leave(contact, token);
  return customerOf(contact);
}
/** A contact that Odile has open. */
function dealing(from = 'guest-1') {
  ready(tamsin());
  const contact = chat(from);
  const legId = take(tamsin());
  return { ...contact, legId, customerId: customerOf(contact.contact) };
}

describe('one customer', () => {
  it('shows contacts of all by whom they are joined in one line of time, the open one first, and parts them again', async () => {
    const [a, b, c] = [came('ada-1'), came('+4930111111', 'door_main'), came('ada-3')];
    w.pass(60);
    const { customerId: d } = dealing('ada-4');
    await act(lead(), 'join-customers', joining(a, b));
    await act(lead(), 'join-customers', joining(c, d));
    await act(lead(), 'join-customers', joining(b, c));
    const seen = await view(lead(), d);
    expect(seen.knownBy.map((k) => k.id).sort()).toEqual([a, b, c, d].sort());
    expect(seen.contacts.map((x) => x.endedAt === null)).toEqual([true, false, false, false]);
    expect(new Set([a, b, c, d].map((id) => standsFor(w.db, id))).size).toBe(1);
    expect(contactsOfCustomer(w.db, a, 9)).toHaveLength(4);
    const middle = seen.ties.find((t) => t.between.includes(b) && t.between.includes(c));
    await act(lead(), 'part-customers', { tieId: middle?.id });
    expect([membersOf(w.db, a).sort(), membersOf(w.db, d).sort()]).toEqual([[a, b].sort(), [c, d].sort()]);
    expect((await view(lead(), a)).contacts).toHaveLength(2);
  });

  it('whoever comes by one number on two channels is one; whom somebody parted is not joined by it again', async () => {
    const [sms, call] = [came('+4930222333', 'door_sms'), came('+4930222333', 'door_main')];
    expect([standsFor(w.db, call), (await view(lead(), sms)).ties[0]?.how]).toEqual([sms, 'same-number']);
    await act(lead(), 'part-customers', { tieId: tiesAround(w.db, sms)[0]?.id });
    came('+4930222333', 'door_sms');
    expect(membersOf(w.db, call)).toEqual([call]);
    // A browser only says that a number is its own.
    const guest = s.channel.start({ ...STAND_IN, kind: 'browser' }, { door: 'door_web', from: '+4930222333' }, null);
    expect(membersOf(w.db, customerOf(guest.contact))).toHaveLength(1);
  });

  it('any joining and parting loses and doubles no contact, and the log gives the same', () => {
    const all = ['p1', 'p2', 'p3', 'p4', 'p5'].map((from) => came(from));
    const step = fc.oneof(
      fc.record({ does: fc.constant('join' as const), a: fc.nat(4), b: fc.nat(4) }),
      fc.record({ does: fc.constant('part' as const), nth: fc.nat(20) }),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        for (const one of steps)
          if (one.does === 'join' && one.a !== one.b)
            s.customers.join(lead(), joining(all[one.a] ?? '', all[one.b] ?? ''));
          else if (one.does === 'part') {
            const ties = all.flatMap((id) => tiesAround(w.db, id));
            const tie = ties[one.nth % Math.max(1, ties.length)];
            if (tie) s.customers.part(lead(), { tieId: tie.id });
          }
        const lists = all.map((id) => contactsOfCustomer(w.db, id, 99).map((c) => c.id));
        const groups = new Map(all.map((id, i) => [standsFor(w.db, id), lists[i] ?? []]));
        expect([...groups.values()].flat().sort()).toEqual(
          rows<{ id: string }>(w.db, 'SELECT id FROM contacts ORDER BY id').map((r) => r.id),
        );
        // Nobody is one with somebody by a tie that is gone.
        for (const id of all)
          for (const other of membersOf(w.db, id))
            expect(
              other === id || tiesAround(w.db, id).some((t) => t.customerId === other || t.otherId === other),
            ).toBe(true);
        const table = (name: string) => JSON.stringify(rows(w.db, `SELECT * FROM ${name} ORDER BY 1, 2`));
        const before = [table('customer_ties'), table('customer_stands')];
        replayAll(w.db);
        expect([table('customer_ties'), table('customer_stands')]).toEqual(before);
      }),
      { numRuns: sized({ quick: 5, usual: 15, long: 200 }) },
    );
  });

  it('whoever dealt with one of them last is familiar to all', async () => {
    const { customerId, legId } = dealing('ada-1');
    s.desk.act(tamsin(), { act: 'end', legId }, null);
    const other = came('ada-2');
    expect(lastDealtWith(w.db, other, 0)).toBeNull();
    await act(lead(), 'join-customers', joining(other, customerId));
    expect(lastDealtWith(w.db, other, 0)).toBe(tamsin().personId);
  });

  it('a number that they have shown to be theirs joins; one that they only say is kept to be looked at', async () => {
    const phone = came('+4930123456', 'door_main');
    live(
      scriptOf([
        hear('n', { type: 'telephone' }, 'number'),
        { id: 'i', verb: 'identify', by: 'number', known: { to: 'next' }, unknown: { to: 'next' } },
        hear('m', { type: 'text' }, 'more'),
        end('e'),
      ]),
    );
    const claims = meet('door_web', 'claims');
    claims.say('+4930123456');
    expect(hintOf(w.db, claims.contact)).toBe(phone);
    expect(membersOf(w.db, customerOf(claims.contact))).toHaveLength(1);
    const shows = meet('door_web', 'shows');
    run(
      w.db,
      'INSERT INTO given_numbers (contact_id, number, sent, sent_at, proven) VALUES (?, ?, 1, 0, 1)',
      shows.contact,
      '+4930123456',
    );
    shows.say('+4930123456');
    expect([hintOf(w.db, shows.contact), standsFor(w.db, customerOf(shows.contact))]).toEqual([
      null,
      standsFor(w.db, phone),
    ]);
    const [tie] = (await view(lead(), phone)).ties;
    expect(tie).toMatchObject({ how: 'identified', by: null });
    // Whoever deals with them says which it is; the other way it is forgotten.
    await act(lead(), 'not-them', { contactId: claims.contact });
    expect(hintOf(w.db, claims.contact)).toBeNull();
    expect(await codeIn(() => act(lead(), 'not-them', { contactId: claims.contact }))).toBe('not-now');
  });
});

describe('who may', () => {
  it('an agent changes what is known of whom they deal with, and of nobody else', async () => {
    const other = came('stranger');
    const { customerId, legId } = dealing();
    await act(tamsin(), 'note-on-customer', { customerId, words: 'Rings twice.' });
    await act(tamsin(), 'set-customer', { customerId, name: 'Ida L.', language: 'es' });
    await act(tamsin(), 'join-customers', joining(customerId, other));
    expect(await view(tamsin(), other)).toMatchObject({
      name: 'Ida L.',
      language: 'es',
      notes: [{ words: 'Rings twice.', mayDrop: true }],
    });
    s.desk.act(tamsin(), { act: 'end', legId }, null);
    s.desk.act(tamsin(), { act: 'finish', legId }, null);
    for (const [name, input] of [
      ['note-on-customer', { customerId, words: 'again' }],
      ['set-customer', { customerId, name: null, language: null }],
      ['join-customers', joining(customerId, came('third'))],
      ['part-customers', { tieId: tiesAround(w.db, customerId)[0]?.id }],
      ['ask-to-block', { customerId, why: 'x' }],
      ['decide-block', { customerId, blocked: true }],
      ['erase-customer', { customerId, joined: 2 }],
    ] as const)
      expect([name, await codeIn(() => act(tamsin(), name, input))]).toEqual([name, 'not-allowed']);
  });

  it('reads what was said where they may, and finds by name, address and number in any spelling', async () => {
    const { contact, customerId, legId, say } = dealing('+49 30 1234-56');
    say('the words themselves');
    const words = () => s.reading('contact-words', tamsin(), { contact });
    expect((await words()).messages.map((m) => m.text)).toContain('the words themselves');
    for (const text of ['ida lind', '+493012', '030 12 34 56', '12(34)56'])
      expect([text, (await s.reading('find-customers', tamsin(), { text })).found.map((f) => f.id)]).toEqual([
        text,
        [customerId],
      ]);
    expect((await s.reading('find-customers', tamsin(), { text: '%' })).found).toEqual([]);
    s.desk.act(tamsin(), { act: 'end', legId }, null);
    s.desk.act(tamsin(), { act: 'finish', legId }, null);
    expect(await codeIn(words)).toBe('not-found');
    expect((await view(tamsin(), customerId)).contacts).toMatchObject([{ contactId: contact, opens: false }]);
    expect(await codeIn(() => view(tamsin(), 'customer_none'))).toBe('not-found');
  });

  it('nobody opens somebody’s past by joining them with whom they deal with; others’ joining does', async () => {
    const { contact, token } = s.channel.start(STAND_IN, { door: 'door_web', from: 'stranger' }, null);
    s.channel.leave(contact, token);
    const { customerId } = dealing();
    const words = () => codeIn(() => s.reading('contact-words', tamsin(), { contact }));
    await act(tamsin(), 'join-customers', joining(customerId, customerOf(contact)));
    expect([await words(), (await view(tamsin(), customerId)).contacts.map((c) => c.opens)]).toEqual([
      'not-found',
      [true, false],
    ]);
    await act(lead(), 'part-customers', { tieId: tiesAround(w.db, customerId)[0]?.id });
    await act(lead(), 'join-customers', joining(customerId, customerOf(contact)));
    expect(await words()).toBe('none');
  });

  it('what is stale is refused: joined twice, parted twice, a note that is gone, a language nobody speaks', async () => {
    const [a, b] = [came('a-1'), came('b-1')];
    await act(lead(), 'join-customers', joining(a, b));
    expect(await act(lead(), 'join-customers', joining(b, a))).toEqual({ tieId: null });
    expect(await codeIn(() => act(lead(), 'join-customers', joining(a, 'customer_none')))).toBe('not-found');
    const tieId = tiesAround(w.db, a)[0]?.id;
    await act(lead(), 'part-customers', { tieId });
    expect(await codeIn(() => act(lead(), 'part-customers', { tieId }))).toBe('not-now');
    const { id } = (await act(lead(), 'note-on-customer', { customerId: a, words: 'x' })) as { id: string };
    await act(lead(), 'drop-customer-note', { id });
    expect(await codeIn(() => act(lead(), 'drop-customer-note', { id }))).toBe('not-now');
    expect(await codeIn(() => act(lead(), 'set-customer', { customerId: a, name: null, language: 'xx' }))).toBe(
      'not-valid',
    );
  });
});

describe('blocking', () => {
  it('is asked for by one and decided by another; whoever is joined stays out as well, and it is counted', async () => {
    const { customerId, legId } = dealing('rude-1');
    await act(tamsin(), 'ask-to-block', { customerId, why: 'Threatens people' });
    expect(await codeIn(() => act(tamsin(), 'ask-to-block', { customerId, why: 'again' }))).toBe('not-now');
    expect(await codeIn(() => act(tamsin(), 'decide-block', { customerId, blocked: true }))).toBe('not-allowed');
    // Until it is decided, they may come.
    const start = (from: string) => codeIn(() => s.channel.start(STAND_IN, { door: 'door_web', from }, null));
    expect(await start('rude-1')).toBe('none');
    await act(lead(), 'decide-block', { customerId, blocked: true });
    const other = came('rude-2');
    expect(await start('rude-2')).toBe('none');
    await act(lead(), 'join-customers', joining(customerId, other));
    const began = rows(w.db, 'SELECT id FROM contacts').length;
    expect([await start('rude-1'), await start('rude-2'), await start('kind')]).toEqual([
      'not-allowed',
      'not-allowed',
      'none',
    ]);
    expect(rows(w.db, 'SELECT id FROM contacts')).toHaveLength(began + 1);
    expect((await view(lead(), other)).block).toMatchObject({
      came: 2,
      askedBy: 'Tamsin Orrel',
      decidedBy: 'Noor Amsel',
    });
    // What was open stays open: whoever has it ends it.
    s.desk.act(tamsin(), { act: 'say', legId, text: 'Goodbye.' }, null);
    await act(lead(), 'decide-block', { customerId, blocked: false });
    expect([await start('rude-1'), (await view(lead(), other)).block]).toEqual(['none', null]);
    expect(await codeIn(() => act(lead(), 'decide-block', { customerId, blocked: true }))).toBe('not-now');
  });
});

describe('erasing', () => {
  const PLANTED = ['+4930777001', 'Quillon Vaspar', 'BH-PRIVATE-77', 'the marmalade is haunted', 'zzword goes here'];
  /** The planted texts that stand in the database's files. */
  function foundInFiles(): string[] {
    w.db.pragma('wal_checkpoint(TRUNCATE)');
    const bytes = readdirSync(w.folder)
      .filter((name) => name.startsWith('lane.db'))
      .map((name) => readFileSync(join(w.folder, name)));
    return PLANTED.filter((text) => bytes.some((b) => b.includes(text)));
  }
  /** A customer of two addresses with all that can be kept of one, one contact packed; gives who they are. */
  async function planted() {
    live(scriptOf([hear('q', { type: 'text' }, 'secret code'), over('h', 'queue_newhire'), end('e')]));
    ready(tamsin());
    const first = s.channel.start(STAND_IN, { door: 'door_web', from: '+4930777001', name: 'Quillon Vaspar' }, null);
    s.channel.say(first.contact, first.token, { text: 'BH-PRIVATE-77' }, null);
    const legId = take(tamsin());
    s.channel.say(first.contact, first.token, { text: 'the marmalade is haunted' }, null);
    s.desk.act(tamsin(), { act: 'say', legId, text: 'Quillon Vaspar, the marmalade is haunted?' }, null);
    const customerId = customerOf(first.contact);
    await act(tamsin(), 'note-on-customer', { customerId, words: 'Quillon Vaspar says the marmalade is haunted' });
    await act(lead(), 'write-note', {
      personId: null,
      contactId: first.contact,
      words: 'About Quillon Vaspar',
      shared: false,
      toTalk: false,
    });
    s.desk.act(tamsin(), { act: 'end', legId }, null);
    s.desk.act(tamsin(), { act: 'summarise', legId, words: 'Quillon Vaspar: the marmalade is haunted' }, null);
    s.desk.act(tamsin(), { act: 'finish', legId }, null);
    // What was not understood is taught, and a test is kept of it.
    live(scriptOf([hear('w', { type: 'text' }, 'anything'), end('e')]), 'door_sms');
    run(
      w.db,
      "INSERT INTO unheard (contact_id, line_id, language, text, floor_at) VALUES (?, 'l', 'en', 'zzword goes here', 1)",
      first.contact,
    );
    const { unheard, revision } = await s.phrasebook.view(lead());
    const phrase = unheard.find((u) => u.text === 'zzword goes here');
    await s.teaching.teach(lead(), {
      unheardId: phrase?.id,
      to: 'intent',
      intentId: 'school_account',
      word: null,
      also: null,
      look: false,
      revision,
    });
    const [test] = BOT_TESTS.all(w.db);
    if (!test) throw new Error('no test');
    const turns = [{ input: { type: 'text' as const, text: 'the marmalade is haunted' }, replies: [], says: [] }];
    const kept = { botId: test.botId, ...test.trial, turns, id: null, name: 'As said', contactId: first.contact };
    const { id: testId } = s.botTrials.keepTest(lead(), kept);
    const second = came('Quillon Vaspar', 'door_sms');
    await act(lead(), 'join-customers', joining(customerId, second));
    const { no } = rows<{ no: number }>(w.db, 'SELECT no FROM contacts WHERE id = ?', first.contact)[0] ?? { no: 0 };
    w.db.transaction(() => packContact(w.db, no, (trail) => numberedTrail(w.db, storedTrail(w.db, trail))))();
    return { customerId, second, contact: first.contact, testId };
  }

  it('leaves nothing of them in the files, and figures as they were', async () => {
    const { customerId, contact, testId } = await planted();
    expect(foundInFiles()).toEqual(PLANTED);
    const figures = () =>
      JSON.stringify(
        ['contacts', 'visits', 'legs', 'offers', 'fact_days'].map((name) => rows(w.db, `SELECT * FROM ${name}`)),
      );
    const before = figures();
    expect(await act(lead(), 'erase-customer', { customerId, joined: 2 })).toEqual({ erased: 2 });
    await s.erasing.settled();
    expect(foundInFiles()).toEqual([]);
    expect(figures()).toBe(before);
    expect(await view(lead(), customerId)).toMatchObject({ erased: true, name: 'Erased', notes: [] });
    expect(BOT_TESTS.one(w.db, testId)).toBeUndefined();
    const { book } = await s.phrasebook.view(lead());
    expect(book.intents.find((i) => i.id === 'school_account')?.examples.en).not.toContain('zzword goes here');
    // What is learnt goes on without it.
    expect((await s.phrasebook.rank(lead(), { text: 'speak to somebody', language: 'en' })).ranked).not.toEqual([]);
    replayAll(w.db);
    expect(readContact(w.db, contact)?.customerId).toBe(customerId);
    // Nothing is noted of somebody who was erased.
    expect(await codeIn(() => act(lead(), 'note-on-customer', { customerId, words: 'x' }))).toBe('not-now');
    expect(await codeIn(() => act(lead(), 'erase-customer', { customerId, joined: 2 }))).toBe('not-now');
  });

  it('a stop in between changes nothing: it goes on at the next start', async () => {
    const { customerId } = await planted();
    // The process ends as soon as it is acknowledged.
    const erased = s.erasing.erase(lead(), { customerId, joined: 2 });
    expect(erased).toEqual({ erased: 2 });
    w.db.exec("CREATE TEMP TRIGGER stopped BEFORE UPDATE ON messages BEGIN SELECT RAISE(ABORT, 'stopped'); END");
    w.db.exec("CREATE TEMP TRIGGER halted BEFORE INSERT ON packed_contacts BEGIN SELECT RAISE(ABORT, 'stopped'); END");
    await s.erasing.settled();
    expect(w.faults.splice(0)).not.toEqual([]);
    expect(foundInFiles()).toContain('BH-PRIVATE-77');
    w.db.exec('DROP TRIGGER stopped; DROP TRIGGER halted');
    const again = w.restart();
    again.erasing.resume();
    await again.erasing.settled();
    expect(foundInFiles()).toEqual([]);
  });

  it('what another customer has said too stays', async () => {
    const first = meet('door_web', 'one');
    const second = meet('door_web', 'two');
    for (const { say } of [first, second]) say('gobbledygook parkour trampoline');
    const { unheard, revision } = await s.phrasebook.view(lead());
    const taught = { to: 'intent', intentId: 'school_account', word: null, also: null, look: false, revision };
    await s.teaching.teach(lead(), { unheardId: unheard[0]?.id, ...taught });
    for (const c of [first, second]) s.channel.leave(c.contact, c.token);
    const erase = async (contact: string) => {
      await act(lead(), 'erase-customer', { customerId: customerOf(contact), joined: 1 });
      await s.erasing.settled();
      const { book } = await s.phrasebook.view(lead());
      return book.intents
        .find((i) => i.id === 'school_account')
        ?.examples.en?.includes('gobbledygook parkour trampoline');
    };
    expect([await erase(first.contact), await erase(second.contact)]).toEqual([true, false]);
  });

  it('is refused while something is going on, and where others are joined than were named', async () => {
    const { customerId, legId, contact, token } = dealing();
    expect(await codeIn(() => act(lead(), 'erase-customer', { customerId, joined: 1 }))).toBe('not-now');
    s.desk.act(tamsin(), { act: 'end', legId }, null);
    // Wrap-up goes on still, and what is asked after it.
    expect(await codeIn(() => act(lead(), 'erase-customer', { customerId, joined: 1 }))).toBe('not-now');
    s.desk.act(tamsin(), { act: 'finish', legId }, null);
    s.channel.leave(contact, token);
    await act(lead(), 'join-customers', joining(customerId, came('another')));
    expect(await codeIn(() => act(lead(), 'erase-customer', { customerId, joined: 1 }))).toBe('changed-meanwhile');
    expect(await codeIn(() => act(odile(), 'erase-customer', { customerId, joined: 2 }))).toBe('not-allowed');
    expect(readCustomer(w.db, customerId)?.name).toBe('Ida Lindqvarn');
    // What fails half way leaves them as they were.
    w.db.exec("CREATE TEMP TRIGGER full BEFORE UPDATE ON customers BEGIN SELECT RAISE(ABORT, 'disk is full'); END");
    expect(await codeIn(() => act(lead(), 'erase-customer', { customerId, joined: 2 }))).toBe(
      'SQLITE_CONSTRAINT_TRIGGER',
    );
    w.db.exec('DROP TRIGGER full');
    expect(customerAt(w.db, 'chat', 'guest-1', true)?.name).toBe('Ida Lindqvarn');
    expect(rows(w.db, 'SELECT * FROM erasures')).toEqual([]);
  });

  it('a customer’s data goes out to them whole, private values open', async () => {
    const { customerId } = await planted();
    const { text } = await s.reading('customer-file', lead(), { id: customerId });
    const valid = new Ajv2020({ strict: true, formats: { 'date-time': true } }).compile(
      JSON.parse(readFileSync('docs/formats/customer.schema.json', 'utf8')) as object,
    );
    expect([valid(JSON.parse(text)), valid.errors]).toEqual([true, null]);
    for (const one of ['+4930777001', 'Quillon Vaspar', 'BH-PRIVATE-77', 'the marmalade is haunted'])
      expect(text).toContain(one);
    expect(await codeIn(() => s.reading('customer-file', bertil(), { id: customerId }))).toBe('not-allowed');
  });
});
