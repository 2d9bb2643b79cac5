import { readTable, UnreadableTable, writeTable } from '../formats/csv';
import type { Said } from './said';

/** A sentence as it stands in a file of words, by an id that is its own there. */
export type FileRow = Pick<Said, 'place' | 'part' | 'channel' | 'texts' | 'most'> & { readonly id: string };

const HEADER = ['id', 'line', 'part', 'channel', 'original', 'text'] as const;

/** Words in one language as CSV, beside the language they are written from. */
export const wordsCsv = (rows: readonly FileRow[], from: string, language: string): string =>
  writeTable(
    HEADER,
    rows.map((r) => [r.id, r.place, r.part, r.channel ?? '', r.texts[from] ?? '', r.texts[language] ?? '']),
  );

export type WordsChange = {
  readonly id: string;
  readonly place: string;
  readonly part: string;
  readonly from: string;
  readonly to: string;
  /** What it was written from is otherwise by now. */
  readonly outdated: boolean;
};
export type WordsRead = {
  readonly changes: readonly WordsChange[];
  readonly faults: readonly { readonly row: number; readonly what: string }[];
};

/**
 * Reads a file of words of a language against what is there: what would change, and what is wrong by row. Rows that are
 * missing change nothing. A file with a fault is not to be taken in at all.
 *
 * @param from the language that the file's originals are in
 */
export function readWordsCsv(rows: readonly FileRow[], from: string, language: string, text: string): WordsRead {
  const faults: { row: number; what: string }[] = [];
  const changes: WordsChange[] = [];
  try {
    const { header, rows: lines } = readTable(text);
    const at = (name: string): number => header.findIndex((h) => h.trim().toLowerCase() === name);
    if (at('id') < 0 || at('text') < 0)
      return { changes: [], faults: [{ row: 1, what: 'The columns id and text are missing.' }] };
    const known = new Map(rows.map((r) => [r.id, r]));
    const seen = new Set<string>();
    for (const { row, cells } of lines) {
      const id = cells[at('id')] ?? '';
      const to = cells[at('text')] ?? '';
      const original = at('original') < 0 ? undefined : cells[at('original')];
      const there = known.get(id);
      if (!there) faults.push({ row, what: `There is no sentence with the id ${id.slice(0, 60) || '(empty)'} here.` });
      else if (seen.has(id))
        faults.push({ row, what: `The sentence of ${there.place || 'the whole'} stands here twice.` });
      else if (to.length > there.most) faults.push({ row, what: `The text is longer than ${there.most} characters.` });
      else if (to !== (there.texts[language] ?? '').trim())
        changes.push({
          id,
          place: there.place,
          part: there.part,
          from: there.texts[language] ?? '',
          to,
          outdated: original !== undefined && original !== (there.texts[from] ?? '').trim(),
        });
      seen.add(id);
    }
  } catch (error) {
    if (!(error instanceof UnreadableTable)) throw error;
    return { changes: [], faults: [{ row: error.row, what: error.message }] };
  }
  return { changes, faults };
}
