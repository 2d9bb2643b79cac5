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
import type { OwnLevel } from '../../core/people/levels';
import type { PressLine } from '../../data/presses';
import { ownLevelsOf, readSkills } from '../../data/skills';
import { type Actor, mustHold } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Tx } from '../ground/host';
import { exactly, id, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { type Job, jobOf, MOST_LINES, type PeopleImportDeps, previewVersion, startPlan } from './importjobs';
import { checkSwitchOff } from './keepperson';
import { levelAfter } from './levels';
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

export type ImportView = {
  readonly id: string;
  readonly fileName: string;
  readonly state: Job['state'];
  readonly done: number;
  readonly total: number;
  readonly fault: string | null;
  readonly written: number;
  /** How far keeping it is, and whether it can still be called off. */
  readonly keeping: { readonly done: number; readonly total: number; readonly canStop: boolean } | null;
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
    press: null,
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
    keeping: job.press && { done: job.press.done, total: job.press.total, canStop: job.press.phase === 'gathering' },
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
  if (!job.table || job.state === 'applied' || job.state === 'keeping')
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
  if (job.press) {
    deps.presses.stop(actor, { id: job.press.id });
    return { id: job.id };
  }
  job.stop.abort();
  Object.assign(job, { state: 'cancelled', plan: null });
  return { id: job.id };
}

/** What a line of the file changes, as lines of a press: the person, their own levels, the invitation. */
function linesOf({ host }: PeopleImportDeps, tx: Tx, actor: Actor, line: PlannedLine, invite: boolean): PressLine[] {
  if (!line.draft) return [];
  const before = line.personId === null ? undefined : readPerson(tx.db, line.personId);
  const thingId = before?.id ?? tx.ids('person');
  const after: PersonSettings = {
    ...(before ? settingsOfPerson(before) : { alsoTeamIds: [], setIds: [], most: {} }),
    ...line.draft,
    id: thingId,
  };
  if (before?.active && !after.active) checkSwitchOff(tx, actor, before);
  const lines: PressLine[] = [];
  const add = (kind: string, was: unknown, now: unknown) =>
    lines.push({ kind, thingId, label: after.name, before: was, after: now, undoes: null });
  if (line.changes.length > line.levels.length) add('person', before ? settingsOfPerson(before) : null, after);
  if (line.levels.length > 0) {
    const own = before ? ownLevelsOf(tx.db, thingId) : new Map<string, OwnLevel>();
    const was = (skillId: string) => own.get(skillId) ?? null;
    add(
      'levels',
      Object.fromEntries(line.levels.map((l) => [l.skillId, was(l.skillId)])),
      Object.fromEntries(
        line.levels.map((l) => [l.skillId, levelAfter(host, after, was(l.skillId), l, tx.floorAt)] as const),
      ),
    );
  }
  if (!before && invite && after.active) add('invite', null, null);
  return lines;
}

/**
 * Keeps every accepted line, or none: as a press of its own, in turns, so that nobody waits for it. Throws
 * `changed-meanwhile` when settings changed since the preview.
 */
export async function applyImport(deps: PeopleImportDeps, actor: Actor, input: unknown): Promise<{ written: number }> {
  mustHold(actor, 'people.change');
  const asked = parse(applySchema, input);
  const job = jobOf(deps, actor, asked.id);
  const { plan } = job;
  if (!plan || job.state !== 'planned') throw new LaneError('not-now', 'The preview is not ready.');
  const all = plan.lines.filter((l) => l.kind === 'new' || l.kind === 'changed');
  job.state = 'keeping';
  try {
    const { skipped, reason } = await deps.presses.run(actor, {
      title: `Bringing in ${job.fileName}`,
      about: { kind: 'import', thingId: job.id },
      all,
      total: all.length,
      mayBegin: () => {
        if (job.state !== 'keeping') throw new LaneError('not-now', 'It was called off. Nothing was changed.');
        if (previewVersion(deps) !== job.version)
          throw new LaneError(
            'changed-meanwhile',
            'People or what they are checked against were changed since this preview, so it is being made anew. Look at it and press again.',
          );
      },
      linesOf: (tx, line) => linesOf(deps, tx, actor, line, asked.invite),
      told: (press) => void (job.press = press),
    });
    Object.assign(job, {
      state: 'applied',
      written: all.length,
      fault: skipped === 0 ? null : `${skipped} of its changes could not be made: ${reason}`,
    });
  } catch (error) {
    if (job.state === 'keeping') job.state = 'planned';
    if (error instanceof LaneError && error.code === 'changed-meanwhile') startPlan(deps, actor, job);
    throw error;
  } finally {
    job.press = null;
  }
  return { written: job.written };
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
