import { patternFrom } from '../bots/pattern';
import { readTable, type Table, UnreadableTable, writeTable } from '../formats/csv';
import { readJsonFile, UnreadableJson } from '../formats/jsonfile';
import type { Aside, Intent, OtherWords, Phrasebook, Recognised, Thing, Wish } from './book';
import { MOST_WORDS } from './otherwords';

export const BOOK_FORMAT = 'usher-lane-phrasebook';
export type BookRead =
  { readonly book: Phrasebook } | { readonly faults: readonly { readonly line: number; readonly what: string }[] };
type Fault = { readonly line: number; readonly what: string };
const MOST_INTENTS = 200;
/** The most phrases of an intent in one language. */
const MOST_PHRASES = 400;
/** What is learnt from takes time that grows with its cube. */
const MOST_IN_ALL = 6000;
const MOST_OTHER_WORDS = 500;
/** The most other words for one. */
const MOST_WAYS = 40;
const MOST_ASIDE = 1000;
/** The most faults of a file that are told. */
const MOST_FAULTS = 20;
class Enough extends Error {}
type Plain = Readonly<Record<string, unknown>>;
const isPlain = (x: unknown): x is Plain => typeof x === 'object' && x !== null && !Array.isArray(x);
const isLanguage = (x: string): boolean => /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(x);
const ID = /^[a-z0-9][a-z0-9_/-]{0,59}$/i;

/** A phrasebook as JSON. */
export const bookJson = (book: Phrasebook): string =>
  JSON.stringify(
    {
      format: BOOK_FORMAT,
      version: 1,
      languages: book.languages,
      intents: book.intents,
      recognised: book.recognised,
      otherWords: book.otherWords,
      wishes: book.wishes,
      aside: book.aside,
    },
    null,
    1,
  ) + '\n';

/**
 * Reads a phrasebook from JSON: our own format (docs/formats/phrasebook.schema.json), or lists of intents with things
 * to recognise under `entities`, as language tools commonly write them. Nothing of a file with a fault is to be
 * taken.
 */
