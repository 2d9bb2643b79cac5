import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { writeLife } from '../../src/data/lives';
import { readOutside } from '../../src/data/outside';
import { correctionsOf, monthsUpTo } from '../../src/services/review/reportfigures';
import type { ReportFigures } from '../../src/data/reports';
import type { ReportsView, ReportView, SentView } from '../../src/services/review/reportviews';
import { startOfDay } from '../../src/core/hours/weekly';
import { threeWeeks, writePast } from '../helpers/past';
import { codeOf, makeWorld, type World } from '../helpers/world';

const [NOOR, BERTIL, TAMSIN] = ['person_02', 'person_03', 'person_04'] as const;
const ZONE = 'Europe/Dublin';
let w: World;
beforeEach(() => {
  w = makeWorld();
  // Two weeks of them lie in October, which is the last whole month.
  writePast(w.db, threeWeeks('2026-10-12', ZONE, 'queue_newhire', ['person_05', 'person_04']));
});
afterEach(() => w.close());
const lead = () => w.actor('Noor Amsel');
const bertil = () => w.actor('Bertil Achterberg');
const view = (name: string, path = '/review', forAll = true) =>
  (w.services.act('keep-view', lead(), { name, forAll, path, asked: '' }) as { id: string }).id;
const keep = (some: object, actor = lead()) =>
  (
    w.services.act('keep-report', actor, {
      id: null,
      name: 'October',
      forAll: false,
      months: 2,
      parts: [{ viewId: view('All'), said: 'A month like any other.' }],
      ...some,
    }) as { id: string }
  ).id;
const list = (actor = lead()) => w.services.reading('reports', actor, {}) as Promise<ReportsView>;
const open = (id: string, actor = lead()) => w.services.reading('report', actor, { id }) as Promise<ReportView>;
const sentOf = (id: string, actor = lead()) => w.services.reading('sent-report', actor, { id }) as Promise<SentView>;
const settled = () => new Promise((resume) => setTimeout(resume, 30));
async function send(id: string, personIds: readonly string[], actor = lead()): Promise<string> {
  const { id: sentId } = w.services.act('send-report', actor, { id, personIds }) as { id: string };
  await settled();
  return sentId;
}
const valueOf = ({ tables }: ReportFigures, name: string, month: number, table = 0) =>
  tables[table]?.rows.find((row) => row.name === name)?.values[month];
/** One more contact of October, known later. */
const late = () => {
  const at = startOfDay('2026-10-20', ZONE) + 10 * 3_600_000;
  w.db.transaction(() =>
    writeLife(
      w.db,
      [
        {
          at,
          body: {
            type: 'contact.started',
            contactId: 'late',
            doorId: 'door_tel',
            channel: 'voice',
            customerId: 'past',
            language: 'en',
            botId: null,
            botVersion: null,
          },
        },
        { at: at + 60_000, body: { type: 'contact.ended', contactId: 'late', how: 'bot' } },
      ],
      null,
    ),
  )();
};

