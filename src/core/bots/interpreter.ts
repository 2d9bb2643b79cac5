import { isText } from '../channels';
import { localised } from '../localised';
import { escapeXml, isSsml, withoutTags } from '../messages/ssml';
import { readAnswer } from './answers';
import { holds, subjectsOf } from './conditions';
import { beginning, type BotAct, type BotInput, type BotState, type BotWorld, type Reply, type Request, valuesAt } from './conversation';
import { heardChoice, plainWords } from './heard';
import { lineNumber, offered, wordingOn, type Choice, type Cue, type Given, type Listen, type Step, type Taken, type Wording } from './model';
import type { Place, Program } from './program';
import { anythingElse, articleWish, goOn, lastSentence, notUnderstood, nothingFits, questionOn, stillThere, whichOfTwo } from './sentences';
import { filled, templateValue, type Into, type Value, type Values } from './value';

/** The most lines that run between two inputs of the customer; more means the script goes in a circle. */
export const STEP_LIMIT = 200;
/** How deep shared scenes may play others. */
const DEPTH_LIMIT = 8;
const PATH_LIMIT = 300;
/** Two intents whose confidence is closer than this lead to a question back. */
const CLOSE = 0.12;

export type Outcome = { readonly state: BotState; readonly acts: readonly BotAct[] };
type Run = { readonly program: Program; readonly world: BotWorld; state: BotState; readonly acts: BotAct[] };
/** Where a line leads: another line of this space, back or to the end, or that the run is over for now. */
type Lead = { readonly line: string } | 'back' | 'end' | 'gone' | 'stop';

/**
 * Runs a script from an input to the next point where it listens, asks the driver, hands over or ends. Pure and
 * deterministic; never throws: any fault hands over to the fallback queue with its reason, after a last sentence.
 */
export function runBot(program: Program, world: BotWorld, before: BotState, input: BotInput): Outcome {
  if (before.status === 'handed-over' || before.status === 'ended') return { state: before, acts: [] };
  const run: Run = { program, world, state: before, acts: [] };
  proceed(run, take(run, input));
  return run;
}

/** Runs on for as long as `answer` answers requests at once; null leaves the conversation asking. */
export function converse(program: Program, world: BotWorld, before: BotState, input: BotInput, answer: (request: Request) => Reply | null): Outcome {
  let { state, acts } = runBot(program, world, before, input);
  const all = [...acts];
  while (state.asked) {
    const reply = answer(state.asked);
    if (!reply) break;
    ({ state, acts } = runBot(program, world, state, { type: 'reply', number: state.asked.number, reply }));
    all.push(...acts);
  }
  return { state, acts: all };
}

function proceed(run: Run, from: Lead): void {
  let lead = from;
  while (lead !== 'stop') {
    if (lead === 'end') return finish(run, 'ended');
    if (lead === 'back') { lead = back(run); continue; }
    const place = lead === 'gone' ? undefined : placeOf(run, lead.line);
    if (!place) return fault(run, 'the line it should go to is not there');
    if (run.state.ran >= STEP_LIMIT) return fault(run, `it went over ${STEP_LIMIT} lines without waiting for the customer`);
    enter(run, place);
    lead = perform(run, place);
  }
}

const frameOf = (run: Run) => run.state.frames.at(-1) ?? { sharedId: null, sceneId: null, values: {}, back: null };
const placeOf = (run: Run, lineId: string): Place | undefined => run.program.spaces.get(frameOf(run).sharedId)?.places.get(lineId);
const below = (place: Place): Lead => (place.below === null ? 'back' : { line: place.below });

/** Comes to a line. What was remembered for a scene is forgotten on leaving it. */
function enter(run: Run, { step, sceneId }: Place): void {
  const { state } = run;
  const frame = frameOf(run);
  // A shared scene's inputs are set before its first line.
  const frames = frame.sceneId === sceneId ? state.frames : [...state.frames.slice(0, -1), { ...frame, sceneId, values: frame.sceneId === null ? frame.values : {} }];
  run.state = { ...state, frames, lineId: step.id, ran: state.ran + 1, status: 'running' };
}

