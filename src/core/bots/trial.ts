import type { CountryCode } from 'libphonenumber-js';
import { factsByNow, peopleAsked, thingSubject } from './conditions';
import { hash32 } from '../chance';
import { beginCallback, continueCallback, type TalkWords } from '../callbacks/dialogue';
import type { CallbackWording } from '../callbacks/sentences';
import { callWindows } from '../callbacks/windows';
import type { Channel } from '../channels';
import { instantAt, type WeekPattern } from '../hours/weekly';
import { CODE_DIGITS } from '../messages/numbercodes';
import { beginning, type BotAct, type BotInput, type BotState, type Reply, type Request } from './conversation';
import { runBot } from './interpreter';
import type { Meaning, Program } from './program';
import { valueIn, type Value } from './value';

/**
 * How something outside behaves while a bot is tried. `asks` really asks for a look-up; nothing that changes
 * something is ever really done.
 */
export const BEHAVIOURS = ['asks', 'found', 'not-found', 'slow', 'fails'] as const;
export type Behaviour = (typeof BEHAVIOURS)[number];

/** The world in which a bot is tried: set by hand, so that it is the same each time. Facts are by subject name. */
export type Setting = {
  readonly channel: Channel;
  readonly language: string;
  /** Date and time at the door, `YYYY-MM-DDTHH:MM`. */
  readonly local: string;
  readonly open: boolean;
  /** The name of the customer, or null for somebody unknown. */
  readonly customer: string | null;
  readonly facts: Readonly<Record<string, Value>>;
  /** By id of connector or table. */
  readonly behaviours: Readonly<Record<string, Behaviour>>;
};

/** What somebody who tries a bot can do. */
export const BOT_INPUTS = ['start', 'text', 'key', 'silence', 'scene'] as const;

/** One thing the customer does, what was answered from outside meanwhile, and what the customer then got. */
export type Turn = { readonly input: BotInput; readonly replies: readonly Reply[]; readonly says: readonly string[] };
export const ENDINGS = ['person', 'promise', 'end', 'listening'] as const;
/**
 * How a tried conversation is expected to end: with a person, or a call promised, of a queue; by itself; or when it
 * still listens.
 */
export type Ending = {
  readonly where: (typeof ENDINGS)[number];
  readonly queueId: string | null;
  readonly needs: readonly string[];
  readonly values: Readonly<Record<string, Value>>;
  readonly failed: string | null;
};
/** A tried conversation, kept with what is expected of it. */
export type Trial = {
  readonly id: string;
  readonly name: string;
  readonly setting: Setting;
  readonly turns: readonly Turn[];
  readonly ending: Ending;
};

export type TrialResult = {
  readonly passed: boolean;
  /** What was otherwise, in sentences. */ readonly otherwise: readonly string[];
  /** The turn at which it first was, or null. */ readonly turn: number | null;
  /** What is said and how it ends now, of what the test looks at: what it would expect if this were right. */
  readonly now: Pick<Trial, 'turns' | 'ending'>;
};

/**
 * What a setting answers to a request at once; null when it has to be asked for outside. Figures and facts that are
 * not set count as 0, closed, or not known.
 */
