// Files as they come from elsewhere, from their bytes to who would be taken from them, beside a second reading.
import fc from 'fast-check';
import iconv from 'iconv-lite';
import { describe, expect, it } from 'vitest';
import { sized } from '../../../tests/helpers/size';
import { textOf } from '../formats/bytes';
import { readTable, UnreadableTable, writeTable } from '../formats/csv';
import { guessTargets, type ImportWorld, planImport } from './importplan';

const WORLD: ImportWorld = {
  mayGiveRoles: false,
  people: [],
  skills: [],
  teams: [{ id: 'team_1', name: 'One' }],
  sites: [],
  roles: [{ id: 'agent', name: 'Agent' }],
  profiles: [{ id: 'profile_1', name: 'Usual' }],
};
const HEADER = 'Full name,E-mail,Team,Duty profile';
const line = (name: string, email: string) => `${name},${email},One,Usual`;

/** Who would be taken from a file, by our reading; refused lines with the sentence. */
function taken(bytes: Uint8Array): (readonly [name: string, email: string])[] {
  const table = readTable(textOf(bytes));
  const { lines } = planImport(table.rows, guessTargets(table.header, []), WORLD);
  return lines.map((l) => [l.name, l.kind === 'refused' ? `row ${l.row}: ${l.reasons[0]?.what ?? ''}` : l.email]);
}

/**
 * A second reading, sign by sign (RFC 4180): decoded by a package of encodings that the product does not use, lines ended
 * by CR, LF or both, marks without width taken off by what Unicode says of them.
 */
function secondReading(bytes: Uint8Array, encoding: string): string[][] {
  const text = iconv.decode(Buffer.from(bytes), encoding);
  const rows: string[][] = [];
  let [row, cell, quoted]: [string[], string, boolean] = [[], '', false];
  const seen = (c: string) => !/\p{Cf}/u.test(c);
  const ends = () => {
    const signs = [...cell];
    while (signs.length > 0 && (/\s/.test(signs[0] ?? '') || !seen(signs[0] ?? ''))) signs.shift();
    while (signs.length > 0 && (/\s/.test(signs.at(-1) ?? '') || !seen(signs.at(-1) ?? ''))) signs.pop();
    row.push(signs.join(''));
    cell = '';
  };
  for (let i = 0; i < text.length; i++) {
    const c = text[i] ?? '';
    if (quoted) {
      if (c === '"' && text[i + 1] === '"') cell += text[++i] ?? '';
      else if (c === '"') quoted = false;
      else cell += c;
    } else if (c === '"' && cell === '') quoted = true;
    else if (c === ',') ends();
    else if (c === '\n' || c === '\r') {
      if (c === '\r' && text[i + 1] === '\n') i++;
      ends();
      if (row.some((x) => x !== '')) rows.push(row);
      row = [];
    } else cell += c;
  }
  ends();
  if (row.some((x) => x !== '')) rows.push(row);
  return rows.slice(1);
}
const both = (bytes: Uint8Array, encoding: string) => {
  const [mine, theirs] = [
    taken(bytes),
    secondReading(bytes, encoding).map(([name = '', email = '']) => [
      name,
      [...email.toLowerCase()].filter((c) => !/\p{Cf}/u.test(c)).join(''),
    ]),
  ];
  expect(mine).toEqual(theirs);
  return mine;
};
const refusal = (text: string | Uint8Array): string => {
  try {
    taken(typeof text === 'string' ? new TextEncoder().encode(text) : text);
    return 'taken';
  } catch (error) {
    if (!(error instanceof UnreadableTable)) throw error;
    return `${error.row}: ${error.message}`;
  }
};

