import { isText } from '../channels';
import { localised } from '../localised';
import { subjectsOf } from './conditions';
import { valuesAt } from './conversation';
import { callBack } from './callingback';
import { branch, handOver, ownFacts } from './deciding';
import type { Place } from './program';
import { request } from './requests';
import { below, given, remember, textOf, type Lead, type Run } from './run';
import { ask, listen, say, words } from './saying';
import { textThem } from './texting';
import { filled, templateValue } from './value';
import { follow, play } from './ways';

/** What a line does when the conversation comes to it. */
export function perform(run: Run, place: Place): Lead {
  const { step } = place;
  switch (step.verb) {
    case 'say': {
      const link =
        step.link && isText(run.world.channel)
          ? (
              `\n` +
              `${filled(localised(step.link.label, run.state.language, run.program.script.languages), valuesAt(run.state))} ` +
              `${step.link.url}`
            ).replace(/\n /, '\n')
          : '';
      // A text message carries words only.
      const image =
        step.image && isText(run.world.channel) && run.world.channel !== 'sms'
          ? { id: step.image.imageId, alt: localised(step.image.alt, run.state.language, run.program.script.languages) }
          : null;
      say(run, step.id, words(run, step.wording), { after: link, mayInterrupt: step.mayInterrupt, image });
      return below(place);
    }
    case 'listen':
      return ask(run, step, words(run, step.wording));
    case 'take-message':
    case 'articles':
      say(run, step.id, words(run, step.wording));
      return listen(run, step);
    case 'branch': {
      const subjects = [...new Set(step.ways.flatMap((way) => subjectsOf(way.when)))].filter(
        (s) => !s.startsWith('values.') && !(s in ownFacts(run)),
      );
      return subjects.length > 0
        ? request(run, { ask: 'facts', subjects, needs: run.state.needs })
        : branch(run, place, step, {});
    }
    case 'look-up':
      return request(run, {
        ask: 'look-up',
        source: step.source,
        inputs: given(run, step.inputs),
        attempt: 1,
        slowAfterSeconds: words(run, step.slow).text ? step.slowAfterSeconds : null,
      });
    case 'do':
      return request(run, {
        ask: 'do',
        connectorId: step.connectorId,
        inputs: given(run, step.inputs),
        slowAfterSeconds: words(run, step.slow).text ? step.slowAfterSeconds : null,
      });
    case 'count':
      return request(run, {
        ask: 'figure',
        queue: step.queue.by === 'name' ? { id: step.queue.queueId } : { name: textOf(run, step.queue.name) },
        figure: step.figure,
        within: step.within ?? null,
        needs: run.state.needs,
      });
    case 'remember':
      remember(run, step.into, templateValue(step.value, valuesAt(run.state)));
      return below(place);
    case 'identify':
      return request(run, { ask: 'identify', address: step.by === null ? null : textOf(run, step.by) });
    case 'hours':
      return request(run, {
        ask: 'facts',
        subjects: [step.hoursId === null ? 'open' : `hours.${step.hoursId}.open`],
        needs: [],
      });
    case 'text-them':
      return textThem(run, step);
    case 'hand-over': {
      const { target } = step;
      if (target.to === 'queue-value') return request(run, { ask: 'queue', name: textOf(run, target.name) });
      if (target.to === 'person')
        return request(run, {
          ask: 'person',
          person:
            target.person.by === 'id'
              ? { id: target.person.personId }
              : target.person.by === 'last'
                ? { last: true }
                : { name: textOf(run, target.person.name) },
        });
      return handOver(run, step, target.queueId, null);
    }
    case 'call-back':
      run.state = { ...run.state, talk: null, keyed: '' };
      return callBack(run, step, null);
    case 'play':
      return play(run, place, step.sharedId, given(run, step.inputs));
    case 'go-to':
      return follow(run, place, 'go', step.cue);
    case 'end':
      say(run, step.id, words(run, step.wording));
      return 'end';
  }
}
