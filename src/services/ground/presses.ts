import { object } from 'yup';
import { LaneError } from '../../core/errors';
import { markUndone } from '../../data/history';
import {
  addPressLine,
  beginPress,
  dropPress,
  dropPressLine,
  dropUnfinishedPresses,
  firstPressPlace,
  makePressWhole,
  notePressSkipped,
  type PressLine,
  readPress,
  readPressLine,
  wholePresses,
} from '../../data/presses';
import type { Actor } from './actor';
import { backOffMs } from './backoff';
import { announce, noteChange, type Undoable } from './change';
import type { Host, Tx } from './host';
import { exactly, id } from './schemas';
import { inTurns } from './turns';
import { parse } from './validate';

/** How a line of a press is carried out. What cannot be read is not noted in History. */
export type PressKind = Pick<Undoable, 'restore'> & Partial<Pick<Undoable, 'read'>>;

/** What came of a press: how many of its lines were carried out, how many could not be, and why the first of them. */
export type Carried = { readonly done: number; readonly skipped: number; readonly reason: string | null };

/** The press under way, for those who wait for it. `gathering` can still be called off. */
export type PressNow = {
  readonly id: string;
  readonly title: string;
  readonly personId: string;
  readonly phase: 'gathering' | 'carrying';
  readonly done: number;
  readonly total: number;
};

/** Something that is to change more than one turn can. */
export type LargePress<T> = {
  /** What it is, as in “Bringing in people.csv”. */
  readonly title: string;
  /** What listeners are told was changed. */
  readonly about: { readonly kind: string; readonly thingId: string };
  readonly all: Iterable<T>;
  readonly total: number;
  /** Looks, when its turn has come, whether it may still begin. */
  readonly mayBegin?: () => void;
  /** The lines that one of these makes; looks and refuses, changes nothing. */
  readonly linesOf: (tx: Tx, one: T) => readonly PressLine[];
  readonly told?: (now: PressNow) => void;
};

function* upTo(first: number, last: number): Generator<number> {
  for (let place = first; place <= last; place++) yield place;
}

/** How long another change of settings waits for a press before it is refused, real ms. */
const PATIENCE_MS = 30_000;
const stopSchema = exactly(object({ id: id('The press') }));

/**
 * Presses that change more than the main thread can in one turn, one at a time. Such a press has the settings to itself:
 * other changes of settings wait for it (`settled`), contacts do not. Its lines are first gathered apart, in turns, and
 * count nowhere; with the last of them it is whole, and from then on it is carried out in turns, through any stop.
 */
export type Presses = ReturnType<typeof createPresses>;