/** A shared scene is over: on with the line after the one that played it. The bot's own last line ends the conversation. */
function back(run: Run): Lead {
  const frame = frameOf(run);
  if (frame.sharedId === null) return 'end';
  run.state = { ...run.state, frames: run.state.frames.slice(0, -1) };
  return frame.back === null ? 'back' : { line: frame.back };
}

function play(run: Run, place: Place, sharedId: string, inputs: Values): Lead {
  const first = run.program.spaces.get(sharedId)?.first;
  if (!first) return 'gone';
  if (run.state.frames.length > DEPTH_LIMIT) return stopWith(run, `shared scenes play each other more than ${DEPTH_LIMIT} deep`);
  run.state = { ...run.state, frames: [...run.state.frames, { sharedId, sceneId: null, values: inputs, back: place.below }] };
  return { line: first };
}

function follow(run: Run, place: Place, way: string, cue: Cue | null): Lead {
  const { path } = run.state;
  if (path.length < PATH_LIMIT) run.state = { ...run.state, path: [...path, `${place.step.id}>${way}`] };
  if (!cue) return stopWith(run, way === 'failed' || way === 'unsure' ? 'what it asked for failed' : 'it was not understood');
  switch (cue.to) {
    case 'next': return below(place);
    case 'line': return { line: cue.lineId };
    case 'end': return 'end';
    case 'shared': return play(run, place, cue.sharedId, {});
    case 'scene': {
      // A shared scene knows no scene of the bot that plays it.
      const line = run.program.spaces.get(frameOf(run).sharedId)?.firstOf.get(cue.sceneId);
      return line === undefined ? 'gone' : { line };
    }
  }
}

/** What a line does when the conversation comes to it. */
function perform(run: Run, place: Place): Lead {
  const { step } = place;
  switch (step.verb) {
    case 'say': {
      const link = step.link && isText(run.world.channel) ? `\n${filled(localised(step.link.label, run.state.language, run.program.script.languages), valuesAt(run.state))} ${step.link.url}`.replace(/\n /, '\n') : '';
      say(run, step.id, words(run, step.wording), { after: link, mayInterrupt: step.mayInterrupt });
      return below(place);
    }
    case 'listen': return ask(run, step, words(run, step.wording));
    case 'take-message': case 'articles':
      say(run, step.id, words(run, step.wording));
      return listen(run, step);
    case 'branch': {
      const subjects = [...new Set(step.ways.flatMap((way) => subjectsOf(way.when)))].filter((s) => !s.startsWith('values.') && !(s in ownFacts(run)));
      return subjects.length > 0 ? request(run, { ask: 'facts', subjects }) : branch(run, place, step, {});
    }
    case 'look-up': return request(run, { ask: 'look-up', source: step.source, inputs: given(run, step.inputs), attempt: 1, slowAfterSeconds: words(run, step.slow) ? step.slowAfterSeconds : null });
    case 'do': return request(run, { ask: 'do', connectorId: step.connectorId, inputs: given(run, step.inputs), slowAfterSeconds: words(run, step.slow) ? step.slowAfterSeconds : null });
    case 'count': return request(run, { ask: 'figure', queue: step.queue.by === 'name' ? { id: step.queue.queueId } : { name: textOf(run, step.queue.name) }, figure: step.figure });
    case 'remember':
      remember(run, step.into, templateValue(step.value, valuesAt(run.state)));
      return below(place);
    case 'identify': return request(run, { ask: 'identify', address: step.by === null ? null : textOf(run, step.by) });
    case 'hours': return request(run, { ask: 'facts', subjects: [step.hoursId === null ? 'open' : `hours.${step.hoursId}.open`] });
    case 'text-them': {
      const to = step.to === null ? null : textOf(run, step.to);
      run.acts.push({ type: 'text', lineId: step.id, when: step.when, to, text: filled(withoutTags(localised(wordingOn(step.wording, 'sms'), run.state.language, run.program.script.languages)), valuesAt(run.state), run.state.language) });
      return below(place);
    }
    case 'hand-over': {
      const { target } = step;
      if (target.to === 'queue-value') return request(run, { ask: 'queue', name: textOf(run, target.name) });
      if (target.to === 'person') return request(run, { ask: 'person', person: target.person.by === 'id' ? { id: target.person.personId } : target.person.by === 'last' ? { last: true } : { name: textOf(run, target.person.name) } });
      return handOver(run, step, target.queueId, null);
    }
    case 'play': return play(run, place, step.sharedId, given(run, step.inputs));
    case 'go-to': return follow(run, place, 'go', step.cue);
    case 'end':
      say(run, step.id, words(run, step.wording));
      return 'end';
  }
}

