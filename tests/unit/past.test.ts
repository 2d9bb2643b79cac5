import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { MEASURES } from '../../src/core/measures/definitions';
import { readCoachingRules } from '../../src/data/coaching';
import { row } from '../../src/data/database';
import { replayAll } from '../../src/data/events';
import type { PastFileView, PastView } from '../../src/services/past/past';
import type { SubjectView } from '../../src/services/review/subject';
import { everything } from '../helpers/validacts';
import { threeWeeks, writePast } from '../helpers/past';
import { codeIn, codeOf, makeWorld, type World } from '../helpers/world';

const RANGE = { from: '2026-10-26', to: '2026-11-15' };
let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());

const lead = (of = w) => of.actor('Noor Amsel');
const view = (of = w): PastFileView | undefined => (of.services.read('past', lead(of), {}) as PastView).files[0];
/** Until nothing is being done with the file any more. */
async function over(of = w): Promise<PastFileView | undefined> {
  while (view(of)?.doing) await new Promise((resume) => setTimeout(resume, 5));
  return view(of);
}
const act = (name: string, id: string, of = w) => of.services.act(name, lead(of), { id });
/** Sends a file in chunks of so many lines, and has it read. */
async function sent(
  lines: readonly string[],
  { name = 'old.ndjson', isTable = false, at = 100 } = {},
): Promise<string> {
  w.pass(1);
  const { id } = w.services.act('past-begin', lead(), { name, isTable }) as { id: string };
  const head = isTable ? `${lines[0] ?? ''}\n` : '';
  const rest = isTable ? lines.slice(1) : lines;
  for (let from = 0; from < rest.length; from += at)
    w.services.past.take(
      lead(),
      { id, place: from / at, line: from + (isTable ? 2 : 1) },
      { text: head + rest.slice(from, from + at).join('\n') },
    );
  w.services.act('past-check', lead(), { id, chunks: Math.ceil(rest.length / at) });
  await over();
  return id;
}
async function kept(lines: readonly string[], more = {}): Promise<string> {
  const id = await sent(lines, more);
  act('past-keep', id);
  await over();
  return id;
}
/** The log comes as far as the present, so that it is known who came back. */
function upToNow(of: World): void {
  const { revision, points, byChance, byRule } = readCoachingRules(of.db);
  of.services.act('save-coaching', lead(of), { revision, points, byChance, byRule });
}
/** Three weeks of another house, taken out of it as NDJSON, and its figures. */
async function elsewhere(): Promise<{ lines: string[]; csv: string[]; figures: Record<string, unknown> }> {
  const other = makeWorld();
  try {
    writePast(other.db, threeWeeks('2026-10-26', 'Europe/Dublin', 'queue_newhire', ['person_05', 'person_04']));
    upToNow(other);
    const parts: Record<string, string> = { ndjson: '', csv: '' };
    for (const format of ['ndjson', 'csv'])
      for (let after: string | null = ''; after !== null;) {
        const part = (await other.services.reading('contacts-file', lead(other), {
          ...RANGE,
          format,
          after,
        })) as { text: string; next: string | null };
        parts[format] += part.text;
        after = part.next;
      }
    return {
      lines: (parts.ndjson ?? '').trim().split('\n'),
      csv: (parts.csv ?? '').trim().split('\r\n'),
      figures: await figures(other, 'queue_newhire'),
    };
  } finally {
    other.close();
  }
}
/** What Review says of a queue, but for what is not in the file: offers. */
async function figures(of: World, queue: string): Promise<Record<string, unknown>> {
  const subject = (await of.services.reading('review-subject', lead(of), {
    ...RANGE,
    kind: 'queues',
    id: queue,
  })) as SubjectView;
  return Object.fromEntries(subject.figures.filter((f) => f.id !== 'missed').map((f) => [f.id, [f.value, f.count]]));
}
const stranger = (line: string): string =>
  JSON.stringify({
    ...(JSON.parse(line) as { id: string; visits: object[]; turns: object[] }),
    visits: (JSON.parse(line) as { visits: object[] }).visits.map((v) => ({ ...v, queue: 'Orders' })),
    turns: (JSON.parse(line) as { turns: { person: string }[] }).turns.map((t) => ({
      ...t,
      person: `Old ${t.person}`,
    })),
  });

