import fc from 'fast-check';
import iconv from 'iconv-lite';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { sized } from '../../../tests/helpers/size';
import { textOf } from './bytes';
import { readTable, UnreadableTable, writeTable } from './csv';
import { pathParts, readJsonFile, UnreadableJson } from './jsonfile';

const RUNS = { numRuns: sized({ quick: 60, usual: 300, long: 3000 }) };
/** Cells as people write them: separators, quotes, line breaks and formulas within them, but no blanks around. */
const cell = fc
  .array(fc.constantFrom('a', 'Ł', '7', ',', ';', '\t', '"', '\n', '=', '+', '-', '@', "'", ' ', '👋'), {
    maxLength: 9,
  })
  .map((signs) => signs.join('').trim());
const faultOf = (text: string) => {
  try {
    readTable(text);
    return null;
  } catch (error) {
    if (!(error instanceof UnreadableTable)) throw error;
    return { row: error.row, says: error.message };
  }
};

describe('tables', () => {
  it('what is written is read again as it was, whatever stands in the cells', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 8 }), (rows) => {
        const read = readTable(writeTable(['one', 'two', 'three'], rows));
        expect(read.header).toEqual(['one', 'two', 'three']);
        expect(read.separator).toBe(',');
        // A row in which nothing stands is a blank line of the file.
        expect(read.rows.map((r) => r.cells)).toEqual(rows.filter((r) => r.some((c) => c !== '')));
      }),
      RUNS,
    );
  });
  it('no cell is left that a spreadsheet would run', () => {
    fc.assert(
      fc.property(fc.array(cell, { minLength: 1, maxLength: 6 }), (cells) => {
        const written = writeTable(
          cells.map((_, i) => `c${i}`),
          [cells],
        );
        // Read by nothing of ours, so that what we take off again still stands there.
        const [, row = []] = Papa.parse<string[]>(written, { delimiter: ',' }).data;
        for (const raw of row) expect(raw).not.toMatch(/^[=+\-@\t\r]/);
      }),
      RUNS,
    );
  });
  it.each([
    [',', 'name,level\r\nAnn,3\r\n'],
    [';', 'name;level\nAnn;3\n'],
    ['\t', 'name\tlevel\nAnn\t3'],
    [';', '\n\n"a, b and c";level\nAnn;3'],
    [',', '\uFEFFname,level\nAnn,3'],
  ])('what stands between cells is seen: %j', (separator, text) => {
    const read = readTable(text);
    expect(read.separator).toBe(separator);
    expect(read.rows.at(-1)?.cells).toEqual(['Ann', '3']);
  });
  it('rows keep the number a spreadsheet gives them, blank lines counted', () => {
    const { rows } = readTable('a,b\n\n1,2\n,\n\n3,4');
    expect(rows).toEqual([
      { row: 3, cells: ['1', '2'] },
      { row: 6, cells: ['3', '4'] },
    ]);
  });
  it('a quote that never closes is named by its row; a file of nothing has no rows', () => {
    expect(faultOf('a,b\n1,2\n"3,4\n5,6')).toMatchObject({ row: 3 });
    for (const nothing of ['', '\n\n', '\uFEFF', ',,\n,,'])
      expect(faultOf(nothing)).toEqual({ row: 1, says: 'The file has no rows.' });
  });
  it('old files of a Western office are read, and UTF-8 is never taken for one', () => {
    const words = 'Zoë–Müller, “œuvre” €5';
    expect(textOf(iconv.encode(words, 'windows-1252'))).toBe(words);
    expect(textOf(Buffer.from(words, 'utf8'))).toBe(words);
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        const bytes = new TextEncoder().encode(text);
        expect(textOf(bytes)).toBe(new TextDecoder().decode(bytes));
      }),
      RUNS,
    );
  });
});

describe('JSON files', () => {
  const lineOfFault = (text: string): number | null => {
    try {
      readJsonFile(text);
      return null;
    } catch (error) {
      if (!(error instanceof UnreadableJson)) throw error;
      return error.line;
    }
  };
  it('every part is found on the line on which it stands', () => {
    const value = fc.letrec((tie) => ({
      any: fc.oneof(
        { maxDepth: 4 },
        fc.integer(),
        fc.string({ maxLength: 5 }),
        fc.array(tie('any'), { maxLength: 4 }),
        fc.dictionary(fc.stringMatching(/^[a-z]{1,4}$/), tie('any'), { maxKeys: 4 }),
      ),
    })).any;
    fc.assert(
      fc.property(value, (made) => {
        const text = JSON.stringify(made, null, 1);
        const read = readJsonFile(text);
        expect(read.value).toEqual(made);
        const lines = text.split('\n');
        const visit = (inner: unknown, path: (string | number)[]): void => {
          const line = lines[read.lineOf(path) - 1] ?? '';
          const name = path.at(-1);
          // The line begins with the part's own name, or, in a list, holds its first sign.
          if (typeof name === 'string') expect(line.trim()).toMatch(new RegExp(`^"${name}":`));
          else if (typeof inner !== 'object' || inner === null) expect(line).toContain(JSON.stringify(inner));
          if (Array.isArray(inner)) inner.forEach((x, i) => visit(x, [...path, i]));
          else if (typeof inner === 'object' && inner !== null)
            for (const [key, x] of Object.entries(inner)) visit(x, [...path, key]);
        };
        visit(made, []);
      }),
      RUNS,
    );
  });
  it('what is missing is put where its nearest part stands', () => {
    const { lineOf } = readJsonFile('{\n "scenes": [\n  {\n   "id": "a"\n  }\n ]\n}');
    expect(lineOf(['scenes', 0, 'name'])).toBe(3);
    expect(lineOf(['scenes', 7])).toBe(2);
    expect(lineOf(['nothing', 'here'])).toBe(1);
  });
  it.each([
    ['{"a": 1,}', 1],
    ['{\n "a": 1\n "b": 2\n}', 3],
    ['{ // a comment\n "a": 1 }', 1],
    ['[1, 2\n', 2],
    ['', 1],
    ['  \n ', 2],
  ])('what is no JSON is refused with its line: %j', (text, line) => {
    expect(lineOfFault(text)).toBe(line);
  });
  it('a path as schemas write it comes apart into names and numbers', () => {
    expect(pathParts('scenes[0].steps[12].wording')).toEqual(['scenes', 0, 'steps', 12, 'wording']);
    expect(pathParts('["two words"].x')).toEqual(['two words', 'x']);
    expect(pathParts('')).toEqual([]);
  });
});
