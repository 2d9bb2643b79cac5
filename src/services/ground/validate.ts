import { ValidationError, type InferType, type Lazy, type Schema } from 'yup';
import { LaneError, type FieldFault } from '../../core/errors';

/**
 * Parses input from outside by a schema; throws `not-valid` with what is wrong and where. Unknown names are refused.
 */
export function parse<S extends Schema | Lazy<unknown>>(schema: S, input: unknown): InferType<S> {
  try {
    // Nothing at all would pass as an object with nothing in it.
    return schema.validateSync(input === undefined ? null : input, { abortEarly: false, strict: true });
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    const faults: FieldFault[] = (error.inner.length > 0 ? error.inner : [error]).map((e) => ({
      where: e.path || 'the whole',
      what: e.message,
    }));
    throw new LaneError('not-valid', faults.map((f) => f.what).join('; ') + '.', faults);
  }
}