function branch(run: Run, place: Place, step: Extract<Step, { verb: 'branch' }>, facts: Readonly<Record<string, Value | null>>): Lead {
  const known = { ...ownFacts(run), ...facts };
  const at = step.ways.findIndex((way) => holds(way.when, valuesAt(run.state), known));
  return follow(run, place, at < 0 ? 'otherwise' : `way-${at + 1}`, step.ways[at]?.cue ?? step.otherwise);
}

/** Facts that need no driver. */
function ownFacts(run: Run): Readonly<Record<string, Value>> {
  const [date = '', time = ''] = run.world.local.split('T');
  return { channel: run.world.channel, language: run.state.language, date, time, weekday: ((new Date(`${date}T00:00:00Z`).getUTCDay() + 6) % 7) + 1 };
}

function handOver(run: Run, step: Extract<Step, { verb: 'hand-over' }>, queueId: string, personId: string | null): Lead {
  say(run, step.id, words(run, step.wording));
  const needs = [...new Map([...run.state.needs, ...step.needs].map((n) => [n.skillId, n])).values()];
  run.state = { ...run.state, status: 'handed-over' };
  run.acts.push({ type: 'hand-over', lineId: step.id, target: step.target, queueId, personId, needs, priority: step.priority, fields: step.fields, because: null });
  return 'stop';
}

// What the customer says ------------------------------------------------------------------------------------------------

/** Takes an input; gives the line to go on with, or that it stays where it is. */
function take(run: Run, input: BotInput): Lead {
  const { program, state } = run;
  // Beginning anew leaves behind whatever was asked or played before.
  if (input.type === 'start' || input.type === 'scene') run.state = { ...state, asked: null, ran: 0, frames: beginning(state.language).frames };
  if (input.type === 'start') { const first = program.spaces.get(null)?.first; return first ? { line: first } : 'gone'; }
  if (input.type === 'scene') { const line = program.spaces.get(null)?.firstOf.get(input.sceneId); return line === undefined ? 'gone' : { line }; }
  const place = state.lineId === null ? undefined : placeOf(run, state.lineId);
  if (input.type === 'slow' || input.type === 'reply') {
    if (state.asked?.number !== input.number) return 'stop';
    if (!place) return 'gone';
    if (input.type === 'reply') return answered(run, place, state.asked, input.reply);
    if ('slow' in place.step) say(run, place.step.id, words(run, place.step.slow));
    return 'stop';
  }
  // Words that come while something is looked up wait for nobody: the answer to it decides.
  if (state.status === 'asking') return 'stop';
  if (!place) return 'gone';
  const { step } = place;
  run.state = { ...state, ran: 0 };
  if (input.type === 'silence' && isText(run.world.channel)) return quiet(run);
  if (input.type !== 'silence') run.state = { ...run.state, silences: 0 };
  switch (step.verb) {
    case 'listen': return step.hears.kind === 'choices' ? chosen(run, place, step, step.hears.choices, input) : valued(run, place, step, step.hears.asked, input);
    case 'take-message': {
      const said = spokenOrKeyed(run, input);
      if (said === null) return 'stop';
      if (said === '') return run.state.tries > 0 ? below(place) : repeat(run, step);
      run.acts.push({ type: 'message', lineId: step.id, queueId: step.queueId, text: said });
      return follow(run, place, 'next', { to: 'next' });
    }
    case 'articles': return articles(run, place, step, input);
    default: return 'gone';
  }
}

