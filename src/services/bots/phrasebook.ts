import { mixed, number, object, string } from 'yup';
import { allSteps } from '../../core/bots/model';
import { referencesOf } from '../../core/bots/references';
import { LaneError } from '../../core/errors';
import type { Heavy } from '../../core/heavy';
import { holds } from '../../core/people/rights';
import { EMPTY_BOOK, type Phrasebook } from '../../core/phrases/book';
import { bookCsv, bookJson, type BookRead } from '../../core/phrases/bookfile';
import { keepLearnt } from '../../core/phrases/packed';
import { learn } from '../../core/phrases/model';
import { readBots } from '../../data/bots';
import {
  dropUnheard,
  learntFromBook,
  readPhrasebook,
  readUnheard,
  unheardCount,
  unheardPhrase,
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
import type { Programs } from './programs';

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
const teachSchema = exactly(
  object({
    unheardId: number().integer('Which phrase must be a number').required('Which phrase is missing'),
    intentId: string().max(60).nullable().defined('The intent is missing'),
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
  /** What it would be taken for now. */ readonly guess: { readonly label: string; readonly confidence: number } | null;
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
  readonly none: boolean;
  readonly things: readonly { readonly list: string; readonly thing: string }[];
};

/** What the functions of this file are given first. */
export type PhrasebookDeps = { readonly host: Host; readonly programs: Programs; readonly heavy: Heavy };

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
      // What History has was a version once, and was learnt then.
      const learnt = learntFromBook(tx.db, book) ?? keepLearnt(learn(book));
      writePhrasebook(tx.db, book, learnt, tx.realAt, actor.personId);
    },
  },
});

export function viewPhrasebook(deps: PhrasebookDeps, actor: Actor): PhrasebookView {
  mustHold(actor, 'settings.view');
  const { version, book } = bookNow(deps);
  const recogniser = deps.programs.recogniser(version === 0 ? null : version);
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
        : readUnheard(deps.host.db, 60).map((u) => {
            const top = recogniser?.rank(u.text, u.language).ranked[0];
            return {
              id: u.id,
              text: masked(u.text),
              language: u.language,
              at: u.floorAt,
              times: u.times,
              contactId: u.contactId,
              guess: top ? { label: label.get(top.intentId) ?? top.intentId, confidence: top.confidence } : null,
            };
          }),
  };
}

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
  const learnt = await deps.heavy('phrasebook', book);
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
export function rankPhrase(deps: PhrasebookDeps, actor: Actor, input: unknown): Ranked {
  mustHold(actor, 'settings.view');
  const asked = parse(rankSchema, input);
  const { version, book } = bookNow(deps);
  const recogniser = deps.programs.recogniser(version === 0 ? null : version);
  if (!recogniser) return { ranked: [], none: true, things: [] };
  const { ranked, none } = recogniser.rank(asked.text, asked.language);
  return {
    none,
    ranked: ranked.map((r) => ({
      ...r,
      label: book.intents.find((i) => i.id === r.intentId)?.label ?? r.intentId,
    })),
    things: book.recognised.flatMap((r) => {
      const thing = recogniser.thing(r.id, asked.text);
      return thing ? [{ list: r.label, thing: recogniser.thingName(r.id, thing, asked.language) }] : [];
    }),
  };
}

/** The book with one more phrase for an intent. */
function taught(book: Phrasebook, intentId: string, phrase: { readonly text: string; readonly language: string }) {
  const intent = book.intents.find((i) => i.id === intentId);
  if (!intent) throw new LaneError('not-found', 'There is no such intent.');
  const language = phrase.language.split('-')[0] ?? phrase.language;
  const said = [...new Set([...(intent.examples[language] ?? []), masked(phrase.text)])];
  const more = { ...intent, examples: { ...intent.examples, [language]: said } };
  return { label: intent.label, book: { ...book, intents: book.intents.map((i) => (i.id === intentId ? more : i)) } };
}

/** Teaches an intent a phrase that was not understood, or drops the phrase (no intent). */
export async function teachPhrase(deps: PhrasebookDeps, actor: Actor, input: unknown): Promise<{ revision: number }> {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(teachSchema, input);
  mustHold(actor, 'conversations.view');
  const open = () => {
    const phrase = unheardPhrase(deps.host.db, asked.unheardId);
    if (!phrase) throw new LaneError('not-found', 'Somebody has dealt with this phrase already.');
    return phrase;
  };
  const { intentId } = asked;
  if (intentId === null)
    return deps.host.transact((tx) => {
      dropUnheard(tx.db, open());
      return { revision: bookNow(deps).version };
    });
  const mine = () => sameRevision({ revision: bookNow(deps).version }, asked.revision, 'The phrasebook');
  const phrase = open();
  mine();
  const { book, label } = taught(bookNow(deps).book, intentId, phrase);
  const learnt = await deps.heavy('phrasebook', book);
  return deps.host.transact((tx) => {
    dropUnheard(tx.db, open());
    mine();
    return { revision: keepBook(tx, actor, bookNow(deps).book, { book, learnt }, `Phrasebook: ${label}`) };
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
  }),
});
