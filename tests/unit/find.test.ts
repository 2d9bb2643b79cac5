import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readTable } from '../../src/core/formats/csv';
import type { FilePart } from '../../src/services/people/peoplecsv';
import type { FindView } from '../../src/services/review/find';
import { packContact } from '../../src/data/packed';
import { writeCustomer } from '../../src/data/customers';
import { appendEvent } from '../../src/data/events';
import { writeMessage } from '../../src/data/messages';
import { row } from '../../src/data/database';
import { threeWeeks, writePast } from '../helpers/past';
import { makeWorld, type World } from '../helpers/world';

let w: World;
const RANGE = { from: '2026-10-26', to: '2026-11-15' };
beforeAll(() => {
  w = makeWorld();
  writeCustomer(w.db, {
    id: 'nerea',
    channel: 'voice',
    address: '+353209131234',
    name: 'Nerea Solas',
    vouched: true,
  });
  const calls = threeWeeks('2026-10-26', 'Europe/Dublin', 'queue_newhire', ['person_05', 'person_04']);
  writePast(
    w.db,
    calls.map((c, i) => (i % 50 === 0 ? { ...c, customerId: 'nerea' } : c)),
  );
  say('past10', 'El número está roto', 'The bridge of the cello snapped in two');
  say('past20', 'A bridge over there', 'nothing is broken');
});
afterAll(() => w.close());
/** Adds words to a contact that is over, as they would have been said. */
function say(contactId: string, ...texts: string[]): void {
  w.db.transaction(() => {
    for (const text of texts) {
      const { seq } = appendEvent(
        w.db,
        { type: 'message.written', contactId, from: 'customer', personId: null, lineId: null },
        0,
        0,
      );
      writeMessage(w.db, { seq, text, options: [], ssml: null, mayInterrupt: true, image: null });
    }
  })();
}
const find = async (asked: object, who = w.actor('Noor Amsel')) =>
  (await w.services.reading('find-contacts', who, { ...RANGE, ...asked })) as FindView;
const idsOf = (view: FindView) => view.lines.map((l) => l.id);
const all = 3 * 5 * 40 + 2 * 2 * 21;

describe('finding a contact', () => {
  it('by a part of the name or address, or the number in any spelling', async () => {
    for (const customer of ['nerea', 'Solas', '913 1234', '+353 (20) 913-1234', '0209131234'])
      expect(
        (await find({ customer })).lines.every((l) => l.customer === 'Nerea Solas'),
        customer,
      ).toBe(true);
    expect((await find({ customer: 'nerea' })).lines.length).toBe(Math.ceil(all / 50));
    expect((await find({ customer: '100%_' })).lines).toEqual([]);
  });
  it('by words, all of them, without accents, also when it has been packed since', async () => {
    expect(idsOf(await find({ words: 'numero CELLO' }))).toEqual(['past10']);
    expect(idsOf(await find({ words: 'bridge' }))).toEqual(['past20', 'past10']);
    expect(idsOf(await find({ words: '“bridge of the”' }))).toEqual(['past10']);
    expect((await find({ words: 'cello' })).lines[0]?.said).toContain('cello snapped');
    const no = row<{ no: number }>(w.db, "SELECT no FROM contacts WHERE id = 'past10'")?.no ?? 0;
    w.db.transaction(() => packContact(w.db, no, () => '{}'))();
    expect(idsOf(await find({ words: 'numero cello' }))).toEqual(['past10']);
  });
  it('by how it ended and how long it took; what is narrowed narrows it as well', async () => {
    expect((await find({ ended: 'gave-up' })).lines).toEqual([]);
    expect((await find({ minutes: '10' })).lines).toEqual([]);
    const long = await find({ minutes: '5', person: 'person_04' });
    expect(long.lines.length).toBeGreaterThan(0);
    expect(long.lines.every((l) => l.people === 'Tamsin Orrel')).toBe(true);
  });
  it('looks on from nowhere where the place is none, and finds nothing', async () => {
    expect((await find({ after: '999999999' })).lines).toEqual([]);
    await expect(find({ after: 'here' })).rejects.toMatchObject({ code: 'not-valid' });
  });
  it('page by page, latest first, each once', async () => {
    const found: string[] = [];
    for (let after: number | null = 0; after !== null;) {
      const view: FindView = await find(after === 0 ? {} : { after: String(after) });
      found.push(...idsOf(view));
      expect(view.lines.length).toBeLessThanOrEqual(50);
      after = view.further;
    }
    expect(found.length).toBe(all);
    expect(new Set(found).size).toBe(all);
  });
  it('names nobody of other teams; and nothing without the right to conversations', async () => {
    const mine = await find({}, { ...w.actor('Bertil Achterberg'), teams: [] });
    // They serve the queue themselves; who else took its contacts has no name for them.
    expect(mine.lines.length).toBeGreaterThan(0);
    expect(JSON.stringify(mine)).not.toContain('Tamsin Orrel');
    await expect(find({}, { ...w.actor('Noor Amsel'), rights: ['review.view'] })).rejects.toMatchObject({
      code: 'not-allowed',
    });
  });
});

describe('contacts as a file', () => {
  const parts = async (asked: object, who = w.actor('Noor Amsel')): Promise<string> => {
    let text = '';
    for (let after: string | null = ''; after !== null;) {
      const part: FilePart = await w.services.reading('contacts-file', who, { ...RANGE, ...asked, after });
      text += part.text;
      after = part.next;
    }
    return text;
  };
  it('each is a line of the published format, part by part and none twice', async () => {
    const text = await parts({ format: 'ndjson' });
    const contacts = text
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { id: string });
    expect(new Set(contacts.map((c) => c.id)).size).toBe(all);
    expect(contacts.length).toBe(all);
    const valid = new Ajv2020({ strict: false }).compile(
      JSON.parse(readFileSync('docs/formats/contact.schema.json', 'utf8')) as object,
    );
    for (const contact of contacts) expect(valid(contact) ? [] : valid.errors).toEqual([]);
  });
  it('is narrowed like the page, as a table too, and takes the right to take lists out', async () => {
    const table = readTable(await parts({ customer: 'nerea' }));
    expect(table.rows.length).toBe(Math.ceil(all / 50));
    expect(table.rows.every(({ cells }) => cells.includes('Nerea Solas'))).toBe(true);
    await expect(
      parts({}, { ...w.actor('Noor Amsel'), rights: ['conversations.view', 'review.view'] }),
    ).rejects.toMatchObject({ code: 'not-allowed' });
  });
});
