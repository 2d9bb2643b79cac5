import { writeLife } from '../../data/lives';
import {
  chunksOf,
  dropFirstChunk,
  dropPast,
  dropPastNames,
  dropPastStates,
  isHereAlready,
  keepPastState,
  notePast,
  notePastContact,
  type PastCounts,
  type PastChunk,
  pastChunk,
  pastContactsOf,
  type PastImport,
  pastImport,
  pastTouches,
  setPastState,
  takeOut,
} from '../../data/past';
import type { PastLine } from '../../core/past/pastlines';
import { announce, noteChange } from '../ground/change';
import type { Actor } from '../ground/actor';
import type { Host, Tx } from '../ground/host';
import { inTurns } from '../ground/turns';
import { lifeOf } from './pastlife';
import { type IdOf, idsFor } from './pastthings';
import { readChunk, type ReadLine } from './readpast';

/** A line with where it stands: the chunk, and how many lines of it are gone through with this one. */
type PlacedLine = ReadLine & Pick<PastCounts, 'place' | 'within'>;
/** The lines of a file from where it stopped, each read when its turn comes. Earlier chunks are not opened again. */
function* linesFrom(host: Host, file: PastImport): Generator<PlacedLine> {
  const now = host.times.floor();
  const chunks = chunksOf(host.db, file.id);
  for (let { place } = file; place < chunks; place++) {
    const chunk: PastChunk | undefined = pastChunk(host.db, file.id, place);
    let within = 0;
    for (const line of chunk ? readChunk(chunk, file.isTable, now) : [])
      if (++within > file.within || place > file.place) yield { ...line, place, within };
  }
}

/** Keeps one line: gives what it brought in, or null where it was refused. */
function keepLine(tx: Tx, file: PastImport, line: PastLine | null, idOf: IdOf): 'contact' | 'state' | null {
  if (line === null) return null;
  if (line.kind === 'state') {
    const personId = idOf(tx, 'person', line.person);
    const { at, state, reason } = line;
    return keepPastState(tx.db, file.id, { personId, at, duty: state, reason }) ? 'state' : null;
  }
  if (isHereAlready(tx.db, line.id)) return null;
  const life = lifeOf(tx, line, idOf);
  const no = writeLife(tx.db, life, tx.realAt);
  notePastContact(tx.db, file.id, no, line.id);
  pastTouches(tx.db, line.startedAt, Math.max(line.endedAt, ...line.turns.map((turn) => turn.endedAt)));
  return 'contact';
}

/**
 * Keeps the lines of a file in turns, from where it stopped: how far it has come is kept with them. An aborted signal stops
 * it between two turns. When all are kept, its text is forgotten, and History says so.
 */
export async function keepPast(
  host: Host,
  actor: Pick<Actor, 'personId'>,
  importId: string,
  signal: AbortSignal,
): Promise<void> {
  const file = pastImport(host.db, importId);
  if (!file) return;
  const idOf = idsFor(host.db, importId);
  let counts: PastCounts = file;
  const save = (tx: Tx) => notePast(tx.db, importId, counts);
  await inTurns(
    host,
    linesFrom(host, file),
    (tx, { is, place, within }) => {
      const before = counts;
      tx.ifUndone(() => {
        counts = before;
      });
      const kept = keepLine(tx, file, is, idOf);
      const at = is === null ? null : is.kind === 'contact' ? is.startedAt : is.at;
      counts = {
        place,
        within,
        firstAt: kept === null || at === null ? counts.firstAt : Math.min(counts.firstAt ?? at, at),
        lastAt: kept === null || at === null ? counts.lastAt : Math.max(counts.lastAt ?? at, at),
        done: counts.done + 1,
        contacts: counts.contacts + (kept === 'contact' ? 1 : 0),
        states: counts.states + (kept === 'state' ? 1 : 0),
        skipped: counts.skipped + (kept === null ? 1 : 0),
      };
      tx.atEnd(save);
    },
    { signal },
  );
  await dropChunks(host, importId);
  host.transact((tx) => {
    setPastState(tx.db, importId, 'kept');
    noteChange(tx, actor, 'past', importId, null, {
      name: file.name,
      contacts: counts.contacts,
      states: counts.states,
    });
    announce(tx, 'past', importId);
  });
}

/** Numbers, as long as there is more to do. */
function* asLongAs(more: () => boolean): Generator<number> {
  for (let part = 0; more(); part++) yield part;
}
/** Does something in turns until it says that nothing was left. */
async function untilNone(host: Host, work: (tx: Tx) => boolean): Promise<void> {
  let left = true;
  await inTurns(
    host,
    asLongAs(() => left),
    (tx) => {
      left = work(tx);
    },
  );
}
/** Whatever is left of a file's text: a stop may have come while it was dropped before. */
const dropChunks = (host: Host, importId: string): Promise<void> =>
  untilNone(host, (tx) => dropFirstChunk(tx.db, importId));

/** Contacts that are looked up at once to be taken out. */
const BATCH = 500;
function* contactsLeft(host: Host, importId: string): Generator<number> {
  for (;;) {
    const some = pastContactsOf(host.db, importId, BATCH);
    if (some.length === 0) return;
    yield* some;
  }
}
/** Takes everything out again that a file brought in, in turns, and forgets it. What was taken out stays out when it stops. */
export async function takePastOut(host: Host, actor: Pick<Actor, 'personId'>, importId: string): Promise<void> {
  const file = pastImport(host.db, importId);
  if (!file) return;
  await inTurns(host, contactsLeft(host, importId), (tx, no) => takeOut(tx.db, no));
  await untilNone(host, (tx) => dropPastStates(tx.db, importId, 50) > 0);
  await dropChunks(host, importId);
  host.transact((tx) => {
    dropPastNames(tx.db, importId);
    dropPast(tx.db, importId);
    noteChange(tx, actor, 'past', importId, { name: file.name, contacts: file.contacts, states: file.states }, null);
    announce(tx, 'past', importId);
  });
}
