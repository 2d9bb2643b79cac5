import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { end, lookUp, scriptOf } from '../../../tests/helpers/scripts';
import { beginning } from '../bots/conversation';
import type { BotScript } from '../bots/model';
import { prepare } from '../bots/program';
import { LaneError } from '../errors';
import { newVisit } from '../routing/visit';
import { QUEUE_DEFAULTS, type QueueSettings } from '../routing/queue';
import type { ContactAct } from './acts';
import type { Callback, ContactNow, ContactWorld, LegNow } from './contact';
import type { ContactEvent } from './events';
import { closedWords } from './closed';
import { step } from './machine';

const NOW = Date.parse('2026-11-17T10:00:00Z');
const QUEUE: QueueSettings = {
  ...QUEUE_DEFAULTS,
  id: 'q',
  name: 'Repairs',
  channels: ['voice', 'chat'],
  wrapUp: { seconds: 30, mayFinishEarly: true, needsOutcome: false },
  connect: { toAgent: {}, toCustomer: { en: 'You are with {name}.' } },
  clocks: {
    chat: [
      {
        atSeconds: 0,
        early: false,
        acts: [
          {
            does: 'ask',
            wording: { en: 'Place {place}' },
            choices: [
              { key: '2', what: 'callback' },
              { key: '3', what: 'message' },
            ],
            everySeconds: null,
          },
        ],
      },
    ],
  },
};
const SCRIPT: BotScript = {
  shownName: 'Bot',
  picture: '',
  languages: ['en'],
  fallbackQueueId: 'q',
  fallbackWording: { text: {} },
  afterSceneId: null,
  quiet: { remindSeconds: 60, closeSeconds: 60, wording: { text: {} } },
  scenes: [
    {
      id: 's1',
      name: 'First',
      steps: [
        { id: 'hi', verb: 'say', wording: { text: { en: 'Hello' } }, mayInterrupt: true, link: null },
        {
          id: 'over',
          verb: 'hand-over',
          target: { to: 'queue', queueId: 'q' },
          needs: [],
          priority: 0,
          fields: [],
          wording: { text: {} },
        },
      ],
    },
  ],
};

const world = (more: Partial<ContactWorld> = {}): ContactWorld => ({
  now: NOW,
  local: '2026-11-17T10:00',
  zone: 'UTC',
  languages: ['en'],
  country: 'IE',
  newId: (prefix) => `${prefix}_1`,
  queues: () => [QUEUE],
  queueOfVisit: () => QUEUE,
  pastVisit: () => ({ queueId: 'q', kind: 'live', placedAt: NOW - 60_000, handOver: [], priority: 2 }),
  ahead: () => ({ place: 3, seconds: 90 }),
  bot: () => ({ program: prepare(SCRIPT, [], null, 'IE'), connectors: new Map() }),
  mended: (_bot, version) => version,
  liveVersion: () => 1,
  saying: () => 2,
  isOnDuty: () => false,
  botAskedFor: () => ({ bot: null, language: null, elsewhere: null }),
  answer: () => null,
  valuesKnown: () => ({}),
  isField: () => true,
  isPrivate: () => false,
  isProven: () => false,
  isCode: (_number, code) => code === '123456',
  callWindows: () => [],
  doorAddress: () => '+353209110100',
  shownName: () => 'Tamsin',
  signs: () => [],
  inFront: () => null,
  report: () => undefined,
  ...more,
});
const contact = (more: Partial<ContactNow> = {}): ContactNow => ({
  id: 'c',
  doorId: 'd',
  channel: 'chat',
  customer: { address: 'guest', name: null, vouched: false },
  language: 'en',
  bot: null,
  endedAt: null,
  place: null,
  asking: null,
  visit: null,
  legs: [],
  callback: null,
  leftFor: null,
  outsideCallId: null,
  ...more,
});
const waiting = (callback = false) => {
  const { visit } = newVisit(
    QUEUE,
    1,
    1,
    {
      id: 'v',
      contactId: 'c',
      queueId: 'q',
      channel: 'chat',
      placedAt: NOW - 60_000,
      handOver: [],
      priority: 0,
      familiarId: null,
      personId: null,
      kind: callback ? 'callback' : 'live',
      because: '',
      passed: [],
      opens: null,
    },
    NOW - 60_000,
  );
  return { ...visit, stage: 1 };
};
const leg = (more: Partial<LegNow> = {}): LegNow => ({
  id: 'l',
  personId: 'p',
  visitId: 'v',
  acceptedAt: NOW - 100_000,
  talkEndedAt: null,
  outcome: null,
  line: 'open',
  ...more,
});
const promised = (more: Partial<Callback> = {}): Callback => ({
  id: 'cb',
  contactId: 'c',
  queueId: 'q',
  number: '+353209140044',
  placedAt: NOW - 60_000,
  askedAt: NOW - 60_000,
  fromAt: NOW - 60_000,
  untilAt: null,
  expiresAt: NOW + 86_400_000,
  attempts: 1,
  nextAt: null,
  state: 'dialling',
  callId: 'l',
  reachedAt: null,
  endedAt: null,
  outcome: null,
  needs: [],
  priority: 0,
  most: null,
  ...more,
});
const does = (now: ContactNow, event: ContactEvent, where = world()) => step(now, where, event);
const kinds = (acts: readonly ContactAct[]) => acts.map((a) => a.do);

