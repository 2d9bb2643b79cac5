import { type Mood, MOODS } from '../core/mood/mood';
import { type Db, row } from './database';

/** How a customer seemed to feel in a contact, and who said so; `personId` is null where it was judged by itself. */
export type KeptMood = { readonly mood: Mood; readonly personId: string | null };

/** The mood of a contact `c` as an SQL expression: what somebody said of it goes before what was judged. */
export const MOOD_OF = 'coalesce(c.mood_said, c.mood)';

/** Null while it is not known. */
export function keptMood(db: Db, contactId: string): KeptMood | null {
  const found = row<{ mood: string | null; personId: string | null }>(
    db,
    `SELECT ${MOOD_OF} AS mood, c.mood_by AS personId FROM contacts c WHERE c.id = ?`,
    contactId,
  );
  const mood = MOODS.find((one) => one === found?.mood);
  return mood ? { mood, personId: found?.personId ?? null } : null;
}
