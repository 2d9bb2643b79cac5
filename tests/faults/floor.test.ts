import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { advance } from '../../src/core/routing/advance';
import type { OutsideRequest } from '../../src/core/bots/connectors';
import { CONNECTORS } from '../../src/data/connectors';
import { row, rows, run } from '../../src/data/database';
import { readOutside } from '../../src/data/outside';
import { setTimer, timersAside } from '../../src/data/timers';
import type { Services } from '../../src/services';
import { NO_SYSTEM } from '../../src/standins/system';
import { handsIn } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { choice, choose, end, hear, lookUp, over, say, scriptOf } from '../helpers/scripts';
import { codeOf, makeWorld, type World } from '../helpers/world';
import { STAND_IN } from '../../src/services/contacts/speaker';

/** One bad thing never stops the floor: each attack here was seen to do so once. */
let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { owner, lead, tamsin, ready, take, chat } = handsIn(() => w);
const { live, meet } = botsIn(() => w);
const took = <T>(list: T[]): number => list.splice(0).length;
const asides = () => s.toFix.view(lead()).findings.filter((f) => f.act.name === 'try-again');

describe('what a customer says', () => {
  const SAID = '<__proto__ a="1">x</__proto__>';
  it('is spoken back as it was said, by voice too, and stops no timer', () => {
    live(
      scriptOf([
        hear('ask', { type: 'text' }, 'said'),
        say('back', 'You said {said} <break time="1s"/> is that so?'),
        choose('so', [choice('yes', '1')]),
        end('bye', 'Bye'),
      ]),
      'door_main',
    );
    const c = meet('door_main', '+353209130001');
    c.say(SAID);
    const spoken = c.side().messages.find((m) => m.text.startsWith('You said'));
    expect(spoken?.text).toContain(SAID);
    expect(spoken?.ssml).toContain('&lt;__proto__');
    for (let i = 0; i < 5; i++) w.pass(30);
    expect(c.kept()?.endedAt === null || c.side().state === 'waiting' || c.side().state === 'ended').toBe(true);
    expect(w.faults).toEqual([]);
    s = w.restart();
    expect(s.channel.read(c.contact, c.token, 0).messages.some((m) => m.text.includes(SAID))).toBe(true);
  });
});

describe('a timer that fails', () => {
  it('is set aside with why and how often, keeps none behind it waiting, and goes when it can', () => {
    const c = chat('guest-1');
    ready(tamsin());
    // Something in the way of a bot's silence: its contact is not there.
    w.db.pragma('foreign_keys = OFF');
    setTimer(w.db, 'bot-waits', 'contact_nowhere', 'floor', w.now() - 2000);
    setTimer(w.db, 'post-due', '7', 'real', w.now() - 1000);
    w.pass(0);
    expect(took(w.faults)).toBe(1);
    expect(timersAside(w.db)).toMatchObject([
      { kind: 'bot-waits', attempts: 1, reason: 'There is no contact with this id.' },
    ]);
    // The one behind it has run.
    expect(row(w.db, "SELECT 1 FROM timers WHERE kind = 'post-due'")).toBeUndefined();
    expect(c.state()).toBe('talking' === c.state() ? 'talking' : 'waiting');
    // A second later, then ten: each time longer.
    w.pass(1);
    expect(took(w.faults)).toBe(1);
    w.pass(5);
    expect(took(w.faults)).toBe(0);
    w.pass(6);
    expect(took(w.faults)).toBe(1);
    const [finding] = asides();
    expect(finding?.says).toBe(
      'Tried 3 times: the bot could not go on after a silence. There is no contact with this id.',
    );
    expect(s.toFix.count(lead())).toBeGreaterThan(0);
    s.act('try-again', lead(), finding?.act.input);
    w.pass(0);
    expect(took(w.faults)).toBe(1);
    run(w.db, "DELETE FROM timers WHERE kind = 'bot-waits' AND thing_id = 'contact_nowhere'");
    expect(asides()).toEqual([]);
    expect(codeOf(() => s.act('try-again', lead(), finding?.act.input))).toBe('not-found');
  });
});

