import { type Db, rows, run } from './database';

/** What was taken from conversations: a phrase of the phrasebook or of an article, or a test of a bot by its id. */
export type Taken =
  | { readonly kind: 'phrase'; readonly language: string; readonly text: string }
  | { readonly kind: 'bot-test'; readonly id: string };

const refOf = (taken: Taken): string => (taken.kind === 'phrase' ? `${taken.language} ${taken.text}` : taken.id);
function takenOf(kind: Taken['kind'], ref: string): Taken {
  const gap = ref.indexOf(' ');
  return kind === 'phrase' ? { kind, language: ref.slice(0, gap), text: ref.slice(gap + 1) } : { kind, id: ref };
}

/** Notes whose words something was made of, so that it goes with them. */
export function noteTaken(db: Db, taken: Taken, contactIds: readonly string[]): void {
  for (const contactId of new Set(contactIds))
    run(
      db,
      'INSERT INTO taken_from (kind, ref, contact_id) VALUES (?, ?, ?) ON CONFLICT DO NOTHING',
      taken.kind,
      refOf(taken),
      contactId,
    );
}

/** What was taken from some contacts and from no other: what nobody else has said goes when they are erased. */
export const takenFromAlone = (db: Db, contactIds: readonly string[]): Taken[] =>
  rows<{ kind: Taken['kind']; ref: string }>(
    db,
    `WITH own AS (SELECT value AS id FROM json_each(?))
      SELECT DISTINCT kind, ref FROM taken_from t WHERE contact_id IN (SELECT id FROM own)
        AND NOT EXISTS (SELECT 1 FROM taken_from o WHERE o.kind = t.kind AND o.ref = t.ref
          AND o.contact_id NOT IN (SELECT id FROM own))`,
    JSON.stringify(contactIds),
  ).map(({ kind, ref }) => takenOf(kind, ref));

export const forgetTaken = (db: Db, contactId: string): number =>
  run(db, 'DELETE FROM taken_from WHERE contact_id = ?', contactId);
