import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { BOTS } from '../../demo/bots';
import { readContact } from '../../src/data/contacts';
import { replayAll } from '../../src/data/events';
import { historyOf } from '../../src/data/history';
import { forget } from '../../src/data/memory';
import { messagesOf } from '../../src/data/messages';
import { readQueue } from '../../src/data/queuesettings';
import { visitsOf } from '../../src/data/visits';
import { settingsVersion } from '../../src/data/workspace';
import type { Services } from '../../src/services';
import type { Actor } from '../../src/services/ground/actor';
import { handsIn, queueInput } from '../helpers/hands';
import { codeIn, codeOf, makeWorld, MORNING, type World } from '../helpers/world';
import { STAND_IN } from '../../src/services/contacts/speaker';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());

const { lead, tamsin, odile, ready, chat, settings } = handsIn(() => w);
const deskOf = (who: Actor) => s.desk.view(who, 0);
const customer = (wants: readonly string[], from?: string) => chat(from, wants);
const changePerson = (by: Actor, name: string, change: object) =>
  s.people.save(by, { ...settings(w.actor(name).personId), ...change });
const newHire = ['a new hire', 'trumpet'];

describe('a contact all the way', () => {
  it('from the bot over the router to a person and a filed outcome, counted by Review', () => {
    ready(tamsin());
    const c = customer(newHire);
    expect(c.state()).toBe('waiting');
    const offer = deskOf(tamsin()).offer;
    expect(offer).toMatchObject({
      queue: 'New hire',
      customer: 'Ida Lindqvarn',
      fields: [
        { label: 'Reason', value: 'a new hire' },
        { label: 'Instrument', value: 'trumpet' },
      ],
    });
    w.pass(4);
    const { legId } = s.desk.act(tamsin(), { act: 'accept', offerId: offer?.offerId }, null);
    s.desk.act(tamsin(), { act: 'say', legId, text: 'Hello Ida' }, null);
    c.say('Hello Tamsin');
    expect(
      deskOf(tamsin())
        .contacts[0]?.messages.slice(-2)
        .map((m) => [m.name, m.text]),
    ).toEqual([
      ['Tamsin', 'Hello Ida'],
      ['Ida Lindqvarn', 'Hello Tamsin'],
    ]);
    w.pass(60);
    s.desk.act(tamsin(), { act: 'end', legId }, null);
    // Its bot asks one thing more.
    expect(c.state()).toBe('after');
    expect(deskOf(tamsin()).used).toBe(25);
    w.pass(10);
    s.desk.act(tamsin(), { act: 'file', legId, code: 'HIRE' }, null);
    expect(deskOf(tamsin())).toMatchObject({ used: 0, contacts: [] });
    const review = s.review.view(lead(), { from: '2026-11-17', to: '2026-11-17' });
    expect(Object.fromEntries(review.figures.map((f) => [f.id, f.value]))).toMatchObject({
      started: 1,
      handled: 1,
      'service-level': 1,
      speed: 4,
      'handle-time': 70,
    });
    expect(review.people).toMatchObject([{ name: 'Tamsin Orrel', values: { handled: 1, met: 1 } }]);
    expect(
      s.review.behind(lead(), { from: '2026-11-17', to: '2026-11-17', measure: 'handled' }).lines.map((l) => l.id),
    ).toEqual([c.contact]);
    expect(s.review.csv(lead(), { from: '2026-11-17', to: '2026-11-17', kind: 'people' }).text).toContain(
      ',Tamsin Orrel,1,',
    );
  });
  it('says why nobody has it, and takes it as soon as somebody can', () => {
    const c = customer(newHire);
    expect(s.floorView.contact(lead(), c.contact).visits[0]?.nowWhy?.sentence).toBe(
      'Nobody on duty takes this queue on this channel.',
    );
    ready(tamsin());
    expect(deskOf(tamsin()).offer?.queue).toBe('New hire');
  });
  it('asks the better level first and keeps why', () => {
    s.levels.setLevels(lead(), { changes: [{ personId: tamsin().personId, skillId: 'skill_triage', level: 3 }] });
    changePerson(lead(), 'Tamsin Orrel', { dutyProfileId: 'profile_repairs' });
    ready(tamsin());
    w.pass(5);
    ready(odile());
    const c = customer(['repair', '204816', 'the bridge snapped']);
    expect(deskOf(tamsin()).offer).toBeNull();
    expect(deskOf(odile()).offer?.why).toBe(
      'You were asked after 0 s: the highest level of 2 able people. Repairs triage 2 or better was needed.',
    );
    const [decision] = s.floorView.contact(lead(), c.contact).visits[0]?.decisions ?? [];
    expect(decision?.others.find((o) => o.text.includes('later in the picking order'))?.people).toBe(
      'Tamsin Orrel (by the highest level)',
    );
  });
  it('says what was needed when somebody was chosen, after a stage had asked for less', () => {
    s.levels.setLevels(lead(), { changes: [{ personId: tamsin().personId, skillId: 'skill_triage', level: 1 }] });
    changePerson(lead(), 'Tamsin Orrel', { dutyProfileId: 'profile_repairs' });
    ready(tamsin());
    const begun = s.channel.start(STAND_IN, { door: 'door_repairs', from: '+353209140017', language: 'en' }, null);
    for (const key of '204817#') s.channel.say(begun.contact, begun.token, { key }, null);
    s.channel.say(begun.contact, begun.token, { text: 'the bridge snapped' }, null);
    expect(deskOf(tamsin()).offer).toBeNull();
    w.pass(30);
    expect(deskOf(tamsin()).offer?.why).toContain(
      'Repairs triage 1 or better was needed by then; at first Repairs triage 2.',
    );
  });
  it('a missed offer returns the contact with its wait kept and sets the person away', () => {
    ready(tamsin());
    const c = customer(newHire);
    w.pass(21);
    expect(deskOf(tamsin())).toMatchObject({ duty: 'away', reason: 'missed an offer', offer: null });
    expect(visitsOf(w.db, c.contact)[0]).toMatchObject({ placedAt: MORNING, endedAt: null });
    w.pass(30);
    ready(tamsin());
    expect(deskOf(tamsin()).offer).not.toBeNull();
  });
  it('a declined one comes back to the same person only after 30 s', () => {
    ready(tamsin());
    customer(newHire);
    s.desk.act(tamsin(), { act: 'decline', offerId: deskOf(tamsin()).offer?.offerId }, null);
    w.pass(29);
    expect(deskOf(tamsin()).offer).toBeNull();
    w.pass(1);
    expect(deskOf(tamsin()).offer).not.toBeNull();
  });
  it('passing on is a new visit in the other queue', () => {
    ready(tamsin());
    const c = customer(newHire);
    const { legId } = s.desk.act(tamsin(), { act: 'accept', offerId: deskOf(tamsin()).offer?.offerId }, null);
    w.pass(30);
    s.desk.act(tamsin(), { act: 'pass-on', legId, queueId: 'queue_schools' }, null);
    expect(visitsOf(w.db, c.contact).map((v) => [v.queueId, v.endedHow, v.placedAt])).toEqual([
      ['queue_newhire', 'accepted', MORNING],
      ['queue_schools', null, MORNING + 30_000],
    ]);
    expect(c.state()).toBe('waiting');
  });
  it('several texts at once, but never over the room there is', () => {
    ready(tamsin());
    for (let i = 0; i < 5; i++) {
      customer(newHire, `guest-${i}`);
      const offer = deskOf(tamsin()).offer;
      if (offer) s.desk.act(tamsin(), { act: 'accept', offerId: offer.offerId }, null);
    }
    expect(deskOf(tamsin())).toMatchObject({ used: 100, offer: null });
    expect(deskOf(tamsin()).contacts).toHaveLength(4);
  });
  it('a customer who leaves while waiting gave up; the person is asked nothing more', () => {
    ready(tamsin());
    const c = customer(newHire);
    w.pass(8);
    s.channel.leave(c.contact, c.token);
    expect(readContact(w.db, c.contact)?.endedHow).toBe('gave-up');
    expect(deskOf(tamsin()).offer).toBeNull();
    expect(codeOf(() => c.say('hello?'))).toBe('closed');
  });
  it('wrap-up ends by itself after the queue’s time', () => {
    ready(tamsin());
    customer(newHire);
    const { legId } = s.desk.act(tamsin(), { act: 'accept', offerId: deskOf(tamsin()).offer?.offerId }, null);
    s.desk.act(tamsin(), { act: 'end', legId }, null);
    w.pass(119);
    expect(deskOf(tamsin()).used).toBe(25);
    w.pass(1);
    expect(deskOf(tamsin()).used).toBe(0);
  });
  it('a closed door says so and ends', () => {
    w.at(Date.parse('2026-11-17T23:00:00Z'));
    const c = customer([]);
    expect(c.messages.map((m) => m.text).join()).toMatch(/closed/);
    expect(c.state()).toBe('ended');
  });
});

