import type { Channel } from '../core/channels';
import type { ByHand, Meets, WhenClosed } from '../core/doors/doorway';
import type { Localised } from '../core/localised';
import { type Db, row, rows, run } from './database';
import { eachReadable, listIn, objectIn, readable } from './readable';

/** One address by which contacts come in. */
export type Door = {
  readonly id: string;
  readonly name: string;
  readonly channel: Channel;
  readonly address: string;
  readonly hoursId: string;
  readonly botId: string;
  readonly languages: readonly string[];
  readonly closedWording: Localised;
  readonly place: number;
  readonly revision: number;
  /** A version of the bot that a share of this door's customers meets, percent. */
  readonly trial: DoorTrial | null;
  readonly whenClosed: WhenClosed;
  /** Who meets whoever comes while it is open. */
  readonly meets: Meets;
  /** Shut or open by hand for now; null when nothing was set. */
  readonly byHand: ByHand | null;
};

export type DoorTrial = { readonly version: number; readonly percent: number };

type DoorRow = Omit<Door, 'languages' | 'closedWording' | 'trial' | 'whenClosed' | 'meets' | 'byHand'> & {
  languages: string;
  closedWording: string;
  trial: string | null;
  whenClosed: string;
  meets: string;
  byHand: string | null;
};

const DOORS = `SELECT id, name, channel, address, hours_id AS hoursId, bot_id AS botId, languages, closed_wording AS
      closedWording, trial, when_closed AS whenClosed, meets, by_hand AS byHand, place, revision FROM doors WHERE retired_at IS NULL`;

const doorFrom = (r: DoorRow): Door => ({
  ...r,
  languages: listIn(r.languages) as string[],
  closedWording: objectIn(r.closedWording) as Localised,
  trial: r.trial === null ? null : (objectIn(r.trial) as DoorTrial),
  whenClosed: objectIn(r.whenClosed) as WhenClosed,
  meets: objectIn(r.meets) as Meets,
  byHand: r.byHand === null ? null : (objectIn(r.byHand) as ByHand),
});

export const readDoors = (db: Db): Door[] =>
  eachReadable(db, 'door', rows<DoorRow>(db, `${DOORS} ORDER BY place, name`), doorFrom);

export const readDoor = (db: Db, id: string): Door | undefined => {
  const found = row<DoorRow>(db, `${DOORS} AND id = ?`, id);
  return found && readable(db, 'door', found, doorFrom);
};

export const writeDoor = (db: Db, d: Omit<Door, 'revision' | 'byHand'>): void => {
  run(
    db,
    `INSERT INTO doors (id, name, channel, address, hours_id, bot_id, languages, closed_wording,
        place, trial, when_closed, meets, revision) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, 1)
      ON CONFLICT (id) DO UPDATE SET name = ?2, channel = ?3, address = ?4, hours_id = ?5,
        bot_id = ?6, languages = ?7, closed_wording = ?8, trial = ?10, when_closed = ?11, meets = ?12, revision = revision + 1, retired_at = NULL`,
    d.id,
    d.name,
    d.channel,
    d.address,
    d.hoursId,
    d.botId,
    JSON.stringify(d.languages),
    JSON.stringify(d.closedWording),
    d.place,
    d.trial === null ? null : JSON.stringify(d.trial),
    JSON.stringify(d.whenClosed),
    JSON.stringify(d.meets),
  );
};

/** The bots that somebody may meet at a door while it is open. */
export const botsOfDoor = ({ meets, botId }: Pick<Door, 'meets' | 'botId'>): string[] =>
  meets.by === 'people' ? [] : [botId, ...(meets.by === 'first-words' ? meets.rules.map((r) => r.botId) : [])];

/** Shuts or opens a door by hand, or leaves it to its hours (null). What its form shows is not touched by it. */
export const writeByHand = (db: Db, id: string, byHand: ByHand | null): void => {
  run(db, 'UPDATE doors SET by_hand = ? WHERE id = ?', byHand && JSON.stringify(byHand), id);
};

export const retireDoor = (db: Db, id: string, realAt: number | null): void =>
  void run(db, 'UPDATE doors SET retired_at = ?, by_hand = NULL, revision = revision + 1 WHERE id = ?', realAt, id);
export function dropDoor(db: Db, id: string): void {
  run(db, 'DELETE FROM door_keys WHERE door_id = ?', id);
  run(db, 'DELETE FROM doors WHERE id = ?', id);
}
/** How many contacts are open that came by a door. */
export const openByDoor = (db: Db, id: string): number =>
  row<{ n: number }>(db, 'SELECT count(*) AS n FROM contacts WHERE ended_at IS NULL AND door_id = ?', id)?.n ?? 0;
