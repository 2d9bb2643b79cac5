import { object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { languageName } from '../../core/localised';
import { saidIn, withTexts } from '../../core/words/wordings';
import type { WordedKind } from '../../core/words/said';
import { readBot } from '../../data/bots';
import { readPhrasebook } from '../../data/phrasebook';
import type { PressLine } from '../../data/presses';
import { readDoor, readDoors, writeDoor } from '../../data/doors';
import { readWorkspace, writeWorkspace } from '../../data/workspace';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { recordChange, sameRevision, type Undoable } from '../ground/change';
import type { Tx } from '../ground/host';
import type { Presses } from '../ground/presses';
import { exactly, id, languageTag, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import type { Phrasebooks } from '../bots/phrasebook';
import type { Reading } from '../readings';
import { doorValue } from '../doors/doors';
import { mustSpeak } from './atdoor';
import type { LanguageChange } from './languagefile';
import { articleGroups, withPhrases } from './languagerows';
import type { WordsDeps } from './mendwords';
import { draftWords, type Rewording } from './rewordbot';

/** What the functions of this file are given first. */
export type LanguageDeps = WordsDeps & {
  readonly presses: Presses;
  readonly reading: Reading;
  readonly phrasebook: Pick<Phrasebooks, 'save'>;
};

const takeSchema = exactly(
  object({
    language: languageTag,
    text: string().max(950_000, 'The file is larger than 950 KB').required('The file is empty'),
  }),
);
const beginSchema = exactly(object({ language: languageTag }));
const openSchema = exactly(
  object({ id: id('The door'), revision: whole(0, 1e9, 'The revision'), language: languageTag }),
);

export type TakenIn = {
  readonly sentences: number;
  readonly things: number;
  readonly skipped: number;
  readonly reason: string | null;
};

/**
 * Takes a file of words in: of bots and shared scenes into what is being written, of all else at once. One press, which
 * History takes back; phrases are learnt first and are a line of their own. Throws `not-valid` with every fault, and then nothing is taken;
 * `changed-meanwhile` where something was worded otherwise while the file was read, and then phrases alone are.
 */
export async function takeInLanguage(deps: LanguageDeps, actor: Actor, input: unknown): Promise<TakenIn> {
  mustHoldEverywhere(actor, 'bots.change');
  const { language, text } = parse(takeSchema, input);
  for (const right of ['queues.change', 'doors.change', 'people.change'] as const) mustHoldEverywhere(actor, right);
  const { changes, faults } = await deps.reading('language-read', actor, { language, text });
  if (faults.length > 0)
    throw new LaneError(
      'not-valid',
      `Row ${faults[0]?.row}: ${faults[0]?.what}`,
      faults.slice(0, 50).map((f) => ({ where: `row ${f.row}`, what: f.what })),
    );
  if (changes.length === 0) throw new LaneError('not-valid', 'The file changes nothing.');
  const phrases = changes.filter((c) => c.kind === 'phrases');
  const before = readPhrasebook(deps.host.db);
  const book = before && phrases.length > 0 ? withPhrases(before.book, language, textsOf(phrases)) : null;
  const things = new Map<string, LanguageChange[]>();
  for (const change of changes)
    if (change.kind !== 'phrases') {
      const at = `${change.kind} ${change.thingId}`;
      things.set(at, [...(things.get(at) ?? []), change]);
    }
  const named = languageName(language);
  // Learning comes first: if somebody else was quicker with the phrasebook, nothing is taken.
  if (before && book) await deps.phrasebook.save(actor, { revision: before.version, book });
  deps.host.transact((tx) => speak(tx, actor, language));
  const done =
    things.size === 0
      ? { done: 0, skipped: 0, reason: null }
      : await deps.presses.run(actor, {
          title: `Taking in words in ${named}`,
          about: { kind: 'languages', thingId: language },
          all: things.values(),
          total: things.size,
          linesOf: (tx, list) => lineOf(deps, tx, language, list),
        });
  return {
    sentences: changes.length,
    things: things.size + (book ? 1 : 0),
    skipped: done.skipped,
    reason: done.reason,
  };
}

const textsOf = (changes: readonly LanguageChange[]): ReadonlyMap<string, string> =>
  new Map(changes.map((c) => [c.kind === 'phrases' ? c.thingId : c.key, c.to]));
const meanwhile = (thing: string): LaneError =>
  new LaneError('changed-meanwhile', `${thing} was worded otherwise while the file was read. Look at it again.`);

/** The change of one thing, as History keeps it. */
function lineOf(deps: LanguageDeps, tx: Tx, language: string, list: readonly LanguageChange[]): PressLine[] {
  const [first] = list;
  if (!first || first.kind === 'phrases') return [];
  const { kind, thingId, thing } = first;
  const line = (of: string, itsId: string, label: string, before: unknown, after: unknown): PressLine[] => [
    { kind: of, thingId: itsId, label, before, after, undoes: null },
  ];
  if (kind === 'bot') {
    const bot = readBot(tx.db, thingId);
    if (!bot) throw meanwhile(thing);
    const said = new Map(saidIn('bot', bot.draft).map((s) => [s.key, s]));
    const changes = list.map(({ key, part, from, to }): Rewording => {
      const now = said.get(key);
      if ((now?.texts[language] ?? '') !== from) throw meanwhile(thing);
      return { sharedId: null, key, place: now?.place ?? '', part, language, from, to };
    });
    const { before, after } = draftWords(bot.name, changes);
    return line('bot-words', thingId, bot.name, before, after);
  }
  if (kind === 'article') return articleLine(tx, language, thingId, list, line);
  const before = deps.undoable[kind]?.read(tx.db, thingId, null) ?? null;
  if (before === null) throw meanwhile(thing);
  const after = wordedOtherwise(kind, before, language, list);
  if (after === null) throw meanwhile(thing);
  return line(kind, thingId, thing, before, after);
}

/** A thing with its new words; null where it does not say what it said. */
function wordedOtherwise(
  kind: Exclude<WordedKind, 'bot' | 'article'>,
  before: unknown,
  language: string,
  list: readonly LanguageChange[],
): unknown {
  // What stands in a thing as History keeps it has the shape of its kind.
  const value = before as never;
  const said = new Map(saidIn(kind, value).map((s) => [s.key, s]));
  if (list.some(({ key, from }) => (said.get(key)?.texts[language] ?? '') !== from)) return null;
  return withTexts(kind, value, language, textsOf(list));
}

/** The article that says the same in a language, or a new one. */
function articleLine(
  tx: Tx,
  language: string,
  firstId: string,
  list: readonly LanguageChange[],
  line: (of: string, id: string, label: string, before: unknown, after: unknown) => PressLine[],
): PressLine[] {
  const group = articleGroups(tx.db).find((g) => g.id === firstId);
  if (!group) throw meanwhile(list[0]?.thing ?? '');
  const there = group.byLanguage.get(language);
  const texts = textsOf(list);
  const [name, words] = [texts.get('title') ?? there?.name ?? '', texts.get('text') ?? there?.text ?? ''];
  if (name === '' || words === '')
    throw new LaneError('not-valid', `${list[0]?.thing ?? 'An article'} needs a title and a text.`);
  const body = { language, text: words, ...(there?.id === firstId ? {} : { of: firstId }) };
  const before = there ? { name: there.name, language, text: there.text, ...(there.of ? { of: there.of } : {}) } : null;
  return line('article', there?.id ?? tx.ids('article'), name, before, { name, ...body });
}

/** The workspace's languages, which History keeps. */
const languagesNow = (tx: Pick<Tx, 'db'>) => readWorkspace(tx.db)?.languages ?? [];
function setLanguages(tx: Tx, languages: readonly string[]): void {
  const workspace = readWorkspace(tx.db);
  if (workspace) writeWorkspace(tx.db, { ...workspace, languages });
}
function speak(tx: Tx, actor: Actor, language: string): void {
  const before = languagesNow(tx);
  if (before.includes(language)) return;
  if (before.length >= 20) throw new LaneError('not-now', 'A workspace has at most 20 languages.');
  setLanguages(tx, [...before, language]);
  recordChange(
    tx,
    actor,
    'languages',
    'languages',
    { languages: before },
    { languages: [...before, language] },
    { label: 'Languages' },
  );
}

/** Makes a language one of the workspace's: it can be written everywhere, and is open nowhere yet. */
export function beginLanguage({ host }: LanguageDeps, actor: Actor, input: unknown): { language: string } {
  mustHoldEverywhere(actor, 'bots.change');
  const { language } = parse(beginSchema, input);
  return host.transact((tx) => {
    speak(tx, actor, language);
    return { language };
  });
}

/** Opens a language at a door. Throws `not-now` with every gap that a customer would meet. */
export function openLanguage({ host }: LanguageDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'doors.change');
  const { id: doorId, revision, language } = parse(openSchema, input);
  return host.transact((tx) => {
    const door = readDoor(tx.db, doorId);
    if (!door) throw new LaneError('not-found', 'This door is not there any more.');
    sameRevision(door, revision, door.name);
    if (door.languages.includes(language)) throw new LaneError('not-now', 'It is open there already.');
    if (door.languages.length >= 12) throw new LaneError('not-now', 'A door has at most 12 languages.');
    mustSpeak(tx.db, door, language);
    const after = { ...doorValue(door), languages: [...door.languages, language] };
    writeDoor(tx.db, after);
    recordChange(tx, actor, 'door', doorId, doorValue(door), after);
    return { id: doorId };
  });
}

/** A language is undone as long as no door is open in it. */
export const undoableLanguages: Readonly<Record<string, Undoable>> = {
  languages: {
    name: 'languages',
    path: () => '/bots/languages',
    read: (db) => ({ languages: languagesNow({ db }) }),
    restore: (tx, actor, _id, value) => {
      mustHoldEverywhere(actor, 'bots.change');
      const { languages } = value as { languages: readonly string[] };
      const open = readDoors(tx.db).find((d) => d.languages.some((tag) => !languages.includes(tag)));
      if (open) throw new LaneError('not-now', `${open.name} is open in a language that would not be there any more.`);
      setLanguages(tx, languages);
    },
  },
};
