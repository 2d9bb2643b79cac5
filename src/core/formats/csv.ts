import Papa from 'papaparse';

/** A table as it was read: each row with its number in the file as a spreadsheet counts it (the header is row 1). */
export type Table = {
  readonly header: readonly string[];
  readonly rows: readonly { readonly row: number; readonly cells: readonly string[] }[];
  readonly separator: string;
};
/** Text that could not be read as a table, and where. */
export class UnreadableTable extends Error {
  readonly row: number;
  constructor(sentence: string, row: number) {
    super(sentence);
    this.row = row;
  }
}

/** Characters without width, and marks of direction: nobody sees them, and what they stand in looks the same. */
const UNSEEN = '\\u00AD\\u200B-\\u200F\\u202A-\\u202E\\u2060-\\u2064\\u2066-\\u2069\\uFEFF';
const AT_THE_ENDS = new RegExp(`^[\\s${UNSEEN}]+|[\\s${UNSEEN}]+$`, 'gu');
const ANYWHERE = new RegExp(`[${UNSEEN}]`, 'gu');
/** Without what nobody sees anywhere: for addresses and names that are looked up. */
export const withoutUnseen = (text: string): string => text.replace(ANYWHERE, '');

/** Undoes what `neutral` of a written file does, so that a file taken out can be brought in again unchanged. */
function plain(cell: string): string {
  const trimmed = cell.replace(AT_THE_ENDS, '');
  return /^'+[=+\-@\t\r\n]/.test(trimmed) ? trimmed.slice(1).replace(AT_THE_ENDS, '') : trimmed;
}

/** Every end of a line as one `\n`, but for those within quoted cells. */
function withOneEnd(text: string, separator: string): string {
  if (!text.includes('\r')) return text;
  const parts: string[] = [];
  let [quoted, begins, from] = [false, true, 0];
  for (let i = 0; i < text.length; i++) {
    const char = text[i];
    if (quoted) {
      if (char !== '"') continue;
      if (text[i + 1] === '"') i++;
      else quoted = false;
      continue;
    }
    if (char === '"' && begins) quoted = true;
    begins = char === separator || char === '\n' || char === '\r' || (begins && char === '"');
    if (char === '\r') {
      parts.push(text.slice(from, i), '\n');
      if (text[i + 1] === '\n') i++;
      from = i + 1;
    }
  }
  return parts.join('') + text.slice(from);
}

/**
 * What stands between cells: of comma, semicolon and tab, the one most often outside quotes in the first line that
 * has any text.
 */
function separatorOf(text: string): string {
  const counts: Record<string, number> = { ',': 0, ';': 0, '\t': 0 };
  let quoted = false;
  for (const char of text.trimStart()) {
    if (char === '"') quoted = !quoted;
    else if (!quoted && (char === '\n' || char === '\r')) break;
    else if (!quoted && char in counts) counts[char] = (counts[char] ?? 0) + 1;
  }
  return Object.entries(counts).reduce((best, next) => (next[1] > best[1] ? next : best))[0];
}

/** The most that a table may have; they are counted while it is read, so that no file costs more than these. */
export const MOST_COLUMNS = 300;
export const MOST_ROWS = 50_000;
export const MOST_CELLS = 2_000_000;
const MOST_CELL = 20_000;

/**
 * Reads CSV (RFC 4180) and its common deviations: `;` or tab between cells, lines that end in different ways, blank
 * lines, short rows, characters at a cell's ends that nobody sees. Throws UnreadableTable when there is no header or two
 * columns of one name, a quote never closes, a character is none, or it is larger than a table may be.
 */
export function readTable(text: string): Table {
  const marked = text.replace(/^\uFEFF/, '');
  const nothing = marked.indexOf('\0');
  if (nothing >= 0) {
    const line = marked.slice(0, nothing).split(/\r\n|\n|\r/).length;
    throw new UnreadableTable(`Line ${line} holds a character that no text has (NUL).`, line);
  }
  const separator = separatorOf(marked);
  const rows: { row: number; cells: readonly string[] }[] = [];
  let [row, cells] = [0, 0];
  let fault: UnreadableTable | null = null;
  Papa.parse<string[]>(withOneEnd(marked, separator), {
    skipEmptyLines: false,
    delimiter: separator,
    newline: '\n',
    step: ({ data, errors }, parser) => {
      row++;
      cells += data.length;
      fault = faultOf(data, errors, row, cells);
      if (fault) return parser.abort();
      const read = data.map(plain);
      if (read.some((c) => c !== '')) rows.push({ row, cells: read });
    },
  });
  if (fault !== null) throw fault as UnreadableTable;
  const [header, ...rest] = rows;
  if (!header) throw new UnreadableTable('The file has no rows.', 1);
  const named = new Map<string, number>();
  for (const [i, heading] of header.cells.entries()) {
    const name = withoutUnseen(heading).toLowerCase();
    const first = named.get(name);
    if (name !== '' && first !== undefined)
      throw new UnreadableTable(`Columns ${first + 1} and ${i + 1} are both called “${heading}”.`, header.row);
    named.set(name, i);
  }
  return { header: header.cells, rows: rest, separator };
}

function faultOf(
  data: readonly string[],
  errors: readonly Papa.ParseError[],
  row: number,
  cells: number,
): UnreadableTable | null {
  if (errors.some((e) => e.type === 'Quotes'))
    return new UnreadableTable(
      `A quotation mark in row ${row} is never closed or stands in the middle of a cell.`,
      row,
    );
  if (data.length > MOST_COLUMNS)
    return new UnreadableTable(`Row ${row} has ${data.length} columns; a file may have ${MOST_COLUMNS}.`, row);
  if (row > MOST_ROWS + 1) return new UnreadableTable(`The file has more than ${MOST_ROWS} rows.`, row);
  if (cells > MOST_CELLS) return new UnreadableTable(`The file has more than ${MOST_CELLS} cells.`, row);
  if (data.some((c) => c.length > MOST_CELL))
    return new UnreadableTable(`A cell in row ${row} has more than ${MOST_CELL} characters.`, row);
  return null;
}

/** What a spreadsheet would run; with apostrophes already in front it gets one more, so that none is lost on the way. */
const FORMULA = /^'*[=+\-@\t\r\n]/;

/**
 * Writes CSV with CRLF and a byte-order mark; cells that a spreadsheet would run as a formula get an apostrophe in
 * front.
 */
export const writeTable = (header: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  `\uFEFF${writeRows([header])}${rows.length > 0 ? `\r\n${writeRows(rows)}` : ''}`;

/** Rows of a table to be written in parts, without a line's end after the last. */
export const writeRows = (rows: readonly (readonly (string | number)[])[]): string =>
  Papa.unparse(
    rows.map((r) => [...r]),
    { newline: '\r\n', escapeFormulae: FORMULA },
  );