describe('a report', () => {
  it('puts kept views in order, each with what is said of it and its figures month by month', async () => {
    const [all, queues, one] = [
      view('All'),
      view('Queues', '/review/queues'),
      view('Odile', '/review/people/person_05'),
    ];
    const id = keep({
      months: 3,
      parts: [
        { viewId: queues, said: '' },
        { viewId: all, said: 'Two lines.\nThis is the second.' },
        { viewId: one, said: '' },
      ],
    });
    const { figures, hrefs } = await open(id);
    expect(figures.months.map((month) => month.from)).toEqual(['2026-08-01', '2026-09-01', '2026-10-01']);
    expect(figures.tables.map((t) => [t.name, t.said, t.listOf])).toEqual([
      ['Queues', '', 'Offered'],
      ['All', 'Two lines.\nThis is the second.', null],
      ['Odile', '', null],
    ]);
    const offered = valueOf(figures, 'New hire', 2);
    expect(offered).toBeGreaterThan(400);
    expect(valueOf(figures, 'Contacts', 2, 1)).toBe(offered);
    // Of months before the log nothing is known.
    expect(valueOf(figures, 'Contacts', 1, 1)).toBeNull();
    expect(figures.tables[1]?.rows.every((row) => row.formula.length > 20)).toBe(true);
    expect(hrefs.map((href) => href?.split('?')[0])).toEqual(['/review/queues', '/review', '/review/people/person_05']);
  });
  it('is its writer’s to change, to send and to forget; others read it where it is for all', async () => {
    const mine = keep({});
    expect((await list(bertil())).reports).toEqual([]);
    await expect(open(mine, bertil())).rejects.toMatchObject({ code: 'not-found' });
    const shared = keep({ name: 'For all', forAll: true });
    expect((await list(bertil())).reports.map((r) => [r.name, r.mine, r.owner])).toEqual([
      ['For all', false, 'Noor Amsel'],
    ]);
    expect((await open(shared, bertil())).figures.tables).toHaveLength(1);
    const parts = [{ viewId: view('All'), said: '' }];
    const change = { id: shared, name: 'Mine now', forAll: true, months: 1, parts };
    for (const [act, input] of [
      ['keep-report', change],
      ['drop-report', { id: shared }],
      ['send-report', { id: shared, personIds: [NOOR] }],
    ] as const)
      expect([act, codeOf(() => w.services.act(act, bertil(), input))]).toEqual([act, 'not-found']);
    w.services.act('keep-report', lead(), { ...change, name: 'Shorter' });
    expect((await open(shared)).figures.months).toHaveLength(1);
    w.services.act('drop-report', lead(), { id: shared });
    expect((await list()).reports.map((r) => r.id)).toEqual([mine]);
  });
  it('stands on views that its writer may open; one that goes away later is said to be gone', async () => {
    const hidden = view('Hidden', '/review', false);
    const parts = (viewId: string) => ({ parts: [{ viewId, said: 'Kept.' }] });
    expect(codeOf(() => keep(parts(hidden), bertil()))).toBe('not-valid');
    expect(codeOf(() => keep(parts('view_none')))).toBe('not-valid');
    expect(codeOf(() => keep({ months: 14 }))).toBe('not-valid');
    expect(codeOf(() => keep({ parts: [] }))).toBe('not-valid');
    const id = keep(parts(hidden));
    w.services.act('drop-view', lead(), { id: hidden });
    const [table] = (await open(id)).figures.tables;
    expect([table?.said, table?.missing, table?.rows]).toEqual(['Kept.', 'Its view is not kept any more.', []]);
    // What was written of it can still be changed.
    w.services.act('keep-report', lead(), { id, name: 'Still', forAll: false, months: 2, ...parts(hidden) });
  });
});

