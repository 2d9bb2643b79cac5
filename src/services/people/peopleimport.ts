import { array, boolean, mixed, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { type Table, writeTable } from '../../core/formats/csv';
import {
  guessTargets,
  IMPORT_FIELD_IDS,
  IMPORT_FIELDS,
  type ImportPlan,
  type ImportWorld,
  type PlannedLine,
  type Target,
} from '../../core/people/importplan';
import type { OwnLevel } from '../../core/people/levels';
import { mayGive, outranks } from '../../core/people/rights';
import { readProfiles } from '../../data/dutyprofiles';
import { type PersonSettings, readPeople, readPerson, settingsOfPerson } from '../../data/people';
import { readRoles } from '../../data/roles';
import { readOwnLevels, readSkills } from '../../data/skills';
import { readTeams, SITES } from '../../data/teams';
import { settingsVersion } from '../../data/workspace';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mayChangeTeam, need, sees } from '../ground/actor';
import { announce, noteChange } from '../ground/change';
import type { Host } from '../ground/host';
import { exactly, id, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import type { Invitations } from './invitations';
import type { LevelsService } from './levels';
import type { People } from './people';

/** The heavy part of an import, run where it does not hold anything up. `signal` stops it. */
export type ImportRunner = {
  readonly read: (bytes: Uint8Array, signal: AbortSignal) => Promise<Table>;
  readonly plan: (
    rows: Table['rows'],
    targets: readonly Target[],
    world: ImportWorld,
    progress: (done: number) => void,
    signal: AbortSignal,
  ) => Promise<ImportPlan>;
};

const MOST_LINES = 20_000;
const targetSchema = mixed<NonNullable<Target> | 'none'>()
  .required('A column is missing')
  .test(
    'target',
    'A column is a field, a skill, or none',
    (t) =>
      t === 'none' ||
      (typeof t === 'object' &&
        t !== null &&
        ('field' in t ? (IMPORT_FIELD_IDS as readonly string[]).includes(t.field) : typeof t.skillId === 'string')),
  );
const planSchema = exactly(
  object({
    id: id('The import'),
    targets: array(targetSchema).max(300, 'At most 300 columns').required('The columns are missing'),
    edits: array(
      exactly(
        object({
          row: whole(2, 1e6, 'The row'),
          column: whole(0, 300, 'The column'),
          text: string().max(500, 'A cell has at most 500 characters').defined(),
        }),
      ),
    )
      .max(2000, 'At most 2000 mended cells')
      .required('The mended cells are missing'),
  }),
);
const applySchema = exactly(object({ id: id('The import'), invite: boolean().required('invite is missing') }));
const idSchema = exactly(object({ id: id('The import') }));
const viewSchema = exactly(
  object({
    id: id('The import'),
    kind: string().oneOf(['', 'new', 'changed', 'unchanged', 'refused']).optional(),
    page: string().matches(/^\d*$/).optional(),
  }),
);
const PAGE = 100;
/** How many people follow in one turn after an import. */
const TURN = 250;

type Job = {
  readonly id: string;
  readonly actorId: string;
  readonly fileName: string;
  state: 'reading' | 'planning' | 'planned' | 'applied' | 'cancelled' | 'failed';
  table: Table | null;
  targets: readonly Target[];
  edits: ReadonlyMap<string, string>;
  plan: ImportPlan | null;
  version: number;
  done: number;
  fault: string | null;
  written: number;
  readonly begunAt: number;
  stop: AbortController;
};
export type ImportView = {
  readonly id: string;
  readonly fileName: string;
  readonly state: Job['state'];
  readonly done: number;
  readonly total: number;
  readonly fault: string | null;
  readonly written: number;
  readonly header: readonly string[];
  readonly targets: readonly Target[];
  readonly separator: string;
  readonly counts: ImportPlan['counts'] | null;
  readonly lines: readonly PlannedLine[];
  readonly page: number;
  readonly pages: number;
};

/** People brought in from a file: read, matched, shown line by line, then kept all at once; and taken out in the same columns. */
export function createPeopleImport(
  host: Host,
  floor: LiveFloor,
  people: People,
  levels: LevelsService,
  invitations: Invitations,
  runner: ImportRunner,
) {
  const jobs = new Map<string, Job>();

  /** What the actor's file is checked against; people they may not change are known only by their address. */
  function world(actor: Actor): ImportWorld {
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
  function mine(actor: Actor, jobId: string): Job {
    const job = jobs.get(jobId);
    if (!job || job.actorId !== actor.personId)
      throw new LaneError('not-found', 'This import is not there any more. Choose the file again.');
    return job;
  }
  function rowsOf(job: Job): Table['rows'] {
    return (job.table?.rows ?? []).map((r) => {
      const cells = job.targets.map((_, c) => job.edits.get(`${r.row}|${c}`) ?? r.cells[c] ?? '');
      return { row: r.row, cells: r.cells.length > cells.length ? [...cells, ...r.cells.slice(cells.length)] : cells };
    });
  }
  /** A newer plan stops the one before. Failures are kept on the job, to be shown where its progress is. */
  function startPlan(actor: Actor, job: Job): void {
    job.stop.abort();
    job.stop = new AbortController();
    const { signal } = job.stop;
    Object.assign(job, { state: 'planning', plan: null, done: 0, fault: null, version: settingsVersion(host.db) });
    runner
      .plan(
        rowsOf(job),
        job.targets,
        world(actor),
        (done) => {
          job.done = done;
        },
        signal,
      )
      .then(
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
  return {
    /** Begins with a file's bytes; the rest is followed by `view`. */
    begin(actor: Actor, bytes: Uint8Array, fileName: string): { id: string } {
      need(actor, 'people.change');
      const now = host.clocks.real();
      for (const [jobId, old] of jobs)
        if (old.actorId === actor.personId || now - old.begunAt > 3_600_000) {
          old.stop.abort();
          jobs.delete(jobId);
        }
      const job: Job = {
        id: host.ids('import'),
        actorId: actor.personId,
        fileName: fileName.slice(0, 120),
        state: 'reading',
        table: null,
        targets: [],
        edits: new Map(),
        plan: null,
        version: 0,
        done: 0,
        fault: null,
        written: 0,
        begunAt: now,
        stop: new AbortController(),
      };
      jobs.set(job.id, job);
      const { signal } = job.stop;
      runner
        .read(bytes, signal)
        .then((table) => {
          if (signal.aborted) return;
          if (table.rows.length > MOST_LINES)
            throw new Error(
              `The file has ${table.rows.length} lines; at most ${MOST_LINES} are taken at once. Split it.`,
            );
          Object.assign(job, { table, targets: guessTargets(table.header, readSkills(host.db)) });
          startPlan(actor, job);
        })
        .catch((error: unknown) => {
          if (!signal.aborted)
            Object.assign(job, {
              state: 'failed',
              fault: error instanceof Error ? error.message : 'The file could not be read.',
            });
        });
      return { id: job.id };
    },
    view(actor: Actor, input: unknown): ImportView {
      need(actor, 'people.change');
      const asked = parse(viewSchema, input);
      const job = mine(actor, asked.id);
      const lines = (job.plan?.lines ?? []).filter((l) => !asked.kind || l.kind === asked.kind);
      const page = Number(asked.page ?? 0);
      return {
        id: job.id,
        fileName: job.fileName,
        state: job.state,
        done: job.done,
        total: job.table?.rows.length ?? 0,
        fault: job.fault,
        written: job.written,
        header: job.table?.header ?? [],
        targets: job.targets,
        separator: job.table?.separator ?? ',',
        counts: job.plan?.counts ?? null,
        lines: lines.slice(page * PAGE, (page + 1) * PAGE),
        page,
        pages: Math.ceil(lines.length / PAGE),
      };
    },
    /** Checks the file again with other columns or mended cells. */
    plan(actor: Actor, input: unknown): { id: string } {
      need(actor, 'people.change');
      const asked = parse(planSchema, input);
      const job = mine(actor, asked.id);
      if (!job.table || job.state === 'applied')
        throw new LaneError('not-now', 'This file was kept already, or is still being read.');
      if (asked.targets.length !== job.table.header.length)
        throw new LaneError('not-valid', 'Every column of the file needs a target.', [
          { where: 'targets', what: `must be ${job.table.header.length}` },
        ]);
      const targets = asked.targets.map((t): Target => (t === 'none' ? null : t));
      const keys = targets.flatMap((t) => (t === null ? [] : ['field' in t ? t.field : t.skillId]));
      if (new Set(keys).size !== keys.length)
        throw new LaneError('not-valid', 'Two columns are read as the same thing.', [
          { where: 'targets', what: 'must differ' },
        ]);
      job.targets = targets;
      job.edits = new Map(asked.edits.map((e) => [`${e.row}|${e.column}`, e.text]));
      startPlan(actor, job);
      return { id: job.id };
    },
    cancel(actor: Actor, input: unknown): { id: string } {
      need(actor, 'people.change');
      const job = mine(actor, parse(idSchema, input).id);
      if (job.state === 'applied') throw new LaneError('not-now', 'The file was kept already. Undo it in History.');
      job.stop.abort();
      Object.assign(job, { state: 'cancelled', plan: null });
      return { id: job.id };
    },
    /**
     * Keeps every accepted line in one transaction, or none. Throws `changed-meanwhile` when settings changed since the preview.
     * What follows from it (the floor hears of them, invitations go out) is done in short turns, so that nobody waits for it.
     */
    async apply(actor: Actor, input: unknown): Promise<{ written: number }> {
      need(actor, 'people.change');
      const asked = parse(applySchema, input);
      const job = mine(actor, asked.id);
      const plan = job.plan;
      if (!plan || job.state !== 'planned') throw new LaneError('not-now', 'The preview is not ready.');
      if (settingsVersion(host.db) !== job.version) {
        startPlan(actor, job);
        throw new LaneError(
          'changed-meanwhile',
          'Settings were changed since this preview, so it is being made anew. Look at it and press again.',
        );
      }
      const kept = host.transact((tx) => {
        const batch = tx.ids('batch');
        const touched: string[] = [];
        const invited: PersonSettings[] = [];
        for (const line of plan.lines) {
          if (!line.draft || (line.kind !== 'new' && line.kind !== 'changed')) continue;
          const before = line.personId === null ? undefined : readPerson(tx.db, line.personId);
          const personId = before?.id ?? tx.ids('person');
          const after: PersonSettings = {
            ...(before ? settingsOfPerson(before) : { alsoTeamIds: [], setIds: [], most: {} }),
            ...line.draft,
            id: personId,
          };
          const plain = line.changes.length > line.levels.length;
          if (plain) {
            noteChange(
              tx,
              actor,
              'person',
              personId,
              before ? settingsOfPerson(before) : null,
              people.put(tx, actor, before, after),
              { batch },
            );
          }
          if (line.levels.length > 0)
            levels.writeLevels(
              tx,
              actor,
              line.levels.map((l) => ({ personId, ...l })),
              batch,
            );
          if (!before && asked.invite && after.active) invited.push(after);
          touched.push(personId);
        }
        if (touched.length > 0) announce(tx, 'import', batch);
        return { touched, invited };
      });
      Object.assign(job, { state: 'applied', written: kept.touched.length });
      for (let i = 0; i < kept.touched.length; i += TURN) {
        host.transact((tx) => {
          floor.refreshPeople(tx, kept.touched.slice(i, i + TURN));
          for (const person of kept.invited.slice(i, i + TURN)) invitations.invite(tx, person);
        });
        await new Promise((resume) => setImmediate(resume));
      }
      return { written: kept.touched.length };
    },

    /** Everybody the actor may see, in the columns that can be brought in again. */
    csv(actor: Actor, teamId: string): { name: string; text: string } {
      need(actor, 'people.view');
      need(actor, 'review.export');
      const skills = readSkills(host.db);
      const own = readOwnLevels(host.db);
      const names = new Map(
        [...readTeams(host.db), ...SITES.all(host.db), ...readRoles(host.db), ...readProfiles(host.db)].map((n) => [
          n.id,
          n.name,
        ]),
      );
      const lines = readPeople(host.db)
        .filter((p) => sees(actor, p) && (teamId === '' || p.teamId === teamId))
        .map((p) => {
          const cells = {
            name: p.name,
            shownName: p.shownName,
            email: p.email,
            team: names.get(p.teamId) ?? '',
            site: names.get(p.siteId ?? '') ?? '',
            role: names.get(p.roleId) ?? '',
            profile: names.get(p.dutyProfileId) ?? '',
            outbound: p.outbound,
            active: p.active ? 'yes' : 'no',
          };
          return [
            ...IMPORT_FIELD_IDS.map((f) => cells[f]),
            ...skills.map((s) => String(own.get(p.id)?.get(s.id)?.level ?? '')),
          ];
        });
      return {
        name: 'people.csv',
        text: writeTable([...IMPORT_FIELD_IDS.map((f) => IMPORT_FIELDS[f].label), ...skills.map((s) => s.name)], lines),
      };
    },
  };
}
