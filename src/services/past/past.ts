import { boolean, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import {
  beginPast,
  chunksOf,
  keepChunk,
  notePastFault,
  type PastImport,
  pastImport,
  pastImports,
  setPastState,
} from '../../data/past';
import { readPeople } from '../../data/people';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { exactly, id, requiredText, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import type { Reading } from '../readings';
import { keepPast, takePastOut } from './bringpast';
import { type Checked, NOTHING_CHECKED, together } from './checkpast';
import { NAMED_KINDS, type NamedKind, thingsHere } from './pastthings';

/** Chunks of a file at most (about a gigabyte), and those that are checked at once. */
const MOST_CHUNKS = 16_000;
const CHECKED_AT_ONCE = 32;
/** Characters of a chunk at most: of one that holds a single long line. */
const MOST_TEXT = 1024 * 1024;
/** Names that are listed of each kind. */
const MOST_NAMES = 100;

const beginSchema = exactly(
  object({ name: requiredText(120, 'The file’s name'), isTable: boolean().required('It must be said what it is') }),
);
const idSchema = exactly(object({ id: id('The file') }));
/** How many chunks a file has, said when the last of them has been sent; null when it is read once more. */
const checkSchema = exactly(
  object({ id: id('The file'), chunks: whole(1, MOST_CHUNKS, 'How many chunks').nullable().defined() }),
);
const chunkSchema = exactly(
  object({ id: id('The file'), place: whole(0, MOST_CHUNKS - 1, 'The chunk'), line: whole(1, 1e9, 'The line') }),
);

const textSchema = exactly(
  object({ text: string().max(MOST_TEXT, 'A line of this file is too long').defined('The text is missing') }),
);

/** What is being done with a file. */
type Job = {
  readonly doing: 'checking' | 'keeping' | 'leaving';
  readonly stop: AbortController;
  /** Chunks that are checked, of how many. */
  done: number;
  total: number;
};
export type PastDeps = {
  readonly host: Host;
  readonly reading: Reading;
  readonly jobs: Map<string, Job>;
  /** What was checked of each file; after a start it is checked again. */
  readonly checked: Map<string, Checked>;
};

/** One kind of things that a file names: how many are here by their name, and which are kept by name alone. */
export type NamedView = {
  readonly kind: NamedKind;
  readonly here: number;
  readonly strange: readonly { readonly name: string; readonly count: number }[];
  readonly more: number;
};
export type PastFileView = Omit<PastImport, 'personId'> & {
  readonly by: string;
  readonly doing: Job['doing'] | null;
  /** How far that is, from 0 to 1; null where it is not known. */
  readonly progress: number | null;
  readonly checked: (Omit<Checked, 'named'> & { readonly named: readonly NamedView[] }) | null;
};
export type PastView = { readonly files: readonly PastFileView[] };

const may = (actor: Actor): void => mustHoldEverywhere(actor, 'review.import');

function fileOf({ host }: PastDeps, fileId: string): PastImport {
  const file = pastImport(host.db, fileId);
  if (!file) throw new LaneError('not-found', 'This file is not there any more.');
  return file;
}

export function viewPast({ host, jobs, checked }: PastDeps, actor: Actor): PastView {
  may(actor);
  const names = new Map(readPeople(host.db).map((p) => [p.id, p.name]));
  return {
    files: pastImports(host.db).map(({ personId, ...file }) => {
      const job = jobs.get(file.id);
      const found = checked.get(file.id);
      const lines = found ? found.contacts + found.states + found.refused : null;
      return {
        ...file,
        by: names.get(personId) ?? 'somebody',
        doing: job?.doing ?? null,
        progress:
          job?.doing === 'checking'
            ? job.done / Math.max(1, job.total)
            : job?.doing === 'keeping' && lines
              ? Math.min(1, file.done / lines)
              : null,
        checked: found && file.state === 'there' && !job ? { ...found, named: namedView(host, found) } : null,
      };
    }),
  };
}

function namedView(host: Host, { named }: Checked): NamedView[] {
  const here = thingsHere(host.db);
  const all = Object.entries(named).map(([key, count]) => {
    const space = key.indexOf(' ');
    return { kind: key.slice(0, space), name: key.slice(space + 1), count };
  });
  return NAMED_KINDS.map((kind) => {
    const of = all.filter((one) => one.kind === kind);
    const strange = of
      .filter((one) => !here[kind].has(one.name.trim().toLowerCase()))
      .sort((a, b) => b.count - a.count)
      .map(({ name, count }) => ({ name, count }));
    return {
      kind,
      here: of.length - strange.length,
      strange: strange.slice(0, MOST_NAMES),
      more: Math.max(0, strange.length - MOST_NAMES),
    };
  });
}

/** Begins to take a file; its text follows in chunks. */
export function beginFile({ host }: PastDeps, actor: Actor, input: unknown): { id: string } {
  may(actor);
  const { name, isTable } = parse(beginSchema, input);
  return host.transact((tx) => {
    const fileId = tx.ids('past');
    beginPast(tx.db, { id: fileId, name, personId: actor.personId, realAt: tx.realAt, isTable });
    return { id: fileId };
  });
}

/** Takes a chunk of a file that is coming: whole lines, and of a table its first line before them. */
export function takeChunk(deps: PastDeps, actor: Actor, asked: unknown, input: unknown): { place: number } {
  may(actor);
  const { id: fileId, place, line } = parse(chunkSchema, asked);
  const { text } = parse(textSchema, input);
  if (fileOf(deps, fileId).state !== 'coming') throw new LaneError('not-now', 'All of this file has come already.');
  deps.host.transact((tx) => keepChunk(tx.db, fileId, { place, line, text }));
  return { place };
}

/** Does something with a file that takes long; what goes wrong is kept with the file. One file at a time. */
function inBackground(
  deps: PastDeps,
  fileId: string,
  doing: Job['doing'],
  work: (job: Job) => Promise<void>,
): Promise<void> {
  if (deps.jobs.size > 0)
    throw new LaneError('not-now', 'A file is being read, kept or taken out just now. Try again when that is over.');
  const job: Job = { doing, stop: new AbortController(), done: 0, total: 0 };
  deps.jobs.set(fileId, job);
  deps.host.transact((tx) => notePastFault(tx.db, fileId, null));
  return work(job)
    .catch((error: unknown) => {
      if (job.stop.signal.aborted || !deps.host.db.open) return;
      deps.host.fault(error);
      const why = error instanceof Error ? error.message : 'It could not be done.';
      deps.host.transact((tx) => notePastFault(tx.db, fileId, why));
    })
    .finally(() => deps.jobs.delete(fileId));
}

/** Reads a file that has come and tells what it would bring in; `view` follows it. Changes nothing. */
export function checkFile(deps: PastDeps, actor: Actor, input: unknown): { id: string } {
  may(actor);
  const { id: fileId, chunks } = parse(checkSchema, input);
  const file = fileOf(deps, fileId);
  if (file.state === 'coming' && chunks !== chunksOf(deps.host.db, file.id))
    throw new LaneError('not-now', 'Not all of this file has come. Forget it and choose it again.');
  if (file.state !== 'coming' && file.state !== 'there') throw new LaneError('not-now', 'This file is kept already.');
  void inBackground(deps, file.id, 'checking', async (job) => {
    const { host, reading, checked } = deps;
    if (file.state === 'coming') host.transact((tx) => setPastState(tx.db, file.id, 'there'));
    job.total = chunksOf(host.db, file.id);
    let found = NOTHING_CHECKED;
    for (; job.done < job.total; job.done = Math.min(job.total, job.done + CHECKED_AT_ONCE)) {
      const asked = { id: file.id, from: job.done, to: job.done + CHECKED_AT_ONCE };
      found = together(found, await reading('check-past', actor, asked, job.stop.signal));
      job.stop.signal.throwIfAborted();
    }
    checked.set(file.id, found);
  });
  return { id: file.id };
}

/** Keeps what a file brings in; lines that are refused are left out. */
export function keepFile(deps: PastDeps, actor: Actor, input: unknown): { id: string } {
  may(actor);
  const file = fileOf(deps, parse(idSchema, input).id);
  if (file.state !== 'there' && file.state !== 'keeping')
    throw new LaneError('not-now', 'This file is kept already, or has not been read yet.');
  void inBackground(deps, file.id, 'keeping', async (job) => {
    deps.host.transact((tx) => setPastState(tx.db, file.id, 'keeping'));
    await keepPast(deps.host, actor, file.id, job.stop.signal).catch((error: unknown) => {
      // Stopped, it stays as far as it has come until somebody goes on; it does not go on by itself after a start.
      if (job.stop.signal.aborted) deps.host.transact((tx) => setPastState(tx.db, file.id, 'there'));
      throw error;
    });
  });
  return { id: file.id };
}

/** Stops what is being done with a file: one that is being kept stays as far as it has come, and can go on or be taken out. */
export function stopFile(deps: PastDeps, actor: Actor, input: unknown): { id: string } {
  may(actor);
  const { id: fileId } = parse(idSchema, input);
  const job = deps.jobs.get(fileId);
  if (!job) throw new LaneError('not-found', 'Nothing is being done with this file.');
  if (job.doing === 'leaving') throw new LaneError('not-now', 'What has begun to be taken out is taken out whole.');
  job.stop.abort(new LaneError('not-now', 'It was stopped.'));
  return { id: fileId };
}

/** Takes out again whatever a file brought in, and forgets the file. */
export function takeFileOut(deps: PastDeps, actor: Actor, input: unknown): { id: string } {
  may(actor);
  const file = fileOf(deps, parse(idSchema, input).id);
  void inBackground(deps, file.id, 'leaving', async () => {
    deps.host.transact((tx) => setPastState(tx.db, file.id, 'leaving'));
    await takePastOut(deps.host, actor, file.id);
    deps.checked.delete(file.id);
  });
  return { id: file.id };
}

/** After a start: what was being kept or taken out goes on, one file after the other. */
async function resumeFiles(deps: PastDeps): Promise<void> {
  for (const file of pastImports(deps.host.db))
    if (file.state === 'keeping' || file.state === 'leaving')
      await inBackground(deps, file.id, file.state, (job) =>
        file.state === 'keeping'
          ? keepPast(deps.host, file, file.id, job.stop.signal)
          : takePastOut(deps.host, file, file.id),
      );
}

/** What is brought in from before or from elsewhere. */
export function createPast(host: Host, reading: Reading) {
  const deps: PastDeps = { host, reading, jobs: new Map(), checked: new Map() };
  return {
    ...bind(deps, {
      view: viewPast,
      begin: beginFile,
      take: takeChunk,
      check: checkFile,
      keep: keepFile,
      stop: stopFile,
      takeOut: takeFileOut,
    }),
    resume: (): void => void resumeFiles(deps).catch(host.fault),
  };
}