describe('a change that fails half way', () => {
  it('undoes work within work alone, and the outer work goes on', () => {
    const told: string[] = [];
    s.host.listen((events) => told.push(...events.map((e) => e.type)));
    const person = tamsin().personId;
    const before = s.floor.router.floor.people.get(person)?.duty;
    s.host.transact((tx) => {
      tx.emit({ type: 'person.reach', personId: 'p', reachable: true });
      expect(() =>
        s.host.transact((inner) => {
          s.floor.setDuty(inner, person, 'ready', null);
          expect(s.floor.router.floor.people.get(person)?.duty).toBe('ready');
          throw new Error('no');
        }),
      ).toThrow('no');
      // The router is as it was before the inner work.
      expect(s.floor.router.floor.people.get(person)?.duty).toBe(before);
      tx.emit({ type: 'person.reach', personId: 'p', reachable: false });
    });
    expect(told).toEqual(['person.reach', 'person.reach']);
  });
  it('the router is then as the tables have it, contact by contact, and settings that nothing touched are not read anew', () => {
    ready(tamsin());
    const [first, second] = [chat('guest-1'), chat('guest-2')];
    take(tamsin());
    const told = () => {
      const { floor } = s.floor.router;
      const people = [...floor.people.values()].map((p) => [
        ...[p.id, p.duty, p.reachable, p.lastContactAt, p.today, p.used, p.count, p.pending, [...p.open]],
        ...[[...p.levels], p.load, p.limited, p.uses, [...p.rows.keys()]],
      ]);
      const waiting = [...floor.waiting.values()].map(({ queue, ...v }) => [queue.id, v, [...v.refused], [...v.dials]]);
      const groups = [...floor.groups.values()].map((g) => [g.id, [...g.members].sort(), g.uses, g.limits]);
      return JSON.parse(JSON.stringify([people, waiting, groups, [...floor.queues.keys()]])) as unknown;
    };
    const before = told();
    const levels = new Map([...s.floor.router.floor.people].map(([id, p]) => [id, p.levels]));
    for (const c of [first, second])
      expect(() =>
        s.host.transact((tx) => {
          s.floor.run(tx, { type: 'duty', personId: tamsin().personId, duty: 'off' });
          s.channel.leave(c.contact, c.token);
          throw new Error('late');
        }),
      ).toThrow('late');
    expect(told()).toEqual(before);
    // The same levels, not the same again: nobody's settings were made anew.
    for (const [id, p] of s.floor.router.floor.people) expect(p.levels).toBe(levels.get(id));
    expect(() =>
      s.host.transact((tx) => {
        s.floor.refreshPeople(tx, [tamsin().personId]);
        tx.atEnd(() => {
          throw new Error('late');
        });
      }),
    ).toThrow('late');
    s.floor.resume();
    expect(told()).toEqual(before);
  });
  it('leaves what was to go out and what was left for the end undone', () => {
    const done: string[] = [];
    expect(() =>
      s.host.transact((tx) => {
        tx.onceKept(() => done.push('out'));
        tx.atEnd(() => done.push('end'));
        throw new Error('no');
      }),
    ).toThrow('no');
    s.host.transact((tx) => {
      tx.onceKept(() => done.push('kept'));
      tx.atEnd(() => done.push('last'));
    });
    expect(done).toEqual(['last', 'kept']);
  });
  it('a listener that throws is reported, and the next still hears', () => {
    const heard: number[] = [];
    const stop = s.host.listen(() => {
      throw new Error('deaf');
    });
    s.host.listen((events) => heard.push(events.length));
    s.host.transact((tx) => tx.emit({ type: 'person.reach', personId: 'p', reachable: true }));
    expect([heard, took(w.faults)]).toEqual([[1], 1]);
    stop();
  });
  it('a refused request reads nothing anew: the router is the one it was', () => {
    const { router } = s.floor;
    for (let i = 0; i < 20; i++) {
      expect(codeOf(() => s.channel.start(STAND_IN, { door: 'nowhere', from: 'x' }, null))).toBe('not-found');
      expect(codeOf(() => s.desk.act(tamsin(), { act: 'accept', offerId: 'stale' }, null))).toBe('not-now');
    }
    expect(s.floor.router).toBe(router);
  });
});

