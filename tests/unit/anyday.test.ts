import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { ERRORS } from '../../src/core/errors';
import { replayAll } from '../../src/data/events';
import type { Actor } from '../../src/services/ground/actor';
import { handsIn } from '../helpers/hands';
import { sized } from '../helpers/size';
import { codeOf, makeWorld, type World } from '../helpers/world';
import { STAND_IN } from '../../src/services/contacts/speaker';

/** Any day at the Desk: two agents and a few customers do whatever comes to them, in any order, while time passes. */
let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());
const { tamsin, odile, ready } = handsIn(() => w);
const desk = (who: Actor) => w.services.desk.view(who, 0);

type Customer = { readonly contact: string; readonly token: string; seen: number };
type Step =
  | { readonly do: 'arrive'; readonly door: string; readonly from: number }
  | { readonly do: 'customer'; readonly which: number; readonly text: string }
  | { readonly do: 'leave'; readonly which: number }
  | { readonly do: 'wait'; readonly seconds: number }
  | { readonly do: 'agent'; readonly who: 0 | 1; readonly act: string; readonly which: number };

const step: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 3,
    arbitrary: fc.record({
      do: fc.constant('arrive' as const),
      door: fc.constantFrom('door_web', 'door_sms', 'door_main'),
      from: fc.nat(3),
    }),
  },
  {
    weight: 6,
    arbitrary: fc.record({
      do: fc.constant('customer' as const),
      which: fc.nat(5),
      text: fc.constantFrom('a new hire', 'trumpet', 'a repair', '204816', '1', '2', 'a person', '…', 'thank you'),
    }),
  },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('leave' as const), which: fc.nat(5) }) },
  {
    weight: 2,
    arbitrary: fc.record({ do: fc.constant('wait' as const), seconds: fc.constantFrom(1, 5, 21, 60, 400, 1800) }),
  },
  {
    weight: 8,
    arbitrary: fc.record({
      do: fc.constant('agent' as const),
      who: fc.constantFrom(0 as const, 1 as const),
      act: fc.constantFrom(
        'accept',
        'accept',
        'decline',
        'say',
        'say',
        'end',
        'file',
        'finish',
        'pass-on',
        'note',
        'ready',
        'away',
        'off',
      ),
      which: fc.nat(3),
    }),
  },
);

/** To a person, a queue or a group that could take it, where there is one. */
function passedTo(who: Actor, legId: string | null, which: number): object {
  if (legId === null) return { queueId: 'queue_billing' };
  const { people, queues, groups } = w.services.desk.targets(who, legId);
  const [person, queue, group] = [people[which], queues[which], groups[which]];
  if (which === 0 && person) return { queueId: person.queueId, personId: person.id };
  if (which === 1 && group) return { queueId: queue?.id ?? 'queue_billing', groupId: group.id };
  return { queueId: queue?.id ?? 'queue_billing' };
}

/** What an agent sends for an act, about one of the contacts they have, or one they have not. */
function input(who: Actor, act: string, which: number): object {
  const view = desk(who);
  const leg = view.contacts[which % Math.max(1, view.contacts.length)];
  const legId = leg?.legId ?? 'leg_nobody';
  switch (act) {
    case 'accept':
    case 'decline':
      return { act, offerId: view.offer?.offerId ?? 'offer_nobody' };
    case 'say':
      return { act, legId, text: 'One moment, please.' };
    case 'file':
      return { act, legId, code: leg?.outcomes[which % Math.max(1, leg.outcomes.length)]?.code ?? 'NOTHING' };
    case 'pass-on':
      return { act, legId, note: 'Please look', ...passedTo(who, leg?.talking ? legId : null, which) };
    case 'note':
      return { act, legId, name: leg?.toFill[0]?.name ?? 'nothing', value: 'noted' };
    case 'ready':
    case 'away':
    case 'off':
      return { act: 'duty', duty: act };
    default:
      return { act, legId };
  }
}

/** What must hold whatever has happened. */
function holds(customers: readonly Customer[]): void {
  const count = (sql: string) => (w.db.prepare(sql).get() as { n: number }).n;
  // Nobody talks to two people at once, and nobody is asked twice.
  expect(
    count(
      'SELECT count(*) AS n FROM (SELECT contact_id FROM legs WHERE talk_ended_at IS NULL GROUP BY contact_id HAVING count(*) > 1)',
    ),
  ).toBe(0);
  expect(
    count(
      'SELECT count(*) AS n FROM (SELECT person_id FROM offers WHERE ended_at IS NULL GROUP BY person_id HAVING count(*) > 1)',
    ),
  ).toBe(0);
  // Every contact is over, with a bot, waiting, or with somebody: none has fallen between.
  for (const c of customers) {
    const side = w.services.channel.read(c.contact, c.token, 0);
    expect(side.messages.map((m) => m.seq)).toEqual([...side.messages.map((m) => m.seq)].sort((a, b) => a - b));
    expect(side.messages.length).toBeGreaterThanOrEqual(c.seen);
    c.seen = side.messages.length;
    const open = w.db
      .prepare(
        'SELECT (SELECT count(*) FROM visits WHERE contact_id = :id AND ended_at IS NULL) AS waits, (SELECT count(*) FROM legs WHERE contact_id = :id AND talk_ended_at IS NULL) AS talks',
      )
      .get({ id: c.contact }) as { waits: number; talks: number };
    if (side.state === 'waiting') expect([side.state, open.waits]).toEqual(['waiting', 1]);
    if (side.state === 'talking') expect([side.state, open.talks]).toEqual(['talking', 1]);
    if (side.state === 'ended') expect([side.state, open.waits, open.talks]).toEqual(['ended', 0, 0]);
  }
  for (const person of w.services.floor.router.floor.people.values()) {
    const used = [...person.open.values()].reduce((sum, leg) => sum + (leg.resting ? 0 : leg.cost), 0);
    expect(used).toBeLessThanOrEqual(100);
  }
}
const floorNow = () =>
  JSON.stringify(
    [...w.services.floor.router.floor.people.values()].map((p) => [
      p.id,
      p.duty,
      [...p.open.keys()].sort(),
      p.pending?.offerId ?? null,
    ]),
  );

