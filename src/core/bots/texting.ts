import { isText } from '../channels';
import { localised } from '../localised';
import { askForCode, CODE_TRIES, codeIn, notTheCode } from '../messages/numbercodes';
import { plainSpeech, withoutTags, wordingSpeech } from '../messages/ssml';
import { type BotInput, type Reply, valuesAt } from './conversation';
import { spokenOrKeyed } from './hearing';
import { type Step, wordingOn } from './model';
import type { Place } from './program';
import { request } from './requests';
import { below, type Lead, type Run, textOf } from './run';
import { say, wait } from './saying';
import { filled } from './value';

/**
 * A text goes only to a number that is the customer's own: the channel vouches for it, or they have given the code that
 * was sent to it. Nothing is sent to any other, and the conversation goes on.
 */
type TextThem = Extract<Step, { verb: 'text-them' }>;

/** How long somebody who speaks may take for the code, seconds. */
const CODE_SECONDS = 30;

/** First it is asked whose number it is. */
export const textThem = (run: Run, step: TextThem): Lead =>
  request(run, { ask: 'number', given: step.to === null ? null : textOf(run, step.to) });

function send(run: Run, place: Place, step: TextThem, to: string | null): Lead {
  const { language } = run.state;
  run.state = { ...run.state, proving: null, tries: 0, keyed: '' };
  run.acts.push({
    type: 'text',
    lineId: step.id,
    when: step.when,
    to,
    text: filled(
      withoutTags(wordingSpeech(localised(wordingOn(step.wording, 'sms'), language, run.program.script.languages))),
      valuesAt(run.state),
      language,
    ),
  });
  return below(place);
}

function askCode(run: Run, step: TextThem, number: string, before = ''): Lead {
  const { language } = run.state;
  const voice = !isText(run.world.channel);
  say(run, step.id, plainSpeech(`${before}${askForCode(language, number, voice)}`));
  run.state = { ...run.state, status: 'listening', proving: number, keyed: '' };
  wait(run, voice ? CODE_SECONDS : run.program.script.quiet.remindSeconds);
  return 'stop';
}

/** Whose number it is has been answered: sent at once, not at all, or after its code. */
export function numberAnswered(run: Run, place: Place, step: TextThem, reply: Extract<Reply, { to: 'number' }>): Lead {
  if (reply.number === null || reply.proven) return send(run, place, step, reply.number);
  run.acts.push({ type: 'send-code', lineId: step.id, number: reply.number });
  run.state = { ...run.state, tries: 0 };
  return askCode(run, step, reply.number);
}

type Said = Extract<BotInput, { type: 'text' | 'key' | 'silence' }>;

/** The customer gives the code. */
export function codeSaid(run: Run, place: Place, step: TextThem, input: Said): Lead {
  const { proving } = run.state;
  if (proving === null) return below(place);
  const said = spokenOrKeyed(run, input);
  return said === null ? 'stop' : request(run, { ask: 'code', telephone: proving, code: codeIn(said) });
}

/** Whether it was right. */
export function codeAnswered(run: Run, place: Place, step: TextThem, right: boolean): Lead {
  const { proving } = run.state;
  if (proving === null) return below(place);
  run.acts.push({ type: 'code-tried', number: proving, right });
  if (right) return send(run, place, step, proving);
  const tries = run.state.tries + 1;
  if (tries >= CODE_TRIES) return send(run, place, step, null);
  run.state = { ...run.state, tries };
  return askCode(run, step, proving, `${notTheCode(run.state.language)} `);
}
