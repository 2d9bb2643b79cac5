import { boolean, mixed, number, object, string } from 'yup';
import { allSteps } from '../../core/bots/model';
import { referencesOf } from '../../core/bots/references';
import { LaneError } from '../../core/errors';
import type { Heavy } from '../../core/heavy';
import { holds } from '../../core/people/rights';
import { EMPTY_BOOK, type Phrasebook } from '../../core/phrases/book';
import type { Meaning } from '../../core/bots/program';
import { bookCsv, bookJson, type BookRead } from '../../core/phrases/bookfile';
import { MOST_WORDS } from '../../core/phrases/otherwords';
import { thingFinder, thingName } from '../../core/phrases/things';
import type { Judged } from '../../core/phrases/judging';
import { readBots } from '../../data/bots';
import {
  bookOf,
  dropUnheard,
  keepLearntOf,
  learntFromBook,
  learntOf,
  NOT_LEARNT,
  readPhrasebook,
  readUnheard,
  type Unheard,
  unheardCount,
  unheardPhrase,
  versionsToLearn,
  writePhrasebook,
} from '../../data/phrasebook';
import { readWorkspace } from '../../data/workspace';
import { masked } from '../contacts/privatevalues';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Undoable, recordChange, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { refusal } from '../ground/refusal';
import { exactly, languageTag, oneOf, requiredText, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { asideAfter } from './phrasequality';
import type { Hearing } from './understanding';

const saveSchema = exactly(
  object({ revision: whole(0, 1e9, 'The revision'), book: mixed<object>().required('The phrasebook is missing') }),
);
const fileSchema = exactly(
  object({
    kind: oneOf(['json', 'csv'] as const, 'The kind of file'),
    text: string().max(900_000, 'The file is larger than 900 KB').required('The file is empty'),
  }),
);
const rankSchema = exactly(object({ text: requiredText(300, 'The phrase'), language: languageTag }));
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

export type UnheardLine = {
  readonly id: number;
  readonly text: string;
  readonly language: string;
  readonly at: number;
  readonly times: number;
  readonly contactId: string;
  /** What it would be taken for now. */ readonly guess: {
    readonly intentId: string;
    readonly label: string;
    readonly confidence: number;
  } | null;
  /** Whether it would be asked back about. */ readonly asked: boolean;
};
export type PhrasebookView = {
  readonly book: Phrasebook;
  readonly revision: number;
  readonly unheard: readonly UnheardLine[];
  readonly unheardTotal: number;
  /** Names of bots by `intent ID` and `list ID`. */ readonly usedBy: Readonly<Record<string, readonly string[]>>;
  readonly languages: readonly string[];
  readonly mayChange: boolean;
};
export type Ranked = {
  readonly ranked: readonly { readonly intentId: string; readonly label: string; readonly confidence: number }[];
  readonly verdict: Meaning['verdict'];
  readonly things: readonly { readonly list: string; readonly thing: string }[];
};

/** What the functions of this file are given first. */
export type PhrasebookDeps = { readonly host: Host; readonly hearing: Hearing; readonly heavy: Heavy };

const bookNow = ({ host }: PhrasebookDeps) => readPhrasebook(host.db) ?? { version: 0, book: EMPTY_BOOK };

/** Keeps a book with what was learnt from it. Gives its version. */
function keepBook(
  tx: Tx,
  actor: Actor,
  before: Phrasebook,
  { book, learnt }: { readonly book: Phrasebook; readonly learnt: string },
  label: string,
): number {
  const version = writePhrasebook(tx.db, book, learnt, tx.realAt, actor.personId);
  recordChange(tx, actor, 'phrasebook', 'phrasebook', before, book, { label });
  return version;
}

/** A book from outside is read by the same rules as a file, in a thread of its own. */
async function wellFormed({ heavy }: PhrasebookDeps, book: object): Promise<Phrasebook> {
  const read = await heavy('phrasebook-file', { kind: 'json', text: JSON.stringify(book), book: EMPTY_BOOK }).catch(
    refusal,
  );
  if ('faults' in read)
    throw new LaneError(
      'not-valid',
      read.faults[0]?.what ?? 'The phrasebook cannot be read.',
      read.faults.map((f) => ({ where: `line ${f.line}`, what: f.what })),
    );
  return read.book;
}

export const undoablePhrasebook = (deps: PhrasebookDeps): Readonly<Record<string, Undoable>> => ({
  phrasebook: {
    name: 'phrasebook',
    path: () => '/bots/phrasebook',
    read: () => bookNow(deps).book,
    restore: (tx, actor, _id, value) => {
      mustHoldEverywhere(actor, 'bots.change');
      const book = value as Phrasebook;
      // What History has was a version once, and was learnt then; where that is gone, it is learnt anew beside this.
      const learnt = learntFromBook(tx.db, book);
      writePhrasebook(tx.db, book, learnt ?? NOT_LEARNT, tx.realAt, actor.personId);
      if (learnt === null) tx.onceKept(() => learnAnew(deps));
    },
  },
});

/**
 * Learns anew what is not learnt, or was by an earlier version of the product: the newest book, and those that live bots
 * understand by. Until then they understand by labels and synonyms alone. Never throws.
 */
export function learnAnew({ host, heavy }: PhrasebookDeps): void {
  void (async () => {
    for (const version of versionsToLearn(host.db)) {
      const book = bookOf(host.db, version);
      if (!book) continue;
      const learnt = await heavy('phrasebook', { book, last: null });
      if (!host.db.open) return;
      host.transact((tx) => keepLearntOf(tx.db, version, learnt));
    }
  })().catch(host.fault);
}

export async function viewPhrasebook(deps: PhrasebookDeps, actor: Actor): Promise<PhrasebookView> {
  mustHold(actor, 'settings.view');
  const { version, book } = bookNow(deps);
  const label = new Map(book.intents.map((i) => [i.id, i.label]));
  const usedBy = new Map<string, Set<string>>();
  for (const bot of readBots(deps.host.db))
    for (const step of allSteps(bot.draft))
      for (const { kind, id } of referencesOf(step))
        if (kind === 'intent' || kind === 'list')
          usedBy.set(`${kind} ${id}`, (usedBy.get(`${kind} ${id}`) ?? new Set()).add(bot.name));
  return {
    book,
    revision: version,
    usedBy: Object.fromEntries([...usedBy].map(([key, names]) => [key, [...names]])),
    languages: readWorkspace(deps.host.db)?.languages ?? ['en'],
    mayChange: holds(actor, 'bots.change') && actor.teams === 'all',
    unheardTotal: unheardCount(deps.host.db),
    // Customers' own words take the right to read conversations.
    unheard:
      !holds(actor, 'conversations.view') || actor.teams !== 'all'
        ? []
        : await Promise.all(readUnheard(deps.host.db, MOST_SHOWN).map((u) => unheardLine(deps, version, label, u))),
  };
}

/** Phrases shown at a time that were not understood. */
const MOST_SHOWN = 60;

async function unheardLine(
  { hearing }: PhrasebookDeps,
  book: number,
  label: ReadonlyMap<string, string>,
  { id: unheardId, text: said, language, floorAt, times, contactId }: Unheard,
): Promise<UnheardLine> {
  // A guess at sixty phrases is not worth the time that customers wait for: words and pieces say enough.
  const { ranked, verdict } =
    book === 0 ? NOTHING : await hearing.ask({ book, text: said, language }, true).catch(() => NOTHING);
  const [top] = ranked;
  return {
    id: unheardId,
    text: masked(said),
    language,
    at: floorAt,
    times,
    contactId,
    guess: top
      ? { intentId: top.intentId, label: label.get(top.intentId) ?? top.intentId, confidence: top.confidence }
      : null,
    asked: verdict === 'ask',
  };
}
const NOTHING: Meaning = { ranked: [], verdict: 'none' };

/** Learns in a thread of its own, then keeps. Throws `changed-meanwhile` when somebody else was quicker. */
export async function savePhrasebook(
  deps: PhrasebookDeps,
  actor: Actor,
  input: unknown,
): Promise<{ revision: number }> {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(saveSchema, input);
  const book = await wellFormed(deps, asked.book);
  const mine = () => sameRevision({ revision: bookNow(deps).version }, asked.revision, 'The phrasebook');
  mine();
  const learnt = await learntOfBook(deps, book);
  return deps.host.transact((tx) => {
    mine();
    return { revision: keepBook(tx, actor, bookNow(deps).book, { book, learnt }, 'Phrasebook') };
  });
}

/** Reads a file without keeping it; what is wrong is named by line. */
export async function readPhrasebookFile(deps: PhrasebookDeps, actor: Actor, input: unknown): Promise<BookRead> {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(fileSchema, input);
  return deps.heavy('phrasebook-file', { ...asked, book: bookNow(deps).book }).catch(refusal);
}

export function phrasebookFile(deps: PhrasebookDeps, actor: Actor, kind: string): { name: string; text: string } {
  mustHold(actor, 'settings.view');
  return kind === 'csv'
    ? { name: 'phrasebook.csv', text: bookCsv(bookNow(deps).book) }
    : { name: 'phrasebook.json', text: bookJson(bookNow(deps).book) };
}

/** What a phrase would be taken for, and the things named in it. */
export async function rankPhrase({ host, hearing }: PhrasebookDeps, actor: Actor, input: unknown): Promise<Ranked> {
  mustHold(actor, 'settings.view');
  const asked = parse(rankSchema, input);
  const found = readPhrasebook(host.db);
  if (!found) return { ranked: [], verdict: 'none', things: [] };
  const { version, book } = found;
  const { ranked, verdict } = await hearing.ask({ book: version, ...asked });
  const things = thingFinder(book)(asked.text);
  return {
    verdict,
    ranked: ranked.map((r) => ({
      ...r,
      label: book.intents.find((i) => i.id === r.intentId)?.label ?? r.intentId,
    })),
    things: book.recognised.flatMap((r) => {
      const thing = things.find((t) => t.listId === r.id)?.thingId;
      return thing === undefined ? [] : [{ list: r.label, thing: thingName(book, r.id, thing, asked.language) }];
    }),
  };
}

/** What was learnt last of a house: whoever has looked at what a phrase does keeps just that next. */
const learntLast = new WeakMap<Host, { readonly from: string; readonly learnt: string }>();

/** What is learnt from a book, going on from what is learnt now. */
async function learntOfBook({ host, heavy }: PhrasebookDeps, book: Phrasebook): Promise<string> {
  const version = readPhrasebook(host.db)?.version ?? 0;
  const from = JSON.stringify([version, book]);
  const last = learntLast.get(host);
  if (last?.from === from) return last.learnt;
  const learnt = await heavy('phrasebook', { book, last: learntOf(host.db, version) });
  learntLast.set(host, { from, learnt });
  return learnt;
}

type Teaching = {
  readonly to: (typeof TEACHES)[number];
  readonly intentId: string | null;
  readonly word: string | null;
  readonly also: string | null;
};

/** The book with a phrase taken in, and how that is told. */
function taught(
  book: Phrasebook,
  { to, intentId, word, also }: Teaching,
  phrase: { readonly text: string; readonly language: string },
): { readonly label: string; readonly book: Phrasebook } {
  const language = phrase.language.split('-')[0] ?? phrase.language;
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
  const learnt = await learntOfBook(deps, await wellFormed(deps, book));
  const effect = before.aside.length === 0 ? null : await asideAfter(deps, learnt);
  if (asked.look) return { revision: asked.revision, effect };
  return deps.host.transact((tx) => {
    dropUnheard(tx.db, open());
    mine();
    return { revision: keepBook(tx, actor, before, { book, learnt }, `Phrasebook: ${label}`), effect };
  });
}

/**
 * The intents with their phrases and the things to recognise: kept, learnt anew with each change, and taught from
 * what was not understood.
 */
export type Phrasebooks = ReturnType<typeof createPhrasebook>;
export const createPhrasebook = (deps: PhrasebookDeps) => ({
  undoable: undoablePhrasebook(deps),
  ...bind(deps, {
    view: viewPhrasebook,
    save: savePhrasebook,
    readFile: readPhrasebookFile,
    file: phrasebookFile,
    rank: rankPhrase,
    teach: teachPhrase,
    learnAnew,
  }),
});
