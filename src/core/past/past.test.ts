import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readTable } from '../formats/csv';
import { CHUNK, type Chunk, inChunks } from './chunks';
import { type PastContact, pastLine, RefusedLine } from './pastlines';
import { pastRow, pastTable } from './pasttable';

const NOW = Date.UTC(2026, 10, 1);
const at = (minute: number): string => new Date(Date.UTC(2026, 0, 5, 9, minute)).toISOString();
const contact = {
  id: 'A-1',
  channel: 'chat',
  door: 'Web chat',
  language: 'en',
  customer: 'guest 17',
  startedAt: at(0),
  endedAt: at(20),
  ended: 'resolved',
  visits: [
    { queue: 'Orders', enteredAt: at(1), waitedSeconds: 120, goalSeconds: 60, ended: 'moved-on' },
    { queue: 'Returns', enteredAt: at(3), waitedSeconds: 300, ended: 'accepted' },
  ],
  turns: [{ person: 'Ola Brandvik', acceptedAt: at(6), endedAt: at(21), outcome: 'Sold' }],
  messages: [
    { from: 'person', person: 'Ola Brandvik', at: at(8), text: 'Good day' },
    { from: 'customer', at: at(2), text: 'Hello?' },
  ],
};
const read = (value: unknown) => pastLine(value, NOW);
const why = (value: unknown): string => {
  try {
    read(value);
    return 'taken';
  } catch (error) {
    if (error instanceof RefusedLine) return error.message;
    throw error;
  }
};

describe('a contact that is brought in', () => {
  it('says when its entries ended, when the customer began to wait, and which entry a turn answered', () => {
    const { visits, turns, messages } = read(contact) as PastContact;
    expect(visits.map((v) => [v.placedAt, v.endedAt].map((ms) => new Date(ms).toISOString()))).toEqual([
      [at(1), at(3)],
      // Accepted when somebody did; the customer had waited five minutes by then.
      [at(1), at(6)],
    ]);
    expect(turns[0]).toMatchObject({ visit: 1, handleSeconds: null, passedOn: false });
    expect(messages.map((m) => m.from)).toEqual(['customer', 'person']);
  });
  it.each([
    [{ ...contact, endedAt: at(-1) }, 'before startedAt'],
    [{ ...contact, startedAt: '2026-11-02T09:00:00Z', endedAt: '2026-11-02T09:10:00Z' }, 'future'],
    [{ ...contact, startedAt: '5 January 2026' }, 'like 2026-01-31T09:30:00Z'],
    [{ ...contact, startedAt: '2026-01-05T09:00:00' }, 'with its zone'],
    [{ ...contact, startedAt: '1980-01-05T09:00:00Z' }, 'before 1995'],
    [{ ...contact, channel: 'pigeon' }, 'one of voice'],
    [{ ...contact, id: '' }, 'id is missing'],
    [{ ...contact, language: 'English' }, 'a tag'],
    [{ ...contact, visits: [] }, 'no visit'],
    [{ ...contact, visits: 'many' }, 'a list'],
    [{ ...contact, visits: [{ ...contact.visits[0], waitedSeconds: -1 }] }, 'seconds'],
    [{ ...contact, visits: [{ ...contact.visits[0], waitedSeconds: null }] }, 'must say endedAt or waitedSeconds'],
    [{ ...contact, turns: [{ ...contact.turns[0], endedAt: at(5) }] }, 'ends before it begins'],
    [{ ...contact, messages: [{ from: 'customer', at: at(30), text: 'late' }] }, 'outside the contact'],
    [{ ...contact, messages: Array.from({ length: 1001 }, () => contact.messages[1]) }, 'at most 1000'],
    [
      { ...contact, messages: Array.from({ length: 30 }, () => ({ from: 'bot', at: at(2), text: 'x'.repeat(9000) })) },
      'more than 200000 characters',
    ],
    [{ person: 'Ola', at: at(0), state: 'asleep' }, 'one of off'],
    ['text', 'An object is missing'],
    [null, 'An object is missing'],
  ])('is refused in a sentence: %#', (value, says) => {
    expect(why(value)).toContain(says);
  });
  it('nonsense is refused, never thrown at whoever reads it', () => {
    const fields = fc.record(Object.fromEntries(Object.keys(contact).map((key) => [key, fc.anything()])), {
      requiredKeys: [],
    });
    fc.assert(
      fc.property(fields, (nonsense) => {
        expect(typeof why({ ...contact, ...nonsense })).toBe('string');
      }),
    );
  });
});

