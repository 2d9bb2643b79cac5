import { insert, rows, row, run, type Db } from './database';
import { queueFrom, type QueueSettings } from '../core/routing/queue';
import type { DatedDay, Hours, WeeklyInterval } from '../core/hours/weekly';
import type { Channel } from '../core/channels';
import { OUTCOME_DEFAULTS, type Outcome } from '../core/outcomes';
import type { FieldType } from '../core/fieldvalue';
import type { Localised } from '../core/localised';

/** Starts a new settings version: decisions name the version they were made under. */
export const newSettingsVersion = (db: Db, realAt: number, kind: string, thingId: string): number =>
  insert(db, 'INSERT INTO settings_versions (real_at, kind, thing_id) VALUES (?, ?, ?)', realAt, kind, thingId);
export const settingsVersion = (db: Db): number =>
  row<{ v: number }>(db, 'SELECT coalesce(max(version), 0) AS v FROM settings_versions')?.v ?? 0;

export type Workspace = { readonly name: string; readonly zone: string; readonly languages: readonly string[] };
export const readWorkspace = (db: Db): Workspace | undefined => {
  const found = row<{ name: string; zone: string; languages: string }>(
    db,
    'SELECT name, zone, languages FROM workspace WHERE id = 1',
  );
  return found && { ...found, languages: JSON.parse(found.languages) as string[] };
};
export const writeWorkspace = (db: Db, w: Workspace): void => {
  run(
    db,
    'INSERT INTO workspace (id, name, zone, languages) VALUES (1, ?1, ?2, ?3) ON CONFLICT (id) DO UPDATE SET name = ?1, zone = ?2, languages = ?3',
    w.name,
    w.zone,
    JSON.stringify(w.languages),
  );
};

export type QueueRecord = QueueSettings & { readonly revision: number; readonly place: number };
type QueueRow = { id: string; name: string; place: number; revision: number; body: string };
const QUEUE_LATEST = `SELECT q.id, q.name, q.place, q.revision, v.body FROM queues q JOIN queue_versions v ON v.queue_id = q.id
  AND v.version = (SELECT max(version) FROM queue_versions WHERE queue_id = q.id)`;
const recordFrom = (r: QueueRow): QueueRecord => ({
  ...queueFrom(JSON.parse(r.body) as QueueSettings),
  id: r.id,
  name: r.name,
  place: r.place,
  revision: r.revision,
});
export const readQueues = (db: Db): QueueRecord[] =>
  rows<QueueRow>(db, `${QUEUE_LATEST} ORDER BY q.place, q.name`).map(recordFrom);
export const readQueue = (db: Db, id: string): QueueRecord | undefined => {
  const found = row<QueueRow>(db, `${QUEUE_LATEST} WHERE q.id = ?`, id);
  return found && recordFrom(found);
};
/** A queue as it was under a settings version: what a visit that began then goes by. */
export const queueAsOf = (db: Db, id: string, version: number): QueueSettings | undefined => {
  const found = row<{ body: string }>(
    db,
    'SELECT body FROM queue_versions WHERE queue_id = ? AND version <= ? ORDER BY version DESC LIMIT 1',
    id,
    version,
  );
  return found && queueFrom(JSON.parse(found.body) as QueueSettings);
};
export const writeQueue = (db: Db, queue: QueueSettings, place: number, version: number): void => {
  run(
    db,
    'INSERT INTO queues (id, name, place, revision) VALUES (?1, ?2, ?3, 1) ON CONFLICT (id) DO UPDATE SET name = ?2, revision = revision + 1',
    queue.id,
    queue.name,
    place,
  );
  run(
    db,
    'INSERT INTO queue_versions (queue_id, version, body) VALUES (?, ?, ?)',
    queue.id,
    version,
    JSON.stringify(queue),
  );
};

export type HoursRecord = Hours & { readonly revision: number };
const hoursFrom = (r: {
  id: string;
  name: string;
  zone: string;
  weekly: string;
  exceptions: string;
  revision: number;
}): HoursRecord => ({
  ...r,
  weekly: JSON.parse(r.weekly) as WeeklyInterval[],
  exceptions: JSON.parse(r.exceptions) as DatedDay[],
});
export const readAllHours = (db: Db): HoursRecord[] =>
  rows<Parameters<typeof hoursFrom>[0]>(
    db,
    'SELECT id, name, zone, weekly, exceptions, revision FROM hours ORDER BY name',
  ).map(hoursFrom);
export const writeHours = (db: Db, h: Hours): void => {
  run(
    db,
    'INSERT INTO hours (id, name, zone, weekly, exceptions, revision) VALUES (?1, ?2, ?3, ?4, ?5, 1) ON CONFLICT (id) DO UPDATE SET name = ?2, zone = ?3, weekly = ?4, exceptions = ?5, revision = revision + 1',
    h.id,
    h.name,
    h.zone,
    JSON.stringify(h.weekly),
    JSON.stringify(h.exceptions),
  );
};

