import { withoutIntent } from '../../src/core/phrases/book';
import { readyScene } from '../../src/core/bots/readymade';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Choice, Figure, Step } from '../../src/core/bots/model';
import type { QueueSettings } from '../../src/core/routing/queue';
import { readBot, readVersion } from '../../src/data/bots';
import { rows } from '../../src/data/database';
import { readDoor } from '../../src/data/doors';
import { eventsAfter, replayAll } from '../../src/data/events';
import { readProfile } from '../../src/data/dutyprofiles';
import { readOutside } from '../../src/data/outside';
import { readQueue } from '../../src/data/queuesettings';
import { visitsOf } from '../../src/data/visits';
import type { Services } from '../../src/services';
import { createSend, hostFault, isPublicAddress, onlyAllowed } from '../../src/services/bots/outside';
import { createHireDesk, hireNumber } from '../../demo/hiredesk';
import { handsIn, queueInput } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { choice, choose, en, end, hear, lookUp, NEXT, over, say, scriptOf, toLine } from '../helpers/scripts';
import { codeIn, codeOf, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld({ system: createHireDesk() });
  s = w.services;
});
afterEach(() => w.close());
const { lead, owner, odile, tamsin, ready, take } = handsIn(() => w);

const { live, meet } = botsIn(() => w);
const eventsOf = (contactId: string, type: string) =>
  eventsAfter(w.db, 0, 1e6).filter((e) => 'contactId' in e && e.contactId === contactId && e.type === type);
const hire = (more: Partial<Extract<Step, { verb: 'look-up' }>> = {}) =>
  lookUp('l', {
    source: { from: 'connector', connectorId: 'connector_hire' },
    inputs: [{ name: 'number', value: '{number}' }],
    outputs: [{ name: 'cover', into: { name: 'cover', scope: 'conversation' } }],
    notFound: toLine('n'),
    failed: toLine('f'),
    ...more,
  });
const asking = (more: Partial<Extract<Step, { verb: 'look-up' }>> = {}) =>
  scriptOf([
    hear('q', { type: 'text' }, 'number', { otherwise: toLine('n') }),
    hire(more),
    end('y', 'Cover: {cover}'),
    end('n', 'No such hire'),
    end('f', 'Out of order'),
  ]);

const setQueueFields = (fields: readonly string[]) =>
  s.queues.save(lead(), queueInput(readQueue(w.db, 'queue_newhire'), { fields }));

describe('asking outside in a live conversation', () => {
  it('the answer comes by the floor’s clock; words meanwhile are kept and wait for nobody', () => {
    live(asking());
    const c = meet();
    c.say(hireNumber(3));
    expect(c.said()).toEqual(['q?']);
    c.say('hello?');
    w.pass(1);
    expect(c.said()).toEqual(['q?', expect.stringMatching(/^Cover: (none|full cover)$/)]);
    expect(c.side()).toMatchObject({ state: 'ended' });
    expect(eventsOf(c.contact, 'bot.asked')).toMatchObject([{ connectorId: 'connector_hire', number: 1 }]);
  });
  it('slow is said once, then the answer; failing goes its way after its tries; not found is another', () => {
    s.botParts.saveStandIn(lead(), { mood: 'slow' });
    live(asking());
    const c = meet();
    c.say(hireNumber(3));
    w.pass(2);
    expect(c.said().at(-1)).toBe('One moment.');
    // The connector waits 4 s, the desk takes 6.
    w.pass(3);
    expect(c.said()).toEqual(['q?', 'One moment.', 'Out of order']);
    s.botParts.saveStandIn(lead(), { mood: 'fails' });
    const broken = meet('door_web', 'guest-2');
    broken.say(hireNumber(3));
    w.pass(1);
    expect(broken.said().at(-1)).toBe('Out of order');
    s.botParts.saveStandIn(lead(), { mood: 'usual' });
    const unknown = meet('door_web', 'guest-3');
    unknown.say('123');
    w.pass(1);
    expect(unknown.said().at(-1)).toBe('No such hire');
  });
  it('after a stop the answer is still awaited, and comes', () => {
    live(asking());
    const c = meet();
    c.say(hireNumber(3));
    s = w.restart();
    s.asks.resumeAsks();
    w.at(w.now() + 1000);
    s.timers.runDue();
    expect(s.channel.read(c.contact, c.token, 0).messages.at(-1)?.text).toMatch(/^Cover/);
  });
  it('a Do is sent once, and gives its reference', () => {
    live(
      scriptOf([
        hear('q', { type: 'text' }, 'number'),
        {
          id: 'd',
          verb: 'do',
          connectorId: 'connector_repair',
          inputs: [{ name: 'number', value: '{number}' }],
          outputs: [{ name: 'reference', into: { name: 'ref', scope: 'conversation' } }],
          slowAfterSeconds: 1,
          slow: en(''),
          done: NEXT,
          refused: toLine('n'),
          unsure: toLine('n'),
        },
        end('y', 'Ref {ref}'),
        end('n', 'Refused'),
      ]),
    );
    const covered = Array.from({ length: 20 }, (_, i) => hireNumber(i)).map((number, i) => {
      const c = meet('door_web', `g${i}`);
      c.say(number);
      w.pass(1);
      return c.said().at(-1) ?? '';
    });
    expect(covered.some((t) => /^Ref [0-9A-F]{6}$/.test(t))).toBe(true);
    expect(covered.some((t) => t === 'Refused')).toBe(true);
  });
});