describe('review', () => {
  it('compares with the range before up to the same moment, while the range is not over', () => {
    w.at(MORNING - 86_400_000);
    customer(newHire);
    w.at(MORNING - 86_400_000 + 3_600_000);
    customer(newHire, 'guest-2');
    w.at(MORNING);
    customer(newHire, 'guest-3');
    w.pass(60);
    const started = s.review.view(lead(), { from: '2026-11-17', to: '2026-11-17' }).figures[0];
    expect(started).toMatchObject({ id: 'started', value: 1, before: 1 });
    w.at(MORNING + 86_400_000);
    expect(s.review.view(lead(), { from: '2026-11-17', to: '2026-11-17' }).figures[0]).toMatchObject({
      value: 1,
      before: 2,
    });
  });
});

describe('settings', () => {
  it('a visit keeps the queue’s settings it began with; the next one has the new', () => {
    const first = customer(newHire);
    const q = readQueue(w.db, 'queue_newhire');
    s.queues.save(
      lead(),
      queueInput(q, { goals: { chat: { percent: 90, seconds: 10 } }, needs: [], order: ['lightest-load'] }),
    );
    const second = customer(newHire, 'guest-2');
    const goals = [first, second].map((c) => visitsOf(w.db, c.contact)[0]?.goalSeconds);
    expect(goals).toEqual([30, 10]);
    expect(visitsOf(w.db, first.contact)[0]?.settingsVersion).toBeLessThan(settingsVersion(w.db));
    expect(historyOf(w.db, 'queue', 'queue_newhire')[0]).toMatchObject({
      personId: lead().personId,
      before: { goals: { chat: { seconds: 30 } } },
      after: { goals: { chat: { seconds: 10 } } },
    });
    expect(
      w.restart().floor.router.floor.waiting.get(visitsOf(w.db, first.contact)[0]?.id ?? '')?.queue.goals.chat?.seconds,
    ).toBe(30);
  });
  it('the second of two people who change one thing is told, and nothing is lost', () => {
    const q = readQueue(w.db, 'queue_billing');
    const change = (seconds: number) => queueInput(q, { goals: { chat: { percent: 80, seconds } } });
    s.queues.save(lead(), change(20));
    expect(codeOf(() => s.queues.save(lead(), change(99)))).toBe('changed-meanwhile');
    expect(readQueue(w.db, 'queue_billing')?.goals.chat?.seconds).toBe(20);
  });
  it('a conversation stays on the version it began with; the next meets the new wording', async () => {
    const old = customer([]);
    const view = s.bots.view(lead(), 'bot_chat');
    const draft = structuredClone(view.bot.draft) as unknown as {
      scenes: { steps: { id: string; wording: { text: Record<string, string> } }[] }[];
    };
    const line = draft.scenes[0]?.steps[0];
    if (line) line.wording.text.en = 'A new hello.';
    const { revision } = s.bots.save(lead(), {
      id: 'bot_chat',
      revision: view.bot.revision,
      name: view.bot.name,
      draft,
    });
    expect(customer([], 'g3').messages[0]?.text).toMatch(/^Hello, this is Brindle/);
    // Its tests still expect the old hello.
    expect(
      await codeIn(() =>
        s.bots.publish(lead(), { id: 'bot_chat', revision, note: 'friendlier', at: null, override: null }),
      ),
    ).toBe('tests-fail');
    expect(
      await s.bots.publish(lead(), {
        id: 'bot_chat',
        revision,
        note: 'friendlier',
        at: null,
        override: 'the hello is new',
      }),
    ).toEqual({ version: 2 });
    expect(s.bots.view(lead(), 'bot_chat').versions[0]?.note).toMatch(
      /^friendlier · Published although “.+: the hello is new$/,
    );
    expect(customer([], 'g4').messages[0]?.text).toBe('A new hello.');
    expect(readContact(w.db, old.contact)?.botVersion).toBe(1);
    s.bots.goLive(lead(), { id: 'bot_chat', version: 1 });
    expect(customer([], 'g5').messages[0]?.text).toMatch(/^Hello, this is Brindle/);
  });
  it('a script that would stop contacts is not published', async () => {
    const view = s.bots.view(lead(), 'bot_repairs');
    const draft = {
      ...view.bot.draft,
      scenes: [
        {
          id: 'x',
          name: 'X',
          steps: [
            {
              id: 'h',
              verb: 'hand-over',
              target: { to: 'queue', queueId: 'gone' },
              needs: [],
              priority: 0,
              fields: [],
              wording: { text: {} },
            },
          ],
        },
      ],
    };
    const { revision } = s.bots.save(lead(), {
      id: 'bot_repairs',
      revision: view.bot.revision,
      name: view.bot.name,
      draft,
    });
    expect(
      await codeIn(() => s.bots.publish(lead(), { id: 'bot_repairs', revision, note: '', at: null, override: null })),
    ).toBe('cannot-publish');
  });
  it.each(BOTS.map((b) => b.id))('the demo’s %s has nothing that stops contacts', (id) => {
    expect(s.bots.view(lead(), id).faults.filter((f) => f.weight === 'stops')).toEqual([]);
  });
  it('setting levels gives what was there, so that undo brings it back', () => {
    const who = odile().personId;
    const { before } = s.levels.setLevels(lead(), {
      changes: [
        { personId: who, skillId: 'skill_bowed', level: 1 },
        { personId: who, skillId: 'skill_pl', level: 2 },
      ],
    });
    s.levels.setLevels(lead(), { changes: before });
    expect(s.people.view(lead()).people.find((p) => p.id === who)?.cells).toMatchObject({
      skill_bowed: { level: 5, from: 'own' },
    });
    expect(s.people.view(lead()).people.find((p) => p.id === who)?.cells.skill_pl).toBeUndefined();
  });
});

