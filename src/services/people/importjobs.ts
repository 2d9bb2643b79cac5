import { LaneError } from '../../core/errors';
import type { Heavy } from '../../core/heavy';
import type { Table } from '../../core/formats/csv';
import type { ImportPlan, ImportWorld, Target } from '../../core/people/importplan';
import type { OwnLevel } from '../../core/people/levels';
import { mayGive, outranks } from '../../core/people/rights';
import { readProfiles } from '../../data/dutyprofiles';
import { readPeople, settingsOfPerson } from '../../data/people';
import { readRoles } from '../../data/roles';
import { readOwnLevels, readSkills } from '../../data/skills';
import { readTeams, SITES } from '../../data/teams';
import { versionOf } from '../../data/workspace';
import { type Actor, mayChangeTeam } from '../ground/actor';
import type { Host } from '../ground/host';
import type { PressNow, Presses } from '../ground/presses';

export const MOST_LINES = 20_000;

export type Job = {
  readonly id: string;
  readonly actorId: string;
  readonly fileName: string;
  state: 'reading' | 'planning' | 'planned' | 'keeping' | 'applied' | 'cancelled' | 'failed';
  table: Table | null;
  targets: readonly Target[];
  edits: ReadonlyMap<string, string>;
  plan: ImportPlan | null;
  version: number;
  done: number;
  fault: string | null;
  /** Lines kept so far, and the rows that were not because others' changes have made them otherwise than was seen. */
  written: number;
  met: ReadonlySet<number>;
  /** How far keeping it is, while it is. */
  press: PressNow | null;
  readonly begunAt: number;
  stop: AbortController;
};

/** What this stands on. */
export type PeopleImportDeps = {
  readonly host: Host;
  readonly presses: Presses;
  readonly heavy: Heavy;
  readonly jobs: Map<string, Job>;
};

/** The kinds of settings that a preview is made of: others may change without it. */
const PREVIEWED = [
  'person',
  'levels',
  'bulk',
  'import',
  'team',
  'skill',
  'skill-set',
  'site',
  'role',
  'lead',
  'duty-profile',
];
/** The settings' version as far as a preview is concerned. */
export const previewVersion = ({ host }: PeopleImportDeps): number => versionOf(host.db, PREVIEWED);

/** What the actor's file is checked against; people they may not change are known only by their address. */
function importWorld({ host }: PeopleImportDeps, actor: Actor): ImportWorld {
  const own = readOwnLevels(host.db);
  const roles = readRoles(host.db);
  const above = new Set(roles.filter((r) => outranks(r, actor)).map((r) => r.id));
  return {
    mayGiveRoles: actor.rights.includes('roles.change'),
    people: readPeople(host.db).map((p) => ({
      ...settingsOfPerson(p),
      mayChange: mayChangeTeam(actor, p.teamId),
      above: p.id !== actor.personId && above.has(p.roleId),
      levels: Object.fromEntries(own.get(p.id) ?? new Map<string, OwnLevel>()),
    })),
    skills: readSkills(host.db),
    teams: readTeams(host.db).filter((t) => mayChangeTeam(actor, t.id)),
    sites: SITES.all(host.db),
    roles: roles.filter(
      (r) => r.id === 'agent' || (actor.rights.includes('roles.change') && mayGive(actor, r)) || r.id === 'owner',
    ),
    profiles: readProfiles(host.db),
  };
}

export function jobOf({ jobs }: PeopleImportDeps, actor: Actor, jobId: string): Job {
  const job = jobs.get(jobId);
  if (!job || job.actorId !== actor.personId)
    throw new LaneError(
      'not-found',
      'This import is not there any more. History shows whether it was kept; if not, choose the file again.',
    );
  return job;
}

function rowsOf(job: Job): Table['rows'] {
  return (job.table?.rows ?? []).map((r) => {
    const cells = job.targets.map((_, c) => job.edits.get(`${r.row}|${c}`) ?? r.cells[c] ?? '');
    return { row: r.row, cells: r.cells.length > cells.length ? [...cells, ...r.cells.slice(cells.length)] : cells };
  });
}

/** What the file would do with things as they are at this moment. */
export const planNow = (deps: PeopleImportDeps, actor: Actor, job: Job): Promise<ImportPlan> =>
  deps.heavy(
    'people-plan',
    { rows: rowsOf(job), targets: job.targets, world: importWorld(deps, actor) },
    { signal: job.stop.signal, progress: (done) => void (job.done = done) },
  );

/** A newer plan stops the one before. Failures are kept on the job, to be shown where its progress is. */
export function startPlan(deps: PeopleImportDeps, actor: Actor, job: Job): void {
  job.stop.abort();
  job.stop = new AbortController();
  const { signal } = job.stop;
  Object.assign(job, { state: 'planning', plan: null, done: 0, fault: null, version: previewVersion(deps) });
  planNow(deps, actor, job).then(
    (plan) => {
      if (!signal.aborted) Object.assign(job, { plan, state: 'planned', done: job.table?.rows.length ?? 0 });
    },
    (error: unknown) => {
      if (!signal.aborted)
        Object.assign(job, {
          state: 'failed',
          fault: error instanceof Error ? error.message : 'The file could not be checked.',
        });
    },
  );
}