const CLOSED = { wording: { en: 'We are closed.' }, languages: ['en'], opensAt: null, zone: 'UTC', reason: {} };

describe('a contact’s way', () => {
  it('comes in: closed, to its bot, or to people where there is none', () => {
    const begins = (open: boolean): ContactEvent => ({
      type: 'begins',
      closed: open ? null : { said: [CLOSED], then: { does: 'end' } },
      meets: { by: 'bot' },
      elsewhere: 'q',
    });
    expect(does(contact(), begins(false))).toMatchObject([
      { do: 'bot-says', text: 'We are closed.' },
      { do: 'end', how: 'closed-by-us' },
    ]);
    expect(kinds(does(contact({ bot: { id: 'b', version: 1 } }), begins(true)))).toEqual([
      'bot-says',
      'pass-fields',
      'bot-over',
      'enter',
      'place',
    ]);
    expect(does(contact(), begins(true), world({ bot: () => null }))).toMatchObject([
      { do: 'enter', queueId: 'q', because: 'the door’s bot has never been published' },
    ]);
  });
  it.each([
    ['en', Date.UTC(2026, 10, 30, 17), '17:00'],
    ['en', Date.UTC(2026, 11, 1, 9), 'Tuesday 09:00'],
    ['fr', Date.UTC(2026, 11, 1, 9), 'mardi à 09:00'],
    ['fr', Date.UTC(2026, 11, 24, 9), 'jeudi 24 décembre à 09:00'],
    ['pl', null, 'później'],
  ])('closed, in %s, a door says when it opens again: %s', (language, opensAt, words) => {
    const closed = { ...CLOSED, wording: { en: 'Back {opens}!' }, opensAt };
    // Intl’s own words between the parts differ from version to version: what matters is in them.
    const said = closedWords(closed, Date.UTC(2026, 10, 30, 12), language);
    expect(said.replace(/ (at|à|,)|,/g, '')).toBe(`Back ${words.replace(/ (at|à|,)|,/g, '')}!`);
  });
  it('a bot that breaks costs its customer the bot, nothing else', () => {
    const told: unknown[] = [];
    const asking = scriptOf([lookUp('look', { source: { from: 'table', tableId: 't' } }), end('bye')]);
    const acts = does(
      contact({ bot: { id: 'b', version: 1 } }),
      { type: 'begins', closed: null, meets: { by: 'bot' }, elsewhere: null },
      world({
        bot: () => ({ program: prepare({ ...asking, fallbackQueueId: 'q' }, [], null, 'IE'), connectors: new Map() }),
        answer: () => {
          throw new Error('the table broke');
        },
        report: (error) => told.push(error),
      }),
    );
    expect(told).toMatchObject([{ message: 'the table broke' }]);
    expect(acts).toContainEqual(expect.objectContaining({ do: 'bot-over', how: 'failed' }));
    expect(acts).toContainEqual(expect.objectContaining({ do: 'enter', queueId: 'q' }));
  });
  it('a version that is not there any more sends what was said, and the contact, to people', () => {
    const place = { ...beginning('en'), lineId: 'hi', status: 'listening' as const };
    const now = contact({ bot: { id: 'b', version: 9 }, place });
    expect(
      does(now, { type: 'customer-says', input: { type: 'text', text: 'hello' } }, world({ bot: () => null })),
    ).toMatchObject([
      { do: 'customer-said', text: 'hello' },
      { do: 'place', place: null },
      { do: 'bot-over', how: 'failed', because: 'its version is not there any more' },
      { do: 'enter', queueId: 'q' },
    ]);
    expect(now.place).toBeNull();
  });
  it('while it waits: a question is asked, answered by key or word, and a message is taken', () => {
    const visit = waiting();
    const [stage] = QUEUE.clocks.chat ?? [];
    const [act] = stage?.acts ?? [];
    if (!act) throw new Error('no act');
    expect(does(contact({ visit }), { type: 'stage', visit, act })).toMatchObject([
      { do: 'bot-says', text: 'Place 3 2 be called back, 3 leave a message.' },
    ]);
    const says = (text: string, now = contact({ visit })) =>
      does(now, { type: 'customer-says', input: { type: 'text', text } });
    expect(kinds(says('something else'))).toEqual(['customer-said', 'wake']);
    const now = contact({ visit });
    expect(kinds(says('3', now))).toEqual(['customer-said', 'leave', 'bot-says', 'asking', 'remind']);
    expect(now.asking).toEqual({ kind: 'message', queueId: 'q', needs: [] });
    expect(kinds(says('please ring me', now))).toEqual([
      'customer-said',
      'asking',
      'forget',
      'message-left',
      'bot-says',
      'message-left',
      'enter',
    ]);
    // It stands in line as what it is, and more words are added to it.
    expect([now.endedAt, now.leftFor]).toEqual([null, null]);
    expect(kinds(says('and my name is Ida', now))).toEqual(['customer-said', 'wake']);
    // Where nobody takes the channel any more it ends as a message.
    const lost = contact({ asking: { kind: 'message', queueId: 'q' } });
    expect(
      kinds(does(lost, { type: 'customer-says', input: { type: 'text', text: 'x' } }, world({ queues: () => [] }))).at(
        -1,
      ),
    ).toBe('end');
    expect(lost.endedAt).toBe(NOW);
  });
  it('with a person: taken, passed on, ended, filed; wrap-up lasts as the queue says', () => {
    const visit = waiting();
    expect(does(contact(), { type: 'taken', visit, legId: 'l', personId: 'p' })).toMatchObject([
      { do: 'bot-says', text: 'You are with Tamsin.' },
    ]);
    expect(does(contact({ legs: [leg()] }), { type: 'talk-ends', legId: 'l', how: 'resolved' })).toMatchObject([
      { do: 'wrap-up', passedOn: false },
      { do: 'end', how: 'resolved' },
      { do: 'remind-real', timer: 'wrap-up-ends', seconds: 30 },
    ]);
    expect(does(contact({ legs: [leg()] }), { type: 'passed-on', legId: 'l', queueId: 'q' })).toMatchObject([
      { do: 'wrap-up', passedOn: true },
      { do: 'leg-over', outcome: null },
      { do: 'forget', timer: 'wrap-up-ends' },
      { do: 'enter', queueId: 'q', placedAt: NOW },
    ]);
    const exactly = world({
      queueOfVisit: () => ({ ...QUEUE, wrapUp: { seconds: 20, mayFinishEarly: false, needsOutcome: false } }),
    });
    const now = contact({ legs: [leg({ talkEndedAt: NOW - 5000 })], endedAt: NOW - 5000 });
    expect(kinds(does(now, { type: 'outcome', legId: 'l', outcome: 'DONE' }, exactly))).toEqual(['file']);
    expect(() => does(now, { type: 'wrap-up-ends', legId: 'l' }, exactly)).toThrow('lasts its 20 s');
    expect(does(now, { type: 'wrap-up-over', legId: 'l' }, exactly)).toMatchObject([{ do: 'leg-over' }, {}]);
    expect(() => does(now, { type: 'person-says', legId: 'l', text: 'x' })).toThrow('not with you any more');
  });
  it('goes back to its place when its person is switched off', () => {
    expect(does(contact({ legs: [leg()] }), { type: 'person-gone', legId: 'l', how: 'return' }).at(-1)).toMatchObject({
      do: 'enter',
      placedAt: NOW - 60_000,
      priority: 2,
    });
    expect(kinds(does(contact({ legs: [leg()] }), { type: 'person-gone', legId: 'l', how: 'end' }))).toEqual([
      'wrap-up',
      'end',
      'remind-real',
      'leg-over',
      'forget',
    ]);
  });
});