describe('one thing that cannot be read', () => {
  it('a contact whose place in its script is broken goes to people, with what is said now', () => {
    live(scriptOf([hear('ask', { type: 'text' }, 'said'), end('bye', 'Bye')]));
    const c = meet();
    const other = meet('door_web', 'guest-2');
    run(w.db, 'UPDATE bot_places SET state = ? WHERE contact_id = ?', '{"broken', c.contact);
    s = w.restart();
    s.asks.resumeAsks();
    s.channel.say(c.contact, c.token, { text: 'Is anybody there?' }, null);
    expect(took(w.faults)).toBe(1);
    const side = s.channel.read(c.contact, c.token, 0);
    expect([side.state, side.messages.at(-1)?.text]).toEqual(['waiting', 'Is anybody there?']);
    other.say('all well');
    expect(other.said().at(-1)).toBe('Bye');
  });
  it('a contact whose bot is not there any more goes to people', () => {
    const botId = live(scriptOf([hear('ask', { type: 'text' }, 'said'), end('bye', 'Bye')]));
    const c = meet();
    run(w.db, "UPDATE bot_versions SET script = 'nonsense' WHERE bot_id = ?", botId);
    s = w.restart();
    s.channel.say(c.contact, c.token, { text: 'hello' }, null);
    expect(s.channel.read(c.contact, c.token, 0)).toMatchObject({ state: 'waiting' });
    expect(s.toFix.view(lead()).findings.some((f) => /bot version cannot be read/.test(f.says))).toBe(true);
  });
  it('what it was being asked while it waits', () => {
    const c = chat();
    run(
      w.db,
      "INSERT INTO bot_places (contact_id, asking) VALUES (?, '{') ON CONFLICT DO UPDATE SET asking = '{'",
      c.contact,
    );
    c.say('still here');
    expect([c.state(), took(w.faults) > 0]).toEqual(['waiting', true]);
  });
  it.each([
    ['a queue', "UPDATE queue_versions SET body = 'x' WHERE queue_id = 'queue_billing'", 'queue'],
    ['a duty profile', "UPDATE duty_profiles SET body = '7' WHERE id = 'profile_front'", 'duty profile'],
    ['hours', "UPDATE hours SET weekly = '{}' WHERE id = 'hours_day'", 'hours'],
    ['a bot’s draft', "UPDATE bots SET draft = 'null' WHERE id = (SELECT id FROM bots LIMIT 1)", 'bot'],
    ['a field', "UPDATE fields SET body = '[' WHERE id = (SELECT id FROM fields LIMIT 1)", 'field'],
    ['an outcome', "UPDATE outcome_codes SET rules = '[' WHERE code = 'ADVICE'", 'outcome'],
    ['a person', "UPDATE people SET most = '[' WHERE id = 'person_60'", 'person'],
    ['a group or partner', "UPDATE documents SET body = '[' WHERE id = (SELECT id FROM documents LIMIT 1)", ''],
  ])('%s is left out and named; contacts go on being routed, also after a start', (_, sql, kind) => {
    w.db.exec(sql);
    s = w.restart();
    s.floor.resume();
    s.desk.act(tamsin(), { act: 'duty', duty: 'ready' }, null);
    const c = s.channel.start(STAND_IN, { door: 'door_web', from: 'guest-9' }, null);
    expect(s.channel.read(c.contact, c.token, 0).state).toMatch(/with-bot|waiting|talking/);
    // Whatever reads all of a kind names it.
    s.teams.view(lead());
    s.outcomes.view(lead());
    const named = s.toFix.view(lead()).findings.filter((f) => /cannot be read and is left out/.test(f.says));
    expect(named).toHaveLength(1);
    expect(named[0]?.says).toContain(`This ${kind}`);
  });
  it('a waiting contact', () => {
    const [broken, other] = [chat('guest-1'), chat('guest-2')];
    run(w.db, "UPDATE visits SET needs = '{' WHERE contact_id = ?", broken.contact);
    s = w.restart();
    s.floor.resume();
    s.desk.act(tamsin(), { act: 'duty', duty: 'ready' }, null);
    expect(s.floor.router.floor.waiting.size).toBe(1);
    const { offer } = s.desk.view(tamsin(), 0);
    s.desk.act(tamsin(), { act: 'accept', offerId: offer?.offerId }, null);
    expect(s.channel.read(other.contact, other.token, 0).state).toBe('talking');
    expect(s.toFix.view(lead()).findings.filter((f) => /This visit cannot be read/.test(f.says))).toHaveLength(1);
  });
});

