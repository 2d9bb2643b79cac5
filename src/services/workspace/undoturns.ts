import { LaneError } from '../../core/errors';
import { batchIds, batchSize, type HistoryEntry, markUndone, readEntry } from '../../data/history';
import { readPeople } from '../../data/people';
import { type Actor, mustHold } from '../ground/actor';
import { announce, noteChange } from '../ground/change';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { parse } from '../ground/validate';
import {
  type HistoryDeps,
  mayRead,
  movedSince,
  undoChanges,
  undoSchema,
  type Undone,
  viewHistory,
  wasUndone,
} from './history';

/** A press that changed more than this is taken back in turns, so that nobody waits for it. */
const MANY = 500;
/** How long one turn may hold the thread that routes, real ms. */
const TURN_MS = 8;

/** Who changed what, and taking it back. */
export const createHistory = (deps: Omit<HistoryDeps, 'going'>) =>
  bind({ ...deps, going: new Set<string>() }, { view: viewHistory, undo: undoChanges, undoPress });

const breathe = () => new Promise<void>((resume) => setImmediate(resume));

/**
 * Takes back all that a press changed: a small one as one change, a large one in short turns. Of a large one, what
 * cannot be taken back is left and counted; after a stop the rest can be taken back by another press of undo.
 */
export function undoPress(deps: HistoryDeps, actor: Actor, input: unknown): Undone | Promise<Undone> {
  mustHold(actor, 'history.view');
  const asked = parse(undoSchema, input);
  const entry = readEntry(deps.host.db, asked.id);
  return entry?.batch && batchSize(deps.host.db, entry.batch) > MANY
    ? undoInTurns(deps, actor, entry, entry.batch, Boolean(asked.anyway))
    : undoChanges(deps, actor, input);
}

async function undoInTurns(
  deps: HistoryDeps,
  actor: Actor,
  entry: HistoryEntry,
  press: string,
  anyway: boolean,
): Promise<Undone> {
  const { host, floor, undoable, going } = deps;
  if (going.has(press)) throw new LaneError('not-now', 'This is being taken back already.');
  going.add(press);
  try {
    const people = new Map(readPeople(host.db).map((p) => [p.id, p]));
    const ids = batchIds(host.db, press);
    // First everything is looked at, in turns as well: nothing is taken back where somebody has to choose.
    const open: number[] = [];
    let skipped = 0;
    await inTurns(host, ids, (id) => {
      const e = readEntry(host.db, id);
      if (!e || !mayRead(actor, e, people))
        throw new LaneError(
          entry.id === id ? 'not-found' : 'not-allowed',
          'The same press changed things outside your teams, so only somebody who reaches all of them can take it back.',
        );
      if (!undoable[e.kind]) return;
      if (wasUndone(e)) return void skipped++;
      if (!anyway && movedSince(deps, host.db, e))
        throw new LaneError(
          'changed-meanwhile',
          `${e.label || 'It'} was changed again since. Undoing puts back the version from before and loses the later change.`,
        );
      open.push(id);
    });
    if (open.length === 0) throw new LaneError('not-now', 'This was undone already.');
    const batch = host.ids('batch');
    let undone = 0;
    let refused: LaneError | null = null;
    await floor.groupsLast(() =>
      inTurns(host, open, (id) => {
        try {
          host.transact((tx) => {
            const e = readEntry(tx.db, id);
            if (!e || wasUndone(e)) return;
            const kind = undoable[e.kind];
            const now = kind?.read(tx.db, e.thingId, e.after ?? e.before) ?? null;
            kind?.restore(tx, actor, e.thingId, e.before);
            markUndone(tx.db, e.id, noteChange(tx, actor, e.kind, e.thingId, now, e.before, { label: e.label, batch }));
          });
          undone++;
        } catch (error) {
          if (!(error instanceof LaneError) || error.code === 'not-kept') throw error;
          refused ??= error;
          skipped++;
        }
      }),
    );
    if (undone === 0 && refused !== null) throw refused as LaneError;
    host.transact((tx) => announce(tx, entry.kind, entry.thingId));
    return { undone, skipped };
  } finally {
    going.delete(press);
  }
}

/**
 * Does something with each: as many as fit into a turn are one change, and after every turn whoever else waits has the
 * thread.
 */
async function inTurns<T>(host: Host, all: readonly T[], work: (one: T) => void): Promise<void> {
  for (let next = 0; next < all.length;) {
    host.transact(() => {
      const until = performance.now() + TURN_MS;
      do work(all[next++] as T);
      while (next < all.length && performance.now() < until);
    });
    await breathe();
  }
}