describe('a real host', () => {
  let server: Server;
  let at: string;
  let answer: (
    url: string,
    headers: Record<string, unknown>,
    body: string,
  ) => { status: number; body: string; headers?: Record<string, string>; after?: number } = () => ({
    status: 200,
    body: '{}',
  });
  const seen: { url: string; headers: Record<string, unknown>; body: string }[] = [];
  beforeEach(async () => {
    seen.length = 0;
    answer = () => ({ status: 200, body: '{}' });
    server = createServer((req, res) => {
      let body = '';
      req.on('data', (part: Buffer) => {
        body += part.toString();
      });
      req.on('end', () => {
        seen.push({ url: req.url ?? '', headers: req.headers, body });
        const a = answer(req.url ?? '', req.headers, body);
        setTimeout(() => {
          res.writeHead(a.status, { 'content-type': 'application/json', ...a.headers });
          res.end(a.body);
        }, a.after ?? 0);
      });
    });
    await new Promise<void>((done) => {
      server.listen(0, '127.0.0.1', done);
    });
    at = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterEach(
    () =>
      new Promise<void>((done) => {
        server.closeAllConnections();
        server.close(() => done());
      }),
  );
  const ask = (more: object = {}) => ({
    host: at,
    method: 'GET' as const,
    path: '/x',
    headers: [],
    signIn: { by: 'bearer' as const },
    body: null,
    // Longer than any machine stands still.
    timeoutSeconds: 20,
    key: null,
    ...more,
  });

  it('within a private network is never asked, whatever its name says', async () => {
    expect(await createSend()(ask(), null)).toEqual({ fault: 'private addresses are not asked' });
    expect(await createSend()(ask({ host: at.replace('127.0.0.1', 'localhost') }), null)).toEqual({
      fault: 'it could not be reached',
    });
    expect(seen).toEqual([]);
    for (const address of [
      '127.0.0.1',
      '10.1.2.3',
      '192.168.0.1',
      '172.16.5.5',
      '169.254.169.254',
      '0.0.0.0',
      '::1',
      'fc00::1',
      'fe80::1',
      '::ffff:127.0.0.1',
      '100.64.0.1',
      '224.0.0.1',
      'nonsense',
    ])
      expect([address, isPublicAddress(address)]).toEqual([address, false]);
    expect(isPublicAddress('93.184.216.34')).toBe(true);
  });
  it('is asked with its secret and key; what comes back is JSON of a bounded size, in time, and not from elsewhere', async () => {
    const send = createSend(() => true);
    answer = () => ({ status: 200, body: '{"a":1}' });
    expect(await send(ask({ method: 'POST', body: '{"b":2}', key: 'contact-1' }), 'hush')).toEqual({
      status: 200,
      body: { a: 1 },
    });
    expect(seen[0]).toMatchObject({
      url: '/x',
      body: '{"b":2}',
      headers: { authorization: 'Bearer hush', 'idempotency-key': 'contact-1' },
    });
    answer = () => ({ status: 302, body: '', headers: { location: '/secret' } });
    expect(await send(ask(), null)).toEqual({ status: 302, body: null });
    expect(seen).toHaveLength(2);
    answer = () => ({ status: 200, body: 'plain' });
    expect(await send(ask(), null)).toEqual({ fault: 'the answer is not JSON' });
    answer = () => ({ status: 200, body: `"${'x'.repeat(400_000)}"` });
    expect(await send(ask(), null)).toEqual({ fault: 'the answer is too large' });
    answer = () => ({ status: 200, body: '{}', after: 1500 });
    expect(await send(ask({ timeoutSeconds: 1 }), null)).toEqual({ fault: 'no answer came in time' });
    expect(await send(ask({ path: '//elsewhere.example/x' }), null)).toEqual({
      fault: 'the address leads to another host',
    });
  });
  it('signs in as it says, and sends its own headers', async () => {
    const send = createSend(() => true);
    await send(ask({ signIn: { by: 'basic', user: 'lane' }, headers: [{ name: 'X-Shop', value: 'north' }] }), 'hush');
    await send(ask({ signIn: { by: 'header', header: 'X-Api-Key' } }), 'hush');
    await send(ask({ signIn: { by: 'basic', user: 'lane' } }), null);
    expect(seen.map((s) => [s.headers.authorization, s.headers['x-api-key'], s.headers['x-shop']])).toEqual([
      [`Basic ${Buffer.from('lane:hush').toString('base64')}`, undefined, 'north'],
      [undefined, 'hush', undefined],
      [undefined, undefined, undefined],
    ]);
  });
  it('says so where a secret, a header or a token cannot be sent at all', async () => {
    const send = createSend(() => true);
    const unsent = { fault: expect.stringContaining('no header carries') as string };
    expect(await send(ask(), 'two\nlines')).toEqual(unsent);
    expect(await send(ask({ headers: [{ name: 'X-Shop', value: 'no\r\nth' }] }), null)).toEqual(unsent);
    answer = () => ({ status: 200, body: '{"access_token":"a\\nb"}' });
    const signIn = { by: 'client', clientId: 'lane', tokenHost: at, tokenPath: '/token', scope: '' };
    expect(await send(ask({ signIn }), 'hush')).toEqual(unsent);
    expect(seen.map((s) => s.url)).toEqual(['/token']);
  });
  it('by client credentials it asks for a token, keeps it while it lasts, and once more when it is taken back', async () => {
    let now = 0;
    let given = 0;
    let taken = '';
    const send = createSend(
      () => true,
      () => now,
    );
    answer = (url, headers) =>
      url === '/token'
        ? { status: 200, body: JSON.stringify({ access_token: `t${++given}`, expires_in: 100 }) }
        : headers.authorization === `Bearer ${taken}`
          ? { status: 401, body: '{}' }
          : { status: 200, body: JSON.stringify({ by: headers.authorization }) };
    const signIn = { by: 'client' as const, clientId: 'lane one', tokenHost: at, tokenPath: '/token', scope: 'hires' };
    const by = async () => ((await send(ask({ signIn }), 'hush')) as { body: { by: string } }).body.by;
    expect([await by(), await by()]).toEqual(['Bearer t1', 'Bearer t1']);
    expect(seen[0]).toMatchObject({
      url: '/token',
      body: 'grant_type=client_credentials&scope=hires',
      headers: {
        authorization: `Basic ${Buffer.from('lane%20one:hush').toString('base64')}`,
        'content-type': 'application/x-www-form-urlencoded',
      },
    });
    now = 75_000;
    expect(await by()).toBe('Bearer t2');
    taken = 't2';
    expect(await by()).toBe('Bearer t3');
    // One that is refused as soon as it was given is not asked for for ever.
    answer = (url) => (url === '/token' ? { status: 200, body: '{"access_token":"t"}' } : { status: 401, body: '{}' });
    now = 500_000;
    expect(await send(ask({ signIn }), 'hush')).toEqual({ status: 401, body: {} });
    answer = () => ({ status: 400, body: '{"error":"invalid_client"}' });
    now = 5_000_000;
    expect(await send(ask({ signIn }), 'hush')).toEqual({ fault: 'no token was given (400)' });
    // The host of tokens has to be one that may be asked as well.
    const asked = vi.fn(send);
    const only = onlyAllowed(asked, (host) => host === 'https://api.example.org');
    expect(await only(ask({ host: 'https://api.example.org', signIn }), 'hush')).toHaveProperty('fault');
    expect(asked).not.toHaveBeenCalled();
  });
  it.each([
    ['https://api.example.org', null],
    ['http://192.168.0.4', 'Private'],
    ['https://localhost', 'Private'],
    ['https://intra.lan', 'Private'],
    ['ftp://x.example', 'begins with'],
    ['https://x.example/path', 'a name only'],
    ['https://user@x.example', 'a name only'],
    ['x', 'https://name'],
    ['http://[::1]', 'Private'],
  ])('%s may be allowed: %s', (host, fault) =>
    fault === null ? expect(hostFault(host)).toBeNull() : expect(hostFault(host)).toContain(fault),
  );
  it('is allowed by the owner only, and a connector names no other; secrets are never read back', () => {
    const connector = {
      id: null,
      revision: 0,
      name: 'Weather',
      does: 'look-up',
      host: 'https://api.example.org',
      method: 'GET',
      path: '/w',
      headers: [],
      body: null,
      signIn: { by: 'bearer' },
      inputs: [],
      outputs: [],
      timeoutSeconds: 5,
      secret: 'hush-hush',
    };
    expect(codeOf(() => s.botParts.saveConnector(lead(), connector))).toBe('not-valid');
    expect(codeOf(() => s.botParts.saveHosts(lead(), { revision: 0, hosts: ['https://api.example.org'] }))).toBe(
      'not-allowed',
    );
    expect(codeOf(() => s.botParts.saveHosts(owner(), { revision: 0, hosts: ['http://10.0.0.1'] }))).toBe('not-valid');
    s.botParts.saveHosts(owner(), { revision: 0, hosts: ['https://api.example.org'] });
    s.botParts.saveConnector(lead(), connector);
    expect(s.botParts.connections(lead()).connectors.find((c) => c.name === 'Weather')).toMatchObject({
      hasSecret: true,
    });
    expect(
      JSON.stringify([s.botParts.connections(lead()), s.history.view(lead(), {}), rows(w.db, 'SELECT * FROM history')]),
    ).not.toContain('hush-hush');
    expect(codeOf(() => s.botParts.remove(lead(), { kind: 'connector', id: 'connector_hire' }))).toBe('not-now');
  });
  it('answers a live conversation when it does; whether a change was made is unsure after a stop', async () => {
    w.close();
    w = makeWorld({ send: createSend(() => true) });
    s = w.services;
    s.botParts.saveHosts(owner(), { revision: 0, hosts: ['https://api.example.org'] });
    const { id: connectorId } = s.botParts.saveConnector(lead(), {
      id: null,
      revision: 0,
      name: 'Change',
      does: 'do',
      host: 'https://api.example.org',
      method: 'POST',
      path: '/x',
      headers: [],
      body: null,
      signIn: { by: 'bearer' },
      inputs: [],
      outputs: [],
      timeoutSeconds: 10,
    });
    // The host is played by the server of this test.
    w.db.prepare("UPDATE documents SET body = json_set(body, '$.host', ?) WHERE id = ?").run(at, connectorId);
    w.db
      .prepare("UPDATE documents SET body = json_object('hosts', json_array(?)) WHERE kind = 'allowed-hosts'")
      .run(at);
    live(
      scriptOf([
        choose('q', [choice('go', '1')]),
        {
          id: 'd',
          verb: 'do',
          connectorId,
          inputs: [],
          outputs: [],
          slowAfterSeconds: 1,
          slow: en(''),
          done: NEXT,
          refused: toLine('n'),
          unsure: toLine('u'),
        },
        end('y', 'done'),
        end('n', 'refused'),
        end('u', 'unsure'),
      ]),
    );
    const c = meet();
    c.say('go');
    await expect.poll(() => c.said().at(-1)).toBe('done');
    expect(seen[0]?.headers['idempotency-key']).toBe(`${c.contact}-1`);
    answer = () => ({ status: 200, body: '{}', after: 400 });
    const other = meet('door_web', 'guest-2');
    other.say('go');
    s = w.restart();
    s.asks.resumeAsks();
    expect(s.channel.read(other.contact, other.token, 0).messages.at(-1)?.text).toBe('unsure');
  });
});

describe('time', () => {
  it('silence by voice is a try, counted from when the bot has spoken', () => {
    live(
      scriptOf([
        choose('q', [choice('yes', '1')], { tries: 2, otherwise: toLine('n') }),
        end('x'),
        over('n', 'queue_newhire'),
      ]),
      'door_repairs',
    );
    const c = meet('door_repairs', '+353209140001');
    w.pass(5);
    expect(c.said()).toHaveLength(1);
    w.pass(10);
    expect(c.said().length).toBeGreaterThan(1);
    w.pass(30);
    expect(c.side().state).toBe('waiting');
  });
  it('who goes quiet in chat is reminded, then closed as gone quiet', () => {
    live({
      ...scriptOf([choose('q', [choice('yes', '1')]), end('x')]),
      quiet: { remindSeconds: 60, wording: en('Still there?'), closeSeconds: 90 },
    });
    const c = meet();
    w.pass(61);
    expect(c.said().at(-1)).toBe('Still there?');
    w.pass(91);
    expect(c.kept()?.endedHow).toBe('went-quiet');
    expect(eventsOf(c.contact, 'bot.finished')).toMatchObject([{ how: 'went-quiet', lineId: 'q' }]);
  });
  it('where somebody left is kept with the way they came', () => {
    live(scriptOf([choose('q', [choice('yes', '1')]), choose('r', [choice('no', '1')]), end('x')]));
    const c = meet();
    c.say('yes');
    s.channel.leave(c.contact, c.token);
    expect(eventsOf(c.contact, 'bot.finished')).toMatchObject([{ how: 'left', lineId: 'r', path: ['q>yes'] }]);
    expect(s.bots.traffic(lead(), c.kept()?.botId ?? '')).toEqual({ of: 1, ways: { 'q>yes': 1 }, left: { r: 1 } });
  });
  it('how conversations ended is counted by bot, of the last seven days only', () => {
    const botId = live(
      scriptOf([
        choose('q', [choice('person', '1', toLine('h')), choice('end', '2', toLine('x'))], { tries: 1 }),
        over('h', 'queue_newhire'),
        end('x', 'Bye'),
      ]),
    );
    for (const said of ['person', 'end', 'end']) meet('door_web', `g-${Math.random()}`).say(said);
    const gone = meet('door_web', 'g-left');
    s.channel.leave(gone.contact, gone.token);
    expect(s.bots.endings(lead())[botId]).toEqual({ of: 4, person: 1, finished: 2, left: 1 });
    w.pass(8 * 86_400);
    expect(s.bots.endings(lead())[botId]).toBeUndefined();
  });
});

describe('what a bot does besides talking', () => {
  it('texts now, and after the contact', () => {
    live(
      scriptOf([
        { id: 'a', verb: 'text-them', when: 'now', to: null, wording: en('Now') },
        { id: 'b', verb: 'text-them', when: 'after', to: null, wording: en('Later') },
        choose('q', [choice('yes', '1')]),
        end('x'),
      ]),
      'door_repairs',
    );
    const c = meet('door_repairs', '+353209140001');
    expect(readOutside(w.db, 9).map((m) => [m.address, m.body])).toEqual([['+353209140001', 'Now']]);
    c.press('1');
    expect(readOutside(w.db, 9).map((m) => m.body)).toEqual(['Later', 'Now']);
  });
  it('a message becomes work for a queue, with the customer’s words', () => {
    live(
      scriptOf([
        { id: 'm', verb: 'take-message', wording: en('After the tone'), queueId: 'queue_newhire' },
        end('x', 'Thanks'),
      ]),
      'door_repairs',
    );
    ready(tamsin());
    const c = meet('door_repairs', '+353209140001');
    c.say('This is Ida about my cello');
    expect(c.side()).toMatchObject({ state: 'waiting', call: 'message-left' });
    const offer = s.desk.view(tamsin(), 0).offer;
    expect(offer).toMatchObject({ queue: 'New hire', left: true, cost: 10 });
    take(tamsin());
    expect(s.desk.view(tamsin(), 0).contacts[0]?.messages.map((m) => m.text)).toContain('This is Ida about my cello');
  });
  it('hands over to a person by name, who is waited for, or to a group', () => {
    const odileId = odile().personId;
    live(
      scriptOf([
        over('h', '', {
          target: { to: 'person', person: { by: 'id', personId: odileId }, queueId: 'queue_newhire', off: toLine('g') },
        }),
        over('g', '', { target: { to: 'group', groupId: 'group_help', queueId: 'queue_newhire' } }),
      ]),
    );
    ready(tamsin());
    const off = meet('door_web', 'g1');
    expect(visitsOf(w.db, off.contact)[0]).toMatchObject({
      familiarId: null,
      opened: [{ to: 'group', id: 'group_help' }],
    });
    ready(odile());
    const there = meet('door_web', 'g2');
    expect(visitsOf(w.db, there.contact)[0]).toMatchObject({ familiarId: odileId });
  });
  it('only fields that were passed show at the Desk', () => {
    live(
      scriptOf([
        hear('a', { type: 'text' }, 'instrument'),
        hear('b', { type: 'text' }, 'problem'),
        over('h', 'queue_newhire', { fields: ['problem'] }),
      ]),
    );
    ready(tamsin());
    const c = meet();
    c.say('cello');
    c.say('peg slips');
    expect(s.desk.view(tamsin(), 0).offer?.fields).toEqual([{ label: 'What happened', value: 'peg slips' }]);
  });
  it('fields that a person fills in are noted at the Desk, read as their type', () => {
    const { id } = s.fields.save(lead(), {
      id: null,
      revision: 0,
      name: 'parts',
      label: 'Parts',
      private: true,
      reported: true,
      type: 'whole',
      filledBy: ['agent'],
    });
    live(scriptOf([over('h', 'queue_newhire')]));
    ready(tamsin());
    const c = meet();
    const legId = take(tamsin());
    const note = (name: string, value: string) => s.desk.act(tamsin(), { act: 'note', legId, name, value }, null);
    expect(codeOf(() => note('parts', 'many'))).toBe('not-valid');
    expect(codeOf(() => note('problem', 'x'))).toBe('not-valid');
    note('parts', '12 of them');
    note('workshop note', 'bring glue');
    expect(s.desk.view(tamsin(), 0).contacts[0]?.toFill).toEqual([
      { name: 'workshop note', label: 'Workshop note', type: 'text', value: 'bring glue' },
      { name: 'parts', label: 'Parts', type: 'whole', value: '12' },
    ]);
    expect(codeOf(() => s.desk.act(odile(), { act: 'note', legId, name: 'parts', value: '1' }, null))).toBe(
      'not-found',
    );
    expect(rows(w.db, 'SELECT * FROM contact_values WHERE contact_id = ?', c.contact)).toMatchObject([
      { name: 'workshop note' },
    ]);
    // A queue shows its own fields, in its own order.
    setQueueFields([id]);
    expect(s.desk.view(tamsin(), 0).contacts[0]?.toFill.map((f) => f.name)).toEqual(['parts']);
  });
  it('asks after the contact, keeps the answer, and ends', () => {
    ready(tamsin());
    const c = meet();
    c.say('a new hire');
    c.say('trumpet');
    const legId = take(tamsin());
    s.desk.act(tamsin(), { act: 'end', legId }, null);
    expect(c.side()).toMatchObject({ state: 'after' });
    expect(c.kept()?.endedHow).toBe('resolved');
    c.say('5');
    expect(c.side().state).toBe('ended');
    expect(rows(w.db, "SELECT value FROM contact_values WHERE contact_id = ? AND name = 'rating'", c.contact)).toEqual([
      { value: '5' },
    ]);
    expect(codeOf(() => c.say('more'))).toBe('closed');
  });
  it('a choice of language holds for the contact, and the tables are what the events say', () => {
    const c = meet('door_main', '+353209140009');
    c.press('2');
    expect(c.kept()?.language).toBe('es');
    const read = () => rows(w.db, 'SELECT * FROM contacts ORDER BY id');
    const before = read();
    replayAll(w.db);
    expect(read()).toEqual(before);
  });
});

describe('versions', () => {
  it('pin what they use: a shared scene changed later is met only from the next version on', () => {
    const { id: sharedId, revision } = s.botParts.saveShared(lead(), {
      id: null,
      revision: 0,
      name: 'Hello',
      inputs: [],
      steps: [say('m1', 'Old hello')],
    });
    const botId = live(
      scriptOf([{ id: 'p', verb: 'play', sharedId, inputs: [] }, choose('q', [choice('yes', '1')]), end('z', 'Bye')]),
    );
    s.botParts.saveShared(lead(), {
      id: sharedId,
      revision,
      name: 'Hello',
      inputs: [],
      steps: [say('m1', 'New hello')],
    });
    expect(meet('door_web', 'g1').said()[0]).toBe('Old hello');
    s.bots.publish(lead(), {
      id: botId,
      revision: readBot(w.db, botId)?.revision ?? 0,
      note: '',
      at: null,
      override: null,
    });
    expect(meet('door_web', 'g2').said()[0]).toBe('New hello');
    expect(readVersion(w.db, botId, 1)?.pinned.shared[0]?.steps[0]).toMatchObject({
      wording: { text: { en: 'Old hello' } },
    });
  });
  it('go live at an instant, or are called off', async () => {
    const view = s.bots.view(lead(), 'bot_evening');
    const at = w.now() + 3_600_000;
    expect(
      await s.bots.publish(lead(), {
        id: 'bot_evening',
        revision: view.bot.revision,
        note: 'tonight',
        at,
        override: null,
      }),
    ).toEqual({ version: 2 });
    expect(s.bots.view(lead(), 'bot_evening').bot).toMatchObject({ liveVersion: 1, planned: { version: 2, at } });
    w.pass(3601);
    expect(s.bots.view(lead(), 'bot_evening').bot).toMatchObject({ liveVersion: 2, planned: null });
    const next = s.bots.view(lead(), 'bot_evening').bot.revision;
    await s.bots.publish(lead(), {
      id: 'bot_evening',
      revision: next,
      note: '',
      at: w.now() + 9_000_000,
      override: null,
    });
    s.bots.callOff(lead(), { id: 'bot_evening' });
    w.pass(9001);
    expect(s.bots.view(lead(), 'bot_evening').bot.liveVersion).toBe(2);
    expect(
      await codeIn(() =>
        s.bots.publish(lead(), {
          id: 'bot_evening',
          revision: s.bots.view(lead(), 'bot_evening').bot.revision,
          note: '',
          at: w.now() - 1,
          override: null,
        }),
      ),
    ).toBe('not-valid');
  });
  it('a share of a door’s customers meets the one on trial, the same customer always the same', () => {
    const botId = live(scriptOf([choose('q', [choice('yes', '1')]), end('z', 'Bye')]));
    const { bot } = s.bots.view(lead(), botId);
    const { revision } = s.bots.save(lead(), {
      id: botId,
      revision: bot.revision,
      name: bot.name,
      draft: {
        ...bot.draft,
        scenes: [
          {
            id: 's1',
            name: 'S',
            steps: [choose('q', [choice('yes', '1')], { wording: en('On trial?') }), end('z', 'Bye')],
          },
        ],
      },
    });
    s.bots.publish(lead(), { id: botId, revision, note: '', at: null, override: null });
    s.bots.goLive(lead(), { id: botId, version: 1 });
    const { place: _p, byHand: _h, ...door } = readDoor(w.db, 'door_web') ?? { place: 0, byHand: null };
    s.doors.save(lead(), { ...door, trial: { version: 2, percent: 30 } });
    const met = (i: number) => meet('door_web', `guest-${i}`).said()[0] === 'On trial?';
    const first = Array.from({ length: 200 }, (_, i) => met(i));
    expect(first.filter(Boolean).length).toBeGreaterThan(35);
    expect(first.filter(Boolean).length).toBeLessThan(85);
    expect(Array.from({ length: 30 }, (_, i) => met(i))).toEqual(first.slice(0, 30));
    const { place: _q, ...again } = readDoor(w.db, 'door_web') ?? { place: 0 };
    expect(codeOf(() => s.doors.save(lead(), { ...again, trial: { version: 99, percent: 30 } }))).toBe('not-valid');
  });
});

describe('files', () => {
  it.each(['bot_front', 'bot_chat', 'bot_text', 'bot_schools', 'bot_repairs', 'bot_evening'])(
    '%s goes out and comes in as the same thing, and its tests pass',
    async (botId) => {
      const { text } = s.bots.file(lead(), botId);
      const { id } = await s.bots.bringIn(lead(), { text });
      const again = s.bots.view(lead(), id);
      expect(again.bot.draft).toEqual(s.bots.view(lead(), botId).bot.draft);
      expect(JSON.parse(s.bots.file(lead(), id).text)).toMatchObject({
        ...(JSON.parse(text) as object),
        name: again.bot.name,
      });
      for (const test of again.tests)
        expect([test.name, await s.botTrials.runTest(lead(), { id: test.id })]).toMatchObject([
          test.name,
          { passed: true, otherwise: [], turn: null },
        ]);
    },
  );
  it.each([
    ['{ "format": ', /^Line 1: /],
    ['[]', /^Line 1: /],
    ['{}', /^Line 1: /],
  ])('%j is refused with a line, and nothing changes', async (text, message) => {
    const before = s.bots.list(lead()).bots.length;
    await expect(s.bots.bringIn(lead(), { text })).rejects.toThrow(message);
    expect(s.bots.list(lead()).bots).toHaveLength(before);
  });
  it('a picture is kept once, is met by customers, and goes along with its bot into another workspace', async () => {
    const data = Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), Buffer.alloc(60, 7)]).toString('base64');
    const { id: imageId } = s.images.keep(lead(), { data });
    expect(s.images.keep(lead(), { data }).id).toBe(imageId);
    const botId = live(
      scriptOf([
        { ...say('a', 'On the label'), image: { imageId, alt: { en: 'A label' } } } as Step,
        choose('q', [choice('yes', '1')]),
        end('x'),
      ]),
    );
    const met = meet().side().messages[0];
    expect(met).toMatchObject({ text: 'On the label', image: { url: `/api/v1/images/${imageId}`, alt: 'A label' } });
    expect(s.images.read(imageId)).toMatchObject({ type: 'image/png', bytes: Buffer.from(data, 'base64') });
    const { text } = s.bots.file(lead(), botId);
    const other = makeWorld();
    try {
      const { id } = await other.services.bots.bringIn(handsIn(() => other).lead(), { text });
      expect(other.services.images.read(imageId).bytes.toString('base64')).toBe(data);
      expect(
        other.services.bots.view(handsIn(() => other).lead(), id).faults.filter((f) => f.check === 'gone'),
      ).toEqual([]);
      // Without its picture the file still comes in, and the checks name the line.
      const { images: _images, ...without } = JSON.parse(text) as { images: unknown };
      const bare = makeWorld();
      try {
        const there = await bare.services.bots.bringIn(handsIn(() => bare).lead(), { text: JSON.stringify(without) });
        expect(bare.services.bots.view(handsIn(() => bare).lead(), there.id).faults.map((f) => f.sentence)).toContain(
          '1.1 shows a picture that is not there any more.',
        );
      } finally {
        bare.close();
      }
    } finally {
      other.close();
    }
  });
  it.each([
    ['<svg xmlns="http://www.w3.org/2000/svg"><script/></svg>', /PNG, JPEG, GIF or WebP/],
    ['', /missing/],
  ])('%j is not kept as a picture', (content, why) =>
    expect(() => s.images.keep(lead(), { data: Buffer.from(content).toString('base64') })).toThrow(why),
  );
  it('a picture over 200 KB is not kept, and one that is not there is said so', () => {
    expect(() =>
      s.images.keep(lead(), {
        data: Buffer.concat([Buffer.from('GIF89a'), Buffer.alloc(200 * 1024)]).toString('base64'),
      }),
    ).toThrow(/200 KB/);
    expect(codeOf(() => s.images.read('image_none'))).toBe('not-found');
  });
  it('a fault deep within names the line it stands on', async () => {
    const { text } = s.bots.file(lead(), 'bot_text');
    const at = text.split('\n').findIndex((l) => l.includes('"tries": 2')) + 1;
    await expect(s.bots.bringIn(lead(), { text: text.replace('"tries": 2', '"tries": 20') })).rejects.toThrow(
      `Line ${at}: The tries must be at most 9`,
    );
  });
  it('the phrasebook goes out and comes in as the same thing, in both formats', async () => {
    const { book } = await s.phrasebook.view(lead());
    for (const kind of ['json', 'csv'] as const)
      expect(await s.phrasebook.readFile(lead(), { kind, text: s.phrasebook.file(lead(), kind).text })).toEqual({
        book,
      });
    expect(
      await s.phrasebook.readFile(lead(), { kind: 'csv', text: 'intent,language,phrase\r\nbuy_out,en,\r\n' }),
    ).toEqual({
      faults: [{ line: 2, what: 'A phrase has 1 to 300 characters.' }],
    });
    expect(
      await s.phrasebook.readFile(lead(), {
        kind: 'json',
        text: '{\n"intents": [\n{"id": "a", "examples": {"en": [7]}}\n]}',
      }),
    ).toEqual({ faults: [{ line: 3, what: 'Each phrase is a text of at most 300 characters that is not empty.' }] });
  });
  it('a table comes from CSV, ragged rows are named', async () => {
    expect(await s.botParts.readTableFile(lead(), { text: 'a;b\r\n1;2\r\n3' })).toEqual({
      columns: ['a', 'b'],
      rows: [
        ['1', '2'],
        ['3', ''],
      ],
    });
    await expect(s.botParts.readTableFile(lead(), { text: 'a,b\r\n1,2,3' })).rejects.toThrow('Row 2 has more cells');
  });
});

