import { LaneError } from '../../core/errors';
import type { Db } from '../../data/database';
import { writeHistory } from '../../data/history';
import { newSettingsVersion } from '../../data/workspace';
import type { Actor } from './actor';
import type { Tx } from './host';

/** Refuses a change made to an older version than the one kept, so that nobody's work is lost silently. */
export function sameRevision(kept: { readonly revision: number } | undefined, based: number, what: string): void {
  if (kept && kept.revision !== based)
    throw new LaneError(
      'changed-meanwhile',
      `${what} was changed by somebody else since you opened it. Look at both versions and choose.`,
    );
}

type Recorded = { readonly label?: string; readonly batch?: string | null };
const nameOf = (value: unknown): string =>
  typeof value === 'object' && value !== null && 'name' in value && typeof value.name === 'string' ? value.name : '';

/** Writes who changed what, without starting a settings version: for many changes made by one press. */
export function noteChange(
  tx: Tx,
  actor: Pick<Actor, 'personId'>,
  kind: string,
  thingId: string,
  before: unknown,
  after: unknown,
  { label, batch = null }: Recorded = {},
): number {
  return writeHistory(tx.db, {
    realAt: tx.realAt,
    personId: actor.personId,
    kind,
    thingId,
    label: label ?? (nameOf(after) || nameOf(before)),
    batch,
    before: before ?? null,
    after: after ?? null,
  });
}
/** Starts a settings version and tells everybody. Gives the version. */
export function announce(tx: Tx, kind: string, thingId: string): number {
  const version = newSettingsVersion(tx.db, tx.realAt, kind, thingId);
  tx.emit({ type: 'settings.changed', version, kind, id: thingId });
  return version;
}
/** Writes who changed what, starts a settings version and tells everybody. Gives the version. */
export function recordChange(
  tx: Tx,
  actor: Actor,
  kind: string,
  thingId: string,
  before: unknown,
  after: unknown,
  recorded: Recorded = {},
): number {
  noteChange(tx, actor, kind, thingId, before, after, recorded);
  return announce(tx, kind, thingId);
}

/**
 * A kind of setting whose changes can be undone. `read` gives the thing as history keeps it (of a partial entry only the
 * part that `like` has), null where it is not; `restore` puts a version back after checking the actor's right.
 */
export type Undoable = {
  readonly name: string;
  readonly read: (db: Db, id: string, like: unknown) => unknown;
  readonly restore: (tx: Tx, actor: Actor, id: string, value: unknown) => void;
  readonly path: (id: string) => string;
};

/**
 * Takes a kept thing away: `drop` may refuse; what was there goes into history. Throws `not-found` when it is gone
 * already.
 */
export function removeUndoable(
  tx: Tx,
  actor: Actor,
  undoable: Readonly<Record<string, Undoable>>,
  kind: string,
  id: string,
  drop: () => void,
  recorded: Recorded = {},
): { id: string } {
  const before = undoable[kind]?.read(tx.db, id, null) ?? null;
  if (before === null) throw new LaneError('not-found', 'It is not there any more.');
  drop();
  recordChange(tx, actor, kind, id, before, null, recorded);
  return { id };
}
