import { type Db, rows, run } from './database';
import { documents } from './documents';
import { eachReadable, listIn } from './readable';

export type Team = {
  readonly id: string;
  readonly name: string;
  readonly zone: string;
  readonly setIds: readonly string[];
  readonly revision: number;
};

export const readTeams = (db: Db): Team[] =>
  eachReadable(
    db,
    'team',
    rows<Omit<Team, 'setIds'> & { setIds: string }>(
      db,
      'SELECT id, name, zone, set_ids AS setIds, revision FROM teams ORDER BY place, name',
    ),
    (t) => ({ ...t, setIds: listIn(t.setIds) as string[] }),
  );

export const writeTeam = (db: Db, t: Omit<Team, 'revision'>, place: number): void => {
  run(
    db,
    `INSERT INTO teams (id, name, zone, set_ids, place) VALUES (?1, ?2, ?3, ?4, ?5)
      ON CONFLICT (id) DO UPDATE SET name = ?2, zone = ?3, set_ids = ?4, revision = revision + 1`,
    t.id,
    t.name,
    t.zone,
    JSON.stringify(t.setIds),
    place,
  );
};

export const removeTeam = (db: Db, id: string): void => {
  for (const table of ['team_skills', 'team_supervisors']) run(db, `DELETE FROM ${table} WHERE team_id = ?`, id);
  run(db, 'DELETE FROM teams WHERE id = ?', id);
};

/** Teams a person supervises, and who supervises a team. */
export const supervisedTeams = (db: Db, personId: string): string[] =>
  rows<{ id: string }>(db, 'SELECT team_id AS id FROM team_supervisors WHERE person_id = ?', personId).map((t) => t.id);

export const supervisorsOf = (db: Db, teamId: string): string[] =>
  rows<{ id: string }>(
    db,
    'SELECT person_id AS id FROM team_supervisors WHERE team_id = ? ORDER BY person_id',
    teamId,
  ).map((p) => p.id);

export const writeSupervisors = (db: Db, teamId: string, personIds: readonly string[]): void => {
  run(db, 'DELETE FROM team_supervisors WHERE team_id = ?', teamId);
  for (const id of personIds) run(db, 'INSERT INTO team_supervisors (team_id, person_id) VALUES (?, ?)', teamId, id);
};

/** A place of work, with its own zone. */
export const SITES = documents<{ readonly zone: string; readonly address: string }>('site');
