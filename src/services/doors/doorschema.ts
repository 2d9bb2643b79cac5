import { array, object, string } from 'yup';
import { type Channel, CHANNELS } from '../../core/channels';
import type { Away, Meets, WhenClosed } from '../../core/doors/doorway';
import { exactly, id, languageTag, localisedSchema, oneOf, requiredText, whole, wordsSchema } from '../ground/schemas';
import { shaped } from '../ground/shaped';

/** A door as its page sends it. */

const bot = { botId: id('The bot') };
const message = { queueId: id('The queue of messages') };
const callback = { queueId: id('The queue that calls back') };
const whenClosedSchema = shaped<WhenClosed, 'does'>(
  'does',
  { end: {}, bot, message, callback, door: { doorId: id('The other door') } },
  'What happens when closed',
  {},
);
const awaySchema = exactly(
  object({
    wording: localisedSchema(500, 'What is said when nobody is on duty'),
    then: shaped<Away['then'], 'does'>(
      'does',
      { end: {}, bot, message, callback, queue: {} },
      'What happens when nobody is on duty',
      {},
    ),
  }),
);
const ruleSchema = exactly(object({ botId: id('The bot'), words: wordsSchema('The first words') }));
const meetsSchema = shaped<Meets, 'by'>(
  'by',
  {
    bot: {},
    'first-words': {
      rules: array(ruleSchema).min(1, 'Give first words at least one bot').max(20, 'At most 20 bots').required(),
    },
    people: {
      personIds: array(id('The person')).min(1, 'Name at least one person').max(20, 'At most 20 people').required(),
      queueId: id('The queue within which they are asked'),
      away: awaySchema,
    },
  },
  'Who meets whoever comes',
  {},
);

export const doorSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(60, 'The name'),
    channel: oneOf<Channel>(CHANNELS, 'The channel'),
    address: requiredText(120, 'The address'),
    hoursId: id('The hours'),
    botId: id('The bot'),
    languages: array(languageTag).min(1, 'Choose at least one language').max(12).required('The languages are missing'),
    closedWording: localisedSchema(500, 'What is said when closed'),
    trial: exactly(object({ version: whole(1, 1e6, 'The version on trial'), percent: whole(1, 99, 'The share') }))
      .nullable()
      .default(null),
    whenClosed: whenClosedSchema,
    meets: meetsSchema,
  }),
);