describe('any day at the Desk', () => {
  it('every act is done or refused in a sentence, nobody is lost or doubled, and what is kept says the same', () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 10, maxLength: 45 }), (steps) => {
        w.close();
        w = makeWorld();
        const agents = [tamsin(), odile()] as const;
        agents.forEach((a) => ready(a));
        const customers: Customer[] = [];
        for (const s of steps) {
          const customer = 'which' in s ? customers[s.which % Math.max(1, customers.length)] : undefined;
          const code = codeOf(() => {
            if (s.do === 'arrive')
              customers.push({
                ...w.services.channel.start(STAND_IN, { door: s.door, from: `+35320911${4000 + s.from}` }, null),
                seen: 0,
              });
            else if (s.do === 'wait') w.pass(s.seconds);
            else if (s.do === 'agent') w.services.desk.act(agents[s.who], input(agents[s.who], s.act, s.which), null);
            else if (!customer) return;
            else if (s.do === 'leave') w.services.channel.leave(customer.contact, customer.token);
            else w.services.channel.say(customer.contact, customer.token, { text: s.text }, null);
          });
          if (code !== 'none') expect([s, code in ERRORS]).toEqual([s, true]);
          holds(customers);
        }
        // A start finds the floor as it was, and the log makes the same tables again.
        const floor = floorNow();
        w.services.floor.resume();
        expect(floorNow()).toBe(floor);
        const tables = () =>
          ['contacts', 'visits', 'offers', 'legs'].map((t) => w.db.prepare(`SELECT * FROM ${t} ORDER BY id`).all());
        const before = tables();
        replayAll(w.db);
        expect(tables()).toEqual(before);
      }),
      { numRuns: sized({ quick: 4, usual: 25, long: 250 }), seed: 7 },
    );
  });
});

describe('the same act twice', () => {
  it('with one key happens once, whatever the act; with another it is a new one', () => {
    const who = tamsin();
    ready(who);
    const { channel } = w.services;
    const begun = channel.start(STAND_IN, { door: 'door_web', from: 'guest-1' }, null);
    for (const text of ['a new hire', 'trumpet']) channel.say(begun.contact, begun.token, { text }, null);
    const accept = { act: 'accept', offerId: desk(who).offer?.offerId };
    const first = w.services.desk.act(who, accept, 'key-1');
    expect(w.services.desk.act(who, accept, 'key-1')).toEqual(first);
    expect(codeOf(() => w.services.desk.act(who, accept, 'key-2'))).toBe('not-now');
    const say = { act: 'say', legId: first.legId, text: 'Hello' };
    const said = () => desk(who).contacts[0]?.messages.filter((m) => m.text === 'Hello').length;
    w.services.desk.act(who, say, 'key-3');
    w.services.desk.act(who, say, 'key-3');
    expect(said()).toBe(1);
    expect(codeOf(() => w.services.desk.act(who, { ...say, text: 'Bye' }, 'key-3'))).toBe('not-valid');
    // Somebody else's key is not ours.
    expect(codeOf(() => w.services.desk.act(odile(), say, 'key-3'))).toBe('not-found');
    w.services.desk.act(who, say, 'key-4');
    expect(said()).toBe(2);
  });
  it.each(['constructor', '__proto__', 'toString', 'hasOwnProperty', '', 'fly', null, 7, ['say']])(
    'an act called %j is none',
    (act) => {
      expect(codeOf(() => w.services.desk.act(tamsin(), { act, legId: 'x', text: 'y' }, null))).toBe('not-valid');
    },
  );
  it('what belongs to somebody else is not there, whoever asks and however', () => {
    const who = tamsin();
    ready(who);
    const { channel } = w.services;
    const begun = channel.start(STAND_IN, { door: 'door_web', from: 'guest-1' }, null);
    for (const text of ['a new hire', 'trumpet']) channel.say(begun.contact, begun.token, { text }, null);
    const offerId = desk(who).offer?.offerId;
    expect(codeOf(() => w.services.desk.act(odile(), { act: 'accept', offerId }, null))).toBe('not-now');
    const { legId } = w.services.desk.act(who, { act: 'accept', offerId }, null);
    for (const act of [
      { act: 'say', legId, text: 'I was not asked' },
      { act: 'end', legId },
      { act: 'file', legId, code: 'HIRE' },
      { act: 'finish', legId },
      { act: 'note', legId, name: 'x', value: 'y' },
      { act: 'pass-on', legId, queueId: 'queue_billing' },
    ])
      expect([act.act, codeOf(() => w.services.desk.act(odile(), act, null))]).toEqual([act.act, 'not-found']);
    for (const token of [null, '', 'x', begun.token.slice(1), `${begun.token}x`])
      expect([token, codeOf(() => channel.read(begun.contact, token, 0))]).toEqual([token, 'bad-token']);
    expect(codeOf(() => channel.read('contact_nobody', begun.token, 0))).toBe('not-found');
  });
});