describe('the line of a call', () => {
  const call = (more: Partial<LegNow> = {}) => contact({ channel: 'voice', legs: [leg(more)] });
  it('is held or muted and opened again; held, neither hears the other; muted, the customer is heard', () => {
    const now = call();
    expect(does(now, { type: 'line', legId: 'l', line: 'held' })).toEqual([
      { do: 'line', legId: 'l', personId: 'p', line: 'held' },
    ]);
    expect(does(now, { type: 'line', legId: 'l', line: 'held' })).toEqual([]);
    expect(() => does(now, { type: 'person-says', legId: 'l', text: 'x' })).toThrow('on hold and does not hear you');
    expect(() => does(now, { type: 'customer-says', input: { type: 'text', text: 'hello?' } })).toThrow(
      'nobody hears you',
    );
    does(now, { type: 'line', legId: 'l', line: 'muted' });
    expect(() => does(now, { type: 'person-says', legId: 'l', text: 'x' })).toThrow('You are muted');
    expect(kinds(does(now, { type: 'customer-says', input: { type: 'text', text: 'hello?' } }))).toContain(
      'customer-said',
    );
    does(now, { type: 'line', legId: 'l', line: 'open' });
    expect(kinds(does(now, { type: 'person-says', legId: 'l', text: 'x' }))).toEqual(['person-says']);
  });
  it('is open again before the talk ends, however it ends', () => {
    const ends: readonly ContactEvent[] = [
      { type: 'talk-ends', legId: 'l', how: 'resolved' },
      { type: 'customer-leaves' },
      { type: 'passed-on', legId: 'l', queueId: 'q' },
      { type: 'person-gone', legId: 'l', how: 'return' },
      { type: 'outcome', legId: 'l', outcome: 'DONE' },
    ];
    for (const event of ends)
      expect(does(call({ line: 'held' }), event).slice(0, 2)).toMatchObject([
        { do: 'line', line: 'open' },
        { do: 'wrap-up' },
      ]);
  });
  it('is nobody’s where there is no call, or nobody on it', () => {
    const held: ContactEvent = { type: 'line', legId: 'l', line: 'held' };
    expect(() => does(contact({ legs: [leg()] }), held)).toThrow('Only calls');
    expect(() => does(call({ talkEndedAt: NOW }), held)).toThrow('Nobody is on the line');
    const dialling = contact({
      channel: 'voice',
      legs: [leg()],
      callback: promised({ state: 'dialling', callId: 'l' }),
    });
    expect(() => does(dialling, held)).toThrow('Nobody is on the line');
  });
});