describe('fields', () => {
  it('the trail names where a field is set, passed and shown, and the link that is broken', async () => {
    const of = (name: string) => s.fields.view(lead()).fields.find((f) => f.name === name);
    expect(of('school name')?.broken).toBe('Nothing sets it.');
    expect(of('problem')).toMatchObject({
      broken: null,
      set: expect.arrayContaining([{ text: 'Repairs line 1.3', path: '/bots/bot_repairs?line=r_w3' }]) as unknown,
    });
    expect(of('rating')?.broken).toBeNull();
    const { id } = s.fields.save(lead(), {
      id: null,
      revision: 0,
      name: 'shoe size',
      label: 'Shoe size',
      private: false,
      reported: true,
      type: 'whole',
      filledBy: ['bot'],
    });
    expect(
      codeOf(() =>
        s.fields.save(lead(), {
          id,
          revision: 1,
          name: 'shoe size',
          label: 'Shoe size',
          private: true,
          reported: true,
          type: 'whole',
          filledBy: ['bot'],
        }),
      ),
    ).toBe('not-valid');
    const removed = (fieldId: string) => s.removing.remove(lead(), { kind: 'field', id: fieldId, instead: null });
    expect(await removed(id)).toMatchObject({ retired: false });
    await expect(removed('field_hire')).rejects.toMatchObject({ code: 'not-now' });
  });
});