export function settingAnswer(
  setting: Setting,
  request: Request,
  { queueIdOf, callingOf }: Pick<TrialNames, 'queueIdOf' | 'callingOf'> = AS_THEY_ARE,
): Reply | null {
  switch (request.ask) {
    case 'facts':
      return { to: 'facts', facts: Object.fromEntries(request.subjects.map((s) => [s, factOf(setting, s)])) };
    case 'figure': {
      const id = 'id' in request.queue ? request.queue.id : queueIdOf(request.queue.name);
      const { figure, within } = request;
      const set = id === null ? undefined : setting.facts[thingSubject({ kind: 'queue', id, figure, within })];
      return {
        to: 'figure',
        figure: set === undefined ? (id === null || figure === 'expectedWait' ? null : 0) : Number(set),
      };
    }
    case 'queue':
      return { to: 'queue', queueId: queueIdOf(request.name) };
    case 'identify':
      return setting.customer === null
        ? { to: 'identify', known: false, values: {} }
        : { to: 'identify', known: true, values: { 'customer name': setting.customer } };
    case 'person':
      return {
        to: 'person',
        personId:
          'last' in request.person
            ? String(setting.facts['person.id'] ?? '') || null
            : 'id' in request.person
              ? request.person.id
              : request.person.name,
        onDuty: Number(factOf(setting, 'people.last.onDuty')) > 0,
      };
    case 'do': {
      const behaviour = setting.behaviours[request.connectorId] ?? 'asks';
      return behaviour === 'not-found' || behaviour === 'fails'
        ? { to: 'do', outcome: behaviour === 'fails' ? 'unsure' : 'refused', outputs: {} }
        : null;
    }
    case 'look-up': {
      const behaviour =
        setting.behaviours[request.source.from === 'connector' ? request.source.connectorId : request.source.tableId] ??
        'asks';
      return behaviour === 'fails'
        ? { to: 'look-up', outcome: 'failed', outputs: {} }
        : behaviour === 'not-found'
          ? { to: 'look-up', outcome: 'not-found', outputs: {} }
          : null;
    }
    case 'number': {
      const own = hasNumber(setting);
      if (request.given === null) return { to: 'number', number: own ? OWN_NUMBER : null, proven: own };
      return { to: 'number', number: /^\+?[\d ()-]{6,20}$/.test(request.given) ? request.given : null, proven: false };
    }
    case 'code':
      return { to: 'code', right: request.code === trialCode(request.telephone) };
    case 'callback':
      return triedCallback(setting, request, callingOf(request.queueId));
    case 'article':
    case 'meaning':
      return null;
  }
}

/** What a queue goes by when its people call back. */
export type Calling = {
  readonly wording: CallbackWording;
  readonly hours: WeekPattern | null;
  readonly zone: string;
  readonly languages: readonly string[];
  readonly country: CountryCode | undefined;
};

/** The talk about a call back by the setting's clock; the number they are on is theirs, any other takes its code. */
function triedCallback(
  setting: Setting,
  { given, offered, windows, talk, input }: Extract<Request, { ask: 'callback' }>,
  calling: Calling,
): Reply {
  const words: TalkWords = {
    ...calling,
    channel: setting.channel,
    language: setting.language,
    offered,
    inLine: false,
    isProven: (number) => number === OWN_NUMBER && hasNumber(setting),
    isCode: (number, code) => code === trialCode(number),
  };
  if (talk !== null && input !== null) return { to: 'callback', ...continueCallback(talk, input, words) };
  const [date = '', time = ''] = setting.local.split('T');
  const now = instantAt(calling.zone, date, time);
  const known = given || (hasNumber(setting) ? OWN_NUMBER : null);
  return { to: 'callback', ...beginCallback(known, callWindows(calling.hours, now, windows), words) };
}

function factOf(setting: Setting, subject: string): Value | null {
  if (subject === 'open') return setting.open;
  const facts = factsByNow(setting.facts);
  if (Object.hasOwn(facts, subject)) return facts[subject] ?? null;
  if (subject === 'customer.known') return setting.customer !== null;
  if (subject === 'customer.name') return setting.customer;
  if (/^hours\..+\.open$/.test(subject)) return setting.open;
  return peopleAsked(subject) !== null || /^queue\..+\.(waiting|longestWait)$/.test(subject) ? 0 : null;
}

export const saidIn = (acts: readonly BotAct[]): string[] =>
  acts.flatMap((a) =>
    a.type === 'say'
      ? [a.text]
      : a.type === 'text'
        ? [a.to === null ? 'No text is sent: there is no number that is theirs.' : `SMS: ${a.text}`]
        : a.type === 'send-code'
          ? [`SMS to ${a.number}: the code ${trialCode(a.number)}`]
          : [],
  );

/** The number that somebody is on while a bot is tried (one that nobody has), and the code that is sent to a number. */
const OWN_NUMBER = '+442079460123';
const hasNumber = ({ channel }: Setting): boolean => channel === 'voice' || channel === 'sms';
export const trialCode = (number: string): string =>
  String(hash32(number) % 10 ** CODE_DIGITS).padStart(CODE_DIGITS, '0');

