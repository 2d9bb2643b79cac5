import { LaneError } from '../../core/errors';
import { Refused } from '../../core/heavy';

/** Turns what a file's reading refused into `not-valid`, with where it stands; passes on anything else. */
export function refusal(error: unknown): never {
  if (!(error instanceof Refused)) throw error;
  throw new LaneError('not-valid', error.row === null ? error.message : `Row ${error.row}: ${error.message}`, [
    error.row === null ? { where: 'text', what: 'cannot be read' } : { where: `row ${error.row}`, what: error.message },
  ]);
}