describe('undoing', () => {
  const undo = (kind: string) => {
    const line = s.history.view(lead(), { kind }).lines.find((l) => l.canUndo);
    return s.history.undo(lead(), { id: line?.id });
  };
  it('a test, a connector, an article, a field and the phrasebook come back from History', async () => {
    const test = s.bots.view(lead(), 'bot_text').tests[0];
    s.botTrials.removeTest(lead(), { id: test?.id });
    undo('bot-test');
    expect(s.bots.view(lead(), 'bot_text').tests.map((t) => t.name)).toContain(test?.name);
    s.botParts.remove(lead(), { kind: 'article', id: 'article_deposit' });
    expect(s.botParts.askArticles(lead(), { question: 'the deposit', language: 'en' }).found?.title).not.toBe(
      'The deposit',
    );
    undo('article');
    expect(s.botParts.askArticles(lead(), { question: 'the deposit', language: 'en' }).found?.title).toBe(
      'The deposit',
    );
    const table = s.botParts.connections(lead()).tables[0];
    s.botParts.saveTable(lead(), {
      id: table?.id,
      revision: table?.revision,
      name: 'Places',
      columns: table?.columns,
      rows: [],
    });
    undo('table');
    expect(s.botParts.connections(lead()).tables[0]).toMatchObject({ name: 'Sites', rows: table?.rows });
    const { book, revision } = await s.phrasebook.view(lead());
    await s.phrasebook.save(lead(), { revision, book: withoutIntent(book, book.intents[0]?.id ?? '') });
    undo('phrasebook');
    expect((await s.phrasebook.view(lead())).book).toEqual(book);
    await s.removing.remove(lead(), { kind: 'field', id: 'field_school', instead: null });
    undo('field');
    expect(s.fields.view(lead()).fields.map((f) => f.name)).toContain('school name');
  });
});