const ENDS: Readonly<Partial<Record<BotState['status'], Ending['where']>>> = {
  'handed-over': 'person',
  promised: 'promise',
  ended: 'end',
};
/** How a conversation stands after some acts. */
export function endingOf(
  state: BotState,
  acts: readonly BotAct[],
  nameOf: (id: string) => string = (id) => id,
): Ending {
  const over = acts.find((a) => a.type === 'hand-over' || a.type === 'promise');
  return {
    where: ENDS[state.status] ?? 'listening',
    queueId: over?.queueId ?? null,
    needs: (over?.needs ?? []).map((n) => `${nameOf(n.skillId)} ${n.atLeast}`),
    values: state.values,
    failed: over?.type === 'hand-over' ? over.because : null,
  };
}

/** What is asked outside by a request; null for what the workspace itself answers. */
export const askedOutside = (request: Request): string | null =>
  request.ask === 'do'
    ? request.connectorId
    : request.ask === 'look-up' && request.source.from === 'connector'
      ? request.source.connectorId
      : null;

/**
 * Plays one input to its end: gives each request and takes its reply. What is set to be slow is so, before its answer
 * comes.
 */
export function* playTurn(
  program: Program,
  setting: Setting,
  before: BotState,
  input: BotInput,
): Generator<Request, { state: BotState; acts: BotAct[]; slow: boolean }, Reply> {
  const world = { channel: setting.channel, local: setting.local };
  let { state, acts: all } = runBot(program, world, before, input) as { state: BotState; acts: BotAct[] };
  all = [...all];
  let slow = false;
  const go = (next: BotInput): void => {
    const out = runBot(program, world, state, next);
    ({ state } = out);
    all.push(...out.acts);
  };
  while (state.asked) {
    const { asked } = state;
    const outside = askedOutside(asked);
    if (
      outside !== null &&
      setting.behaviours[outside] === 'slow' &&
      'slowAfterSeconds' in asked &&
      asked.slowAfterSeconds !== null
    ) {
      slow = true;
      go({ type: 'slow', number: asked.number });
    }
    const reply = yield asked;
    go({ type: 'reply', number: asked.number, reply });
  }
  return { state, acts: all, slow };
}

/** How ids are found and read while a test is run. */
export type TrialNames = {
  readonly queueIdOf: (name: string) => string | null;
  /** A skill's name. */ readonly nameOf: (id: string) => string;
  readonly queueName: (id: string) => string;
  /** How a queue calls back. */ readonly callingOf: (queueId: string) => Calling;
};
const AS_THEY_ARE: TrialNames = {
  queueIdOf: () => null,
  nameOf: (id) => id,
  queueName: (id) => id,
  callingOf: () => ({ wording: {}, hours: null, zone: 'UTC', languages: [], country: undefined }),
};

export type MeaningAsked = Extract<Request, { readonly ask: 'meaning' }>;

/**
 * Runs a kept conversation against a script as it is now: same inputs, same answers from outside. What words mean is
 * asked anew: whether they are still understood is what a test is for.
 */
