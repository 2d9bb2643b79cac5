import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fitting, randomScript, randomShared } from '../../../tests/helpers/randomscripts';
import { choice, choose, en, end, hear, lookUp, over, say, scriptOf, toLine } from '../../../tests/helpers/scripts';
import { beginning, type BotAct, type BotInput, type Reply, type Request } from './conversation';
import type { BotScript, SharedScene, Step } from './model';
import { prepare } from './program';
import {
  endingOf,
  madeUp,
  playTurn,
  runTrial,
  saidIn,
  settingAnswer,
  type Setting,
  type Trial,
  type TrialNames,
  type Turn,
} from './trial';

const SETTING: Setting = {
  channel: 'chat',
  language: 'en',
  local: '2026-11-17T10:20',
  open: true,
  customer: null,
  facts: {},
  behaviours: {},
};
const request = (more: object): Request => ({ number: 1, ...more }) as Request;

const NAMES: TrialNames = {
  queueIdOf: (name) => (name === 'Repairs' ? 'repairs' : null),
  nameOf: (id) => id,
  queueName: (id) => `Queue ${id}`,
  callingOf: () => ({
    wording: {},
    hours: { zone: 'Europe/Dublin', weekly: [1, 2, 3, 4, 5].map((day) => ({ day, from: '09:00', to: '18:00' })) },
    zone: 'Europe/Dublin',
    languages: ['en'],
    country: 'IE',
  }),
};

/** Tries a conversation and keeps it as it went; what is asked outside is answered by `answers`. */
function kept(
  script: BotScript,
  inputs: readonly BotInput[],
  {
    setting = SETTING,
    shared = [],
    answers = () => null,
  }: { setting?: Setting; shared?: readonly SharedScene[]; answers?: (asked: Request) => Reply | null } = {},
): Trial & { readonly slow: readonly boolean[] } {
  const program = prepare(script, shared);
  let state = beginning(setting.language);
  const all: BotAct[] = [];
  const slow: boolean[] = [];
  const turns: Turn[] = inputs.map((input) => {
    const replies: Reply[] = [];
    const playing = playTurn(program, setting, state, input);
    let step = playing.next();
    while (!step.done) {
      const own = settingAnswer(setting, step.value, NAMES);
      const given = own ?? answers(step.value) ?? { to: 'look-up', outcome: 'failed', outputs: {} };
      if (!own) replies.push(given);
      step = playing.next(given);
    }
    ({ state } = step.value);
    all.push(...step.value.acts);
    slow.push(step.value.slow);
    return { input, replies, says: saidIn(step.value.acts) };
  });
  return { id: 't', name: 'Test', setting, turns, ending: endingOf(state, all), slow };
}
const START: BotInput = { type: 'start' };
const text = (words: string): BotInput => ({ type: 'text', text: words });
const again = (script: BotScript, trial: Trial, shared: readonly SharedScene[] = []) =>
  runTrial(prepare(script, shared), trial, NAMES);

