import { sameValue } from '../../core/differences';
import { LaneError } from '../../core/errors';
import { batchIds, batchSize, type HistoryEntry, readEntry } from '../../data/history';
import { type Actor, mustHold } from '../ground/actor';
import { bind } from '../ground/bind';
import type { PressNow } from '../ground/presses';
import { parse } from '../ground/validate';
import {
  type HistoryDeps,
  type HistoryView,
  undoChanges,
  undoSchema,
  type Undone,
  viewHistory,
  wasUndone,
} from './history';
import { readerOf } from './historyreader';
import { findsSlowly } from './historysearch';

/** A press that changed more than this is taken back in turns, so that nobody waits for it. */
const MANY = 500;

/** Who changed what, and taking it back. */
export const createHistory = (deps: HistoryDeps) =>
  bind(deps, { view: viewHistory, page: pageOfHistory, undo: undoChanges, undoPress, underWay });

/** A page of History, found where it holds nobody up. */
export async function pageOfHistory(
  deps: HistoryDeps,
  actor: Actor,
  asked: Readonly<Record<string, string>>,
  signal?: AbortSignal,
): Promise<HistoryView> {
  const found = findsSlowly(actor, asked) ? await deps.reading('history', actor, asked, signal) : undefined;
  return viewHistory(deps, actor, asked, found);
}

/** A large press under way as others see it: how far it is, and whether the reader may still call it off. */
export type UnderWay = Pick<PressNow, 'id' | 'title' | 'phase' | 'done' | 'total'> & { readonly canStop: boolean };

export function underWay({ presses }: HistoryDeps, actor: Actor): UnderWay | null {
  mustHold(actor, 'history.view');
  const now = presses.now();
  if (!now) return null;
  const { personId, ...shown } = now;
  return { ...shown, canStop: personId === actor.personId && now.phase === 'gathering' };
}

/**
 * Takes back all that a press changed: a small one as one change, a large one as a press of its own, in turns. Of a large
 * one, what cannot be taken back is left and counted.
 */
export function undoPress(deps: HistoryDeps, actor: Actor, input: unknown): Undone | Promise<Undone> {
  mustHold(actor, 'history.view');
  const asked = parse(undoSchema, input);
  const entry = readEntry(deps.host.db, asked.id);
  return entry?.batch && batchSize(deps.host.db, entry.batch) > MANY
    ? undoAsPress(deps, actor, entry, entry.batch, Boolean(asked.anyway))
    : undoChanges(deps, actor, input);
}

async function undoAsPress(
  deps: HistoryDeps,
  actor: Actor,
  entry: HistoryEntry,
  batch: string,
  anyway: boolean,
): Promise<Undone> {
  const { host, presses, undoable } = deps;
  const total = batchSize(host.db, batch);
  const reader = readerOf(host.db, actor);
  let undoneBefore = 0;
  // Everything is looked at before anything is taken back: nothing is where somebody has to choose.
  const { done, skipped, reason } = await presses.run(actor, {
    title: `Taking back ${total.toLocaleString('en-GB')} changes`,
    about: { kind: entry.kind, thingId: entry.thingId },
    all: batchIds(host.db, batch),
    total,
    linesOf: (tx, id) => {
      const e = readEntry(tx.db, id);
      if (!e || !reader.mayRead(e))
        throw new LaneError(
          entry.id === id ? 'not-found' : 'not-allowed',
          'The same press changed things outside your teams, so only somebody who reaches all of them can take it back.',
        );
      const kind = undoable[e.kind];
      if (!kind) return [];
      if (wasUndone(e)) {
        undoneBefore++;
        return [];
      }
      const before = kind.read(tx.db, e.thingId, e.after ?? e.before);
      if (!anyway && !sameValue(before ?? null, e.after))
        throw new LaneError(
          'changed-meanwhile',
          `${e.label || 'It'} was changed again since. Undoing puts back the version from before and loses the later change.`,
        );
      return [{ kind: e.kind, thingId: e.thingId, label: e.label, before, after: e.before, undoes: e.id }];
    },
  });
  if (done === 0) throw new LaneError('not-now', reason ?? 'This was undone already.');
  return { undone: done, skipped: skipped + undoneBefore };
}
