import { type CallbackSentence, CALLBACK_PLACES } from '../callbacks/sentences';
import type { TalkInput } from '../callbacks/dialogue';
import { isText } from '../channels';
import { localised } from '../localised';
import { plainSpeech, withoutTags, wordingSpeech } from '../messages/ssml';
import { type Reply, valuesAt } from './conversation';
import { type CallBack, wordingOn } from './model';
import type { Place } from './program';
import { request } from './requests';
import { type Lead, needsOf, type Run, textOf } from './run';
import { say, wait } from './saying';
import { filled } from './value';
import { follow } from './ways';

/** A call back is arranged: the same talk as while somebody waits in line, carried on by whoever drives the bot. */

/** How long somebody who speaks may take over each answer, seconds. */
const ANSWER_SECONDS = 20;

/** What the talk itself fills in stays as it is. */
const OWN_PLACES = Object.fromEntries(CALLBACK_PLACES.map((name) => [name, `{${name}}`]));

/** The line's own sentences, in the customer's language, with the values known so far. */
function sentences(run: Run, step: CallBack): Readonly<Partial<Record<CallbackSentence, string>>> {
  const { language } = run.state;
  const values = { ...valuesAt(run.state), ...OWN_PLACES };
  return Object.fromEntries(
    Object.entries(step.sentences).flatMap(([id, wording]) => {
      const own = localised(wordingOn(wording, run.world.channel), language, run.program.script.languages);
      return own === ''
        ? []
        : [[id, filled(withoutTags(wordingSpeech(own)), values, language, run.world.channel === 'voice')]];
    }),
  );
}

/** Begins the talk, or goes on with what the customer said. */
export const callBack = (run: Run, step: CallBack, input: TalkInput | null): Lead =>
  request(run, {
    ask: 'callback',
    queueId: step.queueId,
    given: step.number === null ? null : textOf(run, step.number),
    offered: { sentences: sentences(run, step), soon: step.soon },
    windows: step.windows,
    talk: input === null ? null : run.state.talk,
    input,
  });

/** What the talk came to so far. */
export function callBackAnswered(
  run: Run,
  place: Place,
  step: CallBack,
  { talk, acts }: Extract<Reply, { to: 'callback' }>,
): Lead {
  const before = run.state.talk;
  run.state = { ...run.state, talk };
  if (before !== null && acts.length > 0)
    run.acts.push({
      type: 'heard',
      lineId: step.id,
      choiceId: null,
      understood: talk === null ? acts.some((a) => a.do === 'promise') : talk.tries <= before.tries,
      intent: null,
    });
  for (const act of acts) {
    switch (act.do) {
      case 'say':
        say(run, step.id, plainSpeech(act.text), { options: act.options });
        break;
      case 'send-code':
        run.acts.push({ type: 'send-code', lineId: step.id, number: act.number });
        break;
      case 'code-tried':
        run.acts.push({ type: 'code-tried', number: act.number, right: act.right });
        break;
      case 'promise':
        follow(run, place, 'promised', { to: 'end' });
        run.state = { ...run.state, status: 'promised' };
        run.acts.push({
          type: 'promise',
          lineId: step.id,
          queueId: step.queueId,
          number: act.number,
          window: act.window,
          most: step.attempts,
          needs: needsOf(run),
          fields: step.fields,
        });
        return 'stop';
      case 'back':
        return follow(run, place, 'otherwise', step.otherwise);
    }
  }
  run.state = { ...run.state, status: 'listening' };
  wait(run, isText(run.world.channel) ? run.program.script.quiet.remindSeconds : ANSWER_SECONDS);
  return 'stop';
}