describe('a table', () => {
  const HEAD = [
    'Contact',
    'Started',
    'Ended',
    'How it ended',
    'Channel',
    'Door',
    'Language',
    'Customer',
    'Queues',
    'Waited (s)',
    'People',
  ];
  const row = (...cells: string[]) => pastRow(HEAD, cells);
  it('has a contact a row, answered after its wait', () => {
    const one = read(
      row('B-1', at(0), at(9), 'resolved', 'voice', 'Line', 'en', '+351', 'Orders', '90', 'Ola'),
    ) as PastContact;
    expect(one.turns[0]).toMatchObject({ acceptedAt: Date.UTC(2026, 0, 5, 9, 1, 30), visit: 0 });
    expect(one.visits[0]).toMatchObject({ ended: 'accepted', endedAt: Date.UTC(2026, 0, 5, 9, 1, 30) });
    const lost = read(
      row('B-2', at(0), at(2), 'gave-up', 'voice', 'Line', 'en', '+351', 'Orders', '90', ''),
    ) as PastContact;
    expect(lost).toMatchObject({ turns: [], visits: [{ ended: 'gave-up' }] });
    expect(read(row('B-3', at(0), at(2), 'bot', 'voice', 'Line', 'en', '+351', '', '', ''))).toMatchObject({
      visits: [],
    });
  });
  it('holds what was said in a cell, a line each', () => {
    const cells = ['B-4', at(0), at(9), 'resolved', 'chat', 'Web', 'en', 'guest', 'Orders', '60', 'Ola'];
    const withWords = (words: string) => pastRow([...HEAD, 'Said'], [...cells, words]);
    const words = `${at(2)} customer: Where is it?\nIt is late: two days.\r\n${at(3)} person Ola: On its way.\n${at(4)} bot: Bye`;
    const { messages } = read(withWords(words)) as PastContact;
    expect(messages.map((m) => [m.from, m.person, m.text])).toEqual([
      ['customer', null, 'Where is it?\nIt is late: two days.'],
      ['person', 'Ola', 'On its way.'],
      ['bot', null, 'Bye'],
    ]);
    expect(() => withWords('Hello?')).toThrow('Said: each line');
    expect(why(withWords(`${at(30)} customer: Too late`))).not.toBe('taken');
  });
  it('has no room for two queues', () => {
    expect(() =>
      row('B-1', at(0), at(9), 'resolved', 'voice', 'Line', 'en', '+351', 'Orders, Returns', '9', 'Ola'),
    ).toThrow(RefusedLine);
  });
  it('is known by its columns', () => {
    expect(pastTable({ header: HEAD })).toBe('contacts');
    expect(pastTable({ header: ['person', 'AT', 'State'] })).toBe('states');
    expect(pastTable({ header: ['Name', 'Age'] })).toBeNull();
  });
});

describe('a file in chunks', () => {
  const all = async (text: string, size: number, table: boolean): Promise<Chunk[]> => {
    const parts = async function* () {
      for (let i = 0; i < text.length; i += size) yield text.slice(i, i + size);
    };
    const chunks: Chunk[] = [];
    for await (const chunk of inChunks(parts(), table)) chunks.push(chunk);
    return chunks;
  };
  const words = fc.string({ maxLength: 400 });
  it('has every line once, under its number, however it comes', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(words, { minLength: 1, maxLength: 500 }),
        fc.integer({ min: 1000, max: 3 * CHUNK }),
        async (lines, size) => {
          const texts = lines.map((line) => JSON.stringify(line));
          const chunks = await all(`${texts.join('\n')}\n`, size, false);
          for (const chunk of chunks)
            chunk.text.split('\n').forEach((line, i) => {
              if (line !== '') expect(line).toBe(texts[chunk.line - 1 + i]);
            });
          expect(chunks.flatMap((c) => c.text.split('\n').filter((line) => line !== ''))).toEqual(texts);
        },
      ),
      { numRuns: 30 },
    );
  });
  it('of a table has whole rows under its head, also where a cell has several lines', async () => {
    const cell = (i: number) => (i % 3 === 0 ? `"a ""b""\n${'c'.repeat(i % 700)}"` : `plain ${i}`);
    const rows = Array.from({ length: 3000 }, (_, i) => `${i},${cell(i)}`);
    const chunks = await all(`\uFEFFNo,Words\r\n${rows.join('\r\n')}`, 7777, true);
    expect(chunks.length).toBeGreaterThan(2);
    const found = chunks.flatMap((chunk) => {
      const table = readTable(chunk.text);
      expect(table.header).toEqual(['No', 'Words']);
      return table.rows.map((r) => r.cells[0]);
    });
    expect(found).toEqual(rows.map((_, i) => String(i)));
  });
  it('a line without an end is refused rather than gathered for ever', async () => {
    await expect(all('x'.repeat(66 * CHUNK), CHUNK, false)).rejects.toThrow('too long');
  });
});
