import type { Outcome } from '../core/outcomes';
import { type Db, rows, run } from './database';
import { keptIn, keptText } from './kept';
import { eachReadable } from './readable';

/** An outcome code with its rules; see `core/outcomes.ts`. */
export type OutcomeRecord = Outcome & { readonly revision: number; readonly place: number };

type OutcomeRow = { code: string; label: string; place: number; rules: string; revision: number };

export const readOutcomes = (db: Db): OutcomeRecord[] =>
  eachReadable(
    db,
    'outcome',
    rows<OutcomeRow & { id: string; name: string }>(
      db,
      'SELECT code AS id, label AS name, code, label, place, rules, revision FROM outcome_codes ORDER BY place',
    ),
    ({ id: _id, name: _name, rules, ...o }) => ({
      ...(keptIn('outcome', rules) as Omit<Outcome, 'code' | 'label'>),
      ...o,
    }),
  );

export const writeOutcome = (db: Db, { code, label, ...rules }: Outcome, place: number): void => {
  run(
    db,
    `INSERT INTO outcome_codes (code, label, place, rules, revision) VALUES (?1, ?2, ?3, ?4, 1)
      ON CONFLICT (code) DO UPDATE SET label = ?2, place = ?3, rules = ?4, revision = revision + 1`,
    code,
    label,
    place,
    keptText('outcome', rules),
  );
};

export const dropOutcome = (db: Db, code: string): void => {
  run(db, 'DELETE FROM outcome_codes WHERE code = ?', code);
};

/** How many finished legs carry each code. */
export const outcomeUses = (db: Db): Map<string, number> =>
  new Map(
    rows<{ code: string; n: number }>(
      db,
      'SELECT outcome AS code, count(*) AS n FROM legs WHERE outcome IS NOT NULL GROUP BY outcome',
    ).map((r) => [r.code, r.n]),
  );
