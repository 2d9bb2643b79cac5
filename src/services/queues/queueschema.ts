import { array, boolean, lazy, mixed, object, type Schema, string } from 'yup';
import { type Channel, CHANNELS } from '../../core/channels';
import { type Stage, type StageAct, WAIT_CHOICES, type WaitChoice } from '../../core/routing/clock';
import { LIMIT_KINDS, type LimitKind } from '../../core/routing/limits';
import type { Onward } from '../../core/routing/onward';
import {
  type EntryCondition,
  type Offering,
  PICKING_RULES,
  type PickingRule,
  type WrapUp,
} from '../../core/routing/queue';
import { channel, exactly, id, localisedSchema, needsSchema, oneOf, requiredText, whole } from '../ground/schemas';

const wording = localisedSchema(1000, 'The wording');
/**
 * One of several shapes, told apart by the value under `key`; anything else is refused with the values that are
 * known.
 */
function oneShape<T>(key: string, shapes: Readonly<Record<string, Schema>>, label: string) {
  return lazy((value: unknown) => {
    const kind =
      typeof value === 'object' && value !== null && key in value ? (value as Record<string, unknown>)[key] : undefined;
    const shape = typeof kind === 'string' && Object.hasOwn(shapes, kind) ? shapes[kind] : undefined;
    return (shape ??
      mixed().test('known', `${label} must be one of ${Object.keys(shapes).join(', ')}`, () => false)) as Schema<T>;
  });
}
const only = (key: string, value: string) => ({ [key]: string().oneOf([value]).required() });

export const onwardSchema = oneShape<Onward>(
  'to',
  {
    end: exactly(object({ ...only('to', 'end'), wording })),
    message: exactly(object({ ...only('to', 'message'), wording })),
    callback: exactly(object(only('to', 'callback'))),
    queue: exactly(object({ ...only('to', 'queue'), queueId: id('The queue') })),
    group: exactly(object({ ...only('to', 'group'), groupId: id('The group') })),
    partner: exactly(object({ ...only('to', 'partner'), partnerId: id('The partner desk') })),
    scene: exactly(object({ ...only('to', 'scene'), botId: id('The bot'), sceneId: id('The scene') })),
  },
  'Where it goes',
);