/** Somebody who writes goes quiet: reminded once, then closed. */
function quiet(run: Run): Lead {
  const { quiet: rule } = run.program.script;
  if (run.state.silences > 0) {
    finish(run, 'went-quiet');
    return 'stop';
  }
  run.state = { ...run.state, silences: 1 };
  say(run, run.state.lineId, words(run, rule.wording) || stillThere(run.state.language));
  run.acts.push({ type: 'wait', seconds: rule.closeSeconds });
  return 'stop';
}

/** The text of an answer: keys are gathered until `#`. Null while keys are still coming; silence is empty. */
function spokenOrKeyed(run: Run, input: Extract<BotInput, { type: 'text' | 'key' | 'silence' }>): string | null {
  if (input.type === 'text') return input.text.trim();
  if (input.type === 'key' && input.key !== '#') {
    run.state = { ...run.state, keyed: run.state.keyed + input.key };
    wait(run, 6);
    return null;
  }
  // Whoever stops pressing keys has sent them.
  const { keyed } = run.state;
  run.state = { ...run.state, keyed: '' };
  return keyed;
}

function chosen(run: Run, place: Place, step: Listen, choices: readonly Choice[], input: Extract<BotInput, { type: 'text' | 'key' | 'silence' }>): Lead {
  const said = input.type === 'silence' ? '' : input.type === 'key' ? input.key : input.text;
  const two = run.state.doubt?.flatMap((id, i) => choices.filter((c) => c.id === id).map((c) => ({ ...c, key: String(i + 1) })));
  const plain = heardChoice(two ?? choices, said);
  if (plain) return choose(run, place, step, choices.find((c) => c.id === plain.id) ?? plain, said, null);
  const meant = said && input.type === 'text' ? byMeaning(run, two ?? choices, said) : [];
  const [first, second] = meant;
  if (!first) return again(run, place, step, input.type === 'silence');
  if (second && !two && first.confidence - second.confidence < CLOSE) {
    const [a, b] = [first, second].map((m) => localised(m.choice.label, run.state.language, run.program.script.languages));
    run.state = { ...run.state, doubt: [first.choice.id, second.choice.id] };
    const options = [first, second].map((m, i) => ({ ...m.choice, key: String(i + 1) }));
    speak(run, step, whichOfTwo(run.state.language, a ?? '', b ?? ''), options);
    return listen(run, step);
  }
  return choose(run, place, step, first.choice, said, { id: first.choice.intentId ?? '', confidence: first.confidence });
}

/** The choices that a text may mean by the phrasebook, best first. An intent that is no choice here still outdoes those below it. */
function byMeaning(run: Run, choices: readonly Choice[], said: string): { choice: Choice; confidence: number }[] {
  if (!run.program.recogniser || !choices.some((c) => c.intentId)) return [];
  const { ranked, none } = run.program.recogniser.rank(said, run.state.language);
  const top = ranked[0];
  if (none || !top || !choices.some((c) => c.intentId === top.intentId)) return [];
  return ranked.flatMap(({ intentId, confidence }) => choices.filter((c) => c.intentId === intentId).slice(0, 1).map((choice) => ({ choice, confidence })));
}

function choose(run: Run, place: Place, step: Listen, choice: Choice, said: string, intent: { id: string; confidence: number } | null): Lead {
  run.acts.push({ type: 'heard', lineId: step.id, choiceId: choice.id, understood: true, intent });
  if (step.into) remember(run, step.into, choice.label.en ?? localised(choice.label, run.state.language));
  notice(run, step, said);
  run.state = { ...run.state, tries: 0, silences: 0, keyed: '', doubt: null, needs: choice.needs ? [...run.state.needs, ...choice.needs] : run.state.needs };
  if (choice.setsLanguage && choice.setsLanguage !== run.state.language) {
    run.state = { ...run.state, language: choice.setsLanguage };
    run.acts.push({ type: 'language', language: choice.setsLanguage });
  }
  return follow(run, place, choice.id, choice.cue);
}

function notice(run: Run, step: Listen, said: string): void {
  const { recogniser } = run.program;
  for (const { listId, into } of recogniser ? step.notices : []) {
    const found = recogniser?.thing(listId, said);
    if (found) remember(run, into, recogniser?.thingName(listId, found, run.state.language) ?? found);
  }
}

