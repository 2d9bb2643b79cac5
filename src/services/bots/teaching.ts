import { boolean, number, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import type { Phrasebook } from '../../core/phrases/book';
import type { Judged } from '../../core/phrases/judging';
import { MOST_WORDS } from '../../core/phrases/otherwords';
import { contactsUnheard, dropUnheard, type Unheard, unheardPhrase } from '../../data/phrasebook';
import { noteTaken } from '../../data/takenfrom';
import { masked } from '../contacts/privatevalues';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { sameRevision } from '../ground/change';
import { exactly, oneOf, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { bookNow, keepBook, type PhrasebookDeps, wellFormed } from './phrasebook';
import { asideAfter } from './phrasequality';

/** Where a phrase that was not understood goes: to an intent, beside a word that it says another way, or aside. */
const TEACHES = ['intent', 'other-words', 'aside'] as const;
const teachSchema = exactly(
  object({
    unheardId: number().integer('Which phrase must be a number').required('Which phrase is missing'),
    to: oneOf([...TEACHES, 'nowhere'] as const, 'Where it goes'),
    intentId: string().max(60).nullable().defined('The intent is missing'),
    word: string().max(80).nullable().defined('The word is missing'),
    also: string().max(80).nullable().defined('The other words are missing'),
    look: boolean().required('Whether only to look is missing'),
    revision: whole(0, 1e9, 'The revision'),
  }),
);

type Teaching = {
  readonly to: (typeof TEACHES)[number];
  readonly intentId: string | null;
  readonly word: string | null;
  readonly also: string | null;
};

/** The language of the book that a phrase is taught in: without its region. */
const languageOf = (phrase: { readonly language: string }): string => phrase.language.split('-')[0] ?? phrase.language;

/** The book with a phrase taken in, and how that is told. */
function taught(
  book: Phrasebook,
  { to, intentId, word, also }: Teaching,
  phrase: { readonly text: string; readonly language: string },
): { readonly label: string; readonly book: Phrasebook } {
  const language = languageOf(phrase);
  const said = masked(phrase.text);
  const intent = book.intents.find((i) => i.id === intentId);
  if (intentId !== null && !intent) throw new LaneError('not-found', 'There is no such intent.');
  if (to === 'aside')
    return {
      label: 'kept aside',
      book: {
        ...book,
        aside: [
          ...book.aside.filter((a) => a.text !== said || a.language !== language),
          { text: said, language, intentId },
        ],
      },
    };
  if (to === 'other-words') {
    if (!word?.trim() || !also?.trim())
      throw new LaneError('not-valid', 'Say which words, and what they are other words for.');
    const [of, way] = [word.trim(), also.trim()];
    if (way.split(/\s+/).length > MOST_WORDS || of.split(/\s+/).length > MOST_WORDS)
      throw new LaneError('not-valid', `Other words are at most ${MOST_WORDS} words each.`);
    const same = book.otherWords.find((o) => o.word === of && o.language === language);
    const more = { word: of, language, also: [...new Set([...(same?.also ?? []), way])] };
    return {
      label: `other words for ${of}`,
      book: { ...book, otherWords: [...book.otherWords.filter((o) => o !== same), more] },
    };
  }
  if (!intent) throw new LaneError('not-valid', 'Say which intent it teaches.');
  const all = [...new Set([...(intent.examples[language] ?? []), said])];
  const more = { ...intent, examples: { ...intent.examples, [language]: all } };
  return { label: intent.label, book: { ...book, intents: book.intents.map((i) => (i === intent ? more : i)) } };
}

/** What teaching a phrase does to those kept aside, before it is kept: how many are right now, and would be. */
export type Effect = {
  readonly of: number;
  readonly before: number;
  readonly after: number;
  readonly moved: readonly Judged[];
};

/**
 * Teaches from a phrase that was not understood, or lets it go. With `look` nothing is kept: it says what it would do to
 * the phrases kept aside.
 */
export async function teachPhrase(
  deps: PhrasebookDeps,
  actor: Actor,
  input: unknown,
): Promise<{ revision: number; effect: Effect | null }> {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(teachSchema, input);
  mustHold(actor, 'conversations.view');
  const open = (): Unheard => {
    const phrase = unheardPhrase(deps.host.db, asked.unheardId);
    if (!phrase) throw new LaneError('not-found', 'Somebody has dealt with this phrase already.');
    return phrase;
  };
  if (asked.to === 'nowhere')
    return deps.host.transact((tx) => {
      dropUnheard(tx.db, open());
      return { revision: bookNow(deps).version, effect: null };
    });
  const mine = () => sameRevision({ revision: bookNow(deps).version }, asked.revision, 'The phrasebook');
  mine();
  const before = bookNow(deps).book;
  const { book, label } = taught(before, { ...asked, to: asked.to }, open());
  const learnt = await deps.learner.learnt(actor, await wellFormed(deps, book));
  const effect = before.aside.length === 0 ? null : await asideAfter(deps, learnt);
  if (asked.look) return { revision: asked.revision, effect };
  return deps.host.transact((tx) => {
    const phrase = open();
    mine();
    // Their words stand in the book from now on, and go from it with them; other words are nobody's own.
    if (asked.to !== 'other-words')
      noteTaken(
        tx.db,
        { kind: 'phrase', language: languageOf(phrase), text: masked(phrase.text) },
        contactsUnheard(tx.db, phrase),
      );
    dropUnheard(tx.db, phrase);
    return { revision: keepBook(tx, actor, before, { book, learnt }, `Phrasebook: ${label}`), effect };
  });
}

/** The phrasebook taught from what was not understood. */
export type Teachings = ReturnType<typeof createTeaching>;
export const createTeaching = (deps: PhrasebookDeps) => bind(deps, { teach: teachPhrase });
