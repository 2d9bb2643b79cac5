import { isSchema, ValidationError, type InferType, type Lazy, type Schema } from 'yup';
import { LaneError, type FieldFault } from '../../core/errors';

/** The most faults that are told: nobody reads more, and each costs time to word. */
const MOST_FAULTS = 20;
/** The most members of a list that says nothing else. */
const MOST_MEMBERS = 2000;
/** How deep anything from outside may be nested. */
export const MOST_DEEP = 64;

/**
 * Parses input from outside by a schema; throws `not-valid` with what is wrong and where. Unknown names are refused.
 * Depth and lengths are looked at before any member is, so that what is refused costs next to nothing.
 */
export function parse<S extends Schema | Lazy<unknown>>(schema: S, input: unknown): InferType<S> {
  if (isDeeper(input, MOST_DEEP)) throw invalid([{ where: 'the whole', what: `It is nested over ${MOST_DEEP} deep` }]);
  const long = tooLong(schema, input, '');
  if (long) throw invalid([long]);
  try {
    // Nothing at all would pass as an object with nothing in it.
    return schema.validateSync(input === undefined ? null : input, { abortEarly: false, strict: true });
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    throw invalid(
      (error.inner.length > 0 ? error.inner : [error]).map((e) => ({ where: e.path || 'the whole', what: e.message })),
    );
  }
}

function invalid(faults: readonly FieldFault[]): LaneError {
  const told = faults.slice(0, MOST_FAULTS);
  const more = faults.length - told.length;
  const sentence = `${told.map((f) => f.what).join('; ')}${more > 0 ? `; and ${more} more` : ''}.`;
  return new LaneError('not-valid', sentence, told);
}

/** Whether plain data is nested deeper than `most`; walks no further than that. */
export function isDeeper(value: unknown, most: number): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > most) return true;
    level = level.flatMap((v) => (typeof v === 'object' && v !== null ? Object.values(v) : []));
  }
  return false;
}

type Described = {
  readonly type: string;
  readonly innerType?: unknown;
  readonly fields?: Readonly<Record<string, unknown>>;
  readonly tests: readonly { readonly OPTIONS?: TestOptions }[];
};
type TestOptions = { readonly name?: string; readonly params?: { readonly max?: unknown }; readonly message?: unknown };

/** The first list that has more members than its schema takes. */
function tooLong(schema: unknown, value: unknown, path: string): FieldFault | null {
  if (typeof value !== 'object' || value === null) return null;
  const known = described(schema, value);
  if (!known) return null;
  if (known.type === 'array' && Array.isArray(value)) {
    const limit = known.tests.find((t) => t.OPTIONS?.name === 'max' || t.OPTIONS?.name === 'length')?.OPTIONS;
    const most = typeof limit?.params?.max === 'number' ? limit.params.max : MOST_MEMBERS;
    if (value.length > most) {
      const said = typeof limit?.message === 'string' && !limit.message.includes('$') ? limit.message : null;
      return { where: path || 'the whole', what: said ?? `${path || 'A list'} may have at most ${most} members` };
    }
    for (const [i, member] of value.entries()) {
      const found = tooLong(known.innerType, member, `${path}[${i}]`);
      if (found) return found;
    }
  } else if (known.type === 'object' && known.fields)
    for (const [name, inner] of Object.entries(known.fields)) {
      if (!Object.hasOwn(value, name)) continue;
      const found = tooLong(inner, (value as Readonly<Record<string, unknown>>)[name], path ? `${path}.${name}` : name);
      if (found) return found;
    }
  return null;
}

/** What is known of a schema; one that depends on its value is asked. */
function described(schema: unknown, value: object): Described | null {
  if (!isSchema(schema)) return null;
  const resolved: unknown = 'fields' in schema || 'innerType' in schema ? schema : schema.resolve({ value });
  return resolved as Described;
}