const everySeconds = whole(5, 3600, 'The repeat').nullable().defined();
const choices = array(
  exactly(
    object({
      key: string()
        .matches(/^[0-9*#]$/, 'A key must be one of 0–9, * and #')
        .required(),
      what: oneOf<WaitChoice>(WAIT_CHOICES, 'The choice'),
    }),
  ),
)
  .min(1, 'Offer at least one key')
  .max(3)
  .required()
  .test('keys', 'Two choices have the same key', (all) => new Set(all.map((c) => c.key)).size === all.length);
const actSchema = oneShape<StageAct>(
  'does',
  {
    lower: exactly(object({ ...only('does', 'lower'), skillId: id('The skill'), by: whole(1, 5, 'The levels') })),
    'add-group': exactly(object({ ...only('does', 'add-group'), groupId: id('The group') })),
    'add-partner': exactly(object({ ...only('does', 'add-partner'), partnerId: id('The partner desk') })),
    raise: exactly(object({ ...only('does', 'raise'), by: whole(1, 9, 'The priority') })),
    say: exactly(object({ ...only('does', 'say'), wording, everySeconds })),
    play: exactly(object({ ...only('does', 'play'), music: id('The music') })),
    ask: exactly(object({ ...only('does', 'ask'), wording, choices, everySeconds })),
    move: exactly(object({ ...only('does', 'move'), onward: onwardSchema })),
  },
  'A stage’s act',
);
const stageSchema = exactly(
  object({
    atSeconds: whole(0, 86_400, 'A stage’s second'),
    early: boolean().required('A stage must say whether it may come early'),
    acts: array(actSchema).min(1, 'A stage must do something').max(12, 'A stage may do at most 12 things').required(),
  }),
);
const clockSchema = array(stageSchema)
  .max(30, 'A clock may have at most 30 stages')
  .required()
  .test('order', 'Stages must be in order of time, each second once', (stages) =>
    stages.every((s, i) => i === 0 || s.atSeconds > (stages[i - 1]?.atSeconds ?? -1)),
  );

/** An object that has some of the channels as names. */
const perChannel = (shape: Schema, label: string) =>
  lazy((value: unknown) => {
    if (typeof value !== 'object' || value === null)
      return mixed().test('object', `${label} must be given per channel`, () => false);
    return exactly(object(Object.fromEntries(CHANNELS.filter((c) => c in value).map((c) => [c, shape]))));
  });

export const limitsSchema = exactly(
  object(
    Object.fromEntries(
      (['atOnce', 'perHour', 'perDay', 'perMonth'] as const).map((kind) => [
        kind,
        whole(0, 1e6, 'A limit').nullable().defined(),
      ]),
    ),
  ),
);
export const insteadSchema = array(oneOf<LimitKind>(LIMIT_KINDS, 'A limit')).max(LIMIT_KINDS.length).required();

const entryRule = exactly(
  object({
    if: oneShape<EntryCondition>(
      'when',
      {
        closed: exactly(object(only('when', 'closed'))),
        nobody: exactly(object(only('when', 'nobody'))),
        waiting: exactly(object({ ...only('when', 'waiting'), atLeast: whole(1, 10_000, 'How many wait') })),
        expected: exactly(object({ ...only('when', 'expected'), atLeast: whole(1, 86_400, 'The expected wait') })),
      },
      'An entry rule',
    ),
    then: onwardSchema,
  }),
);

/** The settings of a queue, name by name. */
export const queueSettingsShape = {
  name: requiredText(60, 'The name'),
  channels: array(channel)
    .min(1, 'Choose at least one channel')
    .max(CHANNELS.length)
    .required('The channels are missing'),
  goals: perChannel(
    exactly(object({ percent: whole(1, 100, 'The goal’s percent'), seconds: whole(1, 86_400, 'The goal’s seconds') })),
    'The goal',
  ),
  hoursId: string().nullable().defined(),
  needs: needsSchema,
  order: array(oneOf<PickingRule>(PICKING_RULES, 'The picking order'))
    .min(1, 'Choose a picking order')
    .max(PICKING_RULES.length)
    .required('The picking order is missing')
    .test('once', 'A rule stands twice in the picking order', (o) => new Set(o).size === o.length),
  familiar: exactly(object({ days: whole(1, 365, 'The days'), holdSeconds: whole(0, 3600, 'The hold') }))
    .nullable()
    .defined(),
  offering: oneShape<Offering>(
    'way',
    {
      one: exactly(object(only('way', 'one'))),
      claim: exactly(object(only('way', 'claim'))),
      'ring-all': exactly(object({ ...only('way', 'ring-all'), most: whole(2, 20, 'How many are rung') })),
    },
    'The offering',
  ),
  missedSetsAway: boolean().required(),
  entryRules: array(entryRule).max(20, 'At most 20 entry rules').required(),
  clocks: perChannel(clockSchema, 'The clock'),
  wrapUp: oneShape<WrapUp>(
    'way',
    {
      person: exactly(object(only('way', 'person'))),
      outcome: exactly(object(only('way', 'outcome'))),
      'up-to': exactly(object({ ...only('way', 'up-to'), seconds: whole(1, 3600, 'The wrap-up') })),
      exactly: exactly(object({ ...only('way', 'exactly'), seconds: whole(1, 3600, 'The wrap-up') })),
    },
    'The wrap-up',
  ),
  connect: exactly(object({ toAgent: wording, toCustomer: wording })),
  outcomes: array(string().required()).max(100).nullable().defined(),
  fields: array(string().required()).max(100).nullable().defined(),
  callback: exactly(
    object({
      queueId: string().nullable().defined(),
      attempts: whole(1, 10, 'The attempts'),
      spacingMinutes: whole(1, 1440, 'The spacing'),
      expiryHours: whole(1, 336, 'The expiry'),
      wording: exactly(
        object({ confirm: wording, typeNumber: wording, readBack: wording, when: wording, promised: wording }),
      ),
    }),
  ),
};
export const queueSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    settings: exactly(object(queueSettingsShape)),
  }),
);

export type ParsedStages = Readonly<Partial<Record<Channel, readonly Stage[]>>>;
