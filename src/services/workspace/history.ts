import type { Db } from '../../data/database';
import { number, object } from 'yup';
import { type ChangeLine, describeDifferences, sameValue, type Sayer } from '../../core/differences';
import { LaneError } from '../../core/errors';
import {
  type HistoryEntry,
  historyKinds,
  historyPeople,
  markUndone,
  batchSize,
  readBatch,
  readEntry,
} from '../../data/history';
import { type Actor, mustHold, sees } from '../ground/actor';
import { announce, type Undoable, noteChange } from '../ground/change';
import type { Host } from '../ground/host';
import type { Presses } from '../ground/presses';
import type { Reading } from '../readings';
import { readerOf } from './historyreader';
import { findEntries, type Found } from './historysearch';
import { exactly, whole } from '../ground/schemas';
import { parse } from '../ground/validate';

export const undoSchema = exactly(
  object({ id: whole(1, Number.MAX_SAFE_INTEGER, 'The change'), anyway: number().oneOf([0, 1]).optional() }),
);

export type HistoryLine = {
  readonly id: number;
  readonly realAt: number;
  readonly who: string;
  readonly kind: string;
  readonly kindName: string;
  readonly thing: string;
  readonly path: string | null;
  readonly did: 'added' | 'changed' | 'removed';
  readonly changes: readonly ChangeLine[];
  readonly more: number;
  readonly batch: number;
  readonly undone: boolean;
  readonly canUndo: boolean;
  readonly whyNot: string | null;
};
export type HistoryView = {
  readonly lines: readonly HistoryLine[];
  readonly next: number | null;
  readonly kinds: readonly { id: string; name: string }[];
  readonly people: readonly { id: string; name: string }[];
  readonly thing: string | null;
};

/** Kinds whose changes are seen but undone elsewhere, and where. */
const SEEN_ONLY: Readonly<Record<string, { name: string; path: (id: string) => string; why: string }>> = {
  bot: { name: 'bot draft', path: (id) => `/bots/${id}`, why: 'A draft is undone in the script itself.' },
  'bot-live': {
    name: 'published bot',
    path: (id) => `/bots/${id}`,
    why: 'Go back to another version on the bot’s page.',
  },
  plan: { name: 'planned change', path: () => '/plans', why: 'Call it off where planned changes stand.' },
  'door-key': {
    name: 'key of a door',
    path: () => '/doors',
    why: 'A key is shown once and kept nowhere, so make another at the door.',
  },
  past: {
    name: 'file of the past',
    path: () => '/review/past',
    why: 'What was brought in is taken out again on its own page.',
  },
  'allowed-hosts': {
    name: 'allowed hosts',
    path: () => '/bots/connections',
    why: 'Only the owner allows hosts, one by one, under Connections.',
  },
  way: {
    name: 'way to reach',
    path: (id) => `/people?person=${id}`,
    why: 'A way is verified anew, so add it again on the person.',
  },
  invitation: {
    name: 'invitation',
    path: (id) => `/people?person=${id}`,
    why: 'A mail that was sent cannot be taken back; withdraw the invitation instead.',
  },
};

/** Entries in order, those of one press together. */
function presses(entries: readonly HistoryEntry[]): (readonly [HistoryEntry, ...HistoryEntry[]])[] {
  const found: [HistoryEntry, ...HistoryEntry[]][] = [];
  for (const e of entries) {
    const last = found.at(-1);
    if (last && e.batch !== null && last[0].batch === e.batch) last.push(e);
    else found.push([e]);
  }
  return found;
}

/** What the functions of this file are given first. */
export type HistoryDeps = {
  readonly host: Host;
  readonly presses: Presses;
  readonly reading: Reading;
  readonly undoable: Readonly<Record<string, Undoable>>;
};

const kindName = ({ undoable }: HistoryDeps, kind: string): string =>
  undoable[kind]?.name ?? SEEN_ONLY[kind]?.name ?? kind;

const changesOf = (e: HistoryEntry, say: Sayer): ChangeLine[] => describeDifferences(e.before, e.after, say);

export const wasUndone = (e: HistoryEntry): boolean => e.undoneBy !== null;