describe('what somebody may reach', () => {
  it('a supervisor changes people of their own teams only', () => {
    const bertil = w.actor('Bertil Achterberg');
    const level = (personId: string) => ({ changes: [{ personId, skillId: 'skill_pl', level: 2 }] });
    expect(codeOf(() => s.levels.setLevels(bertil, level(tamsin().personId)))).toBe('none');
    expect(codeOf(() => s.levels.setLevels(bertil, level(odile().personId)))).toBe('not-found');
  });
  it('a supervisor cannot make anybody a lead', () => {
    const save = (roleId: string) => changePerson(w.actor('Bertil Achterberg'), 'Tamsin Orrel', { roleId });
    expect(codeOf(() => save('lead'))).toBe('not-allowed');
    expect(codeOf(() => save('agent'))).toBe('none');
  });
  it('nobody acts on a contact that is with somebody else', () => {
    ready(tamsin());
    customer(newHire);
    const { legId } = s.desk.act(tamsin(), { act: 'accept', offerId: deskOf(tamsin()).offer?.offerId }, null);
    expect(codeOf(() => s.desk.act(odile(), { act: 'say', legId, text: 'hi' }, null))).toBe('not-found');
  });
});

describe('the customer’s side', () => {
  it('only its own token opens a contact', () => {
    const a = customer([]);
    const b = customer([], 'guest-2');
    expect(codeOf(() => s.channel.read(a.contact, b.token, 0))).toBe('bad-token');
    expect(codeOf(() => s.channel.read(a.contact, null, 0))).toBe('bad-token');
    expect(codeOf(() => s.channel.read('contact_none', a.token, 0))).toBe('not-found');
  });
  it('an act sent twice with one key happens once; the key with another request is refused', () => {
    const c = customer([]);
    const send = (text: string) => s.channel.say(c.contact, c.token, { text }, 'key-12345');
    send('a new hire');
    send('a new hire');
    expect(messagesOf(w.db, c.contact).filter((m) => m.sender === 'customer')).toHaveLength(1);
    expect(codeOf(() => send('a bill'))).toBe('not-valid');
  });
  it.each([
    [{}, 'door'],
    [{ door: 'door_web' }, 'from'],
    [{ door: 7, from: 'x' }, 'door'],
    [{ door: 'door_web', from: 'x', language: 'english please' }, 'language'],
    [{ door: 'nowhere', from: 'x' }, 'door'],
    [{ door: 'door_web', from: 'x', more: 1 }, 'the whole'],
  ])('says what is wrong with %j', (input, where) => {
    try {
      s.channel.start(STAND_IN, input, null);
      expect.unreachable();
    } catch (error) {
      expect((error as { faults: { where: string }[] }).faults.map((f) => f.where)).toContain(where);
    }
  });
  it('private values stand apart: not in transcripts, events or stored script state, but open to the two who talk', () => {
    ready(odile());
    const c = customer(['a repair', '204816']);
    const everywhere = JSON.stringify([
      w.db.prepare('SELECT * FROM events').all(),
      w.db.prepare('SELECT * FROM messages').all(),
      w.db.prepare('SELECT * FROM contact_values').all(),
      w.db.prepare('SELECT state FROM bot_places').all(),
    ]);
    expect(everywhere).not.toContain('204816');
    c.say('the bridge of 204816 snapped');
    expect(JSON.stringify(w.db.prepare('SELECT * FROM messages').all())).not.toContain('204816');
    expect(deskOf(odile()).offer?.fields).toContainEqual({ label: 'Hire number', value: '204816' });
    expect(JSON.stringify(s.floorView.contact(lead(), c.contact))).not.toContain('204816');
    w.db.exec('DELETE FROM private_values');
    forget(w.db);
    expect(JSON.stringify(s.channel.read(c.contact, c.token, 0))).not.toContain('204816');
  });
});

