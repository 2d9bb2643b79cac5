import { array, boolean, mixed, number, object, string, type AnyObjectSchema } from 'yup';
import { CHANNELS, type Channel } from '../../core/channels';
import type { Localised } from '../../core/localised';
import type { Level } from '../../core/people/levels';

/** Pieces of schemas that several services share. Messages name the thing, so that they read as sentences. */
export const text = (most: number, label: string) =>
  string()
    .label(label)
    .trim(`${label} begins or ends with a space`)
    .max(most, `${label} may have at most ${most} characters`);
export const requiredText = (most: number, label: string) => text(most, label).required(`${label} is missing`);
export const id = (label: string) => string().label(label).max(80).required(`${label} is missing`);
export const whole = (least: number, most: number, label: string) =>
  number()
    .label(label)
    .integer(`${label} must be a whole number`)
    .min(least, `${label} must be at least ${least}`)
    .max(most, `${label} must be at most ${most}`)
    .required(`${label} is missing`);
export const oneOf = <T extends string>(values: readonly T[], label: string) =>
  mixed<T>()
    .label(label)
    .oneOf([...values], `${label} must be one of ${values.join(', ')}`)
    .required(`${label} is missing`);
export const channel = oneOf<Channel>(CHANNELS, 'The channel');
export const languageTag = string()
  .matches(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, 'A language must be a tag such as en or es-MX')
  .required();

/** Whether a text is a day of the calendar, `YYYY-MM-DD`. */
export function isDay(text: string): boolean {
  const at = /^\d{4}-\d{2}-\d{2}$/.test(text) ? Date.parse(`${text}T12:00:00Z`) : NaN;
  return !Number.isNaN(at) && new Date(at).toISOString().startsWith(text);
}
export const day = string().test(
  'day',
  'A day of the calendar is written like 2026-12-24',
  (d) => typeof d !== 'string' || isDay(d),
);
export const timeOfDay = string()
  .matches(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is written like 09:30')
  .required('A time is missing');

/** An object that must be there, and takes these names and no others. `.optional()` after it where it may be left out. */
export const exactly = <S extends AnyObjectSchema>(schema: S): S =>
  schema
    .noUnknown(({ unknown }: { unknown: string }) => `Unknown name: ${unknown}`)
    .required(({ path }: { path: string }) => `${path === 'this' ? 'The whole' : path} is missing`) as S;

/**
 * What the items of a list have under a name, whatever they are: a list's own check runs beside those of its items, so
 * that nothing can be taken for granted about them.
 */
export const each = (list: unknown, name: string): unknown[] =>
  (Array.isArray(list) ? list : []).map((item: unknown) =>
    typeof item === 'object' && item !== null ? (item as Readonly<Record<string, unknown>>)[name] : undefined,
  );
/** Whether what the items of a list have under a name is different each time. */
export const differ = (list: unknown, name: string): boolean => {
  const all = each(list, name);
  return new Set(all).size === all.length;
};

/** Wording per language; empty texts are allowed and count as missing. */
export const localisedSchema = (most: number, label: string) =>
  mixed<Localised>()
    .label(label)
    .required(`${label} is missing`)
    .test(
      'localised',
      `${label} must be texts of at most ${most} characters by language tag`,
      (value) =>
        typeof value === 'object' &&
        value !== null &&
        Object.entries(value).length <= 40 &&
        Object.entries(value).every(
          ([tag, words]) =>
            /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(tag) && typeof words === 'string' && words.length <= most,
        ),
    );

/** Lists of words by language. */
export const wordsSchema = (label: string) =>
  mixed<Record<string, string[]>>()
    .required(`${label} are missing`)
    .test(
      'words',
      `${label} must be lists of words by language`,
      (value) =>
        typeof value === 'object' &&
        value !== null &&
        Object.keys(value).length <= 40 &&
        Object.values(value).every(
          (words) =>
            Array.isArray(words) && words.length <= 60 && words.every((w) => typeof w === 'string' && w.length <= 80),
        ),
    );

export const level = mixed<Level>().oneOf([1, 2, 3, 4, 5], 'A level must be a whole number from 1 to 5');
export const needSchema = exactly(
  object({
    skillId: id('The skill'),
    atLeast: level.required('The level is missing'),
    atMost: level.optional(),
    firm: boolean().optional(),
  }),
);
export const needsSchema = array(needSchema)
  .max(12, 'At most 12 needs')
  .required('The needs are missing')
  .test('once', 'A skill can be needed only once', (needs) => differ(needs, 'skillId'));