describe('what is asked outside', () => {
  const connector = (host: string): string => {
    if (host !== '') s.botParts.saveHosts(owner(), { revision: 0, hosts: [host] });
    return s.botParts.saveConnector(owner(), {
      id: null,
      revision: 0,
      name: 'Hires',
      does: 'look-up',
      host,
      method: 'GET',
      path: '/hires/{number}',
      headers: [],
      inputs: ['number'],
      outputs: [],
      body: null,
      signIn: { by: 'bearer' },
      timeoutSeconds: 5,
    }).id;
  };
  const script = (id: string) =>
    scriptOf([
      hear('ask', { type: 'text' }, 'number'),
      lookUp('look', { source: { from: 'connector', connectorId: id }, outputs: [] }),
      say('after', 'Looked'),
      over('people', 'queue_newhire'),
    ]);
  it.each([
    [
      'a system that throws',
      () => {
        throw new Error('out of order');
      },
    ],
    ['a system that answers nonsense', () => ({ answer: { status: 200, body: { a: 1 } }, seconds: Number.NaN })],
  ] as const)('%s: the customer goes on', (_, answer) => {
    w.close();
    w = makeWorld({ system: { ...NO_SYSTEM, answer: answer as (typeof NO_SYSTEM)['answer'] } });
    s = w.services;
    const id = connector('');
    live(script(id));
    const c = meet();
    c.say('204816');
    for (let i = 0; i < 4; i++) w.pass(10);
    expect(c.side().state).toBe('waiting');
    took(w.faults);
  });
  it('a host that never answers, and a sending that throws at once: both end as failed', async () => {
    w.close();
    const asked: OutsideRequest[] = [];
    w = makeWorld({
      send: (request) => {
        asked.push(request);
        if (request.path.includes('throw')) throw new TypeError('Invalid character in header content');
        return new Promise(() => undefined);
      },
    });
    s = w.services;
    const id = connector('https://hires.example.com');
    live(script(id));
    const [silent, thrown] = [meet(), meet('door_web', 'guest-2')];
    silent.say('quiet');
    thrown.say('throw');
    await expect.poll(() => thrown.side().state).toBe('waiting');
    expect(took(w.faults)).toBe(1);
    expect(silent.side().state).toBe('with-bot');
    w.pass(11);
    expect(silent.side().state).toBe('waiting');
    expect([asked.length, CONNECTORS.one(w.db, id)?.timeoutSeconds]).toEqual([2, 5]);
  });
  it('half a sign in what is asked is no fault', () => {
    const id = connector('');
    live(script(id));
    const c = meet();
    c.say('\ud800');
    w.pass(10);
    expect(c.side().state).toBe('waiting');
  });
});

describe('what goes out', () => {
  it('is sent once the change is kept, kept when it cannot be sent, told, and sent later', () => {
    w.close();
    let broken = true;
    const sent: string[] = [];
    const send = (to: string) => {
      if (broken) throw new Error('The line is down');
      sent.push(to);
    };
    w = makeWorld({ post: { mail: send, text: send, call: send } });
    s = w.services;
    expect(() =>
      s.host.transact((tx) => {
        s.outbox.mail(tx, 'nobody@desk.example', 'Never', 'kept');
        throw new Error('no');
      }),
    ).toThrow('no');
    s.host.transact((tx) => s.outbox.mail(tx, 'someone@desk.example', 'Hello', 'there'));
    expect([sent, took(w.faults)]).toEqual([[], 1]);
    expect(asides()).toMatchObject([
      { about: 'To someone@desk.example', says: 'Tried once: a mail could not be sent. The line is down.' },
    ]);
    // The process dies: what was to go out is still there.
    s = w.restart();
    broken = false;
    w.pass(1);
    s.timers.runDue();
    expect(sent).toEqual(['someone@desk.example']);
    w.pass(3600);
    expect([sent.length, asides()]).toEqual([1, []]);
  });
  it('one that cannot be read keeps none behind it from leaving at the start', () => {
    run(
      w.db,
      "INSERT INTO outbox (kind, state, body, real_at) VALUES ('post', 'ready', '{', 0), ('ask', 'ready', '{', 0)",
    );
    run(
      w.db,
      "INSERT INTO outbox (kind, state, body, real_at) VALUES ('post', 'ready', json_object('medium', 'mail', 'address', 'behind@desk.example', 'subject', 'S', 'body', 'B'), 0)",
    );
    s = w.restart();
    s.outbox.resumePosts();
    s.asks.resumeAsks();
    expect(readOutside(w.db, 10).filter((m) => m.address === 'behind@desk.example')).toHaveLength(1);
    expect(took(w.faults)).toBeGreaterThan(0);
  });
  it('a stop between writing it down and sending it sends it at the start', () => {
    run(
      w.db,
      "INSERT INTO outbox (kind, state, body, real_at) VALUES ('post', 'ready', json_object('medium', 'mail', 'address', 'late@desk.example', 'subject', 'S', 'body', 'B'), 0)",
    );
    s = w.restart();
    s.outbox.resumePosts();
    s.outbox.resumePosts();
    expect(readOutside(w.db, 10).filter((m) => m.address === 'late@desk.example')).toHaveLength(1);
  });
});

describe('clocks', () => {
  it('a clock that jumps back or far ahead leaves nobody behind', () => {
    ready(tamsin());
    const c = chat();
    expect(c.state()).toBe('waiting');
    w.at(w.now() - 3_600_000);
    s.timers.runDue();
    take(tamsin());
    expect(c.state()).toBe('talking');
    w.at(w.now() + 400 * 86_400_000);
    s.timers.runDue();
    expect(c.state()).toBe('talking');
    expect(advance(s.floor.router, w.now(), { type: 'anew' })).toBeInstanceOf(Array);
  });
});