function valued(run: Run, place: Place, step: Listen, asked: Extract<Listen['hears'], { kind: 'value' }>['asked'], input: Extract<BotInput, { type: 'text' | 'key' | 'silence' }>): Lead {
  // One key answers yes or no; other answers by keys are sent with #.
  const said = asked.type === 'yes-no' && input.type === 'key' ? input.key : spokenOrKeyed(run, input);
  if (said === null) return 'stop';
  const { recogniser } = run.program;
  const value = readAnswer(asked, said, {
    language: run.state.language, local: run.world.local,
    listed: (listId, text) => { const found = recogniser?.thing(listId, text); return found ? (recogniser?.thingName(listId, found, run.state.language) ?? found) : null; },
  });
  if (value === null) return again(run, place, step, said === '');
  run.acts.push({ type: 'heard', lineId: step.id, choiceId: null, understood: true, intent: null });
  if (step.into) remember(run, step.into, value);
  notice(run, step, said);
  run.state = { ...run.state, tries: 0, silences: 0 };
  return follow(run, place, 'next', { to: 'next' });
}

function again(run: Run, place: Place, step: Listen, silent: boolean): Lead {
  const tries = run.state.tries + 1;
  run.acts.push({ type: 'heard', lineId: step.id, choiceId: null, understood: false, intent: null });
  run.state = { ...run.state, tries, doubt: null };
  if (tries >= step.tries) {
    run.state = { ...run.state, tries: 0 };
    return follow(run, place, 'otherwise', step.otherwise);
  }
  const own = (silent ? words(run, step.silent) : '') || words(run, step.again);
  speak(run, step, own || `${silent && step.hears.kind === 'value' ? stillThere(run.state.language) : notUnderstood(run.state.language)} ${words(run, step.wording)}`);
  return listen(run, step);
}

function articles(run: Run, place: Place, step: Extract<Step, { verb: 'articles' }>, input: Extract<BotInput, { type: 'text' | 'key' | 'silence' }>): Lead {
  const { reading } = run.state;
  const said = input.type === 'silence' ? '' : input.type === 'key' ? input.key : input.text.trim();
  const wish = reading ? (said === '' ? 'done' : articleWish(plainWords(said))) : null;
  if (reading && wish === 'done') {
    run.state = { ...run.state, reading: null, tries: 0 };
    return follow(run, place, 'done', step.done);
  }
  if (reading && wish) {
    run.state = { ...run.state, reading: { ...reading, at: wish === 'on' ? Math.min(reading.at + 1, reading.parts.length - 1) : reading.at } };
    return read(run, step);
  }
  if (said === '') return run.state.tries + 1 >= step.tries ? follow(run, place, 'nothing', step.nothing) : repeat(run, step);
  return request(run, { ask: 'article', query: said, language: run.state.language, seen: [] });
}

/** Quotes an article with its title: a part at a time by voice, whole in text. */
function read(run: Run, step: Extract<Step, { verb: 'articles' }>): Lead {
  const { reading, language } = run.state;
  if (!reading) return 'gone';
  if (run.world.channel === 'voice') {
    const last = reading.at >= reading.parts.length - 1;
    say(run, step.id, [reading.at === 0 ? `${reading.title}.` : '', reading.parts[reading.at] ?? '', last ? anythingElse(language) : goOn(language)].filter(Boolean).join(' '));
  } else {
    say(run, step.id, `${reading.title}\n${reading.parts.join(' ')}`);
    say(run, step.id, anythingElse(language));
  }
  return listen(run, step);
}

/** Asks the same once more. */
function repeat(run: Run, step: Extract<Step, { verb: 'take-message' | 'articles' }>): Lead {
  run.state = { ...run.state, tries: run.state.tries + 1 };
  say(run, step.id, words(run, step.wording));
  return listen(run, step, true);
}

// What the driver answers -----------------------------------------------------------------------------------------------

type RequestBody = Request extends infer R ? (R extends Request ? Omit<R, 'number'> : never) : never;

function request(run: Run, body: RequestBody): Lead {
  const asked = { ...body, number: run.state.requests + 1 };
  run.state = { ...run.state, status: 'asking', asked, requests: asked.number };
  run.acts.push({ type: 'request', request: asked });
  return 'stop';
}

