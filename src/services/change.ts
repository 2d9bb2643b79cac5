import { LaneError } from '../core/errors';
import { newSettingsVersion, writeHistory } from '../data/settings';
import type { Actor } from './actor';
import type { Tx } from './host';

/** Refuses a change made to an older version than the one kept, so that nobody's work is lost silently. */
export function sameRevision(kept: { readonly revision: number } | undefined, based: number, what: string): void {
  if (kept && kept.revision !== based) throw new LaneError('changed-meanwhile', `${what} was changed by somebody else since you opened it. Reload to see their version; yours is still in the form.`);
}

/** Writes who changed what, starts a settings version and tells everybody. Gives the version. */
export function recordChange(tx: Tx, actor: Actor, kind: string, thingId: string, before: unknown, after: unknown): number {
  writeHistory(tx.db, { realAt: tx.realAt, personId: actor.personId, kind, thingId, before: before ?? null, after });
  const version = newSettingsVersion(tx.db, tx.realAt, kind, thingId);
  tx.emit({ type: 'settings.changed', version, kind, id: thingId });
  return version;
}
