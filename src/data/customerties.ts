import { joinedWith, type Tie, type TiedHow } from '../core/customers/joining';
import type { LaneEvent } from '../core/events';
import { type Db, row, rows, run } from './database';

/** A tie with how it came about. Instants are floor ms. */
export type KeptTie = Tie & {
  readonly how: TiedHow;
  readonly byPersonId: string | null;
  readonly inContactId: string | null;
  readonly at: number;
};
const TIE = `SELECT id, customer_id AS customerId, other_id AS otherId, how, by_person_id AS byPersonId,
      in_contact_id AS inContactId, floor_at AS at FROM customer_ties`;

const tiesOfOne = (db: Db, id: string): KeptTie[] =>
  rows<KeptTie>(db, `${TIE} WHERE (customer_id = ?1 OR other_id = ?1) AND parted_at IS NULL ORDER BY rowid`, id);

/** All ties that hold together whom one customer is one with. */
export function tiesAround(db: Db, customerId: string): KeptTie[] {
  const ties = new Map<string, KeptTie>();
  const seen = new Set<string>();
  for (const next = [customerId]; next.length > 0;) {
    const id = next.pop() ?? '';
    if (seen.has(id)) continue;
    seen.add(id);
    for (const tie of tiesOfOne(db, id)) {
      ties.set(tie.id, tie);
      next.push(tie.customerId, tie.otherId);
    }
  }
  return [...ties.values()];
}

export const readTie = (db: Db, id: string): KeptTie | undefined =>
  row<KeptTie>(db, `${TIE} WHERE id = ? AND parted_at IS NULL`, id);

/** Whether two were ever joined, or parted, by a tie of their own. */
export const wereTied = (db: Db, one: string, other: string): boolean =>
  row(
    db,
    'SELECT 1 FROM customer_ties WHERE (customer_id = ?1 AND other_id = ?2) OR (customer_id = ?2 AND other_id = ?1) LIMIT 1',
    one,
    other,
  ) !== undefined;

/** Notes who stands for whom among some customers: for each group the one that was known first. */
function stand(db: Db, ids: readonly string[]): void {
  const left = new Set(ids);
  for (const id of ids) run(db, 'DELETE FROM customer_stands WHERE customer_id = ?', id);
  for (const id of ids) {
    if (!left.has(id)) continue;
    const group = joinedWith(id, tiesAround(db, id));
    for (const one of group) left.delete(one);
    if (group.length < 2) continue;
    const main = row<{ id: string }>(
      db,
      'SELECT id FROM customers WHERE id IN (SELECT value FROM json_each(?)) ORDER BY vouched DESC, rowid LIMIT 1',
      JSON.stringify(group),
    );
    for (const one of group)
      run(db, 'INSERT INTO customer_stands (customer_id, main_id) VALUES (?, ?)', one, main?.id ?? id);
  }
}

export function writeTie(db: Db, e: Extract<LaneEvent, { type: 'customer.joined' }>): void {
  const before = [...membersOf(db, e.customerId), ...membersOf(db, e.otherId)];
  run(
    db,
    `INSERT INTO customer_ties (id, customer_id, other_id, how, by_person_id, in_contact_id, floor_at)
      VALUES (?, ?, ?, ?, ?, ?, ?)`,
    e.tieId,
    e.customerId,
    e.otherId,
    e.how,
    e.byPersonId,
    e.inContactId,
    e.floorAt,
  );
  stand(db, before);
}

/** Takes a tie back; gives the two whom it held together, none where it is gone already. */
export function partTie(db: Db, e: Extract<LaneEvent, { type: 'customer.parted' }>): readonly string[] {
  const tie = readTie(db, e.tieId);
  if (!tie) return [];
  const before = membersOf(db, tie.customerId);
  run(db, 'UPDATE customer_ties SET parted_at = ?, parted_by = ? WHERE id = ?', e.floorAt, e.byPersonId, e.tieId);
  stand(db, before);
  return [tie.customerId, tie.otherId];
}

/** Who stands for a customer: itself where it is joined with nobody. */
export const standsFor = (db: Db, customerId: string): string =>
  row<{ id: string }>(db, 'SELECT main_id AS id FROM customer_stands WHERE customer_id = ?', customerId)?.id ??
  customerId;

/** Everybody whom a customer is one with, itself among them, the one that stands for all first. */
export function membersOf(db: Db, customerId: string): string[] {
  const main = standsFor(db, customerId);
  const all = rows<{ id: string }>(
    db,
    'SELECT customer_id AS id FROM customer_stands WHERE main_id = ? ORDER BY rowid',
    main,
  ).map((r) => r.id);
  return [main, ...all.filter((id) => id !== main)];
}

/** Who somebody said they are in a contact, unproven; null for nobody. */
export const hintOf = (db: Db, contactId: string): string | null =>
  row<{ id: string }>(db, 'SELECT other_id AS id FROM customer_hints WHERE contact_id = ?', contactId)?.id ?? null;
export const writeHint = (db: Db, contactId: string, otherId: string): void =>
  void run(
    db,
    'INSERT INTO customer_hints (contact_id, other_id) VALUES (?1, ?2) ON CONFLICT (contact_id) DO UPDATE SET other_id = ?2',
    contactId,
    otherId,
  );
export const dropHint = (db: Db, contactId: string): void =>
  void run(db, 'DELETE FROM customer_hints WHERE contact_id = ?', contactId);
