import { object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { languageName } from '../../core/localised';
import { readWordsCsv, wordsCsv, type WordsChange, type WordsRead } from '../../core/words/file';
import { lacks } from '../../core/words/said';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, languageTag } from '../ground/schemas';
import { parse } from '../ground/validate';
import { type LanguageRow, languageRows } from './languagerows';

const fileSchema = object({ language: languageTag, what: string().oneOf(['all', 'lacking']) });
const readSchema = exactly(
  object({
    language: languageTag,
    text: string().max(950_000, 'The file is larger than 950 KB').required('The file is empty'),
  }),
);

/** What a file would change, each with the thing it belongs to. */
export type LanguageChange = WordsChange & Pick<LanguageRow, 'kind' | 'thingId' | 'thing' | 'key'>;
export type LanguageRead = Omit<WordsRead, 'changes'> & { readonly changes: readonly LanguageChange[] };

/** All that is worded, beside the language that is written first, as one CSV: whole, or what a language lacks. */
export function languageFile(host: Host, actor: Actor, asked: unknown): { name: string; text: string } {
  mustHold(actor, 'settings.view');
  const { language, what } = parse(fileSchema, asked);
  const rows = languageRows(host.db).filter((row) => what !== 'lacking' || lacks(row, language));
  return { name: `words-${language}.csv`, text: wordsCsv(rows, fromLanguage(host), language) };
}
const fromLanguage = (host: Host): string => readWorkspace(host.db)?.languages[0] ?? 'en';

/** What a file of words would change; nothing is kept. */
export function readLanguageFile(host: Host, actor: Actor, asked: unknown): LanguageRead {
  mustHold(actor, 'settings.view');
  const { language, text } = parse(readSchema, asked);
  if (language === fromLanguage(host))
    throw new LaneError(
      'not-valid',
      `${languageName(language)} is what the others are written from: word it in its place.`,
    );
  const rows = languageRows(host.db);
  const byId = new Map(rows.map((row) => [row.id, row]));
  const { changes, faults } = readWordsCsv(rows, fromLanguage(host), language, text);
  return {
    faults,
    changes: changes.flatMap((change) => {
      const row = byId.get(change.id);
      return row ? [{ ...change, kind: row.kind, thingId: row.thingId, thing: row.thing, key: row.key }] : [];
    }),
  };
}