describe('a message left by telephone', () => {
  const left = world({
    pastVisit: () => ({ queueId: 'q', kind: 'message', placedAt: NOW - 60_000, handOver: [], priority: 0 }),
  });
  const bot = { id: 'b', version: 1 };
  const held = (more: Partial<ContactNow> = {}) => contact({ channel: 'voice', legs: [leg()], ...more });
  it('stays one when it is passed on, or its person is switched off; one that was rung back is a call', () => {
    const entered = (now: ContactNow, event: ContactEvent) =>
      does(now, event, left).find((a) => a.do === 'enter')?.kind ?? 'none';
    const onward: ContactEvent = { type: 'passed-on', legId: 'l', queueId: 'q' };
    const gone: ContactEvent = { type: 'person-gone', legId: 'l', how: 'return' };
    expect([entered(held(), onward), entered(held(), gone)]).toEqual(['message', 'message']);
    const talking = () => held({ callback: promised({ state: 'talking', reachedAt: NOW }) });
    expect(entered(talking(), onward)).toBe('live');
  });
  it('is followed by no question to somebody who is not there', () => {
    const asked = {
      ...left,
      bot: () => ({ program: prepare({ ...SCRIPT, afterSceneId: 's1' }, [], null, 'IE'), connectors: new Map() }),
    };
    const file: ContactEvent = { type: 'outcome', legId: 'l', outcome: 'DONE' };
    expect(kinds(does(held({ bot }), file, asked))).not.toContain('bot-says');
    const text = contact({ bot, legs: [leg()] });
    expect(kinds(does(text, file, asked))).toContain('bot-says');
  });
});

