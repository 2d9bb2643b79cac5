import { array, boolean, mixed, number, object, string } from 'yup';
import { patternFrom } from '../../core/bots/pattern';
import { rowsFrom, type Condition } from '../../core/bots/conditions';
import {
  FIGURES,
  type Asked,
  type Count,
  type Cue,
  type Listen,
  type LookUp,
  type Step,
  type Target,
  type Wording,
} from '../../core/bots/model';
import { CALLBACK_SENTENCES } from '../../core/callbacks/sentences';
import { VALUE_NAME } from '../../core/bots/value';
import { CHANNELS } from '../../core/channels';
import { OFFERED_BY, type OfferedBy } from '../../core/messages/options';
import {
  exactly,
  id,
  languageTag,
  localisedSchema,
  needsSchema,
  oneOf,
  requiredText,
  text,
  whole,
  wordsSchema,
} from '../ground/schemas';
import { orAbsent, orNull, shaped, type Shapes, someOf } from '../ground/shaped';

/** The shape of a bot's script as it comes from outside. What it means is checked by core/bots/checks. */

const plain = (value: unknown): Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null ? (value as Readonly<Record<string, unknown>>) : {};
const CUES = {
  next: {},
  end: {},
  line: { lineId: id('The line') },
  scene: { sceneId: id('The scene') },
  shared: { sharedId: id('The shared scene') },
};
const cue = shaped<Cue, 'to'>('to', CUES, 'Where it goes', {});

const condition = mixed<Condition>()
  .required('A way has no condition')
  .test('condition', 'A condition must compare values, all or any of at most 12', (value) => {
    const rows = rowsFrom(value);
    return (
      rows !== null &&
      rows.rows.length <= 12 &&
      rows.rows.every((r) => r.subject.length <= 120 && String(r.value).length <= 200)
    );
  });
const channelTexts = mixed<NonNullable<Wording['on']>>().test(
  'on',
  'Wording of a channel must be texts by language',
  (value) =>
    value === undefined ||
    (typeof value === 'object' &&
      value !== null &&
      Object.entries(value).every(
        ([channel, words]) =>
          CHANNELS.some((c) => c === channel) &&
          localisedSchema(2000, 'The wording').isValidSync(words, { strict: true }),
      )),
);
export const wordingSchema = exactly(
  object({ text: localisedSchema(2000, 'The wording'), on: channelTexts.optional() }),
);
const valueName = string().matches(
  VALUE_NAME,
  'A value’s name begins with a letter or digit and has at most 60 letters, digits, spaces, _ and -',
);
const name = valueName.required('A value has no name');
const into = exactly(object({ name, scope: oneOf(['scene', 'conversation'] as const, 'How long it is kept') }));
const maybeInto = orNull(into);
const given = array(
  exactly(
    object({
      name: requiredText(60, 'The input’s name'),
      value: string().max(500, 'An input may have at most 500 characters').defined('An input has no value'),
    }),
  ),
)
  .max(20, 'At most 20 inputs')
  .required('The inputs are missing');
const taken = array(exactly(object({ name: requiredText(60, 'The output’s name'), into })))
  .max(20, 'At most 20 outputs')
  .required('The outputs are missing');
