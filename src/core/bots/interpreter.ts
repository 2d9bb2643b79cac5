import { isText } from '../channels';
import {
  beginning,
  type BotAct,
  type BotInput,
  type BotState,
  type BotWorld,
  type Reply,
  type Request,
} from './conversation';
import { callBack } from './callingback';
import { articles, chosen, quiet, spokenOrKeyed, valued } from './hearing';
import { perform } from './perform';
import type { Program } from './program';
import { answered } from './replies';
import { below, needsOf, placeOf, type Lead, type Run } from './run';
import { repeat, say, words } from './saying';
import { codeSaid } from './texting';
import { back, enter, fault, finish, follow } from './ways';

/** The most lines that run between two inputs of the customer; more means the script goes in a circle. */
export const STEP_LIMIT = 200;

export type Outcome = { readonly state: BotState; readonly acts: readonly BotAct[] };

/** Whether the bot's part is over. */
export const isOver = ({ status }: Pick<BotState, 'status'>): boolean =>
  status === 'handed-over' || status === 'promised' || status === 'ended';

/**
 * Runs a script from an input to the next point where it listens, asks the driver, hands over or ends. Pure and
 * deterministic; never throws: any fault hands over to the fallback queue with its reason, after a last sentence.
 */
export function runBot(program: Program, world: BotWorld, before: BotState, input: BotInput): Outcome {
  if (isOver(before)) return { state: before, acts: [] };
  const run: Run = { program, world, state: before, acts: [] };
  proceed(run, take(run, input));
  // What was said while meaning was asked for is heard now, in its order.
  for (let said = nextWaiting(run); said !== null; said = nextWaiting(run)) proceed(run, take(run, said));
  return run;
}

/** The most that waits to be heard; whoever says more is not waiting for an answer. */
const MOST_WAITING = 10;

function nextWaiting(run: Run): BotInput | null {
  const { waiting = [], ...state } = run.state;
  const [text, ...rest] = waiting;
  if (text === undefined || state.status !== 'listening') return null;
  run.state = rest.length > 0 ? { ...state, waiting: rest } : state;
  return { type: 'text', text };
}

/** Gives the contact to people, as any fault does: for what breaks around a script. */
export function breakOff(program: Program, world: BotWorld, before: BotState, because: string): Outcome {
  const run: Run = { program, world, state: before, acts: [] };
  fault(run, because);
  return run;
}

/** Runs on for as long as `answer` answers requests at once; null leaves the conversation asking. */
export function converse(
  program: Program,
  world: BotWorld,
  before: BotState,
  input: BotInput,
  answer: (request: Request) => Reply | null,
): Outcome {
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
    if (lead === 'back') {
      lead = back(run);
      continue;
    }
    const place = lead === 'gone' ? undefined : placeOf(run, lead.line);
    if (!place) return fault(run, 'the line it should go to is not there');
    if (run.state.ran >= STEP_LIMIT)
      return fault(run, `it went over ${STEP_LIMIT} lines without waiting for the customer`);
    enter(run, place);
    lead = perform(run, place);
  }
}

/** Takes an input; gives the line to go on with, or that it stays where it is. */
function take(run: Run, input: BotInput): Lead {
  const { program, state } = run;
  // Beginning anew leaves behind whatever was asked or played before.
  if (input.type === 'start' || input.type === 'scene')
    run.state = { ...state, asked: null, ran: 0, frames: beginning(state.language).frames };
  if (input.type === 'start') {
    const first = program.spaces.get(null)?.first;
    return first ? { line: first } : 'gone';
  }
  if (input.type === 'scene') {
    const line = program.spaces.get(null)?.firstOf.get(input.sceneId);
    return line === undefined ? 'gone' : { line };
  }
  const place = state.lineId === null ? undefined : placeOf(run, state.lineId);
  if (input.type === 'slow' || input.type === 'reply') {
    if (state.asked?.number !== input.number) return 'stop';
    if (!place) return 'gone';
    if (input.type === 'reply') return answered(run, place, state.asked, input.reply);
    if ('slow' in place.step) say(run, place.step.id, words(run, place.step.slow));
    return 'stop';
  }
  if (state.status === 'asking') {
    // Words that come while something is looked up wait for nobody: the answer to it decides.
    const { waiting = [] } = state;
    if (state.asked?.ask === 'meaning' && input.type === 'text' && waiting.length < MOST_WAITING)
      run.state = { ...state, waiting: [...waiting, input.text] };
    return 'stop';
  }
  if (!place) return 'gone';
  const { step } = place;
  run.state = { ...state, ran: 0 };
  if (input.type === 'silence' && isText(run.world.channel)) return quiet(run);
  if (input.type !== 'silence') run.state = { ...run.state, silences: 0 };
  switch (step.verb) {
    case 'listen':
      return step.hears.kind === 'choices'
        ? chosen(run, place, step, step.hears.choices, input)
        : valued(run, place, step, step.hears.asked, input);
    case 'take-message': {
      const said = spokenOrKeyed(run, input);
      if (said === null) return 'stop';
      if (said === '') return run.state.tries > 0 ? below(place) : repeat(run, step);
      run.acts.push({ type: 'message', lineId: step.id, queueId: step.queueId, text: said, needs: needsOf(run) });
      return follow(run, place, 'next', { to: 'next' });
    }
    case 'call-back':
      return callBack(run, step, input);
    case 'text-them':
      return codeSaid(run, place, step, input);
    case 'articles':
      return articles(run, place, step, input);
    default:
      return 'gone';
  }
}