describe('a promised call', () => {
  it('is dialled, not reached and tried again, until it is given up', () => {
    const now = contact({ callback: promised(), legs: [leg()] });
    expect(kinds(does(now, { type: 'rang-out', callId: 'l' }))).toEqual([
      'callback',
      'remind',
      'wrap-up',
      'leg-over',
      'forget',
    ]);
    expect(now.callback).toMatchObject({ state: 'planned', outcome: 'NOANSWER', nextAt: NOW + 15 * 60_000 });
    expect(now.endedAt).toBeNull();
    const last = contact({ callback: promised({ attempts: 3 }), legs: [leg()] });
    does(last, { type: 'customer-picks-up', answered: false });
    expect(last.callback).toMatchObject({ state: 'given-up', outcome: 'BUSY' });
    expect(last.endedAt).toBe(NOW);
  });
  it('is reached when the customer answers and the turn ends; a wrong number is not', () => {
    for (const [outcome, state] of [
      ['DONE', 'reached'],
      ['WRONGNO', 'given-up'],
    ] as const) {
      const now = contact({ callback: promised(), legs: [leg()] });
      does(now, { type: 'customer-picks-up', answered: true });
      expect(now.callback?.state).toBe('talking');
      does(now, { type: 'outcome', legId: 'l', outcome });
      expect(now.callback?.state).toBe(state);
    }
  });
  it('expires, is called off or dialled at once by a lead, and none of it once it is over', () => {
    const planned = () => contact({ callback: promised({ state: 'planned', callId: null }) });
    const old = contact({ callback: promised({ state: 'planned', callId: null, expiresAt: NOW }) });
    does(old, { type: 'call-due' });
    expect(old.callback?.state).toBe('expired');
    expect(does(planned(), { type: 'call-now' }).at(-1)).toMatchObject({ do: 'enter', kind: 'callback' });
    const needs = [{ skillId: 'fr', atLeast: 3 as const }];
    const french = contact({ callback: promised({ state: 'planned', callId: null, needs, priority: 2 }) });
    expect(does(french, { type: 'call-due' }).at(-1)).toMatchObject({ do: 'enter', handOver: needs, priority: 2 });
    const once = contact({ callback: promised({ most: 1 }), legs: [leg()] });
    does(once, { type: 'rang-out', callId: 'l' });
    expect(once.callback).toMatchObject({ state: 'given-up', outcome: 'NOANSWER' });
    const off = planned();
    does(off, { type: 'call-off' });
    expect([off.callback?.state, off.endedAt]).toEqual(['cancelled', NOW]);
    expect(() => does(off, { type: 'call-now' })).toThrow('This callback is over.');
    expect(() => does(contact({ callback: promised() }), { type: 'call-off' })).toThrow('being called this moment');
    expect(does(off, { type: 'call-due' })).toEqual([]);
  });
});