describe('what was taken out of one house', () => {
  it('fits the published schema, and gives the same figures in another', async () => {
    const { lines, csv, figures: there } = await elsewhere();
    const fits = new Ajv2020({ strict: false, formats: { 'date-time': true } }).compile(
      JSON.parse(readFileSync('docs/formats/past.schema.json', 'utf8')) as object,
    );
    expect(lines.filter((line) => !fits(JSON.parse(line)))).toEqual([]);
    await kept(lines);
    expect(view()).toMatchObject({ state: 'kept', contacts: lines.length, skipped: 0 });
    expect(await figures(w, 'queue_newhire')).toEqual(there);
    expect(MEASURES.length).toBeGreaterThan(Object.keys(there).length);
    // As a table it brings the same in, but for when wrap-up began.
    act('past-take-out', view()?.id ?? '');
    await over();
    await kept(csv, { name: 'old.csv', isTable: true });
    expect(view()).toMatchObject({ state: 'kept', contacts: lines.length, skipped: 0 });
    expect(await figures(w, 'queue_newhire')).toEqual(there);
  });
  it('replaying the log gives the same tables', async () => {
    const { lines } = await elsewhere();
    await kept(lines.slice(0, 300));
    const before = everything(w);
    replayAll(w.db);
    expect(everything(w)).toEqual(before);
  });
});

describe('somebody else’s data', () => {
  it('is shown before anything of it is kept, and reviewed by its own names', async () => {
    const { lines } = await elsewhere();
    const before = everything(w);
    const id = await sent([...lines.map(stranger), '{"broken', JSON.stringify({ id: 'x' })]);
    const { past_imports: _i, past_chunks: _c, ...rest } = everything(w);
    const { past_imports: _j, past_chunks: _d, ...was } = before;
    expect(rest).toEqual(was);
    const { checked } = view() ?? {};
    expect(checked).toMatchObject({ contacts: lines.length, refused: 2, states: 0 });
    expect(checked?.reasons.map((r) => r.line)).toEqual([lines.length + 1, lines.length + 2]);
    expect(checked?.named.find((n) => n.kind === 'queue')).toMatchObject({
      here: 0,
      strange: [{ name: 'Orders', count: lines.length }],
    });
    act('past-keep', id);
    await over();
    expect(view()).toMatchObject({ state: 'kept', contacts: lines.length, skipped: 2 });
    const queues = await w.services.reading('review-each', lead(), { ...RANGE, kind: 'queues' });
    expect(queues.rows.map((r) => r.name)).toEqual(['Orders']);
    const people = await w.services.reading('review-each', lead(), { ...RANGE, kind: 'people' });
    expect(people.rows.map((r) => r.name).sort()).toEqual(['Old Odile Karrow', 'Old Tamsin Orrel']);
    const [one, two] = people.rows;
    const why = await w.services.reading('review-two', lead(), {
      ...RANGE,
      kind: 'people',
      id: one?.id ?? '',
      with: two?.id ?? '',
    });
    expect([...(why.why?.lines ?? []), ...(why.why?.rest ?? [])].map((l) => l.key)).toEqual(['not-known']);
    // Whoever supervises some teams meets none of it.
    const theirs = await w.services.reading('review-each', w.actor('Bertil Achterberg'), { ...RANGE, kind: 'queues' });
    expect(theirs.rows).toEqual([]);
  });
  it('is taken out again as if it had never been there', async () => {
    const { lines } = await elsewhere();
    writePast(
      w.db,
      threeWeeks('2026-10-26', 'Europe/Dublin', 'queue_newhire', ['person_05', 'person_04']).slice(0, 50),
    );
    upToNow(w);
    const own = await figures(w, 'queue_newhire');
    const before = everything(w);
    const old = lines.map((line) => line.replace('"id":"past', '"id":"old'));
    const id = await kept([
      ...old,
      JSON.stringify({ person: 'Tamsin Orrel', at: '2026-10-01T08:00:00Z', state: 'ready' }),
    ]);
    expect(view()).toMatchObject({ contacts: old.length, states: 1 });
    expect(await figures(w, 'queue_newhire')).not.toEqual(own);
    act('past-take-out', id);
    await over();
    const left = everything(w);
    for (const [table, rows] of Object.entries(before))
      if (!['sqlite_sequence', 'history', 'settings_versions', 'events', 'fact_days', 'fact_columns'].includes(table))
        expect([table, left[table]]).toEqual([table, rows]);
    expect(await figures(w, 'queue_newhire')).toEqual(own);
  });
  it('what is here already is not brought in twice', async () => {
    const { lines } = await elsewhere();
    await kept(lines.slice(0, 20));
    const id = await sent([...lines.slice(10, 30), lines[29] ?? '']);
    expect(view()?.checked).toMatchObject({ contacts: 10, refused: 11 });
    act('past-keep', id);
    await over();
    expect(view()).toMatchObject({ contacts: 10, skipped: 11 });
  });
});