describe('articles', () => {
  it('are found by the customer’s words in their language; nothing fits is said', () => {
    const ask = (question: string, language = 'en') =>
      s.botParts.askArticles(lead(), { question, language }).found?.title ?? null;
    expect(ask('When do I get my deposit back?')).toBe('The deposit');
    expect(ask('what are your opening hours')).toBe('Opening hours');
    expect(ask('¿cuándo se devuelve la fianza?', 'es')).toBe('La fianza');
    expect(ask('who won the football')).toBeNull();
    expect(ask('"; DROP TABLE articles --')).toBeNull();
  });
  it('a change shows which kept questions go elsewhere, and keeping it makes it so', async () => {
    const save = (more: object) =>
      s.botParts.saveArticle(lead(), {
        id: null,
        revision: 0,
        language: 'en',
        name: 'Vans',
        text: 'Vans park behind the shop.',
        ...more,
      });
    const vans = save({ asks: ['where can I park my van'], lookAgain: '2026-12-24' });
    const fresh = {
      name: 'Parking',
      language: 'en',
      text: 'Park a van, park a car: parking is free, vans too.',
      asks: ['where is the parking'],
    };
    const effect = await s.reading('article-effect', lead(), { id: null, ...fresh });
    expect(effect).toMatchObject({ of: 2, before: 1, after: 1 });
    expect(effect.elsewhere.map((q) => [q.should, q.before, q.after])).toEqual([
      ['Vans', 'Vans', 'Parking'],
      ['Parking', null, 'Parking'],
    ]);
    expect(s.botParts.articles(lead()).articles.some((a) => a.name === 'Parking')).toBe(false);
    save(fresh);
    expect(s.botParts.askArticles(lead(), { question: 'where can I park my van', language: 'en' }).found?.title).toBe(
      'Parking',
    );
    // From its day on it is to be looked at again.
    const due = () => s.botParts.articles(lead()).articles.find((a) => a.id === vans.id)?.due;
    const told = () =>
      s.toFix
        .view(lead())
        .findings.filter((f) => f.about === 'Vans')
        .map((f) => f.says);
    expect([due(), told()]).toEqual([false, []]);
    w.at(Date.parse('2026-12-24T08:00:00Z'));
    expect([due(), told()]).toEqual([true, ['This article was to be looked at again on 2026-12-24.']]);
  });
  it('are judged by what was asked of them, what followed, and what none fitted', async () => {
    live(
      scriptOf([
        {
          id: 'a',
          verb: 'articles',
          wording: { text: { en: 'Ask me anything' } },
          tries: 3,
          silenceSeconds: 60,
          done: toLine('d'),
          nothing: toLine('h'),
        },
        end('d', 'Goodbye'),
        over('h', 'queue_newhire'),
      ]),
    );
    const again = meet('door_web', 'guest-1');
    for (const words of ['when do I get my deposit back', 'the deposit', 'thanks']) again.say(words);
    const lost = meet('door_web', 'guest-2');
    for (const words of ['lodging for a zebra', 'my zebra needs lodging', 'zebra lodging']) lost.say(words);
    const { articles, nothing, asked, nothingTotal } = await s.reading('article-questions', lead(), {});
    expect([asked, nothingTotal]).toEqual([5, 3]);
    expect(articles).toMatchObject([
      { title: 'The deposit', asked: 2, followed: { 'asked-again': 1, ended: 1, person: 0, open: 0 } },
    ]);
    expect(nothing).toMatchObject([{ times: 3, language: 'en' }]);
    // What is older is not looked at, and an article that was removed is told as that.
    await s.botParts.remove(lead(), { kind: 'article', id: articles[0]?.id });
    expect((await s.reading('article-questions', lead(), {})).articles[0]?.title).toBeNull();
    w.at(w.now() + 8 * 86_400_000);
    expect((await s.reading('article-questions', lead(), { days: '7' })).asked).toBe(0);
    await expect(s.reading('article-questions', lead(), { days: '1000' })).rejects.toMatchObject({ code: 'not-valid' });
  });
});

