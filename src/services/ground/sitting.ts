import { extendHistory, newestEntryOf } from '../../data/history';
import type { Actor } from './actor';
import { announce, noteChange } from './change';
import type { Tx } from './host';

/** Drafts are saved as they are written: what one person saves with no longer a pause than this is one change; real ms. */
const SITTING_MS = 15 * 60_000;

/**
 * Writes what is saved as it is written into history: into the line of the sitting that it belongs to, or as a line of
 * its own. `ends` are kinds of changes of the same thing after which another sitting begins.
 */
export function recordSitting(
  tx: Tx,
  actor: Actor,
  kind: string,
  thingId: string,
  before: object | null,
  after: { readonly name: string; readonly [part: string]: unknown },
  ends: readonly string[] = [],
): void {
  const last = newestEntryOf(tx.db, [kind, ...ends], thingId);
  const goesOn =
    last !== undefined &&
    last.kind === kind &&
    last.personId === actor.personId &&
    last.undoneBy === null &&
    last.after !== null &&
    tx.realAt - last.realAt <= SITTING_MS;
  if (goesOn) extendHistory(tx.db, last, tx.realAt, after.name, after);
  else noteChange(tx, actor, kind, thingId, before, after);
  announce(tx, kind, thingId);
}
