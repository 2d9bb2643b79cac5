import { type BotScript, type Step } from '../bots/model';
import { type ReferenceKind, withReferences } from '../bots/references';
import type { Meets, WhenClosed } from '../doors/doorway';
import type { Stage, StageAct } from '../routing/clock';
import type { Onward } from '../routing/onward';
import type { QueueSettings } from '../routing/queue';

/**
 * Settings without a thing that is removed: what led to it leads to another where one is given (`instead`), and is left out
 * where none is. Each gives the very same object where it does not refer to the thing.
 */
export type Gone = {
  readonly kind: 'queue' | 'bot' | 'group' | 'partner';
  readonly id: string;
  readonly instead: string | null;
};

const onwardWithout = (onward: Onward, { kind, id, instead }: Gone): Onward | null => {
  if (kind === 'queue' && onward.to === 'queue' && onward.queueId === id)
    return instead === null ? null : { ...onward, queueId: instead };
  if (kind === 'group' && onward.to === 'group' && onward.groupId === id)
    return instead === null ? null : { ...onward, groupId: instead };
  if (kind === 'partner' && onward.to === 'partner' && onward.partnerId === id)
    return instead === null ? null : { ...onward, partnerId: instead };
  // A scene of another bot is another scene.
  return kind === 'bot' && onward.to === 'scene' && onward.botId === id ? null : onward;
};

/** A queue whose clocks, entry rules and calls back do not lead to it. */
export function queueWithout<Q extends QueueSettings>(queue: Q, gone: Gone): Q {
  const toItself = (onward: Onward) => onward.to === 'queue' && onward.queueId === queue.id;
  const led = (onward: Onward): Onward | null => {
    const next = onwardWithout(onward, gone);
    return next && next !== onward && toItself(next) ? null : next;
  };
  const entryRules = queue.entryRules.flatMap((rule) => {
    const then = led(rule.then);
    return then === rule.then ? [rule] : then ? [{ ...rule, then }] : [];
  });
  const stage = (one: Stage): Stage => {
    const acts = one.acts.flatMap((act): readonly StageAct[] => {
      if (act.does === 'add-group' && gone.kind === 'group' && act.groupId === gone.id)
        return gone.instead === null ? [] : [{ ...act, groupId: gone.instead }];
      if (act.does === 'add-partner' && gone.kind === 'partner' && act.partnerId === gone.id)
        return gone.instead === null ? [] : [{ ...act, partnerId: gone.instead }];
      if (act.does !== 'move') return [act];
      const onward = led(act.onward);
      return onward === act.onward ? [act] : onward ? [{ ...act, onward }] : [];
    });
    return acts.every((act, i) => act === one.acts[i]) && acts.length === one.acts.length ? one : { ...one, acts };
  };
  const clocks = Object.fromEntries(
    Object.entries(queue.clocks).map(([channel, stages]) => [
      channel,
      stages.map(stage).filter((one, i) => one.acts.length > 0 || one === stages[i]),
    ]),
  );
  const called = gone.kind === 'queue' && queue.callback.queueId === gone.id;
  const next = {
    ...queue,
    entryRules,
    clocks,
    ...(called ? { callback: { ...queue.callback, queueId: gone.instead === queue.id ? null : gone.instead } } : {}),
  };
  return JSON.stringify(next) === JSON.stringify(queue) ? queue : next;
}

type DoorPart = { readonly botId: string; readonly whenClosed: WhenClosed; readonly meets: Meets };

/** Whether a door cannot do without it, and so needs another instead. */
export const needsInstead = (door: DoorPart, { kind, id }: Pick<Gone, 'kind' | 'id'>): boolean =>
  kind === 'bot' ? door.botId === id : door.meets.by === 'people' ? door.meets.queueId === id : false;