describe('a draft that is saved as it is written', () => {
  it('is one line of History for a sitting of one person, undone in the script; another person, a pause or a version ends it', () => {
    const id = live(scriptOf([end('x', 'Bye')]));
    const lines = () => s.history.view(lead(), {}).lines.filter((l) => l.kind === 'bot' && l.thing !== '');
    const began = lines().length;
    const write = (words: string, who = lead()) => {
      const bot = readBot(w.db, id);
      if (!bot) throw new Error('no bot');
      const draft = { ...scriptOf([end('x', words)]), fallbackQueueId: 'queue_newhire' };
      s.bots.save(who, { id, revision: bot.revision, name: bot.name, draft });
    };
    for (const words of ['B', 'By', 'Bye n', 'Bye now']) {
      w.at(w.now() + 60_000);
      write(words);
    }
    expect(lines().length).toBe(began + 1);
    // From what it was before the sitting to what it came to.
    expect(JSON.stringify(lines()[0]?.changes)).toMatch(/Bye now/);
    write('Bye then', owner());
    expect(lines().length).toBe(began + 2);
    write('Goodbye');
    expect(lines().length).toBe(began + 3);
    w.at(w.now() + 16 * 60_000);
    write('So long');
    expect(lines().length).toBe(began + 4);
    s.bots.publish(lead(), { id, revision: readBot(w.db, id)?.revision, note: '', at: null, override: null });
    write('So long, then');
    expect(lines().length).toBe(began + 5);
  });
});

