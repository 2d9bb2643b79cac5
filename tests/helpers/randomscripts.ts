import fc from 'fast-check';
import { type BotInput, type Reply, type Request } from '../../src/core/bots/conversation';
import { FIGURES, type BotScript, type Cue, type SharedScene, type Step, type Verb } from '../../src/core/bots/model';
import { scriptFrom } from '../../src/core/bots/upgrade';
import type { Into } from '../../src/core/bots/value';
import { choice, en } from './scripts';

/** Any script at all: lines of every verb, cues to anywhere, also to nothing. */
const lineIds = ['a', 'b', 'c', 'd', 'e', 'f', 'gone'];
const cue: fc.Arbitrary<Cue> = fc.oneof(
  fc.constant<Cue>({ to: 'next' }),
  fc.constant<Cue>({ to: 'end' }),
  fc.constantFrom(...lineIds).map((lineId): Cue => ({ to: 'line', lineId })),
  fc.constantFrom('s1', 's2', 'gone').map((sceneId): Cue => ({ to: 'scene', sceneId })),
  fc.constantFrom('sh', 'gone').map((sharedId): Cue => ({ to: 'shared', sharedId })),
);
const maybe = fc.option(cue);
const name = fc.constantFrom('x', 'y', 'hire number', 'constructor', '__proto__');
const into: fc.Arbitrary<Into> = fc.record({ name, scope: fc.constantFrom('scene', 'conversation') });
const wording = fc
  .constantFrom(
    '',
    'Hello',
    '{x} and {y as digits}',
    'Wait <break time="1s"/> {x}',
    '<broken {x}',
    '{x as date} {y as money}',
  )
  .map(en);
const given = fc.array(fc.record({ name, value: fc.constantFrom('{x}', 'text {y}', '') }), { maxLength: 2 });
const taken = fc.array(fc.record({ name, into }), { maxLength: 2 });
const condition = fc.constantFrom(
  { '==': [{ var: 'values.x' }, 'yes'] },
  { '>': [{ var: 'queue.q.free' }, 0] },
  { and: [{ '!!': [{ var: 'values.y' }] }, { '==': [{ var: 'channel' }, 'chat'] }] },
  { nonsense: 1 },
);
const target = fc.oneof(
  fc.constant({ to: 'queue', queueId: 'q' }),
  fc.record({ to: fc.constant('queue-value'), name, queueId: fc.constant('q') }),
  fc.record({
    to: fc.constant('person'),
    person: fc.oneof(fc.constant({ by: 'last' }), fc.record({ by: fc.constant('value'), name })),
    queueId: fc.constant('q'),
    off: maybe,
  }),
);
const talk = {
  notices: fc.array(fc.record({ listId: fc.constant('l'), into }), { maxLength: 1 }),
  tries: fc.integer({ min: 1, max: 3 }),
  silenceSeconds: fc.constant(5),
  again: wording,
  silent: wording,
  otherwise: maybe,
};
const hears = fc.oneof(
  fc
    .array(fc.tuple(fc.constantFrom('', '1', '2', '*'), cue), { maxLength: 3 })
    .map((cs) => ({ kind: 'choices', choices: cs.map(([key, c], i) => choice(`c${i}`, key, c)) })),
  fc
    .constantFrom(
      { type: 'text' },
      { type: 'whole', least: 0, most: 9 },
      { type: 'date' },
      { type: 'yes-no' },
      { type: 'pattern', pattern: '([', example: '' },
      { type: 'listed', listId: 'l' },
    )
    .map((asked) => ({ kind: 'value', asked })),
);
const PARTS: Readonly<Record<Verb, Readonly<Record<string, fc.Arbitrary<unknown>>>>> = {
  say: {
    wording,
    mayInterrupt: fc.boolean(),
    link: fc.constant(null),
    image: fc.constantFrom(undefined, { imageId: 'label', alt: { en: 'A label' } }),
  },
  listen: { wording, hears, into: fc.option(into), ...talk },
  branch: { ways: fc.array(fc.record({ when: condition, cue }), { minLength: 1, maxLength: 2 }), otherwise: cue },
  'look-up': {
    source: fc.constantFrom({ from: 'connector', connectorId: 'c' }, { from: 'table', tableId: 't' }),
    inputs: given,
    outputs: taken,
    tries: fc.integer({ min: 1, max: 3 }),
    slowAfterSeconds: fc.constant(1),
    slow: wording,
    found: cue,
    notFound: cue,
    failed: maybe,
  },
  do: {
    connectorId: fc.constant('c'),
    inputs: given,
    outputs: taken,
    slowAfterSeconds: fc.constant(1),
    slow: wording,
    done: cue,
    refused: cue,
    unsure: maybe,
  },
  count: { queue: fc.constant({ by: 'value', name: 'x' }), figure: fc.constantFrom(...FIGURES), into },
  remember: {
    into,
    value: fc.constantFrom(
      '',
      '{x}',
      'a {y}',
      '{constructor}',
      '{__proto__}',
      '<b>{x}</b>',
      '<__proto__ a="1">x</__proto__>',
    ),
  },
  identify: { by: fc.option(name), known: cue, unknown: cue },
  hours: { hoursId: fc.constantFrom(null, 'h'), open: cue, closed: cue },
  'text-them': { when: fc.constantFrom('now', 'after'), to: fc.option(name), wording },
  'hand-over': { target, needs: fc.constant([]), priority: fc.constant(0), fields: fc.constant(['x']), wording },
  'call-back': {
    queueId: fc.constant('q'),
    number: fc.option(name),
    soon: fc.boolean(),
    windows: fc.integer({ min: 0, max: 2 }),
    attempts: fc.option(fc.integer({ min: 1, max: 3 })),
    fields: fc.constant(['x']),
    sentences: fc.constantFrom({}, { when: en('When, {x}? {options}') }),
    otherwise: maybe,
  },
  'take-message': { wording, queueId: fc.constant('q') },
  articles: { wording, tries: fc.integer({ min: 1, max: 2 }), silenceSeconds: fc.constant(5), done: cue, nothing: cue },
  play: { sharedId: fc.constantFrom('sh', 'gone'), inputs: given },
  'go-to': { cue },
  end: { wording },
};
const step = (id: string): fc.Arbitrary<Step> =>
  fc
    .constantFrom(...(Object.keys(PARTS) as Verb[]))
    .chain((verb) => fc.record(PARTS[verb]).map((parts) => ({ id, verb, ...parts }) as unknown as Step));
