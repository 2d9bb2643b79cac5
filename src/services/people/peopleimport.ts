import { array, boolean, mixed, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import {
  guessTargets,
  IMPORT_FIELD_IDS,
  type ImportPlan,
  type PlannedLine,
  type Target,
} from '../../core/people/importplan';
import { type PersonSettings, readPerson, settingsOfPerson } from '../../data/people';
import { readSkills } from '../../data/skills';
import { settingsVersion } from '../../data/workspace';
import { type Actor, mustHold } from '../ground/actor';
import { bind } from '../ground/bind';
import { announce, noteChange } from '../ground/change';
import { exactly, id, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { type Job, jobOf, MOST_LINES, type PeopleImportDeps, startPlan } from './importjobs';
import { peopleCsv } from './peoplecsv';

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
const TURN = 25;

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

/** Begins with a file's bytes; the rest is followed by `view`. */
export function beginImport(deps: PeopleImportDeps, actor: Actor, bytes: Uint8Array, fileName: string): { id: string } {
  mustHold(actor, 'people.change');
  const now = deps.host.times.real();
  for (const [jobId, old] of deps.jobs)
    if (old.actorId === actor.personId || now - old.begunAt > 3_600_000) {
      old.stop.abort();
      deps.jobs.delete(jobId);
    }
  const job: Job = {
    id: deps.host.ids('import'),
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
  deps.jobs.set(job.id, job);
  const { signal } = job.stop;
  deps
    .heavy('people-table', bytes, { signal })
    .then((table) => {
      if (signal.aborted) return;
      if (table.rows.length > MOST_LINES)
        throw new Error(`The file has ${table.rows.length} lines; at most ${MOST_LINES} are taken at once. Split it.`);
      Object.assign(job, { table, targets: guessTargets(table.header, readSkills(deps.host.db)) });
      startPlan(deps, actor, job);
    })
    .catch((error: unknown) => {
      if (!signal.aborted)
        Object.assign(job, {
          state: 'failed',
          fault: error instanceof Error ? error.message : 'The file could not be read.',
        });
    });
  return { id: job.id };
}

export function viewImport(deps: PeopleImportDeps, actor: Actor, input: unknown): ImportView {
  mustHold(actor, 'people.change');
  const asked = parse(viewSchema, input);
  const job = jobOf(deps, actor, asked.id);
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
}

/** Checks the file again with other columns or mended cells. */
export function planImport(deps: PeopleImportDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.change');
  const asked = parse(planSchema, input);
  const job = jobOf(deps, actor, asked.id);
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
  startPlan(deps, actor, job);
  return { id: job.id };
}

export function cancelImport(deps: PeopleImportDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.change');
  const job = jobOf(deps, actor, parse(idSchema, input).id);
  if (job.state === 'applied') throw new LaneError('not-now', 'The file was kept already. Undo it in History.');
  job.stop.abort();
  Object.assign(job, { state: 'cancelled', plan: null });
  return { id: job.id };
}

/**
 * Keeps every accepted line in one transaction, or none. Throws `changed-meanwhile` when settings changed since the preview.
 * What follows from it (the floor hears of them, invitations go out) is done in short turns, so that nobody waits for
 * it.
 */
export async function applyImport(deps: PeopleImportDeps, actor: Actor, input: unknown): Promise<{ written: number }> {
  mustHold(actor, 'people.change');
  const asked = parse(applySchema, input);
  const job = jobOf(deps, actor, asked.id);
  const plan = job.plan;
  if (!plan || job.state !== 'planned') throw new LaneError('not-now', 'The preview is not ready.');
  if (settingsVersion(deps.host.db) !== job.version) {
    startPlan(deps, actor, job);
    throw new LaneError(
      'changed-meanwhile',
      'Settings were changed since this preview, so it is being made anew. Look at it and press again.',
    );
  }
  const kept = deps.host.transact((tx) => {
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
          deps.people.put(tx, actor, before, after),
          { batch },
        );
      }
      if (line.levels.length > 0)
        deps.levels.writeLevels(
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
  await deps.floor.groupsLast(async () => {
    for (let i = 0; i < kept.touched.length; i += TURN) {
      deps.host.transact((tx) => {
        deps.floor.refreshPeople(tx, kept.touched.slice(i, i + TURN));
        for (const person of kept.invited.slice(i, i + TURN)) deps.invitations.invite(tx, person);
      });
      await new Promise((resume) => setImmediate(resume));
    }
  });
  return { written: kept.touched.length };
}

/**
 * People brought in from a file: read, matched, shown line by line, then kept all at once; and taken out in the same
 * columns.
 */
export const createPeopleImport = (deps: PeopleImportDeps) =>
  bind(deps, {
    begin: beginImport,
    view: viewImport,
    plan: planImport,
    cancel: cancelImport,
    apply: applyImport,
    csv: peopleCsv,
  });
