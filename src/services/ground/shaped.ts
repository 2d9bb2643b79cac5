import { lazy, mixed, object, type AnyObject, type InferType, type ISchema, type Lazy, type Schema } from 'yup';
import { type Channel, CHANNELS } from '../../core/channels';
import { exactly } from './schemas';

/** A schema of Yup's that gives a T; only a type, `__outputType` is never there. */
type Gives<T> = ISchema<unknown> & { readonly __outputType: T };
/** The shape of a T for one of its kinds. */
type OfKind<T, By extends keyof T, Kind> =
  T extends Readonly<Record<By, infer Kinds>> ? (Kind extends Kinds ? T : never) : never;
type Fields<T, Except> = { readonly [Name in Exclude<keyof T, Except>]-?: Gives<T[Name]> };

/** What each kind of a T takes beside the name that tells the kinds apart; no kind and no name can be forgotten. */
export type Shapes<T, By extends keyof T, Common extends keyof T = never> = {
  readonly [Kind in T[By] & string]: Fields<OfKind<T, By, Kind>, By | Common>;
};

/**
 * One of several shapes, told apart by one name; `common` is what all of them take. Anything else is refused with the
 * kinds that are known. Yup's own types end here: that the
 * shapes make up a T is checked where they are given, by `Shapes`.
 */
export const shaped = <T extends object, By extends keyof T & string, Common extends keyof T = never>(
  by: By,
  shapes: Shapes<T, By, Common>,
  label: string,
  common: { readonly [Name in Common]: Gives<T[Name]> },
): Lazy<T> =>
  lazy((value: unknown) => {
    const wrong = `${label} must be one of ${Object.keys(shapes).join(', ')}`;
    const kind = typeof value === 'object' && value !== null ? (value as AnyObject)[by] : undefined;
    const shape = typeof kind === 'string' && Object.hasOwn(shapes, kind) ? (shapes as AnyObject)[kind] : null;
    return (
      shape === null
        ? mixed()
            .required(wrong)
            .test('shape', wrong, () => false)
        : exactly(object({ ...common, ...shape, [by]: mixed().oneOf([kind]).required() }))
    ) as Schema<T>;
  });

type Giver<T> = Schema<T> | Lazy<T>;
/** What a schema takes, or null. */
export const orNull = <T>(schema: Giver<T>): Lazy<T | null> =>
  lazy((value: unknown) => (value === null ? mixed().nullable() : schema.resolve({ value })) as Schema<T | null>);
/** What a schema takes, or nothing at all. */
export const orAbsent = <T>(schema: Giver<T>): Lazy<T | undefined> =>
  lazy((value: unknown) => (value === undefined ? mixed() : schema.resolve({ value })) as Schema<T | undefined>);
/** Every name of a shape as it is, or left out. */
export const allOrAbsent = <Shape extends Readonly<Record<string, Giver<unknown>>>>(shape: Shape) =>
  Object.fromEntries(Object.entries(shape).map(([name, schema]) => [name, orAbsent(schema)])) as {
    readonly [Name in keyof Shape]: Lazy<InferType<Shape[Name]> | undefined>;
  };

/** An object that has some of these names, each with the same shape. */
export const someOf = <Name extends string, T>(
  names: readonly Name[],
  shape: Giver<T>,
  label: string,
): Lazy<Partial<Record<Name, T>>> =>
  lazy(
    (value: unknown) =>
      (typeof value !== 'object' || value === null
        ? mixed().test('object', label, () => false)
        : exactly(object(Object.fromEntries(names.filter((n) => n in value).map((n) => [n, shape]))))) as Schema<
        Partial<Record<Name, T>>
      >,
  );
/** An object that has some of the channels as names. */
export const perChannel = <T>(shape: Giver<T>, label: string): Lazy<Partial<Record<Channel, T>>> =>
  someOf(CHANNELS, shape, `${label} must be given per channel`);
