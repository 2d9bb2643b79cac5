/** Characters of a file that are sent and read at once. */
export const CHUNK = 64 * 1024;

export type Chunk = {
  readonly text: string;
  /** The number of its first line in the file. */
  readonly line: number;
};

/** Where a line ends last, and how many lines up to there; within quotes a table's line goes on. -1 where none ends. */
function lastEnd(text: string, table: boolean): { readonly at: number; readonly lines: number } {
  let [at, lines, quoted] = [-1, 0, false];
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (table && code === 34) quoted = !quoted;
    else if (code === 10 && !quoted) {
      at = i;
      lines++;
    }
  }
  return { at, lines };
}

/**
 * A long text, as it comes in parts, in chunks of whole lines. Each chunk of a table begins with the table's first line.
 * Throws where one line is longer than 8 chunks.
 */
export async function* inChunks(parts: AsyncIterable<string>, table: boolean): AsyncGenerator<Chunk> {
  let [rest, line, head] = ['', 1, null as string | null];
  const chunk = (text: string): Chunk => ({ text: head === null ? text : `${head}\n${text}`, line });
  for await (const part of parts) {
    rest += part;
    if (table && head === null) {
      const end = rest.indexOf('\n');
      if (end < 0) continue;
      head = rest
        .slice(0, end)
        .replace(/^\uFEFF/, '')
        .replace(/\r$/, '');
      rest = rest.slice(end + 1);
      line++;
    }
    while (rest.length >= CHUNK) {
      let { at, lines } = lastEnd(rest.slice(0, CHUNK), table);
      if (at < 0) ({ at, lines } = lastEnd(rest, table));
      if (at < 0) {
        if (rest.length > 8 * CHUNK) throw new Error(`Line ${line} is too long.`);
        break;
      }
      yield chunk(rest.slice(0, at));
      rest = rest.slice(at + 1);
      line += lines;
    }
  }
  if (rest.trim() !== '') yield chunk(rest);
}