describe('what goes wrong', () => {
  it('a file that is stopped or whose house stops goes on where it was, and has everything once', async () => {
    const { lines } = await elsewhere();
    const id = await sent(lines);
    act('past-keep', id);
    while ((view()?.done ?? 0) === 0) await new Promise((resume) => setImmediate(resume));
    act('past-stop', id);
    expect(await over()).toMatchObject({ state: 'there', fault: null });
    const stopped = view()?.done ?? 0;
    expect(stopped).toBeLessThan(lines.length);
    act('past-keep', id);
    while ((view()?.done ?? 0) <= stopped) await new Promise((resume) => setImmediate(resume));
    // As if the process had died: another takes the same database up.
    act('past-stop', id);
    await over();
    w.db.exec(`UPDATE past_imports SET state = 'keeping' WHERE id = '${id}'`);
    const again = w.restart();
    again.past.resume();
    const there = () => (again.read('past', lead(), {}) as PastView).files[0];
    while (there()?.state !== 'kept') await new Promise((resume) => setTimeout(resume, 5));
    expect(there()).toMatchObject({ contacts: lines.length, done: lines.length });
    expect(row<{ n: number }>(w.db, 'SELECT count(*) AS n FROM past_contacts')?.n).toBe(lines.length);
  });
  it('a disk that is full leaves what was kept before, says so, and it goes on when it can', async () => {
    const { lines } = await elsewhere();
    const id = await sent(lines);
    w.db.exec(`CREATE TEMP TRIGGER full BEFORE INSERT ON legs WHEN (SELECT count(*) FROM legs) > 200
      BEGIN SELECT RAISE(ABORT, 'disk is full'); END`);
    act('past-keep', id);
    expect(await over()).toMatchObject({ state: 'keeping', fault: 'disk is full' });
    expect(w.faults.splice(0)).toHaveLength(1);
    expect(view()?.contacts).toBe(row<{ n: number }>(w.db, 'SELECT count(*) AS n FROM past_contacts')?.n);
    w.db.exec('DROP TRIGGER full');
    act('past-keep', id);
    expect(await over()).toMatchObject({ state: 'kept', contacts: lines.length, fault: null });
  });
  it('of a file that is kept no text is left, also where a stop came while it was dropped', async () => {
    const { lines } = await elsewhere();
    const left = () => row<{ n: number }>(w.db, 'SELECT count(*) AS n FROM past_chunks')?.n;
    const id = await sent(lines.slice(0, 100), { at: 10 });
    expect(left()).toBe(10);
    // All lines are kept, and half of the text is dropped, when the process dies.
    w.db.exec(`UPDATE past_imports SET state = 'keeping', done = 100, place = 9, within = 10 WHERE id = '${id}'`);
    w.db.exec('DELETE FROM past_chunks WHERE place < 5');
    const again = w.restart();
    again.past.resume();
    const there = () => (again.read('past', lead(), {}) as PastView).files[0];
    while (there()?.state !== 'kept') await new Promise((resume) => setTimeout(resume, 5));
    expect(left()).toBe(0);
  });
  it('a file of which not all has come is not read', () => {
    const { id } = w.services.act('past-begin', lead(), { name: 'half.ndjson', isTable: false }) as { id: string };
    w.services.past.take(lead(), { id, place: 0, line: 1 }, { text: '{}' });
    // Sent twice, it is there once.
    w.services.past.take(lead(), { id, place: 0, line: 1 }, { text: '{}' });
    for (const chunks of [2, null])
      expect(codeOf(() => w.services.act('past-check', lead(), { id, chunks }))).toBe('not-now');
    expect(view()).toMatchObject({ state: 'coming', checked: null });
  });
  it('one thing at a time, in order, by whom it may be done', async () => {
    const id = await sent([JSON.stringify({ person: 'Ola', at: '2026-01-01T00:00:00Z', state: 'ready' })]);
    expect(codeOf(() => w.services.past.take(lead(), { id, place: 1, line: 2 }, { text: '{}' }))).toBe('not-now');
    expect(codeOf(() => act('past-stop', id))).toBe('not-found');
    expect(await codeIn(() => w.services.act('past-keep', w.actor('Bertil Achterberg'), { id }))).toBe('not-allowed');
    act('past-keep', id);
    expect(codeOf(() => act('past-take-out', id))).toBe('not-now');
    await over();
    expect(codeOf(() => act('past-keep', id))).toBe('not-now');
    act('past-take-out', id);
    await over();
    expect(view()).toBeUndefined();
    expect(
      w.services.history
        .view(lead(), {})
        .lines.slice(0, 2)
        .map((l) => [l.kindName, l.canUndo]),
    ).toEqual([
      ['file of the past', false],
      ['file of the past', false],
    ]);
  });
});
