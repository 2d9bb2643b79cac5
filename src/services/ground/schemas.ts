import { array, boolean, mixed, number, object, string, type AnyObjectSchema } from 'yup';
import { CHANNELS, type Channel } from '../../core/channels';
import type { Localised } from '../../core/localised';
import type { Level } from '../../core/people/levels';
import type { Need } from '../../core/routing/needs';

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

/** An object that takes these names and no others. */
export const exactly = <S extends AnyObjectSchema>(schema: S): S =>
  schema.noUnknown(({ unknown }: { unknown: string }) => `Unknown name: ${unknown}`);

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
  .test(
    'once',
    'A skill can be needed only once',
    (needs: readonly Need[] | undefined) => new Set(needs?.map((n) => n?.skillId)).size === (needs?.length ?? 0),
  );