describe('a report that was sent', () => {
  it('stays as each could see it, whatever becomes of it; what is otherwise now is said', async () => {
    const people = view('People', '/review/people');
    const id = keep({
      parts: [
        { viewId: view('All'), said: 'As it was.' },
        { viewId: people, said: '' },
      ],
    });
    const sentId = await send(id, [BERTIL]);
    const [noors, bertils] = [await sentOf(sentId), await sentOf(sentId, bertil())];
    expect(noors.to).toEqual(['Bertil Achterberg']);
    expect(bertils.by).toBe('Noor Amsel');
    // Bertil has one team: of people he finds his own.
    expect(noors.figures.tables[1]?.rows.map((row) => row.id).sort()).toEqual(['person_04', 'person_05']);
    expect(bertils.figures.tables[1]?.rows.map((row) => row.id)).toEqual(['person_04']);
    expect(readOutside(w.db, 5).map((m) => [m.address, m.subject])).toEqual([
      ['bertil.achterberg@brindlewood.example', 'Report: October'],
    ]);
    expect(noors.corrections).toEqual([]);
    const before = valueOf(noors.figures, 'Contacts', 1) ?? NaN;
    w.services.act('keep-report', lead(), {
      id,
      name: 'Other',
      forAll: false,
      months: 1,
      parts: [{ viewId: people, said: '' }],
    });
    w.services.act('drop-report', lead(), { id });
    late();
    const again = await sentOf(sentId);
    expect(again.figures).toEqual(noors.figures);
    expect(again.figures.tables[0]?.said).toBe('As it was.');
    expect(again.corrections.find((one) => one.row === 'Contacts')).toMatchObject({
      table: 'All',
      month: { from: '2026-10-01', to: '2026-10-31' },
      sent: before,
      now: before + 1,
    });
  });
  it('is read by whoever it was sent to, and goes to people who may open Review', async () => {
    const id = keep({});
    expect(codeOf(() => w.services.act('send-report', lead(), { id, personIds: [TAMSIN] }))).toBe('not-valid');
    expect(codeOf(() => w.services.act('send-report', lead(), { id, personIds: [] }))).toBe('not-valid');
    const sentId = await send(id, ['person_01']);
    await expect(sentOf(sentId, bertil())).rejects.toMatchObject({ code: 'not-found' });
    expect((await list(bertil())).sent).toEqual([]);
    expect((await list()).sent).toMatchObject([{ id: sentId, ready: true, by: 'you' }]);
  });
  it('whose copies were still to be made when the process died is made after the next start, once', async () => {
    const id = keep({});
    let reads = 0;
    // The second reading never comes back: the process is gone by then.
    const { reading } = w.services;
    const dying = w.restart({
      reading: ((name, actor, asked, signal) =>
        name === 'report-to-send' && ++reads > 1
          ? new Promise(() => undefined)
          : reading(name, actor, asked, signal)) as typeof reading,
    });
    const { id: sentId } = dying.act('send-report', lead(), { id, personIds: [BERTIL] }) as { id: string };
    await settled();
    expect((await list()).sent).toMatchObject([{ ready: true }]);
    await expect(sentOf(sentId, bertil())).rejects.toMatchObject({ code: 'not-found' });
    for (let start = 0; start < 2; start++) {
      w.restart().review.resumeReports();
      await settled();
    }
    expect((await sentOf(sentId, bertil())).figures.tables).toHaveLength(1);
    expect(readOutside(w.db, 5)).toHaveLength(1);
  });
  it('that cannot be read for one reader is there for the others, and for that one after the next start', async () => {
    const id = keep({});
    const { reading } = w.services;
    const failing = w.restart({
      reading: ((name, actor, asked, signal) =>
        name === 'report-to-send' && actor.personId === BERTIL
          ? Promise.reject(new Error('the thread died'))
          : reading(name, actor, asked, signal)) as typeof reading,
    });
    const { id: sentId } = failing.act('send-report', lead(), { id, personIds: [BERTIL, 'person_01'] }) as {
      id: string;
    };
    await settled();
    expect(w.faults.splice(0)).toHaveLength(1);
    expect((await sentOf(sentId, w.actor('Nell Ashgrove'))).figures.tables).toHaveLength(1);
    await expect(sentOf(sentId, bertil())).rejects.toThrow('still being made');
    w.restart().review.resumeReports();
    await settled();
    expect((await sentOf(sentId, bertil())).figures.tables).toHaveLength(1);
  });
  it('of a page whose address is damaged says that there is nothing, and the rest is there', async () => {
    const id = keep({
      parts: [view('Broken', '/review/queues/%zz'), view('All')].map((viewId) => ({ viewId, said: '' })),
    });
    const { figures } = await open(id);
    expect(figures.tables.map((t) => t.rows.every((row) => row.values.every((value) => !value)))).toEqual([
      true,
      false,
    ]);
  });
  it('goes out as a table, as it was sent and as it is', async () => {
    const id = keep({});
    const sentId = await send(id, [BERTIL]);
    late();
    const csv = async (kind: string, of: string) =>
      ((await w.services.reading('review-csv', lead(), { kind, id: of })) as { text: string }).text;
    const line = (text: string) => text.split('\r\n').find((one) => one.startsWith('All,Contacts'));
    const [sent, now] = [line(await csv('sent-report', sentId)), line(await csv('report', id))];
    expect(sent).toMatch(/^All,Contacts,count,,\d+$/);
    expect(Number(now?.split(',').at(-1))).toBe(Number(sent?.split(',').at(-1)) + 1);
  });
});

describe('months and corrections', () => {
  it('are whole ones, one after the other, up to the last that is over', () => {
    expect(monthsUpTo('2026-03-01', 3)).toEqual([
      { from: '2025-12-01', to: '2025-12-31' },
      { from: '2026-01-01', to: '2026-01-31' },
      { from: '2026-02-01', to: '2026-02-28' },
    ]);
    expect(monthsUpTo('2028-03-31', 1)).toEqual([{ from: '2028-02-01', to: '2028-02-29' }]);
  });
  it('are told of every figure that is otherwise, and of no other', () => {
    const figure = fc.option(fc.integer({ min: 0, max: 9 }), { nil: null });
    const values = fc.tuple(figure, figure);
    const of = (rows: readonly (readonly [number | null, number | null])[]): ReportFigures => ({
      months: monthsUpTo('2026-11-16', 2),
      tables: [
        {
          viewId: 'v',
          name: 'All',
          said: '',
          listOf: null,
          missing: null,
          rows: rows.map((row, i) => ({ id: `${i}`, name: `${i}`, unit: 'count', formula: '', values: row })),
        },
      ],
    });
    fc.assert(
      fc.property(fc.array(fc.tuple(values, values), { maxLength: 5 }), (pairs) => {
        const [sent, now] = [of(pairs.map(([a]) => a)), of(pairs.map(([, b]) => b))];
        const found = correctionsOf(sent, now).map((c) => [c.row, c.month.from, c.sent, c.now]);
        const expected = pairs.flatMap(([a, b], row) =>
          [0, 1].flatMap((m) => (a[m] === b[m] ? [] : [[`${row}`, sent.months[m]?.from, a[m] ?? null, b[m] ?? null]])),
        );
        expect(found.sort()).toEqual(expected.sort());
      }),
    );
  });
});