export function readBookJson(text: string): BookRead {
  const faults: Fault[] = [];
  try {
    const { value, lineOf } = readJsonFile(text);
    if (!isPlain(value)) return { faults: [{ line: 1, what: 'A phrasebook is one object.' }] };
    const fault = (path: (string | number)[], what: string): void => {
      faults.push({ line: lineOf(path), what });
      // Finding a fault's line walks the file, so that thousands of them would take for ever; nobody reads so many.
      if (faults.length === MOST_FAULTS) throw new Enough();
    };
    const phrases = (of: unknown, path: (string | number)[], most: number): Record<string, string[]> => {
      if (!isPlain(of)) {
        fault(path, 'Texts are lists by language.');
        return {};
      }
      return Object.fromEntries(
        Object.entries(of).map(([language, list]) => {
          if (!isLanguage(language))
            fault([...path, language], `${language} is not a language tag such as en or es-MX.`);
          const texts = Array.isArray(list) ? list : [];
          if (!Array.isArray(list) || !texts.every((x) => typeof x === 'string' && x.trim() !== '' && x.length <= 300))
            fault([...path, language], 'Each phrase is a text of at most 300 characters that is not empty.');
          if (texts.length > most) fault([...path, language], `At most ${most} phrases a language.`);
          return [language, texts.filter((x): x is string => typeof x === 'string').map((x) => x.trim())];
        }),
      );
    };
    const ids = new Set<string>();
    const idOf = (x: Plain, path: (string | number)[]): string => {
      const id = typeof x.id === 'string' ? x.id : '';
      if (!ID.test(id)) fault([...path, 'id'], 'An id is letters, digits, _, - and /.');
      else if (ids.has(`${String(path[0])} ${id}`)) fault([...path, 'id'], `The id ${id} stands here twice.`);
      ids.add(`${String(path[0])} ${id}`);
      return id;
    };
    const intents = (Array.isArray(value.intents) ? value.intents : []).flatMap((x: unknown, i): Intent[] => {
      if (!isPlain(x)) {
        fault(['intents', i], 'An intent is an object.');
        return [];
      }
      return [
        {
          id: idOf(x, ['intents', i]),
          label: typeof x.label === 'string' && x.label.trim() ? x.label.trim().slice(0, 60) : String(x.id),
          description: typeof x.description === 'string' ? x.description.slice(0, 300) : '',
          examples: phrases(x.examples, ['intents', i, 'examples'], MOST_PHRASES),
        },
      ];
    });
    if (!Array.isArray(value.intents)) fault(['intents'], 'The intents are missing.');
    if (intents.length > MOST_INTENTS) fault(['intents'], `At most ${MOST_INTENTS} intents.`);
    const recognised = Array.isArray(value.recognised)
      ? value.recognised.flatMap((x: unknown, i) => ownList(x, ['recognised', i]))
      : isPlain(value.entities)
        ? Object.entries(value.entities).map(([id, x]) => commonList(id, x))
        : [];
    function ownList(x: unknown, path: (string | number)[]): Recognised[] {
      if (!isPlain(x)) {
        fault(path, 'A thing to recognise is an object.');
        return [];
      }
      const head = {
        id: idOf(x, path),
        label: typeof x.label === 'string' && x.label.trim() ? x.label.trim().slice(0, 60) : String(x.id),
      };
      if (x.kind === 'pattern')
        return [
          {
            ...head,
            kind: 'pattern',
            pattern: pattern(x.pattern, [...path, 'pattern']),
            example: typeof x.example === 'string' ? x.example : '',
          },
        ];
      if (x.kind !== 'list' || !Array.isArray(x.things)) {
        fault(path, 'It is a list of things or a pattern.');
        return [];
      }
      return [{ ...head, kind: 'list', things: thingsFrom(x.things, [...path, 'things'], (t) => [t.words, 'words']) }];
    }
    function thingsFrom(
      list: readonly unknown[],
      path: (string | number)[],
      wordsOf: (thing: Plain) => [unknown, ...string[]],
    ): Thing[] {
      const known = new Set<string>();
      return list.flatMap((t: unknown, i): Thing[] => {
        const id = isPlain(t) && typeof t.id === 'string' ? t.id.trim() : '';
        if (!isPlain(t) || id === '' || id.length > 60) {
          fault([...path, i], 'A thing has an id and words.');
          return [];
        }
        if (known.has(id)) fault([...path, i], `The thing ${id} stands here twice.`);
        known.add(id);
        const [words, ...under] = wordsOf(t);
        return [{ id, words: phrases(words, [...path, i, ...under], 60) }];
      });
    }
    /** Lists as they are commonly written: words by language beside the id, or a pattern with examples. */
    function commonList(id: string, x: unknown): Recognised {
      const label = (id.charAt(0).toUpperCase() + id.slice(1)).replaceAll('_', ' ');
      if (isPlain(x)) {
        const first: unknown = Array.isArray(x.examples) ? x.examples[0] : undefined;
        return {
          id,
          label,
          kind: 'pattern',
          pattern: pattern(x.loose_pattern ?? x.pattern, ['entities', id, 'pattern']),
          example: typeof first === 'string' ? first : '',
        };
      }
      const things = thingsFrom(Array.isArray(x) ? x : [], ['entities', id], (t) => [
        Object.fromEntries(Object.entries(t).filter(([, v]) => Array.isArray(v))),
      ]);
      return { id, label, kind: 'list', things };
    }
    function pattern(x: unknown, path: (string | number)[]): string {
      if (typeof x !== 'string' || x.length > 200 || !patternFrom(x)) {
        fault(path, 'The pattern cannot be read (RE2 syntax).');
        return '';
      }
      return x;
    }
    function listOf(name: string): readonly unknown[] {
      if (value === null || !isPlain(value) || value[name] === undefined) return [];
      if (Array.isArray(value[name])) return value[name] as unknown[];
      fault([name], 'This is a list.');
      return [];
    }
    const languages = [
      ...new Set([
        ...(Array.isArray(value.languages)
          ? value.languages.filter((l): l is string => typeof l === 'string' && isLanguage(l))
          : []),
        ...intents.flatMap((i) => Object.keys(i.examples)),
      ]),
    ];
    const otherWords = listOf('otherWords').flatMap((x, i): OtherWords[] => {
      const path = ['otherWords', i];
      const ways = isPlain(x) && Array.isArray(x.also) ? (x.also as unknown[]) : [];
      if (!isPlain(x) || !isWay(x.word))
        fault(path, `A word that has others is a text of at most ${MOST_WORDS} words.`);
      else if (typeof x.language !== 'string' || !isLanguage(x.language))
        fault(path, 'Other words are of a language, by a tag such as en or es-MX.');
      else if (ways.length === 0 || ways.length > MOST_WAYS || !ways.every(isWay))
        fault(path, `Other words are 1 to ${MOST_WAYS} texts of at most ${MOST_WORDS} words each.`);
      else return [{ word: x.word.trim(), language: x.language, also: ways.filter(isWay).map((w) => w.trim()) }];
      return [];
    });
    if (otherWords.length > MOST_OTHER_WORDS) fault(['otherWords'], `At most ${MOST_OTHER_WORDS} words have others.`);
    const wishes: Record<string, Wish> = {};
    for (const [language, x] of Object.entries(isPlain(value.wishes) ? value.wishes : {})) {
      const isShare = (n: unknown): n is number => typeof n === 'number' && n >= 0.5 && n <= 1;
      if (isLanguage(language) && isPlain(x) && isShare(x.right) && isShare(x.keep))
        wishes[language] = { right: x.right, keep: x.keep };
      else fault(['wishes', language], 'A wish is two shares from 0.5 to 1, by language.');
    }
    const aside = listOf('aside').flatMap((x, i): Aside[] => {
      const path = ['aside', i];
      if (!isPlain(x) || typeof x.text !== 'string' || x.text.trim() === '' || x.text.length > 300)
        fault(path, 'A phrase kept aside is a text of at most 300 characters that is not empty.');
      else if (typeof x.language !== 'string' || !isLanguage(x.language))
        fault(path, 'A phrase kept aside is of a language, by a tag such as en or es-MX.');
      else if (x.intentId !== null && !intents.some((intent) => intent.id === x.intentId))
        fault(path, 'A phrase kept aside is of an intent of this file, or of none (null).');
      else return [{ text: x.text.trim(), language: x.language, intentId: x.intentId as string | null }];
      return [];
    });
    if (aside.length > MOST_ASIDE) fault(['aside'], `At most ${MOST_ASIDE} phrases are kept aside.`);
    const all = intents.reduce((n, i) => n + Object.values(i.examples).reduce((m, texts) => m + texts.length, 0), 0);
    if (all > MOST_IN_ALL) fault(['intents'], `At most ${MOST_IN_ALL} phrases in all.`);
    return faults.length > 0 ? { faults } : { book: { languages, intents, recognised, otherWords, wishes, aside } };
  } catch (error) {
    if (error instanceof Enough) return { faults };
    if (error instanceof UnreadableJson) return { faults: [{ line: error.line, what: error.message }] };
    throw error;
  }
}

