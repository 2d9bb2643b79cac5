import type { DraftKind } from '../core/drafts/kinds';
import { rows, run, type Db } from './database';
import { historyText, historyValue } from './kept';
import { eachReadable } from './readable';

/**
 * A change that somebody has not applied yet. `thingId` is '' for a thing that is new; `revision` is that of `base`;
 * `turn` rises with each time it is kept, so that one of two windows does not undo what the other kept.
 */
export type Draft = {
  readonly kind: DraftKind;
  readonly thingId: string;
  readonly label: string;
  readonly revision: number;
  readonly base: unknown;
  readonly mine: unknown;
  readonly turn: number;
  readonly realAt: number;
};
type Stored = Omit<Draft, 'base' | 'mine'> & { readonly base: string; readonly mine: string };

export const draftsOf = (db: Db, personId: string): Draft[] =>
  eachReadable(
    db,
    'draft',
    rows<Stored & { id: string; name: string }>(
      db,
      `SELECT person_id || ' ' || kind || ' ' || thing_id AS id, label AS name, kind, thing_id AS thingId, label, revision, base,
          mine, turn, real_at AS realAt
        FROM drafts WHERE person_id = ? ORDER BY real_at DESC`,
      personId,
    ),
    ({ id: _id, name: _name, base, mine, ...draft }): Draft => ({
      ...draft,
      base: historyValue(draft.kind, base),
      mine: historyValue(draft.kind, mine),
    }),
  );

/** How often one was kept; 0 where there is none. */
export const turnOf = (db: Db, personId: string, kind: DraftKind, thingId: string): number =>
  rows<{ turn: number }>(
    db,
    'SELECT turn FROM drafts WHERE person_id = ? AND kind = ? AND thing_id = ?',
    personId,
    kind,
    thingId,
  )[0]?.turn ?? 0;

export const writeDraftOf = (db: Db, personId: string, d: Draft): void =>
  void run(
    db,
    `INSERT INTO drafts (person_id, kind, thing_id, label, revision, base, mine, turn, real_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
      ON CONFLICT (person_id, kind, thing_id) DO UPDATE SET label = excluded.label, revision = excluded.revision,
        base = excluded.base, mine = excluded.mine, turn = excluded.turn, real_at = excluded.real_at`,
    personId,
    d.kind,
    d.thingId,
    d.label,
    d.revision,
    historyText(d.kind, d.base),
    historyText(d.kind, d.mine),
    d.turn,
    d.realAt,
  );
export const dropDraftOf = (db: Db, personId: string, kind: DraftKind, thingId: string): void =>
  void run(db, 'DELETE FROM drafts WHERE person_id = ? AND kind = ? AND thing_id = ?', personId, kind, thingId);
export const countDrafts = (db: Db, personId: string): number =>
  rows<{ n: number }>(db, 'SELECT count(*) AS n FROM drafts WHERE person_id = ?', personId)[0]?.n ?? 0;