describe('a shared scene', () => {
  it('kept as it is written is one line of History, and what is wrong with it comes back with each save', () => {
    let next = 0;
    const lines = () =>
      rows(w.db, "SELECT 1 FROM history WHERE kind = 'shared-scene' AND thing_id = ?", made.id).length;
    const steps = readyScene('call-back', { callsId: 'queue_repairs', queueId: 'queue_newhire' }, () => `n${++next}`);
    const made = s.botParts.saveShared(lead(), { id: null, revision: 0, name: 'Later', inputs: [], steps });
    expect(made.faults.filter((f) => f.weight === 'stops')).toEqual([]);
    const save = (revision: number, change: object) =>
      s.botParts.saveShared(lead(), { id: made.id, revision, name: 'Later', inputs: [], steps, ...change });
    const second = save(made.revision, { name: 'Much later' });
    const third = save(second.revision, { steps: steps.slice(0, 1).map((x) => ({ ...x, queueId: 'queue_x' })) });
    expect(third.faults.map((f) => f.check)).toContain('gone');
    expect(lines()).toBe(1);
    w.at(w.now() + 16 * 60_000);
    save(third.revision, {});
    expect(lines()).toBe(2);
    expect(codeOf(() => save(second.revision, {}))).toBe('changed-meanwhile');
  });
});