/** The example phrases as CSV: intent, label, language, phrase. Things to recognise are in the JSON file only. */
export const bookCsv = (book: Phrasebook): string =>
  writeTable(
    ['intent', 'label', 'language', 'phrase'],
    book.intents.flatMap((i) =>
      Object.entries(i.examples).flatMap(([language, texts]) => texts.map((text) => [i.id, i.label, language, text])),
    ),
  );

/** The other words as CSV: one row for each way of saying a word. */
export const otherWordsCsv = (book: Phrasebook): string =>
  writeTable(
    ['word', 'language', 'also'],
    book.otherWords.flatMap(({ word, language, also }) => also.map((way) => [word, language, way])),
  );

/** Reads CSV into a book: other words where it has a column for them, else example phrases. */
export function readBookCsv(text: string, before: Phrasebook): BookRead {
  try {
    const table = readTable(text);
    const column = (name: string): number => table.header.findIndex((h) => h.toLowerCase() === name);
    return column('also') >= 0 ? otherWordsFrom(table, column, before) : phrasesFrom(table, column, before);
  } catch (error) {
    if (error instanceof UnreadableTable) return { faults: [{ line: error.row, what: error.message }] };
    throw error;
  }
}

type Column = (name: string) => number;
function missingColumns(at: Column, names: readonly string[]): Fault[] {
  const missing = names.filter((name) => at(name) < 0);
  const [column, is] = missing.length === 1 ? ['column', 'is'] : ['columns', 'are'];
  return missing.length === 0 ? [] : [{ line: 1, what: `The ${column} ${missing.join(', ')} ${is} missing.` }];
}
const isWay = (text: unknown): text is string =>
  typeof text === 'string' && text.trim() !== '' && text.length <= 80 && text.trim().split(/\s+/).length <= MOST_WORDS;

