import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BOT_FORMAT } from '../../src/core/bots/file';
import { LaneError } from '../../src/core/errors';
import { readHoursCalendar, writeHoursCalendar } from '../../src/core/formats/calendar/hours';
import { readTable, writeTable } from '../../src/core/formats/csv';
import { type HeavyGiven, type HeavyTask, runHeavy } from '../../src/core/heavy';
import type { WeekPattern } from '../../src/core/hours/weekly';
import { EMPTY_BOOK, type Phrasebook } from '../../src/core/phrases/book';
import { bookCsv, bookJson, readBookCsv, readBookJson } from '../../src/core/phrases/bookfile';
import { type FileRow, readWordsCsv, wordsCsv } from '../../src/core/words/file';
import { readBotFile } from '../../src/services/bots/botfiles';
import { readChunk } from '../../src/services/past/readpast';
import { sized } from '../helpers/size';

/**
 * Whatever comes from elsewhere is taken, told or refused in a sentence, however it is broken; and what is taken comes out
 * and in again as the same.
 */
const RUNS = sized({ quick: 30, usual: 120, long: 10_000 });

const pieces = fc.oneof(
  fc.constantFrom(
    ...['"', "'", ',', ';', '\t', '\n', '\r', '\r\n', '\0', '\uFEFF', '\u200b', '=', '{', '}', '[', ']', ':', '\\'],
    ...['__proto__', 'constructor', 'null', '-1', '1e999', '99999999999999999999', 'é', '\ud800', '"a":', '[[[[[['],
  ),
  fc.string({ unit: 'binary', maxLength: 6 }),
);
const edits = fc.array(fc.record({ at: fc.nat(1_000_000), gone: fc.nat(20), put: pieces }), {
  minLength: 1,
  maxLength: 4,
});
const edited = (text: string, changes: readonly { at: number; gone: number; put: string }[]): string =>
  changes.reduce((now, { at, gone, put }) => {
    const place = now.length === 0 ? 0 : at % now.length;
    return now.slice(0, place) + put + now.slice(place + gone);
  }, text);

/** Nothing is loaded that understands words: no reader needs it. */
const without = {
  encoder: () => {
    throw new Error('a reader asked what words mean');
  },
  glosses: () => {
    throw new Error('a reader asked what words mean');
  },
};
const inWorker = <K extends HeavyTask>(task: K, given: HeavyGiven<K>) => {
  const outcome = runHeavy(task, given, () => undefined, without);
  if ('refused' in outcome) {
    expect(outcome.refused).toMatch(/\S.*[.”)]$/s);
    expect(outcome.refused).not.toMatch(/stack|undefined|\[object/i);
    return null;
  }
  return outcome.result;
};

const TABLE = 'name,e-mail,team\r\n"Ann, B",ann@x.example,One\r\n\'=Bo,bo@x.example,"Two\r\nlines"\r\n';
const SHIFTS = 'who;day;from;to\nann@x.example;mon;9:00;17.30\nbo@x.example;2026-12-24;;\n';
const CALENDAR = [
  'BEGIN:VCALENDAR',
  'VERSION:2.0',
  'BEGIN:VEVENT',
  'UID:1',
  'SUMMARY:Holiday',
  'DTSTART;VALUE=DATE:20261224',
  'DTEND;VALUE=DATE:20261227',
  'RRULE:FREQ=YEARLY;COUNT=2',
  'END:VEVENT',
  'BEGIN:VEVENT',
  'UID:2',
  'SUMMARY:Late',
  'DTSTART;TZID=Europe/Dublin:20261210T100000',
  'DURATION:PT9H',
  'EXDATE;TZID=Europe/Dublin:20261210T100000',
  'RRULE:FREQ=WEEKLY;UNTIL=20270301T000000Z;BYDAY=TH',
  'END:VEVENT',
  'END:VCALENDAR',
].join('\r\n');
const SHOP: WeekPattern = { zone: 'Europe/Dublin', weekly: [{ day: 1, from: '09:00', to: '18:00' }] };
const RANGE = { from: '2026-11-01', to: '2028-10-31' };
const library = JSON.parse(readFileSync('tests/data/library.json', 'utf8')) as {
  intents: { id: string; label: string; description: string; examples: Record<string, string[]> }[];
};
const BOOK: Phrasebook = {
  ...EMPTY_BOOK,
  languages: ['en', 'es'],
  intents: library.intents.slice(0, 3).map((i) => ({
    ...i,
    examples: Object.fromEntries(Object.entries(i.examples).map(([l, t]) => [l, t.slice(0, 4)])),
  })),
};
const WORDS: readonly FileRow[] = ['Hello', 'Good\nbye', '=1+1'].map((text, i) => ({
  id: `s${i}`,
  place: `1.${i}`,
  part: 'says',
  channel: null,
  texts: { en: text, es: i === 1 ? 'Adiós' : '' },
  most: 300,
}));
const BOT = readFileSync('demo/files/bots/evening-desk.json', 'utf8');
const PAST = [
  {
    contact: 'a',
    channel: 'chat',
    door: 'Web',
    customer: 'x',
    started: '2026-10-01T09:00:00Z',
    ended: '2026-10-01T09:10:00Z',
  },
  { person: 'p', at: '2026-10-01T09:00:00Z', state: 'ready' },
]
  .map((line) => JSON.stringify(line))
  .join('\n');

