import type { Need } from '../routing/needs';
import { type Condition, subjectThing, thingSubject } from './conditions';
import { withCues } from './lineways';
import type { Cue, Step } from './model';

/** What a line can refer to outside itself. */
export const KINDS = [
  'queue',
  'skill',
  'group',
  'partner',
  'person',
  'team',
  'connector',
  'table',
  'list',
  'intent',
  'hours',
  'shared',
  'scene',
  'line',
  'value',
] as const;
export type ReferenceKind = (typeof KINDS)[number];
export type Reference = { readonly kind: ReferenceKind; readonly id: string };
export const KIND_WORDS: Readonly<Record<ReferenceKind, string>> = {
  queue: 'the queue',
  skill: 'the skill',
  group: 'the group',
  partner: 'the partner desk',
  person: 'the person',
  team: 'the team',
  connector: 'the connector',
  table: 'the table',
  list: 'the list',
  intent: 'the intent',
  hours: 'the hours',
  shared: 'the shared scene',
  scene: 'the scene',
  line: 'the line',
  value: 'the value',
};

type Change = (reference: Reference) => string;
const needs = (list: readonly Need[], to: Change): Need[] =>
  list.map((n) => ({ ...n, skillId: to({ kind: 'skill', id: n.skillId }) }));

/** Subjects of conditions carry ids: `queue.ID.free`, `hours.ID.open`. */
function subject(text: string, to: Change): string {
  const thing = subjectThing(text);
  if (thing) return thingSubject({ ...thing, id: to({ kind: thing.kind, id: thing.id }) });
  return text.startsWith('values.') ? `values.${to({ kind: 'value', id: text.slice('values.'.length) })}` : text;
}
const condition = (logic: Condition, to: Change): Condition =>
  JSON.parse(JSON.stringify(logic), (key, value: unknown) =>
    key === 'var' && typeof value === 'string' ? subject(value, to) : value,
  ) as Condition;

function cue(c: Cue, to: Change): Cue {
  switch (c.to) {
    case 'line':
      return { ...c, lineId: to({ kind: 'line', id: c.lineId }) };
    case 'scene':
      return { ...c, sceneId: to({ kind: 'scene', id: c.sceneId }) };
    case 'shared':
      return { ...c, sharedId: to({ kind: 'shared', id: c.sharedId }) };
    default:
      return c;
  }
}

/** A line with each of its references put through `to`. */
export function withReferences(step: Step, to: Change): Step {
  const led = withCues(step, (c) => cue(c, to));
  const queue = (id: string): string => to({ kind: 'queue', id });
  switch (led.verb) {
    case 'listen':
      return {
        ...led,
        notices: led.notices.map((n) => ({ ...n, listId: to({ kind: 'list', id: n.listId }) })),
        hears:
          led.hears.kind === 'value'
            ? {
                ...led.hears,
                asked:
                  led.hears.asked.type === 'listed'
                    ? { ...led.hears.asked, listId: to({ kind: 'list', id: led.hears.asked.listId }) }
                    : led.hears.asked,
              }
            : {
                ...led.hears,
                choices: led.hears.choices.map((c) => ({
                  ...c,
                  ...(c.intentId ? { intentId: to({ kind: 'intent', id: c.intentId }) } : {}),
                  ...(c.needs ? { needs: needs(c.needs, to) } : {}),
                })),
              },
      };
    case 'branch':
      return { ...led, ways: led.ways.map((w) => ({ ...w, when: condition(w.when, to) })) };
    case 'look-up':
      return {
        ...led,
        source:
          led.source.from === 'connector'
            ? { ...led.source, connectorId: to({ kind: 'connector', id: led.source.connectorId }) }
            : { ...led.source, tableId: to({ kind: 'table', id: led.source.tableId }) },
      };
    case 'do':
      return { ...led, connectorId: to({ kind: 'connector', id: led.connectorId }) };
    case 'count':
      return led.queue.by === 'name' ? { ...led, queue: { ...led.queue, queueId: queue(led.queue.queueId) } } : led;
    case 'hours':
      return led.hoursId === null ? led : { ...led, hoursId: to({ kind: 'hours', id: led.hoursId }) };
    case 'call-back':
    case 'take-message':
      return { ...led, queueId: queue(led.queueId) };
    case 'play':
      return { ...led, sharedId: to({ kind: 'shared', id: led.sharedId }) };
    case 'hand-over': {
      const target = { ...led.target, queueId: queue(led.target.queueId) };
      const named =
        target.to === 'group'
          ? { ...target, groupId: to({ kind: 'group', id: target.groupId }) }
          : target.to === 'partner'
            ? { ...target, partnerId: to({ kind: 'partner', id: target.partnerId }) }
            : target.to === 'person' && target.person.by === 'id'
              ? {
                  ...target,
                  person: { ...target.person, personId: to({ kind: 'person', id: target.person.personId }) },
                }
              : target;
      return { ...led, needs: needs(led.needs, to), target: named };
    }
    default:
      return led;
  }
}

/**
 * What a line refers to, each once. Names of values are left out: they are looked at on the ways through the script.
 */
export function referencesOf(step: Step): Reference[] {
  const found = new Map<string, Reference>();
  withReferences(step, (r) => {
    if (r.kind !== 'value') found.set(`${r.kind} ${r.id}`, r);
    return r.id;
  });
  return [...found.values()];
}

/** Lines that were copied, with what they refer to by name, so that they can be put into another bot. */
export type Clip = {
  readonly format: 'usher-lane-lines';
  readonly steps: readonly Step[];
  readonly names: Readonly<Record<string, string>>;
};

/** What has to be decided before a clip is put in: everything it refers to that does not come along with it. */
export function questionsOf(clip: Clip): Reference[] {
  const own = new Set(clip.steps.map((s) => s.id));
  const all = new Map(
    clip.steps
      .flatMap(referencesOf)
      .filter((r) => r.kind !== 'line' || !own.has(r.id))
      .map((r) => [`${r.kind} ${r.id}`, r]),
  );
  return [...all.values()];
}

/** Decided for a line or scene that does not come along: go on with the line below instead. */
export const GO_NEXT = 'next';
const nextWhereGone = (c: Cue): Cue =>
  (c.to === 'line' && c.lineId === GO_NEXT) || (c.to === 'scene' && c.sceneId === GO_NEXT) ? { to: 'next' } : c;

/**
 * A clip's lines with ids of their own, ready to be put in: references within the clip follow, the others go where `decided`
 * says (by `KIND ID`), or stay as they are.
 */
export function pasted(clip: Clip, newId: () => string, decided: Readonly<Record<string, string>>): Step[] {
  const ids = new Map(clip.steps.map((s) => [s.id, newId()]));
  return clip.steps.map((step) => ({
    ...withCues(
      withReferences(
        step,
        (r) => (r.kind === 'line' ? ids.get(r.id) : undefined) ?? decided[`${r.kind} ${r.id}`] ?? r.id,
      ),
      nextWhereGone,
    ),
    id: ids.get(step.id) ?? step.id,
  }));
}

/** The ids of the connectors that some scenes ask. */
export const connectorsUsed = (scenes: readonly { readonly steps: readonly Step[] }[]): string[] => [
  ...new Set(
    scenes
      .flatMap((s) => s.steps)
      .flatMap(referencesOf)
      .flatMap((r) => (r.kind === 'connector' ? [r.id] : [])),
  ),
];
