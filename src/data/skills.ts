import type { Givers, Level, OwnLevel, SkillKind } from '../core/people/levels';
import { type Db, rows, run } from './database';
import { documents } from './documents';
import { readTeams } from './teams';

export type Skill = { readonly id: string; readonly name: string; readonly kind: SkillKind; readonly revision: number };

export const readSkills = (db: Db): Skill[] =>
  rows<Skill>(db, 'SELECT id, name, kind, revision FROM skills ORDER BY place, name');

export const writeSkill = (db: Db, s: Omit<Skill, 'revision'>, place: number): void => {
  run(
    db,
    `INSERT INTO skills (id, name, kind, place) VALUES (?1, ?2, ?3, ?4) ON CONFLICT (id) DO UPDATE
      SET name = ?2, kind = ?3, revision = revision + 1`,
    s.id,
    s.name,
    s.kind,
    place,
  );
};

export const removeSkill = (db: Db, id: string): void => {
  run(db, 'DELETE FROM own_levels WHERE skill_id = ?', id);
  run(db, 'DELETE FROM team_skills WHERE skill_id = ?', id);
  run(db, 'DELETE FROM skills WHERE id = ?', id);
};

type OwnRow = { personId: string; skillId: string; level: number; until: string | null; note: string };
const OWN = 'SELECT person_id AS personId, skill_id AS skillId, level, until, note FROM own_levels';

const ownFrom = (r: OwnRow): OwnLevel => ({
  level: r.level === 0 ? 'never' : (r.level as Level),
  until: r.until,
  note: r.note,
});

/** Everybody's own levels: by person, by skill. */
export function readOwnLevels(db: Db): Map<string, Map<string, OwnLevel>> {
  const all = new Map<string, Map<string, OwnLevel>>();
  for (const r of rows<OwnRow>(db, OWN)) {
    const mine = all.get(r.personId) ?? new Map<string, OwnLevel>();
    all.set(r.personId, mine.set(r.skillId, ownFrom(r)));
  }
  return all;
}

export const ownLevelsOf = (db: Db, personId: string): Map<string, OwnLevel> =>
  new Map(rows<OwnRow>(db, `${OWN} WHERE person_id = ?`, personId).map((r) => [r.skillId, ownFrom(r)]));

/** Sets an own level; null clears it. */
export const writeOwnLevel = (db: Db, personId: string, skillId: string, own: OwnLevel | null): void => {
  if (own === null) run(db, 'DELETE FROM own_levels WHERE person_id = ? AND skill_id = ?', personId, skillId);
  else
    run(
      db,
      `INSERT INTO own_levels (person_id, skill_id, level, until, note) VALUES (?1, ?2, ?3, ?4, ?5)
        ON CONFLICT DO UPDATE SET level = ?3, until = ?4, note = ?5`,
      personId,
      skillId,
      own.level === 'never' ? 0 : own.level,
      own.until,
      own.note,
    );
};

export type TeamLevel = { readonly teamId: string; readonly skillId: string; readonly level: Level };

export const readTeamLevels = (db: Db): TeamLevel[] =>
  rows<TeamLevel>(db, 'SELECT team_id AS teamId, skill_id AS skillId, level FROM team_skills');

export const writeTeamLevels = (db: Db, teamId: string, levels: Readonly<Record<string, Level>>): void => {
  run(db, 'DELETE FROM team_skills WHERE team_id = ?', teamId);
  for (const [skillId, level] of Object.entries(levels))
    run(db, 'INSERT INTO team_skills (team_id, skill_id, level) VALUES (?, ?, ?)', teamId, skillId, level);
};

/** A named bundle of skills and levels. */
export const SKILL_SETS = documents<{ readonly levels: Readonly<Record<string, Level>> }>('skill-set');

/** What teams and sets give, as the core reads it. */
export function readGivers(db: Db): Givers {
  const levels = new Map<string, Record<string, Level>>();
  for (const { teamId, skillId, level } of readTeamLevels(db))
    levels.set(teamId, { ...levels.get(teamId), [skillId]: level });
  return {
    teams: new Map(readTeams(db).map((t) => [t.id, { levels: levels.get(t.id) ?? {}, setIds: t.setIds }])),
    sets: new Map(SKILL_SETS.all(db).map((s) => [s.id, s.levels])),
  };
}