/** A book whose other words are those of a table; all else stays. */
function otherWordsFrom({ rows }: Table, at: Column, before: Phrasebook): BookRead {
  const missing = missingColumns(at, ['word', 'language', 'also']);
  if (missing.length > 0) return { faults: missing };
  const faults: Fault[] = [];
  const ways = new Map<string, { word: string; language: string; also: string[] }>();
  for (const { row, cells } of rows) {
    const cell = (name: string): string => (cells[at(name)] ?? '').trim();
    const [word, language, also] = [cell('word'), cell('language'), cell('also')];
    const fault = (what: string) => faults.push({ line: row, what });
    if (!isWay(word)) fault(`A word that has others is a text of at most ${MOST_WORDS} words.`);
    else if (!isLanguage(language)) fault(`${language || 'An empty cell'} is not a language tag such as en or es-MX.`);
    else if (!isWay(also)) fault(`Other words are a text of at most ${MOST_WORDS} words.`);
    else {
      const of = ways.get(`${language} ${word}`) ?? { word, language, also: [] };
      if (of.also.includes(also)) fault(`${also} stands here twice for ${word}.`);
      of.also.push(also);
      if (of.also.length === MOST_WAYS + 1) fault(`At most ${MOST_WAYS} other words for one.`);
      ways.set(`${language} ${word}`, of);
      if (ways.size === MOST_OTHER_WORDS + 1) fault(`At most ${MOST_OTHER_WORDS} words have others.`);
    }
    if (faults.length >= MOST_FAULTS) return { faults };
  }
  if (rows.length === 0) faults.push({ line: 1, what: 'The file has no other words.' });
  return faults.length > 0 ? { faults } : { book: { ...before, otherWords: [...ways.values()] } };
}

/**
 * Reads example phrases from CSV into a book: its intents are replaced by those of the file, what is recognised
 * stays.
 */
function phrasesFrom({ rows }: Table, at: Column, before: Phrasebook): BookRead {
  const faults: Fault[] = [];
  const missing = missingColumns(at, ['intent', 'language', 'phrase']);
  if (missing.length > 0) return { faults: missing };
  const intents = new Map<string, { label: string; examples: Map<string, string[]> }>();
  for (const { row, cells } of rows) {
    const [id = '', language = '', phrase = ''] = [cells[at('intent')], cells[at('language')], cells[at('phrase')]];
    if (!ID.test(id)) faults.push({ line: row, what: 'An intent’s id is letters, digits, _, - and /.' });
    else if (!isLanguage(language))
      faults.push({ line: row, what: `${language || 'An empty cell'} is not a language tag such as en or es-MX.` });
    else if (phrase === '' || phrase.length > 300)
      faults.push({ line: row, what: 'A phrase has 1 to 300 characters.' });
    let intent = intents.get(id);
    if (!intent) {
      const known = before.intents.find((i) => i.id === id);
      intent = {
        label: (at('label') >= 0 ? cells[at('label')] : '') || known?.label || id,
        examples: new Map<string, string[]>(),
      };
      intents.set(id, intent);
      if (intents.size === MOST_INTENTS + 1) faults.push({ line: row, what: `At most ${MOST_INTENTS} intents.` });
    }
    const said = intent.examples.get(language);
    if (said) said.push(phrase);
    else intent.examples.set(language, [phrase]);
    if (said?.length === MOST_PHRASES + 1)
      faults.push({ line: row, what: `At most ${MOST_PHRASES} phrases a language.` });
    if (faults.length >= MOST_FAULTS) return { faults };
  }
  if (intents.size === 0 && faults.length === 0) faults.push({ line: 1, what: 'The file has no phrase.' });
  if (faults.length > 0) return { faults };
  const list = [...intents].map(([id, { label, examples }]): Intent => ({
    id,
    label,
    description: before.intents.find((i) => i.id === id)?.description ?? '',
    examples: Object.fromEntries(examples),
  }));
  return {
    book: {
      languages: [...new Set([...before.languages, ...list.flatMap((i) => Object.keys(i.examples))])],
      intents: list,
      recognised: before.recognised,
      otherWords: before.otherWords,
      wishes: before.wishes,
      aside: before.aside.filter((a) => a.intentId === null || intents.has(a.intentId)),
    },
  };
}