describe('figures of a queue in a bot', () => {
  const count = (id: string, figure: Figure, within: number | null): Step => ({
    id,
    verb: 'count',
    queue: { by: 'name', queueId: 'queue_repairs' },
    figure,
    ...(within === null ? {} : { within }),
    into: { name: id, scope: 'conversation' },
    unknown: toLine('unknown'),
  });
  const places = ['now', 'soon', 'ever'] as const;
  const counting = (needs: Choice['needs']) =>
    scriptOf([
      choose('q', [choice('yes', '1', NEXT, needs ? { needs } : {})]),
      count('now', 'able', 0),
      count('soon', 'able', 20),
      count('ever', 'able', null),
      {
        id: 'b',
        verb: 'branch',
        ways: [{ when: { '>': [{ var: 'queue.queue_repairs.able:0' }, 0] }, cue: toLine('free') }],
        otherwise: NEXT,
      },
      end('later', `later ${places.map((p) => `{${p}}`).join(' ')}`),
      end('free', `free ${places.map((p) => `{${p}}`).join(' ')}`),
      count('wait', 'expectedWait', null),
      end('told', 'wait {wait}'),
      end('unknown', 'nobody knows'),
    ]);
  const answer = () => {
    const c = meet('door_web', `guest-${Math.random()}`);
    c.say('yes');
    return c.said().at(-1);
  };
  const profile = (id: string) => {
    const found = readProfile(w.db, id);
    if (!found) throw new Error(id);
    return found;
  };
  const onChat = (id: string, delaySeconds: number) => {
    const was = profile(id);
    const rows = was.rows.filter((r) => r.queueId !== 'queue_repairs' || r.channel !== 'chat');
    const row = { queueId: 'queue_repairs', channel: 'chat' as const, band: 1 as const, delaySeconds };
    s.duty.saveProfile(lead(), { ...was, rows: [...rows, row] });
  };
  const repairs = (change: Partial<QueueSettings>) =>
    s.queues.save(lead(), queueInput(readQueue(w.db, 'queue_repairs'), change));
  it('speak of what the contact needs, of people who join later, and of what a stage no longer asks for', () => {
    repairs({ needs: [{ skillId: 'skill_triage', atLeast: 2 }], clocks: {} });
    onChat('profile_front', 20);
    s.levels.setLevels(lead(), {
      changes: [
        { personId: tamsin().personId, skillId: 'skill_triage', level: 2 },
        { personId: tamsin().personId, skillId: 'skill_es', level: 'never' },
      ],
    });
    live(counting(undefined));
    expect(answer()).toBe('later 0 0 0');
    ready(tamsin());
    expect(answer()).toBe('later 0 1 1');
    // She knows too little at first, and enough once a stage asks for less.
    s.levels.setLevels(lead(), { changes: [{ personId: tamsin().personId, skillId: 'skill_triage', level: 1 }] });
    expect(answer()).toBe('later 0 0 0');
    const lower = { does: 'lower', skillId: 'skill_triage', by: 1 } as const;
    repairs({ clocks: { chat: [{ atSeconds: 60, early: false, acts: [lower] }] } });
    expect(answer()).toBe('later 0 0 1');
    onChat('profile_front', 0);
    repairs({ clocks: {}, needs: [] });
    expect(answer()).toBe('free 1 1 1');
    // What the customer chose needs Spanish, which she has not.
    live(counting([{ skillId: 'skill_es', atLeast: 2 }]));
    expect(answer()).toBe('later 0 0 0');
  });
  it('say how long it will take as nothing while somebody is able, and go another way where nobody knows', () => {
    repairs({ needs: [], clocks: {} });
    onChat('profile_front', 0);
    live(scriptOf([choose('q', [choice('yes', '1')]), ...(counting(undefined).scenes[0]?.steps.slice(-3) ?? [])]));
    expect(answer()).toBe('nobody knows');
    ready(tamsin());
    expect(answer()).toBe('wait 0');
  });
});
