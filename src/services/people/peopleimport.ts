import { array, boolean, mixed, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import {
  guessTargets,
  IMPORT_FIELD_IDS,
  type ImportPlan,
  type PlannedLine,
  sinceSeen,
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
import { type Job, jobOf, MOST_LINES, type PeopleImportDeps, planNow, previewVersion, startPlan } from './importjobs';
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
    kind: string().oneOf(['', 'new', 'changed', 'unchanged', 'refused', 'met']).optional(),
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
  /** How many lines were not kept because others' changes had made them otherwise than they were shown. */
  readonly met: number;
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
    met: new Set(),
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
  const { kind } = asked;
  const lines = (job.plan?.lines ?? []).filter((l) => (kind === 'met' ? job.met.has(l.row) : !kind || l.kind === kind));
  const page = Number(asked.page ?? 0);
  return {
    id: job.id,
    fileName: job.fileName,
    state: job.state,
    done: job.done,
    total: job.table?.rows.length ?? 0,
    fault: job.fault,
    written: job.written,
    met: job.met.size,
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

/** How often a file is checked again because somebody changed something while it was. */
const MOST_CHECKS = 5;
const wasCalledOff = (job: Job): boolean => job.state === 'cancelled';
const isOverdue = (error: unknown): boolean => error instanceof LaneError && error.code === 'changed-meanwhile';

/** Keeps the lines of a press of its own, in turns, so that nobody waits for it: all of them or none. */
const keepLines = (
  deps: PeopleImportDeps,
  actor: Actor,
  job: Job,
  {
    lines,
    invite,
    version,
  }: { readonly lines: readonly PlannedLine[]; readonly invite: boolean; readonly version: number },
) =>
  deps.presses.run(actor, {
    title: `Bringing in ${job.fileName}`,
    about: { kind: 'import', thingId: job.id },
    all: lines,
    total: lines.length,
    mayBegin: () => {
      if (job.state !== 'keeping') throw new LaneError('not-now', 'It was called off. Nothing was changed.');
      if (previewVersion(deps) !== version)
        throw new LaneError(
          'changed-meanwhile',
          'Others are changing people or what they are checked against at this moment. Press again.',
        );
    },
    linesOf: (tx, line) => linesOf(deps, tx, actor, line, invite),
    told: (press) => void (job.press = press),
  });

/**
 * Keeps every accepted line that still does what its preview showed, all together. Lines that somebody else's changes have
 * met since are left as they are, checked again and shown; gives how many of each.
 */
export async function applyImport(
  deps: PeopleImportDeps,
  actor: Actor,
  input: unknown,
): Promise<{ written: number; met: number }> {
  mustHold(actor, 'people.change');
  const asked = parse(applySchema, input);
  const job = jobOf(deps, actor, asked.id);
  const { plan: seen } = job;
  if (!seen || job.state !== 'planned') throw new LaneError('not-now', 'The preview is not ready.');
  Object.assign(job, { state: 'keeping', met: new Set() });
  try {
    // What was seen stays of its version: called off now, it is checked again the next time.
    for (let checks = 1, now = seen, { version } = job; ; checks += 1) {
      if (previewVersion(deps) !== version) {
        version = previewVersion(deps);
        now = await planNow(deps, actor, job);
      }
      const { same: lines, met } = sinceSeen(seen, now);
      try {
        const { invite } = asked;
        const kept = lines.length > 0 ? await keepLines(deps, actor, job, { lines, invite, version }) : null;
        job.written += lines.length;
        job.met = new Set(met.map((l) => l.row));
        if (met.length > 0 || !kept) startPlan(deps, actor, job);
        else job.state = 'applied';
        if (kept && kept.skipped > 0) job.fault = `${kept.skipped} of its changes could not be made: ${kept.reason}`;
        return { written: lines.length, met: met.length };
      } catch (error) {
        if (!isOverdue(error) || checks === MOST_CHECKS) throw error;
      }
    }
  } catch (error) {
    // It was called off while it was checked again.
    if (wasCalledOff(job)) throw new LaneError('not-now', 'It was called off. Nothing was changed.');
    if (isOverdue(error)) startPlan(deps, actor, job);
    else job.state = 'planned';
    throw error;
  } finally {
    job.press = null;
  }
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