export const dropHours = (db: Db, id: string): void => {
  run(db, 'DELETE FROM hours WHERE id = ?', id);
};

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
};
export type DoorTrial = { readonly version: number; readonly percent: number };
type DoorRow = Omit<Door, 'languages' | 'closedWording' | 'trial'> & {
  languages: string;
  closedWording: string;
  trial: string | null;
};
const DOORS =
  'SELECT id, name, channel, address, hours_id AS hoursId, bot_id AS botId, languages, closed_wording AS closedWording, trial, place, revision FROM doors';
const doorFrom = (r: DoorRow): Door => ({
  ...r,
  languages: JSON.parse(r.languages) as string[],
  closedWording: JSON.parse(r.closedWording) as Localised,
  trial: r.trial === null ? null : (JSON.parse(r.trial) as DoorTrial),
});
export const readDoors = (db: Db): Door[] => rows<DoorRow>(db, `${DOORS} ORDER BY place, name`).map(doorFrom);
export const readDoor = (db: Db, id: string): Door | undefined => {
  const found = row<DoorRow>(db, `${DOORS} WHERE id = ?`, id);
  return found && doorFrom(found);
};
export const writeDoor = (db: Db, d: Omit<Door, 'revision'>): void => {
  run(
    db,
    `INSERT INTO doors (id, name, channel, address, hours_id, bot_id, languages, closed_wording, place, trial, revision) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, 1)
    ON CONFLICT (id) DO UPDATE SET name = ?2, channel = ?3, address = ?4, hours_id = ?5, bot_id = ?6, languages = ?7, closed_wording = ?8, trial = ?10, revision = revision + 1`,
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
  );
};

/** Who fills a field. */
export const FILLERS = ['bot', 'look-up', 'agent'] as const;
export type Filler = (typeof FILLERS)[number];
/** A value defined once for the whole workspace, which bots pass on, the Desk shows and reports count. Private ones are kept apart. */
export type Field = {
  readonly id: string;
  readonly name: string;
  readonly label: string;
  readonly private: boolean;
  readonly type: FieldType;
  readonly filledBy: readonly Filler[];
  readonly reported: boolean;
};
export const FIELD_DEFAULTS = { type: 'text', filledBy: ['bot'], reported: true } as const;
type FieldRow = {
  id: string;
  name: string;
  label: string;
  private: number;
  body: string;
  place: number;
  revision: number;
};
export type FieldRecord = Field & { readonly place: number; readonly revision: number };
export const readFields = (db: Db): FieldRecord[] =>
  rows<FieldRow>(db, 'SELECT id, name, label, private, body, place, revision FROM fields ORDER BY place').map(
    ({ body, ...f }) => ({
      ...FIELD_DEFAULTS,
      ...(JSON.parse(body) as Partial<Field>),
      ...f,
      private: f.private === 1,
    }),
  );
export const writeField = (db: Db, { id, name, label, private: hidden, ...body }: Field, place: number): void => {
  run(
    db,
    'INSERT INTO fields (id, name, label, private, place, body, revision) VALUES (?1, ?2, ?3, ?4, ?5, ?6, 1) ON CONFLICT (id) DO UPDATE SET name = ?2, label = ?3, private = ?4, body = ?6, revision = revision + 1',
    id,
    name,
    label,
    hidden ? 1 : 0,
    place,
    JSON.stringify(body),
  );
};
export const dropField = (db: Db, id: string): void => {
  run(db, 'DELETE FROM fields WHERE id = ?', id);
};

/** An outcome code with its rules; see `core/outcomes.ts`. */
export type OutcomeRecord = Outcome & { readonly revision: number; readonly place: number };
type OutcomeRow = { code: string; label: string; place: number; rules: string; revision: number };
export const readOutcomes = (db: Db): OutcomeRecord[] =>
  rows<OutcomeRow>(db, 'SELECT code, label, place, rules, revision FROM outcome_codes ORDER BY place').map(
    ({ rules, ...o }) => ({ ...OUTCOME_DEFAULTS, ...(JSON.parse(rules) as Partial<Outcome>), ...o }),
  );
export const writeOutcome = (db: Db, { code, label, ...rules }: Outcome, place: number): void => {
  run(
    db,
    'INSERT INTO outcome_codes (code, label, place, rules, revision) VALUES (?1, ?2, ?3, ?4, 1) ON CONFLICT (code) DO UPDATE SET label = ?2, place = ?3, rules = ?4, revision = revision + 1',
    code,
    label,
    place,
    JSON.stringify(rules),
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
