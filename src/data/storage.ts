import { LaneError } from '../core/errors';

/** What keeps data from being read or kept, in words for whoever runs this. */
const TROUBLES: readonly (readonly [RegExp, string])[] = [
  [/^SQLITE_FULL/, 'The disk is full, so nothing more can be kept. Make room on it; then go on where you were.'],
  [
    /^SQLITE_(BUSY|LOCKED)/,
    'Another program holds the database, so this could not be kept. Close what has it open, then try again.',
  ],
  [
    /^SQLITE_(READONLY|PERM|CANTOPEN|AUTH)/,
    'The database may not be written to. Give whoever runs Usher Lane the right to write in its folder.',
  ],
  [
    /^SQLITE_(CORRUPT|NOTADB|FORMAT)/,
    'The database is damaged. Stop Usher Lane and put the last good copy of lane.db in its place.',
  ],
  [/^SQLITE_IOERR/, 'The disk did not do as it was told. Look at the disk before going on.'],
];

/** What a fault of the database comes to, in a sentence; null when it is something else. */
export function troubleOf(error: unknown): string | null {
  if (!(error instanceof Error) || !('code' in error) || typeof error.code !== 'string') return null;
  const { code } = error;
  return TROUBLES.find(([pattern]) => pattern.test(code))?.[1] ?? null;
}

let last: { readonly sentence: string; readonly at: number } | null = null;

/** What last kept something from being done, if that was within so many ms. */
export const recentTrouble = (withinMs: number): string | null =>
  last !== null && Date.now() - last.at <= withinMs ? last.sentence : null;

/** What kept something with the database from being done, as a `not-kept` in words; any other error is itself. */
export function inWords(error: unknown): unknown {
  const sentence = troubleOf(error);
  if (sentence === null) return error;
  last = { sentence, at: Date.now() };
  return new LaneError('not-kept', sentence, [], { cause: error });
}

/** Runs something with the database; what keeps it from being done is a `not-kept` in words. */
export function withTrouble<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    throw inWords(error);
  }
}