describe('keeping', () => {
  it('the floor read from the tables is the floor in memory', () => {
    ready(tamsin());
    for (let i = 0; i < 4; i++) customer(newHire, `g${i}`);
    s.desk.act(tamsin(), { act: 'accept', offerId: deskOf(tamsin()).offer?.offerId }, null);
    s.desk.act(tamsin(), { act: 'decline', offerId: deskOf(tamsin()).offer?.offerId }, null);
    const { floor } = s.floor.router;
    const again = w.restart().floor.router.floor;
    expect([...again.waiting.values()]).toEqual([...floor.waiting.values()]);
    expect([...again.people.values()].sort((a, b) => (a.id < b.id ? -1 : 1))).toEqual(
      [...floor.people.values()].sort((a, b) => (a.id < b.id ? -1 : 1)),
    );
  });
  it('the tables made from events are what the events say', () => {
    ready(tamsin());
    customer(newHire);
    const { legId } = s.desk.act(tamsin(), { act: 'accept', offerId: deskOf(tamsin()).offer?.offerId }, null);
    s.desk.act(tamsin(), { act: 'say', legId, text: 'Hello' }, null);
    s.desk.act(tamsin(), { act: 'file', legId, code: 'HIRE' }, null);
    const read = () =>
      ['contacts', 'visits', 'offers', 'legs'].map((t) => w.db.prepare(`SELECT * FROM ${t} ORDER BY id`).all());
    const before = read();
    replayAll(w.db);
    expect(read()).toEqual(before);
  });
  it(
    'after a stop an offer stands while its time lasts; one whose time ran out meanwhile is ' +
      'withdrawn without blame and asked again',
    () => {
      ready(tamsin());
      customer(newHire);
      const before = deskOf(tamsin()).offer?.offerId;
      const soon = w.restart();
      soon.floor.resume();
      expect(soon.desk.view(tamsin(), 0).offer?.offerId).toBe(before);
      w.at(MORNING + 60_000);
      const later = w.restart();
      later.floor.resume();
      const offer = later.desk.view(tamsin(), 0).offer;
      expect(offer).not.toBeNull();
      expect(offer?.offerId).not.toBe(before);
      expect(later.desk.view(tamsin(), 0).duty).toBe('ready');
    },
  );
  it('what fails half way leaves nothing behind, in the tables or in memory', () => {
    ready(tamsin());
    customer(newHire);
    const offerId = deskOf(tamsin()).offer?.offerId;
    const count = () => (w.db.prepare('SELECT count(*) AS n FROM events').get() as { n: number }).n;
    const before = count();
    expect(() =>
      s.host.transact((tx) => {
        s.floor.accept(tx, tamsin().personId);
        throw new Error('power cut');
      }),
    ).toThrow('power cut');
    expect(count()).toBe(before);
    expect(deskOf(tamsin()).offer?.offerId).toBe(offerId);
  });
  it('a Desk silent for 45 s is out of reach and offered nothing until it is back', () => {
    ready(tamsin());
    w.pass(46);
    s.floor.checkPresence(() => true);
    const c = customer(newHire);
    expect(deskOf(tamsin())).toMatchObject({ reachable: false, offer: null });
    expect(s.floorView.contact(lead(), c.contact).visits[0]?.nowWhy?.others.map((o) => o.text)).toContain(
      '1 on duty but out of reach',
    );
    s.desk.beat(tamsin(), { window: 'one', legId: null, seen: true, focused: true });
    expect(deskOf(tamsin()).offer).not.toBeNull();
  });
});
