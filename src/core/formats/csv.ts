import iconv from 'iconv-lite';
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

/** Bytes as text: UTF-8 with or without a byte-order mark; what is not valid UTF-8 is taken as Windows-1252. */
export function textOf(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    // Not TextDecoder: Node 20 reads 0x80 to 0x9F as control characters.
    return iconv.decode(bytes, 'windows-1252');
  }
}

/** Undoes what `neutral` of a written file does, so that a file taken out can be brought in again unchanged. */
const plain = (cell: string): string => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell).trim();

/**
 * What stands between cells: of comma, semicolon and tab, the one most often outside quotes in the first line that
 * has any text.
 */
function separatorOf(text: string): string {
  const counts: Record<string, number> = { ',': 0, ';': 0, '\t': 0 };
  let quoted = false;
  for (const char of text.trimStart()) {
    if (char === '"') quoted = !quoted;
    else if (!quoted && char === '\n') break;
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
 * Reads CSV (RFC 4180) and its common deviations: `;` or tab between cells, CRLF or LF, blank lines, short rows.
 * Throws UnreadableTable when there is no header, a quote never closes, or it is larger than a table may be.
 */
export function readTable(text: string): Table {
  const plainText = text.replace(/^\uFEFF/, '');
  const separator = separatorOf(plainText);
  const rows: { row: number; cells: readonly string[] }[] = [];
  let [row, cells] = [0, 0];
  let fault: UnreadableTable | null = null;
  Papa.parse<string[]>(plainText, {
    skipEmptyLines: false,
    delimiter: separator,
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
const FORMULA = /^'*[=+\-@\t\r]/;

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
