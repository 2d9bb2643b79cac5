import { type Db, row, rows, run } from './database';
import { historyText, historyValue } from './kept';

/** One thing that a large press changes, as plain data; `undoes` is the entry of History that it takes back. */
export type PressLine = {
  readonly kind: string;
  readonly thingId: string;
  readonly label: string;
  readonly before: unknown;
  readonly after: unknown;
  readonly undoes: number | null;
};
/** A press whose lines are kept apart until they are carried out. `actor` is who pressed, as JSON. */
export type Press = {
  readonly id: string;
  readonly realAt: number;
  readonly actor: string;
  readonly title: string;
  readonly kind: string;
  readonly thingId: string;
  readonly lines: number;
  readonly skipped: number;
  readonly reason: string | null;
};
type LineRow = Omit<PressLine, 'before' | 'after'> & {
  readonly place: number;
  readonly before: string | null;
  readonly after: string | null;
};

const PRESS = `SELECT id, real_at AS realAt, actor, title, kind, thing_id AS thingId, lines, skipped, reason FROM presses`;

export const beginPress = (db: Db, press: Omit<Press, 'lines' | 'skipped' | 'reason'>): void =>
  void run(
    db,
    'INSERT INTO presses (id, real_at, actor, title, kind, thing_id) VALUES (?, ?, ?, ?, ?, ?)',
    press.id,
    press.realAt,
    press.actor,
    press.title,
    press.kind,
    press.thingId,
  );
export const addPressLine = (db: Db, pressId: string, place: number, line: PressLine): void =>
  void run(
    db,
    'INSERT INTO press_lines (press_id, place, kind, thing_id, label, before, after, undoes) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
    pressId,
    place,
    line.kind,
    line.thingId,
    line.label,
    historyText(line.kind, line.before),
    historyText(line.kind, line.after),
    line.undoes,
  );
/** All its lines are in: from here on it is carried out, whatever happens. */
export const makePressWhole = (db: Db, pressId: string, lines: number): void =>
  void run(db, 'UPDATE presses SET whole = 1, lines = ? WHERE id = ?', lines, pressId);

/** Presses that are whole and not carried out yet, oldest first. */
export const wholePresses = (db: Db): Press[] => rows<Press>(db, `${PRESS} WHERE whole = 1 ORDER BY real_at, id`);
export const readPress = (db: Db, pressId: string): Press | undefined =>
  row<Press>(db, `${PRESS} WHERE id = ?`, pressId);

/** Where the first line stands that is still to be carried out; they are numbered from 1 and go in their order. */
export const firstPressPlace = (db: Db, pressId: string): number | null =>
  row<{ place: number | null }>(db, 'SELECT min(place) AS place FROM press_lines WHERE press_id = ?', pressId)?.place ??
  null;
export function readPressLine(db: Db, pressId: string, place: number): PressLine | undefined {
  const found = row<LineRow>(
    db,
    `SELECT place, kind, thing_id AS thingId, label, before, after, undoes FROM press_lines WHERE press_id = ? AND place = ?`,
    pressId,
    place,
  );
  return (
    found && { ...found, before: historyValue(found.kind, found.before), after: historyValue(found.kind, found.after) }
  );
}
export const dropPressLine = (db: Db, pressId: string, place: number): void =>
  void run(db, 'DELETE FROM press_lines WHERE press_id = ? AND place = ?', pressId, place);
/** Notes a line that could not be carried out, with the first reason. */
export const notePressSkipped = (db: Db, pressId: string, reason: string): void =>
  void run(db, 'UPDATE presses SET skipped = skipped + 1, reason = coalesce(reason, ?) WHERE id = ?', reason, pressId);
export const dropPress = (db: Db, pressId: string): void => void run(db, 'DELETE FROM presses WHERE id = ?', pressId);

/** Takes away presses whose lines were not all in when the server stopped: they have counted nowhere. */
export function dropUnfinishedPresses(db: Db): void {
  run(db, 'DELETE FROM press_lines WHERE press_id IN (SELECT id FROM presses WHERE whole = 0)');
  run(db, 'DELETE FROM presses WHERE whole = 0');
}