export function createPresses(host: Host, kinds: Readonly<Record<string, PressKind>>) {
  let now: PressNow | null = null;
  let stop = new AbortController();
  /** How many are under way or wait for their turn, and the last of them, which never rejects. */
  let inLine = 0;
  let last: Promise<unknown> = Promise.resolve();

  function queue<T>(work: () => Promise<T>): Promise<T> {
    inLine++;
    const mine = last.then(work).finally(() => {
      now = null;
      inLine--;
    });
    last = mine.catch(() => undefined);
    return mine;
  }

  /** Writes all its lines apart; gives how many there are. */
  async function gather<T>(actor: Actor, pressId: string, press: LargePress<T>, tell: (done: number) => void) {
    host.transact((tx) =>
      beginPress(tx.db, {
        id: pressId,
        realAt: tx.realAt,
        actor: JSON.stringify(actor),
        title: press.title,
        ...press.about,
      }),
    );
    let place = 0;
    try {
      await inTurns(
        host,
        press.all,
        (tx, one) => {
          for (const line of press.linesOf(tx, one)) addPressLine(tx.db, pressId, ++place, line);
        },
        { signal: stop.signal, told: tell },
      );
      host.transact((tx) => makePressWhole(tx.db, pressId, place));
      return place;
    } catch (error) {
      await inTurns(host, upTo(1, place), (tx, at) => dropPressLine(tx.db, pressId, at));
      host.transact((tx) => dropPress(tx.db, pressId));
      throw error;
    }
  }

  function carryLine(tx: Tx, actor: Actor, pressId: string, place: number): void {
    try {
      host.transact(() => {
        const line = readPressLine(tx.db, pressId, place);
        const kind = line && kinds[line.kind];
        if (!kind) throw new LaneError('not-found', 'This kind of change is not known any more.');
        kind.restore(tx, actor, line.thingId, line.after);
        if (!kind.read) return;
        const after = kind.read(tx.db, line.thingId, line.after ?? line.before);
        const entry = noteChange(tx, actor, line.kind, line.thingId, line.before, after, {
          label: line.label,
          batch: pressId,
        });
        if (line.undoes !== null) markUndone(tx.db, line.undoes, entry);
      });
    } catch (error) {
      if (!(error instanceof LaneError)) host.fault(error);
      else if (error.code === 'not-kept') throw error;
      notePressSkipped(tx.db, pressId, error instanceof Error ? error.message : 'It could not be done.');
    }
  }

  /** Carries out what is left of a whole press. What the database cannot keep now is tried again until it can. */
  async function carry(actor: Actor, pressId: string, tell: (done: number, total: number) => void): Promise<Carried> {
    for (let attempts = 1; ; attempts++)
      try {
        const total = readPress(host.db, pressId)?.lines ?? 0;
        const first = firstPressPlace(host.db, pressId) ?? total + 1;
        await inTurns(
          host,
          upTo(first, total),
          (tx, place) => {
            carryLine(tx, actor, pressId, place);
            dropPressLine(tx.db, pressId, place);
          },
          { told: (done) => tell(first - 1 + done, total) },
        );
        return host.transact((tx) => {
          const { lines = 0, skipped = 0, reason = null, kind = '', thingId = '' } = readPress(tx.db, pressId) ?? {};
          dropPress(tx.db, pressId);
          announce(tx, kind, thingId);
          return { done: lines - skipped, skipped, reason };
        });
      } catch (error) {
        // Without its database there is nothing to go on with; it goes on after the next start.
        if (!host.db.open) throw error;
        host.fault(error);
        await new Promise((resume) => setTimeout(resume, backOffMs(attempts)).unref());
      }
  }

  return {
    /**
     * Carries out a press. Rejects with what `linesOf` threw, or with `not-now` when it was called off; then nothing
     * has changed. Once it is whole it does not reject: lines that are refused are counted.
     */
    run: <T>(actor: Actor, press: LargePress<T>): Promise<Carried> =>
      queue(async () => {
        const pressId = host.ids('batch');
        const set = (phase: PressNow['phase'], done: number, total: number) => {
          now = { id: pressId, title: press.title, personId: actor.personId, phase, done, total };
          press.told?.(now);
        };
        press.mayBegin?.();
        stop = new AbortController();
        set('gathering', 0, press.total);
        const lines = await gather(actor, pressId, press, (done) => set('gathering', done, press.total));
        set('carrying', 0, lines);
        return carry(actor, pressId, (done, total) => set('carrying', done, total));
      }),

    /** After a start: presses that were whole are carried out, others are taken away. Settled when that is done. */
    resume: (): Promise<void> => {
      host.transact((tx) => dropUnfinishedPresses(tx.db));
      // One that cannot be read stays where it is and keeps none of the others from being carried out.
      for (const { id: pressId, title, actor: asJson } of wholePresses(host.db))
        queue(async () => {
          const actor = JSON.parse(asJson) as Actor;
          await carry(actor, pressId, (done, total) => {
            now = { id: pressId, title, personId: actor.personId, phase: 'carrying', done, total };
          });
        }).catch(host.fault);
      return last.then(() => undefined);
    },

    /** The press under way, or null. */
    now: (): PressNow | null => now,
    /** Whether a press is under way or about to be. */
    busy: (): boolean => inLine > 0,

    /** Settled when no press is under way. Rejects with `not-now` when that takes too long. */
    settled(): Promise<void> {
      let timer: NodeJS.Timeout | undefined;
      const late = new Promise<never>((_, reject) => {
        timer = setTimeout(() => {
          const share = now && now.total > 0 ? ` (${Math.floor((100 * now.done) / now.total)}%)` : '';
          reject(
            new LaneError(
              'not-now',
              `${now?.title ?? 'A large change'} is under way${share}, and other changes wait for it. Try again in a moment.`,
            ),
          );
        }, PATIENCE_MS);
      });
      return Promise.race([last.then(() => undefined), late]).finally(() => clearTimeout(timer));
    },

    /** Calls off the actor's press while it is being gathered. */
    stop(actor: Actor, input: unknown): { id: string } {
      const asked = parse(stopSchema, input);
      if (now?.id !== asked.id || now.personId !== actor.personId)
        throw new LaneError('not-found', 'This is over, or somebody else’s.');
      if (now.phase === 'carrying')
        throw new LaneError(
          'not-now',
          'All of it is kept already and being carried out. Undo it in History afterwards.',
        );
      stop.abort(new LaneError('not-now', 'It was called off. Nothing was changed.'));
      return { id: asked.id };
    },
  };
}