const count = (most: number, label: string) => whole(0, most, label);
const bound = number().integer('A bound must be a whole number').nullable().defined('A bound is missing');
const ASKED = {
  text: {},
  date: {},
  time: {},
  'yes-no': {},
  telephone: {},
  email: {},
  whole: { least: bound, most: bound },
  listed: { listId: id('The list') },
  pattern: {
    pattern: requiredText(200, 'The pattern').test(
      'pattern',
      'The pattern cannot be read',
      (value) => patternFrom(value) !== null,
    ),
    example: text(80, 'The example').defined(),
  },
};
const asked = shaped<Asked, 'type'>('type', ASKED, 'What is asked for', {});
const choice = exactly(
  object({
    id: id('The choice'),
    label: localisedSchema(80, 'A choice'),
    key: string()
      .matches(/^[0-9*#]?$/, 'A key must be one of 0–9, * and #')
      .defined('The key is missing'),
    synonyms: wordsSchema('The synonyms'),
    cue,
    intentId: id('The intent').optional(),
    setsLanguage: languageTag.optional(),
    needs: needsSchema.optional(),
  }),
);
const hears = shaped<Listen['hears'], 'kind'>(
  'kind',
  {
    choices: {
      choices: array(choice).max(30, 'At most 30 choices').required(),
      offeredBy: orAbsent<OfferedBy>(
        mixed<OfferedBy>()
          .oneOf([...OFFERED_BY], 'Choices are offered by keys, words or both')
          .required(),
      ),
    },
    value: { asked },
  },
  'What is heard',
  {},
);
const person = shaped<Extract<Target, { to: 'person' }>['person'], 'by'>(
  'by',
  { id: { personId: id('The person') }, value: { name }, last: {} },
  'How the person is found',
  {},
);
const queueId = id('The queue');
const target = shaped<Target, 'to'>(
  'to',
  {
    queue: { queueId },
    'queue-value': { name, queueId },
    group: { groupId: id('The group'), queueId },
    partner: { partnerId: id('The partner desk'), queueId },
    person: { person, queueId, off: orNull(cue) },
  },
  'Whom it is handed to',
  {},
);
const tries = whole(1, 9, 'The tries');
const silenceSeconds = whole(2, 60, 'The silence');
const slow = { slowAfterSeconds: count(60, 'The seconds until it is slow'), slow: wordingSchema };
const linkSchema = orNull(
  exactly(
    object({
      url: string().url('A link must be an address that begins with https://').max(500).required('The link is missing'),
      label: localisedSchema(120, 'The link’s label'),
    }),
  ),
);

const imageSchema = exactly(
  object({ imageId: id('The picture'), alt: localisedSchema(200, 'What the picture shows') }),
).optional();

const STEPS: Shapes<Step, 'verb', 'id'> = {
  say: { wording: wordingSchema, mayInterrupt: boolean().required(), link: linkSchema, image: imageSchema },
  listen: {
    wording: wordingSchema,
    hears,
    into: maybeInto,
    notices: array(exactly(object({ listId: id('The list'), into })))
      .max(6, 'At most 6 lists are noticed')
      .required(),
    tries,
    silenceSeconds,
    again: wordingSchema,
    silent: wordingSchema,
    otherwise: orNull(cue),
  },
  branch: {
    ways: array(exactly(object({ when: condition, cue })))
      .min(1, 'A branch needs at least one way')
      .max(20)
      .required(),
    otherwise: cue,
  },
  'look-up': {
    source: shaped<LookUp['source'], 'from'>(
      'from',
      { connector: { connectorId: id('The connector') }, table: { tableId: id('The table') } },
      'What is asked',
      {},
    ),
    inputs: given,
    outputs: taken,
    tries: whole(1, 5, 'The tries'),
    ...slow,
    found: cue,
    notFound: cue,
    failed: orNull(cue),
  },
  do: {
    connectorId: id('The connector'),
    inputs: given,
    outputs: taken,
    ...slow,
    done: cue,
    refused: cue,
    unsure: orNull(cue),
  },
  count: {
    queue: shaped<Count['queue'], 'by'>('by', { name: { queueId }, value: { name } }, 'How the queue is found', {}),
    figure: oneOf(FIGURES, 'The figure'),
    within: count(3600, 'The seconds within which somebody joins').optional(),
    into,
    unknown: orAbsent(cue),
  },
  remember: {
    into,
    value: string().max(500, 'A value may have at most 500 characters').defined('There is nothing to remember'),
  },
  identify: { by: valueName.nullable().defined(), known: cue, unknown: cue },
  hours: { hoursId: string().max(80).nullable().defined(), open: cue, closed: cue },
  'text-them': {
    when: oneOf(['now', 'after'] as const, 'When'),
    to: valueName.nullable().defined(),
    wording: wordingSchema,
  },
  'hand-over': {
    target,
    needs: needsSchema,
    priority: whole(0, 9, 'The priority'),
    fields: array(name).max(40, 'At most 40 fields').required('The fields are missing'),
    wording: wordingSchema,
  },
  'call-back': {
    queueId,
    number: valueName.nullable().defined(),
    soon: boolean().required('Whether as soon as possible is offered is missing'),
    windows: whole(0, 6, 'The windows'),
    attempts: whole(1, 10, 'The attempts').nullable().defined(),
    fields: array(name).max(40, 'At most 40 fields').required('The fields are missing'),
    sentences: someOf(CALLBACK_SENTENCES, wordingSchema, 'The sentences must be given by what they are for'),
    otherwise: orNull(cue),
  },
  'take-message': { wording: wordingSchema, queueId },
  articles: { wording: wordingSchema, tries, silenceSeconds, done: cue, nothing: cue },
  play: { sharedId: id('The shared scene'), inputs: given },
  'go-to': { cue },
  end: { wording: wordingSchema },
};
const step = shaped<Step, 'verb', 'id'>('verb', STEPS, 'The verb of a line', { id: id('The line') });
export const stepsSchema = array(step).max(200, 'At most 200 lines in a scene').required('The lines are missing');

const onceEach = (scenes: unknown): boolean => {
  // Runs beside the other checks, so that nothing can be taken for granted about the shape.
  const list = (Array.isArray(scenes) ? scenes : []).map(plain);
  const lines = list.flatMap((s) => (Array.isArray(s.steps) ? s.steps.map((x) => plain(x).id) : []));
  return new Set(lines).size === lines.length && new Set(list.map((s) => s.id)).size === list.length;
};

const scriptShape = exactly(
  object({
    shownName: requiredText(40, 'The name customers see'),
    picture: text(2, 'The mark').defined(),
    languages: array(languageTag).max(12).required('The languages are missing'),
    fallbackQueueId: id('The fallback queue'),
    fallbackWording: wordingSchema,
    scenes: array(
      exactly(object({ id: id('The scene'), name: requiredText(60, 'The scene’s name'), steps: stepsSchema })),
    )
      .max(60, 'At most 60 scenes')
      .required('The scenes are missing')
      .test('ids', 'Two scenes or lines have the same id', onceEach),
    afterSceneId: string().max(80).nullable().defined(),
    quiet: exactly(
      object({
        remindSeconds: whole(30, 86_400, 'The seconds until the reminder'),
        wording: wordingSchema,
        closeSeconds: whole(30, 86_400, 'The seconds until it is closed'),
      }),
    ),
  }),
);
export const scriptSchema = scriptShape.required('The script is missing');
export const maybeScriptSchema = scriptShape.optional();

export const sharedSchema = {
  steps: stepsSchema.test('ids', 'Two lines have the same id', (steps) => onceEach([{ id: '', steps }])),
  inputs: array(name).max(20, 'At most 20 inputs').required('The inputs are missing'),
};