type Reader = { readonly sample: string; readonly read: (text: string) => void };
const READERS: Readonly<Record<string, Reader>> = {
  'a table of people': {
    sample: TABLE,
    read: (text) => {
      const table = inWorker('people-table', new TextEncoder().encode(text));
      if (!table) return;
      const again = readTable(
        writeTable(
          table.header,
          table.rows.map((r) => r.cells),
        ),
      );
      expect(again.header).toEqual(table.header);
      expect(again.rows.map((r) => r.cells)).toEqual(table.rows.map((r) => r.cells));
    },
  },
  'a table of shifts': {
    sample: SHIFTS,
    read: (text) => void inWorker('shifts', { text, today: '2026-11-20', zones: new Map(), zone: 'Europe/Dublin' }),
  },
  'a calendar of shifts': {
    sample: CALENDAR,
    read: (text) => void inWorker('shifts', { text, today: '2026-11-20', zones: new Map(), zone: 'Europe/Dublin' }),
  },
  'a calendar of hours': {
    sample: CALENDAR,
    read: (text) => {
      const read = inWorker('hours-calendar', { text, range: RANGE, hours: SHOP, timesMean: 'open' });
      inWorker('hours-calendar', { text, range: RANGE, hours: SHOP, timesMean: 'closed' });
      if (!read || read.exceptions.length === 0) return;
      const { exceptions } = read;
      const written = writeHoursCalendar({ ...SHOP, id: 'h', name: 'Shop', exceptions });
      const again = readHoursCalendar(written, RANGE, SHOP, 'open').exceptions;
      expect(again.map((d) => [d.date, d.intervals])).toEqual(exceptions.map((d) => [d.date, d.intervals]));
    },
  },
  'a phrasebook in JSON': {
    sample: bookJson(BOOK),
    read: (text) => {
      const read = inWorker('phrasebook-file', { kind: 'json', text, book: EMPTY_BOOK });
      if (read && 'book' in read) expect(readBookJson(bookJson(read.book))).toEqual({ book: read.book });
    },
  },
  'a phrasebook in CSV': {
    sample: bookCsv(BOOK),
    read: (text) => {
      const read = inWorker('phrasebook-file', { kind: 'csv', text, book: BOOK });
      if (read && 'book' in read) expect(readBookCsv(bookCsv(read.book), BOOK)).toEqual({ book: read.book });
    },
  },
  'a bot': {
    sample: BOT,
    read: (text) => {
      try {
        const bot = readBotFile(text);
        expect(bot.format).toBe(BOT_FORMAT);
        expect(readBotFile(JSON.stringify(bot))).toEqual(bot);
      } catch (error) {
        expect(error).toBeInstanceOf(LaneError);
        expect((error as LaneError).message).toMatch(/^Line \d+: /);
      }
    },
  },
  'words of a language': {
    sample: wordsCsv(WORDS, 'en', 'es'),
    read: (text) => {
      const { changes, faults } = readWordsCsv(WORDS, 'en', 'es', text);
      for (const { what } of faults) expect(what).toMatch(/\.$/);
      if (faults.length > 0) return;
      const to = new Map(changes.map((c) => [c.id, c.to]));
      const taken = WORDS.map((r) => ({ ...r, texts: { ...r.texts, es: to.get(r.id) ?? r.texts.es ?? '' } }));
      expect(readWordsCsv(taken, 'en', 'es', wordsCsv(taken, 'en', 'es'))).toEqual({ changes: [], faults: [] });
    },
  },
  'what happened elsewhere': {
    sample: PAST,
    read: (text) => {
      for (const isTable of [false, true])
        for (const line of readChunk(
          { line: 1, text } as Parameters<typeof readChunk>[0],
          isTable,
          Date.parse('2026-11-20'),
        ))
          expect(line.is === null).toBe(typeof line.refused === 'string');
    },
  },
};

describe('files from elsewhere', () => {
  it.each(Object.entries(READERS))('%s is taken as it is', (_, { sample, read }) => read(sample));
  it.each(Object.entries(READERS))(
    '%s, broken anywhere, is taken, told or refused in a sentence',
    (_, { sample, read }) => {
      fc.assert(
        fc.property(edits, (changes) => read(edited(sample, changes))),
        { numRuns: RUNS },
      );
    },
  );
  it.each(Object.entries(READERS))('%s that is no text at all is refused in a sentence', (_, { read }) => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (text) => read(text)),
      { numRuns: RUNS },
    );
    for (const text of [
      '['.repeat(100_000),
      '{"a":'.repeat(50_000),
      '"'.repeat(50_001),
      '\r'.repeat(100_000),
      ','.repeat(100_000),
    ])
      read(text);
  });
  it('the demo’s own bots are taken', () => {
    for (const file of readdirSync('demo/files/bots'))
      READERS['a bot']?.read(readFileSync(`demo/files/bots/${file}`, 'utf8'));
  });
});