function answered(run: Run, place: Place, asked: Request, reply: Reply): Lead {
  const { step } = place;
  run.state = { ...run.state, asked: null, status: 'running' };
  // Only what was asked for is an answer.
  if (reply.to !== asked.ask) return stopWith(run, 'it was answered something else than it asked');
  if (step.verb === 'look-up' && reply.to === 'look-up' && asked.ask === 'look-up') {
    if (reply.outcome === 'failed' && asked.attempt < step.tries) return request(run, { ask: 'look-up', source: asked.source, inputs: asked.inputs, attempt: asked.attempt + 1, slowAfterSeconds: null });
    taken(run, step.outputs, reply.outputs);
    return follow(run, place, reply.outcome, reply.outcome === 'found' ? step.found : reply.outcome === 'not-found' ? step.notFound : step.failed);
  }
  if (step.verb === 'do' && reply.to === 'do') {
    taken(run, step.outputs, reply.outputs);
    return follow(run, place, reply.outcome, step[reply.outcome]);
  }
  if (step.verb === 'branch' && reply.to === 'facts') return branch(run, place, step, reply.facts);
  if (step.verb === 'hours' && reply.to === 'facts') {
    const open = Object.values(reply.facts)[0];
    return open === null || open === undefined ? stopWith(run, 'the hours it asks about are not there') : follow(run, place, open ? 'open' : 'closed', open ? step.open : step.closed);
  }
  if (step.verb === 'count' && reply.to === 'figure') {
    if (reply.figure !== null) remember(run, step.into, reply.figure);
    else forget(run, step.into);
    return below(place);
  }
  if (step.verb === 'identify' && reply.to === 'identify') {
    for (const [name, value] of Object.entries(reply.values)) remember(run, { name, scope: 'conversation' }, value);
    return follow(run, place, reply.known ? 'known' : 'unknown', reply.known ? step.known : step.unknown);
  }
  if (step.verb === 'hand-over' && step.target.to === 'queue-value' && reply.to === 'queue') return handOver(run, step, reply.queueId ?? step.target.queueId, null);
  if (step.verb === 'hand-over' && step.target.to === 'person' && reply.to === 'person') {
    if (reply.personId !== null && reply.onDuty) return handOver(run, step, step.target.queueId, reply.personId);
    return step.target.off ? follow(run, place, 'off', step.target.off) : handOver(run, step, step.target.queueId, null);
  }
  if (step.verb === 'articles' && reply.to === 'article') {
    if (reply.article) {
      run.state = { ...run.state, tries: 0, reading: { title: reply.article.title, parts: inParts(reply.article.text), at: 0, seen: [reply.article.id] } };
      return read(run, step);
    }
    run.state = { ...run.state, reading: null };
    say(run, step.id, nothingFits(run.state.language));
    return run.state.tries + 1 >= step.tries ? follow(run, place, 'nothing', step.nothing) : repeat(run, step);
  }
  return stopWith(run, 'it was answered something else than it asked');
}

/** An article in parts of a few sentences, as can be taken in by ear. */
function inParts(text: string): string[] {
  const parts: string[] = [];
  for (const sentence of text.split(/(?<=[.?!])\s+/)) {
    const last = parts.at(-1);
    if (last !== undefined && last.length + sentence.length < 220) parts[parts.length - 1] = `${last} ${sentence}`;
    else parts.push(sentence);
  }
  return parts;
}

/** A remembered value as text; empty when it is not known. */
const textOf = (run: Run, name: string): string => String(valuesAt(run.state)[name] ?? '');
const given = (run: Run, inputs: readonly Given[]): Values => Object.fromEntries(inputs.map(({ name, value }) => [name, templateValue(value, valuesAt(run.state))]));
function taken(run: Run, outputs: readonly Taken[], got: Values): void {
  for (const { name, into } of outputs) {
    const value = Object.hasOwn(got, name) ? got[name] : undefined;
    if (value !== undefined) remember(run, into, value);
  }
}

// Saying, remembering, ending -------------------------------------------------------------------------------------------

