import { mixed, object, string } from 'yup';
import { allSteps } from '../../core/bots/model';
import { referencesOf } from '../../core/bots/references';
import { LaneError } from '../../core/errors';
import type { Heavy } from '../../core/heavy';
import { holds } from '../../core/people/rights';
import { EMPTY_BOOK, type Phrasebook } from '../../core/phrases/book';
import type { Meaning } from '../../core/bots/program';
import { bookCsv, bookJson, type BookRead, otherWordsCsv } from '../../core/phrases/bookfile';
import { thingFinder, thingName } from '../../core/phrases/things';
import { readBots } from '../../data/bots';
import {
  learntFromBook,
  NOT_LEARNT,
  readPhrasebook,
  readUnheard,
  type Unheard,
  unheardCount,
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
import type { Learner } from './learner';
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
export type PhrasebookDeps = {
  readonly host: Host;
  readonly hearing: Hearing;
  readonly heavy: Heavy;
  readonly learner: Learner;
};

export const bookNow = ({ host }: PhrasebookDeps) => readPhrasebook(host.db) ?? { version: 0, book: EMPTY_BOOK };

/** Keeps a book with what was learnt from it. Gives its version. */
export function keepBook(
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
export async function wellFormed({ heavy }: PhrasebookDeps, book: object): Promise<Phrasebook> {
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
      if (learnt === null) tx.onceKept(() => deps.learner.anew());
    },
  },
});

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
  const learnt = await deps.learner.learnt(actor, book);
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
  const { book } = bookNow(deps);
  if (kind === 'csv') return { name: 'phrasebook.csv', text: bookCsv(book) };
  if (kind === 'other-words') return { name: 'other-words.csv', text: otherWordsCsv(book) };
  return { name: 'phrasebook.json', text: bookJson(book) };
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
  }),
});
