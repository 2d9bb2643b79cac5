import { number, object } from 'yup';
import { LaneError } from '../../core/errors';
import { BOT_TESTS } from '../../data/bots';
import { blankCustomer, dropBlock, dropCustomerNote, notesOn } from '../../data/customers';
import {
  beginErasure,
  booksWith,
  contactIdsOf,
  endErasure,
  eraseContact,
  erasuresUnderWay,
  eraseSent,
  erasureOf,
  forgetHistoryOf,
  isGoingOn,
  stripBook,
  wordedWith,
} from '../../data/erasing';
import { bookOf, learntOf, NOT_LEARNT, versionsInUse } from '../../data/phrasebook';
import { forgetTaken, takenFromAlone } from '../../data/takenfrom';
import { withoutTexts } from '../../core/customers/without';
import type { Phrasebook } from '../../core/phrases/book';
import type { Heavy } from '../../core/heavy';
import type { Learner } from '../bots/learner';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id } from '../ground/schemas';
import { inTurns } from '../ground/turns';
import { parse } from '../ground/validate';
import { customerHere } from './access';

const eraseSchema = exactly(
  object({
    customerId: id('The customer'),
    /** How many addresses were named as joined: all of them go, and no other. */
    joined: number().integer().min(1).required('How many are joined is missing'),
  }),
);
type Deps = {
  readonly host: Host;
  readonly heavy: Heavy;
  readonly learner: Pick<Learner, 'anew'>;
  /** What was written last stands in the write-ahead log as well, and goes from it when it can. */
  readonly emptyLog: () => void;
};

/**
 * Erases customers: what names them is gone at once, what they said and gave a contact at a time after that, and what was
 * taken from it to teach or to test by. That it is to be done is kept, so that a stop in between changes nothing. Figures
 * stay: who was here when, on which channel and with whom.
 */
export function createErasing({ host, heavy, learner, emptyLog }: Deps) {
  let working: Promise<void> | null = null;

  async function dropPhrases(texts: readonly string[]): Promise<void> {
    if (texts.length === 0) return;
    const all = new Set(texts);
    const inUse = new Set(versionsInUse(host.db));
    for (const version of booksWith(host.db, texts)) {
      const book = bookOf(host.db, version);
      // Those that bots go by are learnt without it first, so that they understand all the while.
      const learnt =
        book && inUse.has(version)
          ? await heavy('phrasebook', {
              book: withoutTexts(book, all) as Phrasebook,
              last: learntOf(host.db, version),
            }).catch(() => NOT_LEARNT)
          : NOT_LEARNT;
      if (!host.db.open) return;
      host.transact((tx) => stripBook(tx.db, version, texts, learnt));
    }
    await inTurns(host, wordedWith(host.db, texts), (tx, { strip }) => strip(tx.db));
    learner.anew();
  }

  async function eraseOne(customerId: string): Promise<void> {
    // What was taken is noted until all of it is gone: a stop in between begins with it again.
    const contacts = contactIdsOf(host.db, customerId);
    const taken = takenFromAlone(host.db, contacts);
    await dropPhrases([...new Set(taken.flatMap((one) => (one.kind === 'phrase' ? [one.text] : [])))]);
    await inTurns(
      host,
      taken.flatMap((one) => (one.kind === 'bot-test' ? [one.id] : [])),
      (tx, testId) => {
        BOT_TESTS.remove(tx.db, testId);
        forgetHistoryOf(tx.db, 'bot-test', testId);
      },
    );
    if (!host.db.open) return;
    await inTurns(host, contacts, (tx, contactId) => {
      eraseContact(tx.db, contactId);
      forgetTaken(tx.db, contactId);
    });
    host.transact((tx) => {
      endErasure(tx.db, customerId, tx.realAt);
      tx.onceKept(emptyLog);
    });
  }

  async function work(): Promise<void> {
    for (let next = erasuresUnderWay(host.db); next.length > 0; next = erasuresUnderWay(host.db))
      for (const { customerId } of next) {
        if (!host.db.open) return;
        await eraseOne(customerId);
      }
  }

  /** Goes on with what is to be erased, one customer after the other. Never throws. */
  function resume(): void {
    if (working) return;
    working = work()
      .catch(host.fault)
      .finally(() => {
        working = null;
      });
  }

  return {
    /** Erases a customer with all whom they are one with, which must have been named. */
    erase(actor: Actor, input: unknown): { readonly erased: number } {
      mustHoldEverywhere(actor, 'customers.erase');
      const { customerId, joined } = parse(eraseSchema, input);
      const all = customerHere(host.db, customerId);
      if (all.length !== joined)
        throw new LaneError('changed-meanwhile', 'Others are joined with this customer than were named.');
      if (all.every((c) => erasureOf(host.db, c.id))) throw new LaneError('not-now', 'This customer was erased.');
      if (all.some((c) => isGoingOn(host.db, c.id)))
        throw new LaneError('not-now', 'They have a contact open, or a call promised. End that first.');
      const ids = all.map((c) => c.id);
      host.transact((tx) => {
        for (const c of all) {
          beginErasure(tx.db, { customerId: c.id, personId: actor.personId, realAt: tx.realAt });
          eraseSent(tx.db, [c.address]);
          blankCustomer(tx.db, c.id);
          dropBlock(tx.db, c.id);
        }
        for (const note of notesOn(tx.db, ids)) dropCustomerNote(tx.db, note.id);
        tx.onceKept(resume);
      });
      return { erased: all.length };
    },
    resume,
    /** Resolves when nothing is left to be erased: for tests. */
    settled: async (): Promise<void> => {
      while (working) await working;
    },
  };
}
