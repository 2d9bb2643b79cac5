import { array, boolean, object, string } from 'yup';
import { CALLBACK_SENTENCES, type CallbackSentence } from '../../core/callbacks/sentences';
import { type Channel, CHANNELS } from '../../core/channels';
import { type Stage, type StageAct, WAIT_CHOICES, type WaitChoice } from '../../core/routing/clock';
import type { Localised } from '../../core/localised';
import { LIMIT_KINDS, type LimitKind } from '../../core/routing/limits';
import type { Onward } from '../../core/routing/onward';
import { type EntryCondition, type Offering, PICKING_RULES, type PickingRule } from '../../core/routing/queue';
import {
  channel,
  differ,
  each,
  exactly,
  id,
  localisedSchema,
  needsSchema,
  oneOf,
  requiredText,
  whole,
} from '../ground/schemas';
import { orAbsent, perChannel, shaped, someOf } from '../ground/shaped';

const wording = localisedSchema(1000, 'The wording');
export const onwardSchema = shaped<Onward, 'to'>(
  'to',
  {
    end: { wording },
    message: { wording },
    callback: {},
    queue: { queueId: id('The queue') },
    group: { groupId: id('The group') },
    partner: { partnerId: id('The partner desk') },
    scene: { botId: id('The bot'), sceneId: id('The scene') },
  },
  'Where it goes',
  {},
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
  .min(1, 'Offer at least one way out')
  .max(2)
  .required()
  .test('keys', 'Two choices have the same key', (all) => differ(all, 'key'));
const actSchema = shaped<StageAct, 'does'>(
  'does',
  {
    lower: { skillId: id('The skill'), by: whole(1, 5, 'The levels') },
    'add-group': { groupId: id('The group') },
    'add-partner': { partnerId: id('The partner desk') },
    raise: { by: whole(1, 9, 'The priority') },
    say: { wording, everySeconds },
    play: { music: id('The music') },
    ask: { wording, choices, everySeconds },
    move: { onward: onwardSchema },
  },
  'A stage’s act',
  {},
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
  .test('order', 'Stages must be in order of time, each second once', (stages) => {
    const at = each(stages, 'atSeconds').map((second) => (typeof second === 'number' ? second : NaN));
    return at.every((second, i) => i === 0 || !(second <= (at[i - 1] ?? NaN)));
  });

const limit = whole(0, 1e6, 'A limit').nullable().defined();
export const limitsSchema = exactly(object({ atOnce: limit, perHour: limit, perDay: limit, perMonth: limit }));
export const insteadSchema = array(oneOf<LimitKind>(LIMIT_KINDS, 'A limit')).max(LIMIT_KINDS.length).required();

const entryRule = exactly(
  object({
    if: shaped<EntryCondition, 'when'>(
      'when',
      {
        closed: {},
        nobody: {},
        waiting: { atLeast: whole(1, 10_000, 'How many wait') },
        expected: { atLeast: whole(1, 86_400, 'The expected wait') },
      },
      'An entry rule',
      {},
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
  offering: shaped<Offering, 'way'>(
    'way',
    {
      one: {},
      claim: {},
      'ring-all': { most: whole(2, 20, 'How many are rung') },
    },
    'The offering',
    {},
  ),
  missedSetsAway: boolean().required(),
  entryRules: array(entryRule).max(20, 'At most 20 entry rules').required(),
  clocks: perChannel(clockSchema, 'The clock'),
  wrapUp: exactly(
    object({
      seconds: whole(1, 3600, 'The wrap-up').nullable().defined(),
      mayFinishEarly: boolean().required('Whether wrap-up may end early is missing'),
      needsOutcome: boolean().required('Whether an outcome is required is missing'),
    }),
  ),
  connect: exactly(object({ toAgent: wording, toCustomer: wording })),
  outcomes: array(string().required()).max(100).nullable().defined(),
  fields: array(string().required()).max(100).nullable().defined(),
  messageGoal: orAbsent(
    exactly(
      object({
        percent: whole(1, 100, 'The share of messages'),
        seconds: whole(1, 30 * 86_400, 'The time for messages'),
      }),
    ),
  ),
  callback: exactly(
    object({
      queueId: string().nullable().defined(),
      attempts: whole(1, 10, 'The attempts'),
      spacingMinutes: whole(1, 1440, 'The spacing'),
      expiryHours: whole(1, 336, 'The expiry'),
      wording: someOf<CallbackSentence, Localised>(
        CALLBACK_SENTENCES,
        wording,
        'The sentences must be given by what they are for',
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
