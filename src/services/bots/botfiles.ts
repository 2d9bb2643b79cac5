import { array, mixed, object, string, ValidationError } from 'yup';
import { BOT_FORMAT, type BotFile } from '../../core/bots/file';
import { LaneError } from '../../core/errors';
import { pathParts, readJsonFile, UnreadableJson } from '../../core/formats/jsonfile';
import { scriptSchema, sharedSchema } from './botschema';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';
import { keptTestShape } from './trials';

const fileSchema = exactly(
  object({
    format: mixed<typeof BOT_FORMAT>()
      .oneOf([BOT_FORMAT], `The file is not of the format ${BOT_FORMAT}`)
      .required(`The file is not of the format ${BOT_FORMAT}`),
    version: mixed<1>()
      .oneOf([1], 'The file is of a newer version than this one knows')
      .required('The version is missing'),
    name: requiredText(60, 'The name'),
    script: scriptSchema,
    shared: array(exactly(object({ id: id('The shared scene'), name: requiredText(60, 'The name'), ...sharedSchema })))
      .max(40)
      .required('The shared scenes are missing'),
    tests: array(exactly(object(keptTestShape)))
      .max(200)
      .required('The tests are missing'),
    names: mixed<Record<string, string>>()
      .required('The names are missing')
      .test(
        'names',
        'Names must be texts',
        (value) =>
          typeof value === 'object' &&
          value !== null &&
          Object.values(value).every((v) => typeof v === 'string' && v.length <= 120),
      ),
    images: mixed<Record<string, string>>().test(
      'images',
      'Pictures must be base64 by id',
      (value) =>
        value === undefined ||
        (typeof value === 'object' &&
          value !== null &&
          Object.values(value).every((v) => typeof v === 'string' && /^[A-Za-z0-9+/]+={0,2}$/.test(v))),
    ),
  }),
);

const askedSchema = exactly(
  object({ text: string().max(950_000, 'The file is larger than 950 KB').required('The file is empty') }),
);

/** A bot's file as it was sent, for a thread of its own. Throws `not-valid` with every fault by line. */
export function readSentBot(_host: Host, actor: Actor, asked: unknown): BotFile {
  mustHoldEverywhere(actor, 'bots.change');
  return readBotFile(parse(askedSchema, asked).text);
}

/** A bot's file as it is. Throws `not-valid` with every fault by line. */
export function readBotFile(text: string): BotFile {
  let lineOf: (path: readonly (string | number)[]) => number = () => 1;
  try {
    const file = readJsonFile(text);
    ({ lineOf } = file);
    return fileSchema.validateSync(file.value, { strict: true, abortEarly: false });
  } catch (error) {
    const faults =
      error instanceof UnreadableJson
        ? [{ where: `line ${error.line}`, what: error.message }]
        : error instanceof ValidationError
          ? (error.inner.length > 0 ? error.inner : [error])
              .slice(0, 50)
              .map((e) => ({ where: `line ${lineOf(pathParts(e.path ?? ''))}`, what: e.message }))
          : null;
    if (!faults) throw error;
    throw new LaneError('not-valid', `${faults[0]?.where.replace('l', 'L') ?? ''}: ${faults[0]?.what ?? ''}`, faults);
  }
}