/** A wording's text for this language and channel, with its values. */
function words(run: Run, wording: Wording): string {
  const text = localised(wordingOn(wording, run.world.channel), run.state.language, run.program.script.languages);
  if (!text.includes('{')) return text;
  const values = valuesAt(run.state);
  const safe = isSsml(text) ? Object.fromEntries(Object.entries(values).map(([name, value]) => [name, typeof value === 'string' ? escapeXml(value) : value])) : values;
  return filled(text, safe, run.state.language, run.world.channel === 'voice');
}

function say(run: Run, lineId: string | null, text: string, more: { after?: string; mayInterrupt?: boolean; options?: readonly { key: string; label: string }[] } = {}): void {
  const plain = withoutTags(text).trim() + (more.after ?? '');
  if (plain) run.acts.push({ type: 'say', lineId, text: plain, ssml: run.world.channel === 'voice' && isSsml(text) ? text : null, options: more.options ?? [], mayInterrupt: more.mayInterrupt ?? true });
}

function ask(run: Run, step: Listen, text: string): Lead {
  run.state = { ...run.state, tries: 0, silences: 0, keyed: '', doubt: null };
  speak(run, step, text);
  return listen(run, step);
}

function speak(run: Run, step: Listen, text: string, among: readonly Choice[] = step.hears.kind === 'choices' ? offered(step.hears.choices) : []): void {
  const { language } = run.state;
  const options = among.map((c) => ({ key: c.key, label: localised(c.label, language, run.program.script.languages) }));
  say(run, step.id, questionOn(run.world.channel, language, text, among), { options });
}

function listen(run: Run, step: Extract<Step, { verb: 'listen' | 'take-message' | 'articles' }>, again = false): Lead {
  run.state = { ...run.state, status: 'listening', tries: again || step.verb === 'listen' || run.state.reading ? run.state.tries : 0 };
  wait(run, isText(run.world.channel) ? run.program.script.quiet.remindSeconds : step.verb === 'take-message' ? 20 : step.silenceSeconds);
  return 'stop';
}
const wait = (run: Run, seconds: number): void => void run.acts.push({ type: 'wait', seconds });

function remember(run: Run, into: Into, value: Value): void {
  const { state } = run;
  if (into.scope === 'conversation') run.state = { ...state, values: { ...state.values, [into.name]: value } };
  else run.state = { ...state, frames: [...state.frames.slice(0, -1), { ...frameOf(run), values: { ...frameOf(run).values, [into.name]: value } }] };
  run.acts.push({ type: 'remember', name: into.name, value, scope: into.scope });
}
/** A figure that is not known leaves nothing behind of an earlier one. */
function forget(run: Run, { name }: Into): void {
  const without = (values: Values): Values => Object.fromEntries(Object.entries(values).filter(([n]) => n !== name));
  run.state = { ...run.state, values: without(run.state.values), frames: run.state.frames.map((f) => ({ ...f, values: without(f.values) })) };
}

function finish(run: Run, how: 'ended' | 'went-quiet'): void {
  run.state = { ...run.state, status: 'ended', asked: null };
  run.acts.push({ type: 'end', lineId: run.state.lineId, how });
}

function stopWith(run: Run, reason: string): Lead {
  fault(run, reason);
  return 'stop';
}

function fault(run: Run, reason: string): void {
  const { script } = run.program;
  const frame = frameOf(run);
  const scene = frame.sharedId === null ? null : run.program.shared.get(frame.sharedId);
  const { lineId } = run.state;
  const place = lineId === null ? null : scene ? `${scene.name} ${scene.steps.findIndex((s) => s.id === lineId) + 1}` : lineNumber(script, lineId);
  say(run, null, words(run, script.fallbackWording) || lastSentence(run.state.language));
  const { needs } = run.state;
  run.acts.push({ type: 'hand-over', lineId, target: { to: 'queue', queueId: script.fallbackQueueId }, queueId: script.fallbackQueueId, personId: null, needs: [...new Map(needs.map((n) => [n.skillId, n])).values()], priority: 0, fields: [], because: place === null ? reason : `at ${place} ${reason}` });
  run.state = { ...run.state, status: 'handed-over', asked: null };
}
