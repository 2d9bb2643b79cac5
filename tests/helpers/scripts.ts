import type { Request, Reply, BotAct, BotInput, BotState, BotWorld } from '../../src/core/bots/conversation';
import { beginning } from '../../src/core/bots/conversation';
import { converse } from '../../src/core/bots/interpreter';
import {
  type CallBack,
  NO_WORDING,
  QUIET,
  type Asked,
  type BotScript,
  type Choice,
  type Cue,
  type Listen,
  type SharedScene,
  type Step,
  type Wording,
} from '../../src/core/bots/model';
import { prepare, type Recogniser } from '../../src/core/bots/program';

/** Short ways to write scripts in tests. Text without a language is English. */
export const NEXT: Cue = { to: 'next' };
export const END: Cue = { to: 'end' };
export const toLine = (lineId: string): Cue => ({ to: 'line', lineId });
export const toScene = (sceneId: string): Cue => ({ to: 'scene', sceneId });
export const en = (text: string): Wording => ({ text: text === '' ? {} : { en: text } });
export const say = (id: string, text: string): Step => ({
  id,
  verb: 'say',
  wording: en(text),
  mayInterrupt: true,
  link: null,
});
export const choice = (id: string, key: string, cue: Cue = NEXT, more: Partial<Choice> = {}): Choice => ({
  id,
  key,
  label: { en: id },
  synonyms: {},
  cue,
  ...more,
});
const LISTEN = {
  notices: [],
  into: null,
  tries: 2,
  silenceSeconds: 5,
  again: NO_WORDING,
  silent: NO_WORDING,
  otherwise: NEXT,
} as const;
export const choose = (id: string, choices: readonly Choice[], more: Partial<Listen> = {}): Listen => ({
  id,
  verb: 'listen',
  wording: en(`${id}?`),
  hears: { kind: 'choices', choices },
  ...LISTEN,
  ...more,
});
export const hear = (id: string, asked: Asked, into: string, more: Partial<Listen> = {}): Listen => ({
  id,
  verb: 'listen',
  wording: en(`${id}?`),
  hears: { kind: 'value', asked },
  ...LISTEN,
  into: { name: into, scope: 'conversation' },
  ...more,
});
export const over = (id: string, queueId = 'q', more: Partial<Extract<Step, { verb: 'hand-over' }>> = {}): Step => ({
  id,
  verb: 'hand-over',
  target: { to: 'queue', queueId },
  needs: [],
  priority: 0,
  fields: [],
  wording: NO_WORDING,
  ...more,
});
export const callBack = (more: Partial<CallBack> = {}): CallBack => ({
  id: 'c',
  verb: 'call-back',
  queueId: 'q',
  number: null,
  soon: true,
  windows: 3,
  attempts: null,
  fields: [],
  sentences: {},
  otherwise: NEXT,
  ...more,
});
export const end = (id: string, text = ''): Step => ({ id, verb: 'end', wording: en(text) });
export const lookUp = (id: string, more: Partial<Extract<Step, { verb: 'look-up' }>> = {}): Step => ({
  id,
  verb: 'look-up',
  source: { from: 'connector', connectorId: 'c' },
  inputs: [{ name: 'number', value: '{number}' }],
  outputs: [{ name: 'colour', into: { name: 'colour', scope: 'conversation' } }],
  tries: 1,
  slowAfterSeconds: 1,
  slow: en('One moment.'),
  found: NEXT,
  notFound: NEXT,
  failed: NEXT,
  ...more,
});

export const scriptOf = (...scenes: readonly (readonly Step[])[]): BotScript => ({
  shownName: 'Bot',
  picture: '',
  languages: ['en'],
  fallbackQueueId: 'fallback',
  fallbackWording: NO_WORDING,
  afterSceneId: null,
  quiet: QUIET,
  scenes: scenes.map((steps, i) => ({ id: `s${i + 1}`, name: `Scene ${i + 1}`, steps })),
});

/** A conversation with a script: what is put in, and what came of it so far. `answers` answers requests at once. */
export function talk(
  script: BotScript,
  {
    channel = 'chat',
    language = 'en',
    shared = [],
    recogniser = null,
    answers = () => null,
    local = '2026-11-17T10:20',
  }: Partial<{
    channel: BotWorld['channel'];
    language: string;
    shared: readonly SharedScene[];
    recogniser: Recogniser | null;
    answers: (request: Request) => Reply | null;
    local: string;
  }> = {},
) {
  const program = prepare(script, shared, recogniser);
  const world: BotWorld = { channel, local };
  const acts: BotAct[] = [];
  let state: BotState = beginning(language);
  let last: readonly BotAct[] = [];
  const put = (input: BotInput): readonly string[] => {
    const out = converse(program, world, state, input, answers);
    ({ state } = out);
    last = out.acts;
    acts.push(...out.acts);
    return last.flatMap((a) => (a.type === 'say' ? [a.text] : []));
  };
  return {
    put,
    acts,
    start: () => put({ type: 'start' }),
    text: (text: string) => put({ type: 'text', text }),
    keys: (keys: string) => [...keys].flatMap((key) => [...put({ type: 'key', key })]),
    silence: () => put({ type: 'silence' }),
    state: () => state,
    last: () => last,
    said: () => acts.flatMap((a) => (a.type === 'say' ? [a.text] : [])),
    find: <T extends BotAct['type']>(type: T) => acts.filter((a): a is Extract<BotAct, { type: T }> => a.type === type),
  };
}