describe('a world that is set by hand', () => {
  const set: Setting = {
    ...SETTING,
    customer: 'Ida',
    facts: { 'queue.repairs.free': 3, 'person.onDuty': true, 'person.id': 'p7', 'anyone.free': true },
    behaviours: { refuses: 'not-found', breaks: 'fails', asked: 'asks' },
  };
  it.each<[string, Setting, object, Reply | null]>([
    [
      'facts: what is set, and what follows from the rest',
      set,
      {
        ask: 'facts',
        subjects: [
          'open',
          'queue.repairs.free',
          'queue.repairs.waiting',
          'queue.repairs.expectedWait',
          'hours.h.open',
          'customer.known',
          'customer.name',
          'people.all.free',
          'people.all.onDuty',
        ],
      },
      {
        to: 'facts',
        facts: {
          open: true,
          'queue.repairs.free': 3,
          'queue.repairs.waiting': 0,
          'queue.repairs.expectedWait': null,
          'hours.h.open': true,
          'customer.known': true,
          'customer.name': 'Ida',
          'people.all.free': 1,
          'people.all.onDuty': 0,
        },
      },
    ],
    [
      'nobody known',
      SETTING,
      { ask: 'facts', subjects: ['customer.known', 'customer.name'] },
      { to: 'facts', facts: { 'customer.known': false, 'customer.name': null } },
    ],
    [
      'a figure until a horizon is set apart',
      { ...set, facts: { 'queue.repairs.free': 3, 'queue.repairs.free:0': 1 } },
      { ask: 'figure', queue: { id: 'repairs' }, figure: 'free', within: 0, needs: [] },
      { to: 'figure', figure: 1 },
    ],
    [
      'a figure by id',
      set,
      { ask: 'figure', queue: { id: 'repairs' }, figure: 'free', within: null, needs: [] },
      { to: 'figure', figure: 3 },
    ],
    [
      'a figure by name',
      set,
      { ask: 'figure', queue: { name: 'Repairs' }, figure: 'free', within: null, needs: [] },
      { to: 'figure', figure: 3 },
    ],
    [
      'a figure that is not set is nought',
      set,
      { ask: 'figure', queue: { id: 'repairs' }, figure: 'waiting', within: null, needs: [] },
      { to: 'figure', figure: 0 },
    ],
    [
      'but an expected wait is not known',
      set,
      { ask: 'figure', queue: { id: 'repairs' }, figure: 'expectedWait', within: null, needs: [] },
      { to: 'figure', figure: null },
    ],
    [
      'nor anything of a queue that is not there',
      set,
      { ask: 'figure', queue: { name: 'Elsewhere' }, figure: 'free', within: null, needs: [] },
      { to: 'figure', figure: null },
    ],
    ['a queue by name', set, { ask: 'queue', name: 'Repairs' }, { to: 'queue', queueId: 'repairs' }],
    [
      'a customer who is known',
      set,
      { ask: 'identify', address: null },
      { to: 'identify', known: true, values: { 'customer name': 'Ida' } },
    ],
    ['and one who is not', SETTING, { ask: 'identify', address: null }, { to: 'identify', known: false, values: {} }],
    [
      'their last person',
      set,
      { ask: 'person', person: { last: true } },
      { to: 'person', personId: 'p7', onDuty: true },
    ],
    [
      'who had none',
      SETTING,
      { ask: 'person', person: { last: true } },
      { to: 'person', personId: null, onDuty: false },
    ],
    [
      'a Do that is refused',
      set,
      { ask: 'do', connectorId: 'refuses', inputs: {}, slowAfterSeconds: null },
      { to: 'do', outcome: 'refused', outputs: {} },
    ],
    [
      'a Do that fails is unsure',
      set,
      { ask: 'do', connectorId: 'breaks', inputs: {}, slowAfterSeconds: null },
      { to: 'do', outcome: 'unsure', outputs: {} },
    ],
    ['a Do that is asked', set, { ask: 'do', connectorId: 'asked', inputs: {}, slowAfterSeconds: null }, null],
    [
      'a look-up that fails',
      set,
      {
        ask: 'look-up',
        source: { from: 'connector', connectorId: 'breaks' },
        inputs: {},
        attempt: 1,
        slowAfterSeconds: null,
      },
      { to: 'look-up', outcome: 'failed', outputs: {} },
    ],
    [
      'a table without such a row',
      set,
      { ask: 'look-up', source: { from: 'table', tableId: 'refuses' }, inputs: {}, attempt: 1, slowAfterSeconds: null },
      { to: 'look-up', outcome: 'not-found', outputs: {} },
    ],
    [
      'a look-up nothing is said of',
      SETTING,
      { ask: 'look-up', source: { from: 'table', tableId: 't' }, inputs: {}, attempt: 1, slowAfterSeconds: null },
      null,
    ],
    ['an article', set, { ask: 'article', query: 'x', language: 'en', seen: [] }, null],
  ])('%s', (_name, setting, asked, reply) => expect(settingAnswer(setting, request(asked), NAMES)).toEqual(reply));
  it('what is not really done gives its outputs marked as made up', () =>
    expect(madeUp(['reference'])).toEqual({ to: 'do', outcome: 'done', outputs: { reference: '‹reference›' } }));
});

