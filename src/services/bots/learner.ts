import { LaneError } from '../../core/errors';
import type { Heavy } from '../../core/heavy';
import type { Phrasebook } from '../../core/phrases/book';
import { bookOf, keepLearntOf, learntOf, readPhrasebook, versionsToLearn } from '../../data/phrasebook';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import type { Host } from '../ground/host';

/** How far learning is, from 0 to 1; null where nothing is being learnt. */
export type LearningNow = { readonly share: number; readonly mine: boolean } | null;

type UnderWay = { share: number; readonly stop: AbortController };
/** Under whose name stands what the house learns by itself. */
const BY_ITSELF = '';

/** Learns phrasebooks in a thread of its own, says how far that is, and keeps nothing. */
export type Learner = ReturnType<typeof createLearner>;
export function createLearner({ host, heavy }: { readonly host: Host; readonly heavy: Heavy }) {
  const underWay = new Map<string, UnderWay>();
  /** What was learnt last: whoever has looked at what a phrase does keeps just that next. */
  let latest: { readonly from: string; readonly learnt: string } | null = null;

  async function learn(who: string, book: Phrasebook, last: string | null): Promise<string> {
    const mine: UnderWay = { share: 0, stop: new AbortController() };
    // Whoever learns anew does not wait for what they no longer want.
    underWay.get(who)?.stop.abort();
    underWay.set(who, mine);
    try {
      return await heavy(
        'phrasebook',
        { book, last },
        { signal: mine.stop.signal, progress: (share) => void (mine.share = share) },
      );
    } catch (error) {
      if (mine.stop.signal.aborted) throw new LaneError('not-now', 'Learning was stopped. Nothing is kept.');
      throw error;
    } finally {
      if (underWay.get(who) === mine) underWay.delete(who);
    }
  }

  return {
    /** What is learnt from a book, going on from what is learnt now. Throws `not-now` when it was stopped. */
    async learnt(actor: Actor, book: Phrasebook): Promise<string> {
      const version = readPhrasebook(host.db)?.version ?? 0;
      const from = JSON.stringify([version, book]);
      if (latest?.from === from) return latest.learnt;
      const learnt = await learn(actor.personId, book, learntOf(host.db, version));
      latest = { from, learnt };
      return learnt;
    },

    /**
     * Learns anew what is not learnt, or was by an earlier version of the product: the newest book, and those that live
     * bots understand by. Until then they understand by labels and synonyms alone. Never throws.
     */
    anew(): void {
      void (async () => {
        for (const version of versionsToLearn(host.db)) {
          const book = bookOf(host.db, version);
          if (!book) continue;
          const learnt = await learn(BY_ITSELF, book, null);
          if (!host.db.open) return;
          host.transact((tx) => keepLearntOf(tx.db, version, learnt));
        }
      })().catch((error: unknown) => {
        // What is learnt anew meanwhile takes its place.
        if (!(error instanceof LaneError)) host.fault(error);
      });
    },

    /** How far the reader's own learning is, or what the house learns by itself. */
    now(actor: Actor): LearningNow {
      mustHold(actor, 'settings.view');
      const own = underWay.get(actor.personId);
      const one = own ?? underWay.get(BY_ITSELF);
      return one ? { share: one.share, mine: own !== undefined } : null;
    },

    /** Stops what the actor lets it learn. */
    stop(actor: Actor): { readonly stopped: boolean } {
      mustHoldEverywhere(actor, 'bots.change');
      const own = underWay.get(actor.personId);
      own?.stop.abort();
      return { stopped: own !== undefined };
    },
  };
}
