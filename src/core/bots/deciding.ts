import { holds } from './conditions';
import { valuesAt } from './conversation';
import type { Step } from './model';
import type { Place } from './program';
import type { Lead, Run } from './run';
import { say, words } from './saying';
import type { Value } from './value';
import { follow } from './ways';

export function branch(
  run: Run,
  place: Place,
  step: Extract<Step, { verb: 'branch' }>,
  facts: Readonly<Record<string, Value | null>>,
): Lead {
  const known = { ...ownFacts(run), ...facts };
  const at = step.ways.findIndex((way) => holds(way.when, valuesAt(run.state), known));
  return follow(run, place, at < 0 ? 'otherwise' : `way-${at + 1}`, step.ways[at]?.cue ?? step.otherwise);
}

/** Facts that need no driver. */
export function ownFacts(run: Run): Readonly<Record<string, Value>> {
  const [date = '', time = ''] = run.world.local.split('T');
  return {
    channel: run.world.channel,
    language: run.state.language,
    date,
    time,
    weekday: ((new Date(`${date}T00:00:00Z`).getUTCDay() + 6) % 7) + 1,
  };
}

export function handOver(
  run: Run,
  step: Extract<Step, { verb: 'hand-over' }>,
  queueId: string,
  personId: string | null,
): Lead {
  say(run, step.id, words(run, step.wording));
  const needs = [...new Map([...run.state.needs, ...step.needs].map((n) => [n.skillId, n])).values()];
  run.state = { ...run.state, status: 'handed-over' };
  run.acts.push({
    type: 'hand-over',
    lineId: step.id,
    target: step.target,
    queueId,
    personId,
    needs,
    priority: step.priority,
    fields: step.fields,
    because: null,
  });
  return 'stop';
}
