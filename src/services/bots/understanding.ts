import type { Heard, Meaning } from '../../core/bots/program';
import { type Matcher, matcher } from '../../core/phrases/matching';
import { learntFrom } from '../../core/phrases/packed';
import type { Db } from '../../data/database';
import { UNDERSTANDING } from '../../data/meaning';
import { learntOf } from '../../data/phrasebook';

const NOTHING: Meaning = { ranked: [], verdict: 'none' };

/** How words are understood. */
export type Hearing = {
  /** At once, where this process may take the time; null where a thread of its own has to be asked. */
  readonly now: (heard: Heard) => Meaning | null;
  /** `quick` leaves the encoder out: words and pieces alone decide. Rejects when there is nobody to ask. */
  readonly ask: (heard: Heard, quick?: boolean) => Promise<Meaning>;
};

/** What was learnt that is kept ready in this thread, by its text; a live bot needs one. */
const ready = new Map<string, Matcher>();
const MOST_READY = 3;
/** Texts whose meaning is remembered: customers say the same again and again. */
const MOST_SAID = 5000;

function readyFrom(kept: string): Matcher | null {
  const known = ready.get(kept);
  if (known) return known;
  const learnt = learntFrom(kept);
  if (!learnt) return null;
  const { rank } = matcher(learnt, {
    encoder: learnt.encoder === null ? null : UNDERSTANDING.encoder,
    glosses: UNDERSTANDING.glosses(),
  });
  const said = new Map<string, Meaning>();
  const made: Matcher = {
    rank(text, language, quick = false) {
      const key = `${quick ? 'quick ' : ''}${language} ${text}`;
      const before = said.get(key);
      if (before) return before;
      const meaning = rank(text, language, quick);
      if (said.size >= MOST_SAID) said.clear();
      said.set(key, meaning);
      return meaning;
    },
  };
  if (ready.size >= MOST_READY) ready.delete([...ready.keys()][0] ?? '');
  ready.set(kept, made);
  return made;
}

/** Understands words in this thread, by the learnt versions of a database; `quick` leaves the encoder out. */
export function createUnderstanding(db: () => Db): (heard: Heard, quick?: boolean) => Meaning {
  const matchers = new Map<number, Matcher>();
  function matcherOf(version: number): Matcher | null {
    const known = matchers.get(version);
    if (known) return known;
    const kept = learntOf(db(), version);
    const made = kept === null ? null : readyFrom(kept);
    if (!made) return null;
    if (matchers.size >= MOST_READY) matchers.delete([...matchers.keys()][0] ?? version);
    matchers.set(version, made);
    return made;
  }
  return ({ book, text, language }, quick = false) => matcherOf(book)?.rank(text, language, quick) ?? NOTHING;
}

/** In this thread: for tests, small tools and what is made of a simulated past. The server asks a thread instead. */
export function hearingHere(db: () => Db): Hearing {
  const understand = createUnderstanding(db);
  return { now: (heard) => understand(heard), ask: (heard, quick) => Promise.resolve(understand(heard, quick)) };
}