describe('whatever happens, in whatever order', () => {
  const visit = waiting();
  const text = fc.constantFrom('1', '2', '3', 'yes', '+353209140044', 'as soon as possible', '', '\ud800', '__proto__');
  const event: fc.Arbitrary<ContactEvent> = fc.oneof(
    text.map((t): ContactEvent => ({ type: 'customer-says', input: { type: 'text', text: t } })),
    fc.constantFrom('0', '5', '#').map((key): ContactEvent => ({ type: 'customer-says', input: { type: 'key', key } })),
    fc.constantFrom<ContactEvent>(
      { type: 'customer-leaves' },
      { type: 'customer-picks-up', answered: true },
      { type: 'customer-picks-up', answered: false },
      { type: 'person-says', legId: 'l', text: 'hello' },
      { type: 'talk-ends', legId: 'l', how: 'resolved' },
      { type: 'line', legId: 'l', line: 'held' },
      { type: 'line', legId: 'l', line: 'open' },
      { type: 'outcome', legId: 'l', outcome: 'DONE' },
      { type: 'wrap-up-ends', legId: 'l' },
      { type: 'wrap-up-over', legId: 'l' },
      { type: 'passed-on', legId: 'l', queueId: 'q' },
      { type: 'passed-on', legId: 'l', queueId: 'nowhere' },
      { type: 'person-gone', legId: 'l', how: 'return' },
      { type: 'call-off' },
      { type: 'call-now' },
      { type: 'call-due' },
      { type: 'rang-out', callId: 'l' },
      { type: 'silence' },
      { type: 'slow' },
      { type: 'answer', number: 1, reply: { to: 'do', outcome: 'unsure', outputs: {} } },
      { type: 'bot-gone', because: 'it is gone' },
      { type: 'outside-call-over' },
      { type: 'taken', visit, legId: 'l', personId: 'p' },
      { type: 'sent-on', visit, onward: { to: 'callback' } },
      { type: 'sent-on', visit, onward: { to: 'message', wording: {} } },
      { type: 'sent-on', visit, onward: { to: 'end', wording: { en: 'Bye' } } },
      { type: 'sent-on', visit, onward: { to: 'scene', botId: 'b', sceneId: 's1' } },
      { type: 'sent-on', visit, onward: { to: 'scene', botId: 'b', sceneId: 'gone' } },
    ),
  );
  const start = fc.constantFrom(
    () => contact({ bot: { id: 'b', version: 1 } }),
    () => contact({ visit }),
    () => contact({ channel: 'voice', visit, customer: { address: '+353209130001', name: null, vouched: true } }),
    () => contact({ legs: [leg()] }),
    () => contact({ channel: 'voice', legs: [leg()] }),
    () => contact({ callback: promised(), legs: [leg()] }),
    () => contact({ callback: promised({ state: 'planned', callId: null }) }),
    () => contact({ outsideCallId: 'call' }),
  );
  it('refuses in a sentence or says what to do; ends once; the same again gives the same', () => {
    fc.assert(
      fc.property(start, fc.array(event, { maxLength: 12 }), (begun, events) => {
        const run = () => {
          const now = begun();
          const all: (ContactAct | string)[] = [];
          for (const e of events)
            try {
              all.push(...does(now, e));
            } catch (error) {
              if (!(error instanceof LaneError)) throw error;
              all.push(error.message);
            }
          return { all, now };
        };
        const { all, now } = run();
        expect(all.filter((a) => typeof a === 'object' && a.do === 'end').length).toBeLessThanOrEqual(1);
        expect(now.endedAt !== null).toBe(all.some((a) => typeof a === 'object' && a.do === 'end'));
        expect(JSON.stringify(run().all)).toBe(JSON.stringify(all));
      }),
      { numRuns: 600 },
    );
  });
});
