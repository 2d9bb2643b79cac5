import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { row, rows, run } from '../../src/data/database';
import { writePasswordHash } from '../../src/data/sessions';
import type { Services } from '../../src/services';
import { holdsWhileSignedIn } from '../../src/services/floor/stream';
import { hashedPassword } from '../../src/services/workspace/passwords';
import { createTries, type Try } from '../../src/services/workspace/tries';
import { IDLE_MS } from '../../src/services/workspace/sessions';
import { sendNumberCode } from '../../src/services/contacts/givennumbers';
import { type Speaker, speakerBy, STAND_IN } from '../../src/services/contacts/speaker';
import { hashToken } from '../../src/services/ground/tokens';
import { emailOf } from '../../demo/company';
import { everything } from '../helpers/validacts';
import { browserAt } from '../helpers/reached';
import { codeIn, codeOf, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
const OWNER = emailOf('Nell Ashgrove');
const PASSWORD = 'the right one of all';
let stored: string;
beforeEach(async () => {
  w = makeWorld();
  s = w.services;
  stored ??= await hashedPassword(PASSWORD);
  for (const name of ['Nell Ashgrove', 'Noor Amsel', 'Tamsin Orrel'])
    writePasswordHash(w.db, w.actor(name).personId, stored);
});
afterEach(() => w.close());

const enter = (email: string, password = PASSWORD, from = browserAt()) => s.signIn.signIn({ email, password }, from);

describe('signing in', () => {
  it('an unknown address, a wrong password and an account that is switched off read the same', async () => {
    const sentence = (email: string) =>
      enter(email, 'wrong').then(
        () => 'in',
        (e: { code: string; message: string }) => `${e.code} ${e.message}`,
      );
    const first = await sentence(OWNER);
    expect(first).toBe(await sentence('nobody@brindlewood.example'));
    run(w.db, 'UPDATE people SET active = 0 WHERE email = ?', emailOf('Tamsin Orrel'));
    expect(await codeIn(() => enter(emailOf('Tamsin Orrel')))).toBe('sign-in-failed');
  });
  it('of 300 guesses at once at one account ten are tried; at 300 accounts sixty', async () => {
    const at = async (email: (i: number) => string) => {
      const codes = await Promise.all(
        Array.from({ length: 300 }, (_, i) => codeIn(() => enter(email(i), `guess number ${i}`, browserAt('a')))),
      );
      return codes.filter((c) => c === 'sign-in-failed').length;
    };
    expect(await at(() => OWNER)).toBe(10);
    // Those ten count for the network too; and no more may wait in line for their hash than the line holds.
    const tried = await at((i) => `somebody${i}@brindlewood.example`);
    expect(tried).toBeGreaterThan(30);
    expect(tried).toBeLessThanOrEqual(50);
  });
  it('wrong tries of a stranger lock the owner out neither elsewhere nor at once', async () => {
    for (let i = 0; i < 30; i++) await codeIn(() => enter(OWNER, 'wrong', browserAt('stranger')));
    expect(await codeIn(() => enter(OWNER, PASSWORD, browserAt('stranger')))).toBe('slow-down');
    expect(await codeIn(() => enter(OWNER))).toBe('none');
    // Six of them do not even where both come from one network.
    for (let i = 0; i < 6; i++) expect(await codeIn(() => enter(OWNER, 'wrong'))).toBe('sign-in-failed');
    expect(await codeIn(() => enter(OWNER))).toBe('none');
  });
  it('a browser that has signed in before is not held up by what others try', async () => {
    const { mark } = await enter(OWNER, PASSWORD, browserAt('home'));
    // The mark is the account's, and made by this server: no other serves.
    const { mark: others } = await enter(emailOf('Noor Amsel'), PASSWORD, browserAt('home'));
    for (let i = 0; i < 10; i++) await codeIn(() => enter(OWNER, 'wrong'));
    for (const wrong of [others, 'made up', '', null])
      expect(await codeIn(() => enter(OWNER, PASSWORD, { ...browserAt(), mark: wrong }))).toBe('slow-down');
    expect(await codeIn(() => enter(OWNER, PASSWORD, { ...browserAt(), mark }))).toBe('none');
    for (let i = 0; i < 10; i++) await codeIn(() => enter(OWNER, 'wrong', { ...browserAt(), mark }));
    expect(await codeIn(() => enter(OWNER, PASSWORD, { ...browserAt(), mark }))).toBe('slow-down');
  });
  it('guesses from many networks at one account end; right ones are given back, so that many may share a network', async () => {
    const tries = createTries();
    const tried = async (count: number, from: (i: number) => Try, right = false) => {
      let taken = 0;
      for (let i = 0; i < count; i++)
        if ((await codeIn(() => tries.count(from(i)))) === 'none') {
          taken++;
          if (right) await tries.right(from(i));
        }
      return taken;
    };
    const from = (account: string, network: string, known = false): Try => ({ account, network, known });
    expect(await tried(150, (i) => from('owner', `network ${i}`))).toBe(100);
    expect(await tried(1, () => from('owner', 'yet another', true))).toBe(1);
    expect(await tried(500, (i) => from(`account ${i}`, 'an office'), true)).toBe(500);
    expect(await tried(500, (i) => from(`account ${i}`, 'an office'))).toBe(60);
  });
  it('whoever is switched off, or gets another password, while theirs is looked at does not come in', async () => {
    const meanwhile = async (change: string) => {
      const entering = enter(OWNER);
      run(w.db, change, OWNER);
      return codeIn(() => entering);
    };
    expect(await meanwhile("UPDATE people SET password = 'other' WHERE email = ?")).toBe('sign-in-failed');
    writePasswordHash(w.db, w.actor('Nell Ashgrove').personId, stored);
    expect(await meanwhile('UPDATE people SET active = 0 WHERE email = ?')).toBe('sign-in-failed');
    expect(rows(w.db, 'SELECT 1 FROM sessions')).toEqual([]);
  });
});

describe('sessions', () => {
  it('end when nothing is asked for half a day, and go on while something is', async () => {
    const { token } = await enter(OWNER);
    for (let i = 0; i < 3; i++) {
      w.at(w.now() + IDLE_MS - 1000);
      expect(s.sessions.actor(token)?.name).toBe('Nell Ashgrove');
      s.sessions.seen(token);
    }
    w.at(w.now() + IDLE_MS);
    expect(s.sessions.actor(token)).toBeNull();
    s.sessions.seen(token);
    expect(s.sessions.actor(token)).toBeNull();
    const again = await enter(OWNER);
    for (let day = 0; day < 30; day++) {
      w.at(w.now() + IDLE_MS - 1000);
      s.sessions.seen(again.token);
    }
    // Fourteen days at most, however busy.
    expect(s.sessions.actor(again.token)).toBeNull();
  });
  it('are listed to whom they belong, with where they are, and end one by one', async () => {
    const here = await enter(OWNER, PASSWORD, { ...browserAt('192.0.2.1'), device: 'One' });
    w.at(w.now() + 1000);
    const there = await enter(OWNER, PASSWORD, { ...browserAt('192.0.2.2'), device: 'Two' });
    const others = await enter(emailOf('Noor Amsel'));
    const owner = w.actor('Nell Ashgrove');
    const listed = s.sessions.view(owner, here.token).sessions;
    expect(listed.map((l) => [l.device, l.network, l.here])).toEqual([
      ['Two', '192.0.2.2', false],
      ['One', '192.0.2.1', true],
    ]);
    const noors = s.sessions.view(w.actor('Noor Amsel'), others.token).sessions[0]?.id;
    expect(codeOf(() => s.sessions.endOne(owner, { id: noors }))).toBe('not-found');
    expect(s.sessions.endOne(owner, { id: listed[0]?.id })).toEqual({ done: true });
    expect([there, here, others].map((t) => s.sessions.actor(t.token) !== null)).toEqual([false, true, true]);
    expect(codeOf(() => s.sessions.endOne(owner, { id: listed[0]?.id }))).toBe('not-found');
    // Neither the list nor the table gives away what signs somebody in.
    expect(JSON.stringify([listed, rows(w.db, 'SELECT * FROM sessions')])).not.toContain(here.token);
  });
  it('what is open under one ends with it, with its account and with what its person may do', async () => {
    const open = async (name: string) => {
      const { token } = await enter(emailOf(name), PASSWORD, browserAt(name));
      const actor = s.sessions.actor(token);
      if (!actor) throw new Error('not signed in');
      return { token, actor, ...holdsWhileSignedIn(s, token, actor) };
    };
    let looked = 0;
    const one = await open('Nell Ashgrove');
    const unwatch = one.watch(() => void looked++);
    expect(one.still()).toBe(true);
    s.sessions.endEverywhere(one.actor);
    expect([looked, one.still()]).toEqual([1, false]);
    unwatch();

    const lead = await open('Noor Amsel');
    run(w.db, "UPDATE people SET role_id = 'supervisor' WHERE id = ?", lead.actor.personId);
    expect(lead.still()).toBe(false);
    const agent = await open('Tamsin Orrel');
    s.people.switchPerson(w.actor('Nell Ashgrove'), {
      personId: agent.actor.personId,
      active: false,
      open: 'return',
    });
    expect(agent.still()).toBe(false);
    expect(row(w.db, 'SELECT 1 FROM sessions WHERE person_id = ?', agent.actor.personId)).toBeUndefined();

    const forgetful = await open('Nell Ashgrove');
    let told = false;
    forgetful.watch(() => (told = true));
    await s.newPassword.ask({ email: OWNER });
    s.outbox.resumePosts();
    const mail = row<{ body: string }>(w.db, 'SELECT body FROM outside_messages ORDER BY id DESC');
    const link = /\/password\/(\S+)/.exec(mail?.body ?? '')?.[1];
    await s.newPassword.set({ token: link, password: 'another one of all' });
    expect([told, forgetful.still()]).toEqual([true, false]);
  });
});

describe('who speaks', () => {
  const here = 'browser at 198.51.100.7';
  const browser = (network = '198.51.100.7') => speakerBy(w.services.host, null, network);
  const keyOf = (doorId: string) => s.doors.makeKey(w.actor('Noor Amsel'), { doorId, name: 'The switch' });
  const server = (doorId: string) => speakerBy(w.services.host, keyOf(doorId).key, '198.51.100.7');
  const start = (speaker: Speaker, more: object = {}, key: string | null = null) =>
    s.channel.start(speaker, { door: 'door_web', from: 'guest-1', ...more }, key);
  const customers = () =>
    rows<{ address: string; name: string | null; vouched: number }>(
      w.db,
      "SELECT address, name, vouched FROM customers WHERE address LIKE 'guest-%' OR address LIKE '+35320914%'",
    );

  it('a browser may only start chats; everything else takes a key of that very door', () => {
    expect(browser()).toEqual({ kind: 'browser', name: here, doorId: null });
    for (const door of ['door_repairs', 'door_sms'])
      expect(codeOf(() => start(browser(), { door, from: '+353209140001' }))).toBe('key-needed');
    expect(codeOf(() => start(browser(), { proven: true }))).toBe('key-needed');
    expect(codeOf(() => speakerBy(w.services.host, 'door-made-up', 'x'))).toBe('bad-token');
    expect(codeOf(() => start(server('door_web'), { door: 'door_repairs', from: '+353209140001' }))).toBe('bad-token');
    expect(start(server('door_repairs'), { door: 'door_repairs', from: '+353209140001' }).state).toBe('with-bot');
    expect(start(browser()).state).toBe('with-bot');
  });
  it('a key is told once, kept by its digest, and opens nothing once it has ended; what it began goes on', () => {
    const { id, key } = keyOf('door_web');
    expect(JSON.stringify(everything(w))).not.toContain(key);
    const begun = start(speakerBy(w.services.host, key, 'x'));
    const line = () => s.doors.view(w.actor('Noor Amsel')).keys.find((k) => k.id === id);
    expect(line()).toMatchObject({ doorId: 'door_web', name: 'The switch', madeBy: 'Noor Amsel', usedAt: w.now() });
    s.doors.endKey(w.actor('Noor Amsel'), { id });
    expect(line()).toBeUndefined();
    expect(codeOf(() => speakerBy(w.services.host, key, 'x'))).toBe('bad-token');
    expect(s.channel.say(begun.contact, begun.token, { text: 'still here' }, null).messages.length).toBeGreaterThan(0);
    expect(codeOf(() => s.doors.endKey(w.actor('Noor Amsel'), { id }))).toBe('not-found');
  });
  it('a stranger renames nobody, and is nobody who was vouched for', () => {
    start(server('door_web'), { name: 'Ida Lindqvarn' });
    start(browser(), { name: 'Somebody Else' });
    start(browser(), { name: 'Yet Another' });
    start(server('door_web'), { name: 'A Third' });
    expect(customers()).toEqual([
      { address: 'guest-1', name: 'Ida Lindqvarn', vouched: 1 },
      { address: 'guest-1', name: 'Somebody Else', vouched: 0 },
    ]);
  });
  it('is marked at the Desk and in the contact where nobody vouches', () => {
    for (const [speaker, vouched] of [
      [browser(), false],
      [server('door_web'), true],
    ] as const) {
      const { contact } = start(speaker);
      expect(s.floorView.contact(w.actor('Noor Amsel'), contact).vouched).toBe(vouched);
    }
  });
  it('a number that nobody vouches for is neither called nor written to; one whose code was given is', () => {
    const c = start(server('door_repairs'), { door: 'door_repairs', from: '+353209140001', proven: false });
    for (const key of ['2', '0', '4', '8', '1', '7', '#']) s.channel.say(c.contact, c.token, { key }, null);
    s.channel.say(c.contact, c.token, { text: 'the bridge snapped' }, null);
    w.pass(60);
    const press = (keys: string) =>
      [...keys].map((key) => s.channel.say(c.contact, c.token, { key }, null).messages.at(-1)?.text ?? '').at(-1);
    // Their own number is not offered: the switch does not stand in for it.
    expect(press('1')).toMatch(/Which number shall we call\? Press its digits, then the hash key/);
    press('0209140001#');
    expect(press('1')).toMatch(/sent a code to \+353 20 914 0001/);
    const sent = () => rows<{ body: string }>(w.db, 'SELECT body FROM outside_messages').map((m) => m.body);
    const code = /\d{6}|(\d ){5}\d/.exec(sent().at(-1) ?? '')?.[0].replaceAll(' ', '') ?? '';
    expect(press('000000#')).toMatch(/not the code/);
    expect(press(`${code}#`)).toMatch(/When shall we call/);
    expect(JSON.stringify(rows(w.db, 'SELECT * FROM given_numbers'))).not.toContain(code);
  });
  it('one number is sent four codes in an hour at most, whoever asks', () => {
    const ask = (from: string) => {
      const c = start(server('door_repairs'), { door: 'door_repairs', from, proven: false });
      s.host.transact((tx) => sendNumberCode(tx, s.outbox, c.contact, 'en', '+353851234567'));
    };
    for (let i = 0; i < 9; i++) ask(`+3532091400${10 + i}`);
    expect(rows(w.db, "SELECT 1 FROM outside_messages WHERE address = '+353851234567'")).toHaveLength(4);
    w.at(w.now() + 3_600_000);
    ask('+353209140099');
    expect(rows(w.db, "SELECT 1 FROM outside_messages WHERE address = '+353851234567'")).toHaveLength(5);
  });
  it('neither is it sent more by one contact that asks again and again', () => {
    const c = start(server('door_repairs'), { door: 'door_repairs', from: '+353209140001', proven: false });
    for (let i = 0; i < 9; i++) s.host.transact((tx) => sendNumberCode(tx, s.outbox, c.contact, 'en', '+353851234567'));
    expect(rows(w.db, "SELECT 1 FROM outside_messages WHERE address = '+353851234567'")).toHaveLength(4);
  });
  it('new contacts are counted by themselves, for each caller apart', async () => {
    const codes = (speaker: Speaker, from: string, count: number) =>
      Promise.all(
        Array.from({ length: count }, (_, i) =>
          codeIn(() => s.channel.begin(speaker, { door: 'door_web', from: `${from}-${i}` }, null)),
        ),
      );
    expect((await codes(browser('a'), 'guest-a', 70)).filter((c) => c === 'slow-down')).toHaveLength(10);
    expect(await codes(browser('b'), 'guest-b', 2)).toEqual(['none', 'none']);
    expect(new Set(await codes(server('door_web'), 'guest-c', 100))).toEqual(new Set(['none']));
  });
});

describe('what is sent again', () => {
  it('begins the same contact with the same token, which stands nowhere; the key is its caller’s', () => {
    const speaker = speakerBy(w.services.host, null, 'a');
    const asked = { door: 'door_web', from: 'guest-7', name: 'Planted Name' };
    const first = s.channel.start(speaker, asked, 'key-number-one');
    const again = s.channel.start(speaker, asked, 'key-number-one');
    expect([again.contact, again.token]).toEqual([first.contact, first.token]);
    const stranger = s.channel.start(speakerBy(w.services.host, null, 'b'), asked, 'key-number-one');
    expect(stranger.contact).not.toBe(first.contact);
    expect(codeOf(() => s.channel.start(speaker, { ...asked, from: 'guest-8' }, 'key-number-one'))).toBe('not-valid');
    s.channel.say(first.contact, first.token, { text: 'planted words' }, 'key-number-two');
    const kept = JSON.stringify(rows(w.db, 'SELECT * FROM done_acts'));
    for (const planted of [first.token, 'Planted Name', 'planted words', 'key-number-one', 'guest-7'])
      expect(kept).not.toContain(planted);
    expect(JSON.stringify(everything(w))).not.toContain(first.token);
    // After a start of the server the token is still theirs.
    expect(w.restart().channel.read(first.contact, first.token, 0).contact).toBe(first.contact);
  });
  it('a token from before tokens were made from a key still opens its conversation', () => {
    const { contact } = s.channel.start(STAND_IN, { door: 'door_web', from: 'guest-9' }, null);
    run(w.db, 'INSERT INTO earlier_tokens (contact_id, token_hash) VALUES (?, ?)', contact, hashToken('of old'));
    expect(s.channel.read(contact, 'of old', 0).contact).toBe(contact);
    expect(codeOf(() => s.channel.read(contact, 'of new', 0))).toBe('bad-token');
  });
});

describe('hosts outside', () => {
  const HOST = 'https://api.example.org';
  const owner = () => w.actor('Nell Ashgrove');
  const allow = (hosts: readonly string[]) =>
    s.botParts.saveHosts(owner(), { revision: s.botParts.connections(owner()).hostsRevision, hosts });
  const connector = () => s.botParts.connections(owner()).connectors[0];
  function point(host: string): void {
    const there = connector();
    if (!there) throw new Error('the demo has no connector');
    const { hasSecret: _h, usedBy: _u, ...rest } = there;
    s.botParts.saveConnector(w.actor('Noor Amsel'), { ...rest, host, secret: 'hush' });
  }
  const tryIt = () => s.botParts.tryConnector(w.actor('Noor Amsel'), { id: connector()?.id, inputs: [], really: true });

  it('one that the owner takes from the list is asked no more, from that moment', async () => {
    w.close();
    const asked: string[] = [];
    let answer: (given: { status: number; body: unknown }) => void = () => undefined;
    w = makeWorld({
      send: (request) => {
        asked.push(request.host);
        return new Promise((resolve) => (answer = resolve));
      },
    });
    s = w.services;
    allow([HOST]);
    point(HOST);
    const first = tryIt();
    answer({ status: 200, body: {} });
    expect((await first).outcome).not.toMatch(/allowed/);
    // An answer that is on its way when the host is withdrawn counts for nothing either.
    const late = tryIt();
    allow([]);
    answer({ status: 200, body: {} });
    expect((await late).outcome).toMatch(/its host is not allowed any more/);
    expect((await tryIt()).outcome).toMatch(/its host is not allowed any more/);
    expect(asked).toEqual([HOST, HOST]);
  });
  it('undo brings a connector back only to one that may still be asked', () => {
    allow([HOST]);
    const before = connector()?.host;
    point(HOST);
    point(before ?? '');
    const back = s.history.view(w.actor('Noor Amsel'), {}).lines.find((l) => l.kind === 'connector');
    allow([]);
    const undo = () => s.history.undo(w.actor('Noor Amsel'), { id: back?.id });
    expect(codeOf(undo)).toBe('not-allowed');
    allow([HOST]);
    expect(codeOf(undo)).toBe('none');
    expect(connector()?.host).toBe(HOST);
  });
});