export function* playTrial(
  program: Program,
  trial: Trial,
  { queueIdOf, nameOf, queueName, callingOf }: TrialNames = AS_THEY_ARE,
): Generator<MeaningAsked, TrialResult, Meaning> {
  const { setting } = trial;
  let state = beginning(setting.language);
  const all: BotAct[] = [];
  const otherwise: string[] = [];
  const turns: Turn[] = [];
  let turn: number | null = null;
  for (const [i, t] of trial.turns.entries()) {
    const kept = [...t.replies];
    // An answer counts for the first request of its kind, so that a line put in between does not shift the others.
    const keptFor = (request: Request): Reply | undefined => {
      const at = kept.findIndex((r) => r.to === request.ask);
      return at < 0 ? undefined : kept.splice(at, 1)[0];
    };
    const playing = playTurn(program, setting, state, t.input);
    let step = playing.next();
    while (!step.done) {
      if (step.value.ask === 'meaning') {
        step = playing.next({ to: 'meaning', meaning: yield step.value });
        continue;
      }
      const given = keptFor(step.value);
      step = playing.next(settingAnswer(setting, step.value, { queueIdOf, callingOf }) ?? given ?? failing(step.value));
    }
    const outcome = step.value;
    ({ state } = outcome);
    all.push(...outcome.acts);
    const says = saidIn(outcome.acts);
    turns.push({ ...t, says });
    if (says.join('\n') === t.says.join('\n')) continue;
    turn ??= i;
    const at = t.says.findIndex((text, n) => text !== says[n]);
    otherwise.push(
      `After ${inputWords(t.input)} it ` +
        `${says.length === 0 ? 'says nothing' : `says “${(at < 0 ? says.at(-1) : says[at]) ?? 'nothing more'}”`} ` +
        `instead of “${(at < 0 ? 'nothing more' : t.says[at]) ?? ''}”.`,
    );
  }
  const end = endingOf(state, all, nameOf);
  const expected = trial.ending;
  if (end.where !== expected.where) otherwise.push(`It ends ${WHERE[end.where]} instead of ${WHERE[expected.where]}.`);
  else if (end.queueId !== expected.queueId)
    otherwise.push(
      `It ${end.where === 'promise' ? 'promises a call by' : 'hands over to'} ${end.queueId === null ? 'nobody' : queueName(end.queueId)} instead of ` +
        `${expected.queueId === null ? 'nobody' : queueName(expected.queueId)}.`,
    );
  if (end.failed !== expected.failed)
    otherwise.push(end.failed ? `It fails ${end.failed}.` : 'It does not fail any more.');
  if (expected.needs.join() !== end.needs.join())
    otherwise.push(
      `It needs ${end.needs.join(', ') || 'nothing'} instead of ${expected.needs.join(', ') || 'nothing'}.`,
    );
  for (const [name, value] of Object.entries(expected.values))
    if (end.values[name] !== value)
      otherwise.push(`It remembers ${name} as ${String(end.values[name] ?? 'nothing')} instead of ${String(value)}.`);
  const values = Object.fromEntries(
    Object.keys(expected.values).flatMap((name) => {
      const value = valueIn(end.values, name);
      return value === undefined ? [] : [[name, value]];
    }),
  );
  return { passed: otherwise.length === 0, otherwise, turn, now: { turns, ending: { ...end, values } } };
}

/** Runs a kept conversation where meaning is known at once; where none is given, nothing is understood by it. */
export function runTrial(
  program: Program,
  trial: Trial,
  names: TrialNames = AS_THEY_ARE,
  meaning: (asked: MeaningAsked) => Meaning = () => ({ ranked: [], verdict: 'none' }),
): TrialResult {
  const playing = playTrial(program, trial, names);
  let step = playing.next();
  while (!step.done) step = playing.next(meaning(step.value));
  return step.value;
}

const WHERE: Readonly<Record<Ending['where'], string>> = {
  person: 'with a person',
  promise: 'with a call promised',
  end: 'by itself',
  listening: 'still listening',
};
const inputWords = (input: BotInput): string =>
  input.type === 'text'
    ? `“${input.text}”`
    : input.type === 'key'
      ? `key ${input.key}`
      : input.type === 'silence'
        ? 'silence'
        : 'the beginning';

/** What was not kept is answered as if it had failed, so that a test never hangs. */
function failing(request: Request): Reply {
  switch (request.ask) {
    case 'look-up':
      return { to: 'look-up', outcome: 'failed', outputs: {} };
    case 'do':
      return { to: 'do', outcome: 'unsure', outputs: {} };
    case 'article':
      return { to: 'article', article: null };
    case 'meaning':
      return { to: 'meaning', meaning: { ranked: [], verdict: 'none' } };
    default:
      return { to: 'facts', facts: {} };
  }
}

/** What something that was not really done gives: each output by its name, marked as made up. */
export const madeUp = (outputs: readonly string[]): Reply => ({
  to: 'do',
  outcome: 'done',
  outputs: Object.fromEntries(outputs.map((name) => [name, `‹${name}›`])),
});