describe('many at once', () => {
  it('one customer has so many contacts going on, and a conversation so many messages', () => {
    const begun = Array.from({ length: 20 }, () => s.channel.start(STAND_IN, { door: 'door_web', from: 'same' }, null));
    expect(codeOf(() => s.channel.start(STAND_IN, { door: 'door_web', from: 'same' }, null))).toBe('slow-down');
    const [first] = begun;
    if (!first) throw new Error('none began');
    s.channel.leave(first.contact, first.token);
    const c = s.channel.start(STAND_IN, { door: 'door_web', from: 'same' }, null);
    run(
      w.db,
      `WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 2000)
        INSERT INTO events (seq, type, v, floor_at, contact, body)
          SELECT 100000 + i, 2, 2, 0, (SELECT no FROM contacts WHERE id = ?), '["customer"]' FROM n`,
      c.contact,
    );
    run(w.db, "INSERT INTO messages (seq, text) SELECT seq, 'x' FROM events WHERE seq > 100000");
    expect(codeOf(() => s.channel.say(c.contact, c.token, { text: 'more' }, null))).toBe('too-large');
    // Read by page: every message once, in order.
    const read: number[] = [];
    for (let after = 0, more = true; more;) {
      const page = s.channel.read(c.contact, c.token, after);
      expect(page.messages.length).toBeLessThanOrEqual(200);
      read.push(...page.messages.map((m) => m.seq));
      ({ seq: after, more } = page);
    }
    expect(read.length).toBeGreaterThanOrEqual(2000);
    expect(read).toEqual([...new Set(read)].sort((a, b) => a - b));
  });
  it('saying something gives what is new, and the same again when it is sent again', () => {
    live(scriptOf([hear('a', { type: 'text' }, 'x'), hear('b', { type: 'text' }, 'y'), end('bye', 'Bye')]));
    const c = meet();
    const first = s.channel.say(c.contact, c.token, { text: 'one' }, 'key-0001');
    expect(first.messages.map((m) => m.text)).toEqual(['one', 'b?']);
    expect(s.channel.say(c.contact, c.token, { text: 'one' }, 'key-0001').messages).toEqual(first.messages);
    expect(s.channel.say(c.contact, c.token, { text: 'two' }, null).messages.map((m) => m.text)).toEqual([
      'two',
      'Bye',
    ]);
  });
});

it('what brought thousands in is taken back in turns, beside the floor, and leaves everything as it was', async () => {
  const before = rows(w.db, 'SELECT id FROM people').length;
  const full = s.peopleImport.csv(lead(), '').text.split('\r\n');
  const [team, profile] = [full[1]?.split(',')[3], full[1]?.split(',')[6]];
  const csv = [
    'Full name,E-mail,Team,Duty profile,French',
    ...Array.from({ length: 1500 }, (_, i) => `Person ${i},p${i}@many.example,${team},${profile},${(i % 5) + 1}`),
  ].join('\n');
  const { id } = s.peopleImport.begin(lead(), Buffer.from(csv), 'many.csv');
  await expect.poll(() => s.peopleImport.view(lead(), { id }).state).toBe('planned');
  await s.peopleImport.apply(lead(), { id, invite: false });
  expect(rows(w.db, 'SELECT id FROM people')).toHaveLength(before + 1500);
  let steps = 0;
  const { floor } = s.floor.router;
  s.host.listen((events) => (steps += events.length));
  const [entry] = s.history.view(lead(), {}).lines;
  const back = s.act('undo', lead(), { id: entry?.id });
  // Another change waits for it, and meanwhile the floor goes on.
  const again = s.act('undo', lead(), { id: entry?.id });
  const c = chat('guest-meanwhile');
  expect(s.presses.busy()).toBe(true);
  expect(await back).toEqual({ undone: 3000, skipped: 0 });
  await expect(again).rejects.toMatchObject({ code: 'not-now', message: 'This was undone already.' });
  expect(c.state()).toBe('waiting');
  expect(s.floor.router.floor.groups.size).toBeGreaterThan(0);
  expect(rows(w.db, 'SELECT id FROM people')).toHaveLength(before);
  expect([...floor.people.keys()].filter((p) => floor.people.get(p)?.duty !== 'off')).toEqual([]);
  // One settings version, and no event for each of thousands.
  expect(steps).toBeLessThan(60);
  expect(s.history.view(lead(), {}).lines[0]).toMatchObject({ batch: 3000, canUndo: true });
});