describe('people files from elsewhere', () => {
  const people = [HEADER, line('Zoë Łukasik', 'Zoe@x.example'), line('"Roe, Bo"', 'bo@x.example'), ''].join('\r\n');
  it.each([
    ['utf-8', iconv.encode(people, 'utf-8')],
    ['utf-8', iconv.encode(people, 'utf-8', { addBOM: true })],
    ['utf-16le', iconv.encode(people, 'utf-16le', { addBOM: true })],
    ['utf-16be', iconv.encode(people, 'utf-16be', { addBOM: true })],
    ['windows-1252', iconv.encode(people.replace('Łukasik', 'Müller–Š'), 'windows-1252')],
  ] as const)('in %s, as a second reading has it', (encoding, bytes) => {
    const read = both(bytes, encoding);
    expect(read.map(([, email]) => email)).toEqual(['zoe@x.example', 'bo@x.example']);
    expect(read[1]?.[0]).toBe('Roe, Bo');
  });
  it('lines may end in any way, also within one file: nobody is put together with another', () => {
    const mixed = `${HEADER}\r\n${line('Ann A', 'a@x.example')}\n${line('Bo B', 'b@x.example')}\r${line('"Cy\r\nC"', 'c@x.example')}\r\n${line('Di D', 'd@x.example')}`;
    expect(both(Buffer.from(mixed), 'utf-8')).toHaveLength(4);
    const ends = fc.array(fc.constantFrom('\r\n', '\n', '\r'), { minLength: 6, maxLength: 6 });
    fc.assert(
      fc.property(ends, (by) => {
        const lines = [HEADER, ...['a', 'b', 'c', 'd', 'e'].map((n) => line(`Name ${n}`, `${n}@x.example`))];
        const text = lines.map((l, i) => l + (by[i] ?? '\n')).join('');
        expect(both(Buffer.from(text), 'utf-8').map(([, email]) => email)).toEqual(
          ['a', 'b', 'c', 'd', 'e'].map((n) => `${n}@x.example`),
        );
      }),
      { numRuns: sized({ quick: 20, usual: 80, long: 700 }) },
    );
  });
  it('what has no width is taken off the ends, and out of addresses', () => {
    const text = [
      HEADER,
      line('\u200bAnn\u00ad A\u2060', 'an\u200bn@x.exam\u200dple\ufeff'),
      line('\u202aBo\u202c', '\u200ebo@x.example\u200f'),
    ].join('\n');
    expect(both(Buffer.from(text), 'utf-8')).toEqual([
      ['Ann\u00ad A', 'ann@x.example'],
      ['Bo', 'bo@x.example'],
    ]);
    // It is still the same address that nobody sees to be one.
    const twice = [HEADER, line('Ann', 'ann@x.example'), line('Ann too', 'ann@\u200bx.example')].join('\n');
    expect(taken(Buffer.from(twice))[1]?.[1]).toBe('row 3: the same address stands in row 2');
  });
  it('a line that is refused keeps nobody from its address', () => {
    const text = [HEADER, line('', 'ann@x.example'), line('Ann', 'ann@x.example'), line('Ann', 'ann@x.example')].join(
      '\n',
    );
    expect(taken(Buffer.from(text))).toEqual([
      ['', 'row 2: the name is missing'],
      ['Ann', 'ann@x.example'],
      ['Ann', 'row 4: the same address stands in row 3'],
    ]);
  });
  it('NUL, and two columns of one name, are refused with their line', () => {
    expect(refusal(`${HEADER}\r\n${line('Ann', 'a@x.example')}\r\n${line('B\0o', 'b@x.example')}`)).toBe(
      '3: Line 3 holds a character that no text has (NUL).',
    );
    // UTF-16 without its mark is full of them.
    expect(refusal(iconv.encode(people, 'utf-16le'))).toMatch(/^1: Line 1 holds a character/);
    expect(refusal(`Full name,E-mail,e-mail\n`)).toBe('1: Columns 2 and 3 are both called “e-mail”.');
    expect(refusal(`Full name,E-mail,\u200bE-Mail \n`)).toBe('1: Columns 2 and 3 are both called “E-Mail”.');
    expect(refusal(`Full name,,,E-mail\nAnn,,,a@x.example`)).toBe('taken');
  });
  it('widths and counts are bounded', () => {
    expect(refusal(`${'a,'.repeat(400)}b`)).toMatch(/^1: Row 1 has 401 columns/);
    expect(refusal(`${HEADER}\n${line('x'.repeat(30_000), 'a@x.example')}`)).toMatch(
      /^2: A cell in row 2 has more than/,
    );
    expect(refusal(`${HEADER}\n${'a\n'.repeat(60_000)}`)).toMatch(/^\d+: The file has more than 50000 rows/);
    expect(taken(Buffer.from(`${HEADER}\n${line('x'.repeat(81), 'a@x.example')}`))[0]?.[1]).toBe(
      'row 2: a name has at most 80 characters',
    );
  });
  it('apostrophes come back as they went out', () => {
    for (const name of ["'Tis", "O'Roe", "'=Ann", '=Ann', "''=Ann", '-Bo', '@Cy', "'"])
      expect(readTable(writeTable(['name'], [[name]])).rows.map((r) => r.cells)).toEqual([[name]]);
  });
});