/** A page of History. What it shows may have been found elsewhere (`findEntries`). */
export function viewHistory(
  deps: HistoryDeps,
  actor: Actor,
  input: unknown,
  found: Found = findEntries(deps.host.db, actor, input),
): HistoryView {
  mustHold(actor, 'history.view');
  const { thing, entries, next } = found;
  const { person, say } = readerOf(deps.host.db, actor);
  return {
    next,
    thing: thing ? (entries[0]?.label ?? null) : null,
    kinds: historyKinds(deps.host.db)
      .map((kind) => ({ id: kind, name: kindName(deps, kind) }))
      .sort((a, b) => a.name.localeCompare(b.name)),
    people: historyPeople(deps.host.db).flatMap((personId) => {
      const p = person(personId);
      return p && sees(actor, p) ? [{ id: p.id, name: p.name }] : [];
    }),
    lines: presses(entries).map((press): HistoryLine => {
      const [e] = press;
      // Several things changed by one press are one line; each change then says whose it is.
      const changes = press.flatMap((one) =>
        changesOf(one, say).map((c) => (press.length > 1 ? { ...c, what: `${one.label} · ${c.what}` } : c)),
      );
      const all = e.batch ? batchSize(deps.host.db, e.batch) : 1;
      const labels = [...new Set(press.map((one) => one.label || kindName(deps, one.kind)))];
      const can = press.some((one) => deps.undoable[one.kind] !== undefined);
      return {
        id: e.id,
        realAt: e.realAt,
        who: person(e.personId)?.name ?? 'Somebody',
        kind: e.kind,
        kindName: [...new Set(press.map((one) => kindName(deps, one.kind)))].join(' and '),
        thing: labels.length === 1 ? (labels[0] ?? '') : `${labels[0]} and ${labels.length - 1} more`,
        path:
          labels.length === 1
            ? (deps.undoable[e.kind]?.path(e.thingId) ?? SEEN_ONLY[e.kind]?.path(e.thingId) ?? null)
            : null,
        did: e.before === null ? 'added' : e.after === null ? 'removed' : 'changed',
        changes: changes.slice(0, 6),
        more: Math.max(0, changes.length - 6),
        batch: all,
        undone: press.every(wasUndone),
        canUndo: can && !press.every(wasUndone),
        whyNot: can ? null : (SEEN_ONLY[e.kind]?.why ?? null),
      };
    }),
  };
}

export type Undone = { readonly undone: number; readonly skipped: number };

/** Whether a thing is not as a change left it any more. */
export const movedSince = ({ undoable }: HistoryDeps, db: Db, e: HistoryEntry): boolean =>
  !sameValue(undoable[e.kind]?.read(db, e.thingId, e.after ?? e.before) ?? null, e.after);

/**
 * Takes a change back, with all that the same press changed. Throws `changed-meanwhile` when the thing is not as the
 * change left it any more, unless `anyway`.
 */
export function undoChanges(deps: HistoryDeps, actor: Actor, input: unknown): Undone {
  mustHold(actor, 'history.view');
  const asked = parse(undoSchema, input);
  return deps.host.transact((tx) => {
    const entry = readEntry(tx.db, asked.id);
    const { mayRead, say } = readerOf(tx.db, actor);
    if (!entry || !mayRead(entry)) throw new LaneError('not-found', 'There is no such change.');
    const press = entry.batch ? readBatch(tx.db, entry.batch) : [entry];
    if (!press.every(mayRead))
      throw new LaneError(
        'not-allowed',
        'The same press changed things outside your teams, so only somebody who reaches all of them can take it back.',
      );
    const all = press.filter((e) => deps.undoable[e.kind]);
    const open = all.filter((e) => !wasUndone(e));
    if (open.length === 0)
      throw new LaneError(
        'not-now',
        all.length === 0 ? (SEEN_ONLY[entry.kind]?.why ?? 'This cannot be undone.') : 'This was undone already.',
      );
    const moved = open.filter((e) => movedSince(deps, tx.db, e));
    if (moved.length > 0 && !asked.anyway) {
      throw new LaneError(
        'changed-meanwhile',
        `${moved[0]?.label || 'It'} was changed again since. Undoing puts back the version from before and loses the later change.`,
        moved.slice(0, 5).flatMap((e) =>
          changesOf(
            {
              ...e,
              before: deps.undoable[e.kind]?.read(tx.db, e.thingId, e.after ?? e.before) ?? null,
              after: e.before,
            },
            say,
          )
            .slice(0, 6)
            .map((c) => ({ where: `${e.label} · ${c.what}`, what: `now ${c.from}, would be ${c.to}` })),
        ),
      );
    }
    const batch = open.length > 1 ? tx.ids('batch') : null;
    for (const e of open) {
      const now = deps.undoable[e.kind]?.read(tx.db, e.thingId, e.after ?? e.before) ?? null;
      deps.undoable[e.kind]?.restore(tx, actor, e.thingId, e.before);
      markUndone(tx.db, e.id, noteChange(tx, actor, e.kind, e.thingId, now, e.before, { label: e.label, batch }));
    }
    announce(tx, entry.kind, entry.thingId);
    return { undone: open.length, skipped: all.length - open.length };
  });
}