/** A door that does not lead to it; where another is needed and none is given, it is left as it is. */
export function doorWithout<D extends DoorPart>(door: D, gone: Gone): D {
  const closed = <W extends WhenClosed | { readonly does: 'queue' }>(when: W): W | { readonly does: 'end' } => {
    if (gone.kind === 'queue' && 'queueId' in when && when.queueId === gone.id)
      return gone.instead === null ? { does: 'end' } : { ...when, queueId: gone.instead };
    if (gone.kind === 'bot' && when.does === 'bot' && 'botId' in when && when.botId === gone.id)
      return gone.instead === null ? { does: 'end' } : { ...when, botId: gone.instead };
    return when;
  };
  const swap = (of: Gone['kind'], id: string) => (of === gone.kind && id === gone.id ? (gone.instead ?? id) : id);
  const { meets } = door;
  const rules = meets.by === 'first-words' ? meets.rules.filter((r) => gone.kind !== 'bot' || r.botId !== gone.id) : [];
  const next: D = {
    ...door,
    botId: swap('bot', door.botId),
    whenClosed: closed(door.whenClosed),
    meets:
      meets.by === 'first-words'
        ? rules.length > 0
          ? { ...meets, rules }
          : { by: 'bot' }
        : meets.by === 'people'
          ? { ...meets, queueId: swap('queue', meets.queueId), away: { ...meets.away, then: closed(meets.away.then) } }
          : meets,
  };
  return JSON.stringify(next) === JSON.stringify(door) ? door : next;
}

/** A queue that neither needs nor loosens a skill. */
export function queueWithoutSkill<Q extends QueueSettings>(queue: Q, skillId: string): Q {
  const clocks = Object.fromEntries(
    Object.entries(queue.clocks).map(([channel, stages]) => [
      channel,
      stages
        .map((stage) => ({
          ...stage,
          acts: stage.acts.filter((act) => act.does !== 'lower' || act.skillId !== skillId),
        }))
        .filter((stage, i) => stage.acts.length > 0 || (stages[i]?.acts.length ?? 0) === 0),
    ]),
  );
  const next = { ...queue, needs: queue.needs.filter((n) => n.skillId !== skillId), clocks };
  return JSON.stringify(next) === JSON.stringify(queue) ? queue : next;
}

/** Lines that hand over to a queue where they handed over to a group or partner desk within it, or to another one. */
export const stepsWithoutAsked = (
  steps: readonly Step[],
  { kind, id, instead }: Gone & { readonly kind: 'group' | 'partner' },
): Step[] =>
  steps.map((step) => {
    if (step.verb !== 'hand-over') return step;
    const { target } = step;
    const to =
      target.to === 'group' && kind === 'group'
        ? target.groupId
        : target.to === 'partner' && kind === 'partner'
          ? target.partnerId
          : null;
    if (to !== id) return step;
    const { queueId } = target;
    return {
      ...step,
      target:
        instead === null
          ? { to: 'queue', queueId }
          : kind === 'group'
            ? { to: 'group', groupId: instead, queueId }
            : { to: 'partner', partnerId: instead, queueId },
    };
  });

/** Lines after which nobody has to know a skill. */
export const stepsWithoutSkill = (steps: readonly Step[], skillId: string): Step[] =>
  steps.map((step) => {
    const left = <N extends { readonly skillId: string }>(needs: readonly N[]) =>
      needs.filter((n) => n.skillId !== skillId);
    if (step.verb === 'hand-over') return { ...step, needs: left(step.needs) };
    if (step.verb !== 'listen' || step.hears.kind !== 'choices') return step;
    return {
      ...step,
      hears: {
        ...step.hears,
        choices: step.hears.choices.map((c) => (c.needs ? { ...c, needs: left(c.needs) } : c)),
      },
    };
  });

/** Lines that pass a field on no more. */
export const stepsWithoutField = (steps: readonly Step[], name: string): Step[] =>
  steps.map((step) =>
    (step.verb === 'hand-over' || step.verb === 'call-back') && step.fields.includes(name)
      ? { ...step, fields: step.fields.filter((f) => f !== name) }
      : step,
  );

/** Whether lines lead to a thing. */
export const leadsTo = (steps: readonly Step[], kind: ReferenceKind, id: string): boolean => {
  let found = false;
  for (const step of steps)
    withReferences(step, (r) => {
      found ||= r.kind === kind && r.id === id;
      return r.id;
    });
  return found;
};
export const stepsWithout = (steps: readonly Step[], kind: ReferenceKind, id: string, instead: string): Step[] =>
  steps.map((step) => withReferences(step, (r) => (r.kind === kind && r.id === id ? instead : r.id)));

/** A script that hands over to another queue. */
export const scriptWithout = (script: BotScript, id: string, instead: string): BotScript => ({
  ...script,
  fallbackQueueId: script.fallbackQueueId === id ? instead : script.fallbackQueueId,
  scenes: script.scenes.map((scene) => ({ ...scene, steps: stepsWithout(scene.steps, 'queue', id, instead) })),
});
