import { plainSpeech } from '../messages/ssml';
import type { Reply, Request } from './conversation';
import { callBackAnswered } from './callingback';
import { branch, handOver } from './deciding';
import { meant } from './hearing';
import type { Place } from './program';
import { inParts, read } from './reading';
import { request } from './requests';
import { below, forget, remember, taken, type Lead, type Run } from './run';
import { repeat, say } from './saying';
import { nothingFits } from './sentences';
import { codeAnswered, numberAnswered } from './texting';
import { follow, stopWith } from './ways';

/** Goes on with what the driver answered to a line's request. */
export function answered(run: Run, place: Place, asked: Request, reply: Reply): Lead {
  const { step } = place;
  run.state = { ...run.state, asked: null, status: 'running' };
  // Only what was asked for is an answer.
  if (reply.to !== asked.ask) return stopWith(run, 'it was answered something else than it asked');
  if (step.verb === 'look-up' && reply.to === 'look-up' && asked.ask === 'look-up') {
    if (reply.outcome === 'failed' && asked.attempt < step.tries)
      return request(run, {
        ask: 'look-up',
        source: asked.source,
        inputs: asked.inputs,
        attempt: asked.attempt + 1,
        slowAfterSeconds: null,
      });
    taken(run, step.outputs, reply.outputs);
    return follow(
      run,
      place,
      reply.outcome,
      reply.outcome === 'found' ? step.found : reply.outcome === 'not-found' ? step.notFound : step.failed,
    );
  }
  if (step.verb === 'do' && reply.to === 'do') {
    taken(run, step.outputs, reply.outputs);
    return follow(run, place, reply.outcome, step[reply.outcome]);
  }
  if (step.verb === 'branch' && reply.to === 'facts') return branch(run, place, step, reply.facts);
  if (step.verb === 'hours' && reply.to === 'facts') {
    const open = Object.values(reply.facts)[0];
    return open === null || open === undefined
      ? stopWith(run, 'the hours it asks about are not there')
      : follow(run, place, open ? 'open' : 'closed', open ? step.open : step.closed);
  }
  if (step.verb === 'count' && reply.to === 'figure') {
    if (reply.figure !== null) {
      remember(run, step.into, reply.figure);
      return below(place);
    }
    forget(run, step.into);
    return follow(run, place, 'unknown', step.unknown ?? { to: 'next' });
  }
  if (step.verb === 'identify' && reply.to === 'identify') {
    for (const [name, value] of Object.entries(reply.values)) remember(run, { name, scope: 'conversation' }, value);
    if (reply.customerId !== undefined && asked.ask === 'identify' && asked.address !== null)
      run.acts.push({ type: 'identified', customerId: reply.customerId, address: asked.address });
    return follow(run, place, reply.known ? 'known' : 'unknown', reply.known ? step.known : step.unknown);
  }
  if (step.verb === 'text-them' && reply.to === 'number') return numberAnswered(run, place, step, reply);
  if (step.verb === 'text-them' && reply.to === 'code') return codeAnswered(run, place, step, reply.right);
  if (step.verb === 'call-back' && reply.to === 'callback') return callBackAnswered(run, place, step, reply);
  if (step.verb === 'hand-over' && step.target.to === 'queue-value' && reply.to === 'queue')
    return handOver(run, step, reply.queueId ?? step.target.queueId, null);
  if (step.verb === 'hand-over' && step.target.to === 'person' && reply.to === 'person') {
    if (reply.personId !== null && reply.onDuty) return handOver(run, step, step.target.queueId, reply.personId);
    return step.target.off
      ? follow(run, place, 'off', step.target.off)
      : handOver(run, step, step.target.queueId, null);
  }
  if (step.verb === 'listen' && reply.to === 'meaning' && asked.ask === 'meaning')
    return meant(run, place, step, asked.text, reply.meaning);
  if (step.verb === 'articles' && reply.to === 'article') {
    if (reply.article) {
      run.state = {
        ...run.state,
        tries: 0,
        reading: { title: reply.article.title, parts: inParts(reply.article.text), at: 0, seen: [reply.article.id] },
      };
      return read(run, step);
    }
    run.state = { ...run.state, reading: null };
    say(run, step.id, plainSpeech(nothingFits(run.state.language)));
    return run.state.tries + 1 >= step.tries ? follow(run, place, 'nothing', step.nothing) : repeat(run, step);
  }
  return stopWith(run, 'it was answered something else than it asked');
}
