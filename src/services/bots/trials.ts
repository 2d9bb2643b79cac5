import { array, boolean, mixed, number, object, string } from 'yup';
import type { BotAct, BotInput, Reply } from '../../core/bots/conversation';
import { BEHAVIOURS, type BOT_INPUTS, type Ending, ENDINGS, type Setting, type Turn } from '../../core/bots/trial';
import type { Values } from '../../core/bots/value';
import { CHANNELS, type Channel } from '../../core/channels';
import { exactly, id, languageTag, oneOf, requiredText, text, whole } from '../ground/schemas';
import { orAbsent, shaped } from '../ground/shaped';
import { maybeScriptSchema, scriptSchema } from './botschema';

/**
 * The shape of tried conversations as they come from outside. Replies were once given by the server, and are only as
 * good as that.
 */
const simple = (value: unknown): boolean =>
  ['string', 'number', 'boolean'].includes(typeof value) && String(value).length <= 2000;
const simples = (label: string) =>
  mixed<Record<string, string | number | boolean>>()
    .required(`${label} are missing`)
    .test(
      'values',
      `${label} must be plain values by name`,
      (value) =>
        typeof value === 'object' &&
        value !== null &&
        Object.keys(value).length <= 200 &&
        Object.values(value).every(simple),
    );

const input = shaped<Extract<BotInput, { type: (typeof BOT_INPUTS)[number] }>, 'type'>(
  'type',
  {
    start: {},
    silence: {},
    text: { text: string().max(2000).required('The words are missing') },
    key: {
      key: string()
        .matches(/^[0-9*#]$/, 'A key must be one of 0–9, * and #')
        .required(),
    },
    scene: { sceneId: id('The scene') },
  },
  'The input',
  {},
);
const reply = mixed<Reply>()
  .required()
  .test(
    'reply',
    'An answer from outside cannot be read',
    (value) =>
      typeof value === 'object' &&
      value !== null &&
      typeof (value as { to?: unknown }).to === 'string' &&
      JSON.stringify(value).length < 20_000,
  );
const turn = exactly(
  object({
    input,
    replies: array(reply).max(250).required(),
    says: array(string().max(5000).defined()).max(250).required(),
  }),
);
export const turnsSchema = array(turn).max(120, 'At most 120 turns').required('The turns are missing');
export const settingSchema = exactly(
  object({
    channel: oneOf<Channel>(CHANNELS, 'The channel'),
    language: languageTag,
    local: string()
      .matches(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/, 'The time must be a date and time')
      .required('The time is missing'),
    open: boolean().required('Open or closed is missing'),
    customer: text(80, 'The customer’s name').nullable().defined(),
    facts: simples('The figures'),
    behaviours: mixed<Setting['behaviours']>()
      .required('The behaviours are missing')
      .test(
        'behaviours',
        'A behaviour must be one of the known ones',
        (value) =>
          typeof value === 'object' &&
          value !== null &&
          Object.values(value).every((b) => BEHAVIOURS.some((x) => x === b)),
      ),
  }),
);
const ending = exactly(
  object({
    where: oneOf(ENDINGS, 'Where it ends'),
    queueId: string().nullable().defined(),
    needs: array(string().max(120).required()).max(30).required(),
    values: simples('The values'),
    failed: string().max(500).nullable().defined(),
  }),
);

export const trySchema = exactly(
  object({
    script: scriptSchema,
    setting: settingSchema,
    turns: turnsSchema,
    /** Values that are known from the beginning: what a shared scene is given. */
    values: orAbsent<Values>(simples('The values')),
  }),
);
/** A test as it is kept, but for what it is of. */
export const keptTestShape = {
  name: requiredText(80, 'The test’s name'),
  setting: settingSchema,
  turns: turnsSchema,
  ending,
};
export const keepTestSchema = exactly(
  object({
    botId: id('The bot'),
    id: string().max(80).nullable().defined(),
    /** Whose words it says again, where it was tried with those of a contact. */
    contactId: string().max(80).nullable().defined('The contact is missing'),
    ...keptTestShape,
  }),
);
export const testSchema = exactly(object({ id: id('The test'), script: maybeScriptSchema }));
export const planSchema = {
  at: number().integer('The instant must be a whole number').nullable().defined('When it goes live is missing'),
  revision: whole(0, 1e9, 'The revision'),
};

/** What came of trying a conversation: all turns with what was said and what stands behind it, and where it is now. */
export type Tried = {
  readonly turns: readonly (Turn & { readonly acts: readonly BotAct[]; readonly slow: boolean })[];
  readonly lineId: string | null;
  readonly sharedId: string | null;
  readonly status: 'listening' | 'asking' | 'handed-over' | 'promised' | 'ended';
  readonly language: string;
  readonly values: Readonly<Record<string, string | number | boolean>>;
  readonly needs: readonly { readonly skillId: string; readonly atLeast: number }[];
  readonly ending: Ending;
};
