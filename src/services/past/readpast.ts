import { readTable } from '../../core/formats/csv';
import { type PastLine, pastLine, RefusedLine } from '../../core/past/pastlines';
import { pastRow, pastTable } from '../../core/past/pasttable';
import type { PastChunk } from '../../data/past';

/** A line of a file with its number: what it brings in, or why it is not taken. */
export type ReadLine = { readonly line: number } & (
  { readonly is: PastLine; readonly refused: null } | { readonly is: null; readonly refused: string }
);

/** The lines of a chunk, one by one; empty ones are none. `now`: the floor's instant. */
export function* readChunk(chunk: PastChunk, isTable: boolean, now: number): Generator<ReadLine> {
  for (const { line, read } of isTable ? tableLines(chunk) : jsonLines(chunk)) {
    let taken: ReadLine;
    try {
      taken = { line, is: pastLine(read(), now), refused: null };
    } catch (error) {
      if (!(error instanceof RefusedLine)) throw error;
      taken = { line, is: null, refused: error.message };
    }
    yield taken;
  }
}

type Unread = { readonly line: number; readonly read: () => unknown };
function* jsonLines({ line, text }: PastChunk): Generator<Unread> {
  for (const [i, one] of text.split('\n').entries())
    if (one.trim() !== '')
      yield {
        line: line + i,
        read: () => {
          try {
            return JSON.parse(one) as unknown;
          } catch {
            throw new RefusedLine('It is not JSON.');
          }
        },
      };
}

function* tableLines({ line, text }: PastChunk): Generator<Unread> {
  let table: ReturnType<typeof readTable>;
  try {
    table = readTable(text);
  } catch (error) {
    const why = error instanceof Error ? error.message : 'It cannot be read as a table.';
    yield {
      line,
      read: () => {
        throw new RefusedLine(why);
      },
    };
    return;
  }
  const known = pastTable(table) !== null;
  for (const { row, cells } of table.rows)
    yield {
      // The first row of each chunk is the table's head.
      line: line + row - 2,
      read: () => {
        if (known) return pastRow(table.header, cells);
        throw new RefusedLine('Its columns are neither those of contacts nor those of states.');
      },
    };
}