describe('a conversation that was tried and kept', () => {
  const line = (id: string, queueId = 'repairs'): Step =>
    over(id, queueId, { needs: [{ skillId: 'bow', atLeast: 4 }] });
  const script = (more: Partial<{ greeting: string; queueId: string; cue: string; between: Step[] }> = {}) =>
    scriptOf([
      say('a', more.greeting ?? 'Hello.'),
      ...(more.between ?? []),
      choose('b', [choice('bow', '1', toLine(more.cue ?? 'd')), choice('other', '2', toLine('c'))]),
      end('c', 'Goodbye.'),
      line('d', more.queueId),
    ]);
  const trial = kept(script(), [START, text('bow')]);
  it('passes as long as the script does the same', () => {
    expect(trial.ending).toEqual({ where: 'person', queueId: 'repairs', needs: ['bow 4'], values: {}, failed: null });
    expect(again(script(), trial)).toEqual({
      passed: true,
      otherwise: [],
      turn: null,
      now: { turns: trial.turns, ending: trial.ending },
    });
  });
  it.each<[string, BotScript, RegExp, number | null]>([
    [
      'another sentence',
      script({ greeting: 'Good day.' }),
      /^After the beginning it says “Good day\.” instead of “Hello\.”\.$/,
      0,
    ],
    ['another queue', script({ queueId: 'sales' }), /^It hands over to Queue sales instead of Queue repairs\.$/, null],
    ['another end', script({ cue: 'c' }), /^After “bow” it says “Goodbye\.” instead of “nothing more”\.$/, 1],
    [
      'one sentence more',
      script({ between: [say('x', 'We have moved.')] }),
      /^After the beginning it says “We have moved\.” instead of “b\?/,
      0,
    ],
  ])('fails with what is otherwise, and the turn: %s', (_name, changed, sentence, turn) => {
    const result = again(changed, trial);
    expect(result).toMatchObject({ passed: false, turn });
    expect(result.otherwise[0]).toMatch(sentence);
  });
  it('says where it ends, what it needs, remembers and fails of', () => {
    expect(again(script({ cue: 'c' }), trial).otherwise.slice(1)).toEqual([
      'It ends by itself instead of with a person.',
      'It needs nothing instead of bow 4.',
    ]);
    const asks = (into: string) => scriptOf([hear('n', { type: 'whole', least: null, most: null }, into), end('e')]);
    expect(again(asks('size'), kept(asks('number'), [START, text('4')])).otherwise).toEqual([
      'It remembers number as nothing instead of 4.',
    ]);
    expect(
      again(
        scriptOf([{ id: 'g', verb: 'go-to', cue: toLine('gone') }]),
        kept(scriptOf([end('e', '')]), [START]),
      ).otherwise.join(' '),
    ).toMatch(/It ends with a person instead of by itself\. It fails .+\.$/);
  });
  it('an answer from outside counts for its own kind of request, whatever is asked before it', () => {
    const count: Step = {
      id: 'x',
      verb: 'count',
      queue: { by: 'name', queueId: 'repairs' },
      figure: 'free',
      into: { name: 'free', scope: 'conversation' },
    };
    const asks = (between: Step[]) =>
      scriptOf([
        hear('n', { type: 'text' }, 'number'),
        ...between,
        lookUp('l', { notFound: toLine('e'), failed: toLine('e') }),
        end('y', 'It is {colour}.'),
        end('e', 'Not there.'),
      ]);
    const looked = kept(asks([]), [START, text('204')], {
      answers: () => ({ to: 'look-up', outcome: 'found', outputs: { colour: 'red' } }),
    });
    expect(looked.turns[1]?.says).toEqual(['It is red.']);
    expect(again(asks([count]), looked)).toMatchObject({ passed: true });
    // Asked twice where it was once: the second is answered as failing, so that it never hangs.
    expect(again(asks([lookUp('m')]), looked)).toMatchObject({ passed: false, turn: 1 });
  });
  it('slow is said first, and again when it is run', () => {
    const asks = scriptOf([
      lookUp('l', { notFound: toLine('e'), failed: toLine('e') }),
      end('y', 'Found.'),
      end('e', 'Not there.'),
    ]);
    const setting: Setting = { ...SETTING, behaviours: { c: 'slow' } };
    const slow = kept(asks, [START], { setting, answers: () => ({ to: 'look-up', outcome: 'found', outputs: {} }) });
    expect([slow.turns[0]?.says, slow.slow]).toEqual([['One moment.', 'Found.'], [true]]);
    expect(again(asks, slow)).toMatchObject({ passed: true });
    expect(
      again(
        scriptOf([
          lookUp('l', { slow: en('Wait.'), notFound: toLine('e'), failed: toLine('e') }),
          end('y', 'Found.'),
          end('e', 'Not there.'),
        ]),
        slow,
      ).otherwise[0],
    ).toContain('“Wait.” instead of “One moment.”');
  });
  it('what it does now passes once it is expected, whatever it did before; only values it looked at are expected', () => {
    fc.assert(
      fc.property(randomScript, randomScript, randomShared, fc.nat(13), (was, is, scene, at) => {
        const made = kept(was, [START, text('c1'), { type: 'key', key: '1' }], {
          shared: [scene],
          answers: (asked) => fitting(asked.ask, at),
        });
        const { now } = again(is, made, [scene]);
        expect(again(is, { ...made, ...now }, [scene])).toMatchObject({ passed: true, otherwise: [] });
        for (const name of Object.keys(now.ending.values)) expect(made.ending.values).toHaveProperty([name]);
      }),
      { numRuns: 400 },
    );
  });
  it('whatever the bot and whatever is said: run again it passes, and running it changes nothing', () => {
    const inputs = fc.array(
      fc.constantFrom<BotInput>(
        { type: 'silence' },
        { type: 'key', key: '1' },
        { type: 'key', key: '#' },
        text('c1'),
        text(''),
        text('tomorrow {x} <b>'),
      ),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(randomScript, randomShared, inputs, fc.nat(13), (any, scene, said, at) => {
        const made = kept(any, [START, ...said], { shared: [scene], answers: (asked) => fitting(asked.ask, at) });
        const before = JSON.stringify(made);
        expect(again(any, made, [scene])).toMatchObject({ passed: true, otherwise: [], turn: null });
        expect(JSON.stringify(made)).toBe(before);
      }),
      { numRuns: 800 },
    );
  });
});