const scenes = (ids: readonly string[]) => fc.tuple(...ids.map(step)).map((steps) => steps);
export const randomScript: fc.Arbitrary<BotScript> = fc
  .tuple(scenes(['a', 'b', 'c']), scenes(['d', 'e', 'f']), wording)
  .map(([one, two, fallbackWording]) =>
    scriptFrom({
      shownName: 'B',
      languages: ['en'],
      fallbackQueueId: 'fallback',
      fallbackWording,
      scenes: [
        { id: 's1', name: 'One', steps: one },
        { id: 's2', name: 'Two', steps: two },
      ],
      quiet: { remindSeconds: 60, wording: en(''), closeSeconds: 60 },
    }),
  );
export const randomShared: fc.Arbitrary<SharedScene> = scenes(['m1', 'm2']).map((steps) => ({
  id: 'sh',
  name: 'Shared',
  inputs: ['x'],
  steps,
}));

type Asked = Request['ask'];
export const REPLIES: readonly Reply[] = [
  { to: 'facts', facts: { open: true, 'queue.q.free': 2 } },
  { to: 'facts', facts: {} },
  { to: 'look-up', outcome: 'found', outputs: { x: 'red', y: 4 } },
  { to: 'look-up', outcome: 'not-found', outputs: {} },
  { to: 'look-up', outcome: 'failed', outputs: {} },
  { to: 'do', outcome: 'done', outputs: {} },
  { to: 'do', outcome: 'unsure', outputs: {} },
  { to: 'figure', figure: 3 },
  { to: 'figure', figure: null },
  { to: 'identify', known: true, values: { 'customer name': 'Ida' } },
  { to: 'queue', queueId: null },
  { to: 'person', personId: 'p', onDuty: true },
  {
    to: 'callback',
    talk: { step: 'type', own: null, number: null, keyed: '', tries: 0, windows: [] },
    acts: [{ do: 'say', text: 'Which number?', options: [] }],
  },
  { to: 'callback', talk: null, acts: [{ do: 'back' }] },
  { to: 'callback', talk: null, acts: [{ do: 'promise', number: '+353209140001', window: null }] },
  { to: 'article', article: null },
  { to: 'article', article: { id: 'a', title: 'T', text: 'One. Two.' } },
];
export type Move = { readonly input: BotInput } | { readonly reply: number };
export const randomMove: fc.Arbitrary<Move> = fc.oneof(
  fc
    .constantFrom<BotInput>(
      { type: 'silence' },
      { type: 'key', key: '1' },
      { type: 'key', key: '#' },
      { type: 'text', text: 'c1' },
      { type: 'text', text: '' },
      { type: 'text', text: 'tomorrow {x} <b>' },
      { type: 'slow', number: 1 },
      { type: 'scene', sceneId: 's2' },
      { type: 'start' },
    )
    .map((input) => ({ input })),
  fc.nat(REPLIES.length - 1).map((reply) => ({ reply })),
);
/** The first reply from `at` on that answers such a request. */
export const fitting = (ask: Asked, at: number): Reply =>
  REPLIES.slice(at)
    .concat(REPLIES)
    .find((r) => r.to === ask) ?? { to: 'facts', facts: {} };
