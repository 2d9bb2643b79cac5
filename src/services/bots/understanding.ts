import type { Heard, Meaning } from '../../core/bots/program';
import { type Matcher, matcher } from '../../core/phrases/model';
import { learntFrom } from '../../core/phrases/packed';
import type { Db } from '../../data/database';
import { UNDERSTANDING } from '../../data/meaning';
import { learntOf } from '../../data/phrasebook';

/** Learnt versions that are kept ready; a live bot needs one. */
const MOST_READY = 3;
const NOTHING: Meaning = { ranked: [], verdict: 'none' };

/** How words are understood. */
export type Hearing = {
  /** At once, where this process may take the time; null where a thread of its own has to be asked. */
  readonly now: (heard: Heard) => Meaning | null;
  /** `quick` leaves the encoder out: words and pieces alone decide. Rejects when there is nobody to ask. */
  readonly ask: (heard: Heard, quick?: boolean) => Promise<Meaning>;
};

/** Understands words in this thread, by the learnt versions of a database; `quick` leaves the encoder out. */
export function createUnderstanding(db: () => Db): (heard: Heard, quick?: boolean) => Meaning {
  const ready = new Map<number, Matcher>();
  function matcherOf(version: number): Matcher | null {
    const known = ready.get(version);
    if (known) return known;
    const kept = learntOf(db(), version);
    const learnt = kept === null ? null : learntFrom(kept);
    if (!learnt) return null;
    const made = matcher(learnt, {
      encoder: learnt.encoder === null ? null : UNDERSTANDING.encoder,
      glosses: UNDERSTANDING.glosses(),
    });
    if (ready.size >= MOST_READY) ready.delete([...ready.keys()][0] ?? version);
    ready.set(version, made);
    return made;
  }
  return ({ book, text, language }, quick = false) => matcherOf(book)?.rank(text, language, quick) ?? NOTHING;
}

/** In this thread: for tests, small tools and what is made of a simulated past. The server asks a thread instead. */
export function hearingHere(db: () => Db): Hearing {
  const understand = createUnderstanding(db);
  return { now: (heard) => understand(heard), ask: (heard, quick) => Promise.resolve(understand(heard, quick)) };
}
