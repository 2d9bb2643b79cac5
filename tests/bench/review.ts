import { existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { fillSettings } from '../../demo/fill';
import { type Chance, seeded } from '../../src/core/chance';
import type { Channel } from '../../src/core/channels';
import type { EventBody } from '../../src/core/events';
import { codeOfType, EVENT_VERSION, packedBody } from '../../src/core/eventshapes';
import { seededIds } from '../../src/core/ids';
import { plusDays } from '../../src/core/hours/dates';
import { daySpan } from '../../src/core/measures/calendar';
import { type Db, row, rows, run } from '../../src/data/database';
import { databaseFile, openDatabase } from '../../src/data/databasefile';
import { keptDays } from '../../src/data/factdays';
import { readDoors } from '../../src/data/doors';
import { readOutcomes } from '../../src/data/outcomes';
import { type EventRow, writePacked } from '../../src/data/packed';
import { readPeople } from '../../src/data/people';
import { readQueues } from '../../src/data/queuesettings';
import { createHeavyPool } from '../../src/server/heavypool';
import { createServices } from '../../src/services';
import type { ReadingName } from '../../src/services/readings';
import { actorOf } from '../../src/services/ground/actor';
import { createHost } from '../../src/services/ground/host';
import { sealWith } from '../../src/services/ground/tokens';
import { makeDay } from '../../src/services/review/factdays';
import { keepWhole } from '../../src/services/review/keepdays';

/**
 * Review over a year of two million contacts: how long each page takes from a cold thread and after it, against one
 * indexed aggregate of SQLite over the same rows, what the thread that routes feels of it, and what a day costs to keep.
 * The year is written through the product's own tables, packed and without words, and kept between runs.
 */
const CONTACTS = Number(process.env.LANE_BENCH_CONTACTS ?? 2_000_000);
const LAST = '2026-11-15';
const DAYS = 365;
const ZONE = 'Europe/London';
const FOLDER = `dist/bench-year-${CONTACTS}`;
/** How often each page is asked for; of so few the 95th percentile is the slowest. */
const TIMES = 10;

if (!existsSync(FOLDER)) {
  const making = `${FOLDER}.making`;
  rmSync(making, { recursive: true, force: true });
  mkdirSync(making, { recursive: true });
  writeYear(making);
  renameSync(making, FOLDER);
}
const { db, close } = openDatabase(FOLDER, 'src/data/migrations', { synchronous: 'FULL' });
keepDays(db);
const floor = daySpan(plusDays(LAST, 1), ZONE).from + 9 * 3_600_000;
const times = { real: () => Date.now(), floor: () => floor };
const host = createHost(db, seededIds(seeded(Date.now())), times);
const pool = createHeavyPool(join(process.cwd(), 'dist/heavyworker.mjs'), databaseFile(FOLDER), times);
const services = createServices(host, { seal: sealWith(Buffer.alloc(32, 1)), reading: pool.reading });
const person = readPeople(db).find((p) => p.roleId === 'owner');
const actor = person && actorOf(db, person.id);
if (!actor) throw new Error('nobody may ask');

const week = { from: plusDays(LAST, -6), to: LAST };
const year = { from: plusDays(LAST, -364), to: LAST };
const [queue = '', other = ''] = readQueues(db).map((q) => q.id);
const [somebody = '', another = ''] = readPeople(db)
  .slice(5)
  .map((p) => p.id);
const two = { queue: `${queue},${other}`, channel: 'chat' };
const QUESTIONS: readonly (readonly [string, ReadingName, object])[] = [
  ['overview', 'review', {}],
  ['overview, two filters', 'review', two],
  ['overview, four filters', 'review', { ...two, language: 'en', hours: 'open' }],
  ['people', 'review-each', { kind: 'people' }],
  ['queues', 'review-each', { kind: 'queues' }],
  ['outcomes, one filter', 'review-each', { kind: 'outcomes', queue }],
  ['a person', 'review-subject', { kind: 'people', id: somebody }],
  ['a queue', 'review-subject', { kind: 'queues', id: queue }],
  ['behind service level', 'behind', { measure: 'service-level' }],
  ['what changed', 'review-changes', {}],
  ['what changed, one filter', 'review-changes', { queue }],
  ['why two differ', 'review-two', { kind: 'people', id: somebody, with: another }],
  ['time used', 'time-used', { kind: 'people', id: somebody }],
  ['find by customer', 'find-contacts', { customer: 'nobody' }],
];

const contacts = row<{ n: number }>(db, 'SELECT count(*) AS n FROM contacts')?.n ?? 0;
console.log(`review: ${contacts.toLocaleString('en')} contacts over ${DAYS} days`);
const percentile = (all: readonly number[], share: number) =>
  all.toSorted((a, b) => a - b)[Math.min(all.length - 1, Math.ceil(all.length * share) - 1)] ?? 0;
async function timed(work: () => unknown): Promise<number> {
  const at = performance.now();
  await work();
  return performance.now() - at;
}
/** An arrival, taken back at once: what deciding about it takes beside the questions. */
const door = readDoors(db)[0];
class TakenBack extends Error {}
function arrival(): void {
  try {
    host.transact((tx) => {
      if (door) services.contacts.arrive(tx, door, { address: 'bench', name: null, language: null, vouched: false });
      throw new TakenBack();
    });
  } catch (error) {
    if (!(error instanceof TakenBack)) throw error;
  }
}

// One indexed aggregate over the visits of the same range.
const aggregate = async ({ from, to }: typeof week) => {
  const [a, b] = [daySpan(from, ZONE).from, daySpan(to, ZONE).to];
  return timed(() =>
    row(
      db,
      `SELECT count(*) AS n, sum(ended_how = 'accepted') AS taken, sum(ended_at - placed_at) AS waited FROM visits
        WHERE entered_at >= ? AND entered_at < ?`,
      a,
      b,
    ),
  );
};
const sql = { week: await aggregate(week), year: await aggregate(year) };
console.log(`  one aggregate of SQLite: week ${sql.week.toFixed(0)} ms, year ${sql.year.toFixed(0)} ms`);
console.log(
  `  ${'page'.padEnd(26)}${['week first', '95%', '× SQL', 'year first', '95%', '× SQL'].map((h) => h.padStart(11)).join('')}`,
);

for (let i = 0; i < 20; i++) arrival();
const alone: number[] = [];
for (let i = 0; i < 40; i++) alone.push(await timed(arrival));
const quiet = monitorEventLoopDelay({ resolution: 1 });
quiet.enable();
await new Promise((resolve) => setTimeout(resolve, 3000));
quiet.disable();
const busy = monitorEventLoopDelay({ resolution: 1 });
const beside: number[] = [];
let asking = true;
const arriving = (async () => {
  while (asking) {
    beside.push(await timed(arrival));
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
})();
busy.enable();
for (const [name, reading, asked] of QUESTIONS) {
  const cells: string[] = [];
  for (const [range, alike] of [
    [week, sql.week],
    [year, sql.year],
  ] as const) {
    const took: number[] = [];
    for (let i = 0; i < TIMES; i++)
      took.push(await timed(() => pool.reading(reading, actor, { ...range, ...asked } as never)));
    const [first = 0, ...later] = took;
    const p95 = percentile(later, 0.95);
    cells.push(`${first.toFixed(0)} ms`, `${p95.toFixed(0)} ms`, (p95 / alike).toFixed(1));
  }
  console.log(`  ${name.padEnd(26)}${cells.map((c) => c.padStart(11)).join('')}`);
}
busy.disable();
asking = false;
await arriving;
const ms = (nanoseconds: number) => (nanoseconds / 1e6).toFixed(1);
console.log(
  `  the thread that routes: 99% ${ms(busy.percentile(99))} ms late (quiet ${ms(quiet.percentile(99))}), an arrival ` +
    `${percentile(beside, 0.5).toFixed(2)} ms (alone ${percentile(alone, 0.5).toFixed(2)}, ${(percentile(beside, 0.5) / percentile(alone, 0.5)).toFixed(1)}×)`,
);

// What keeping a day costs.
const day = daySpan(plusDays(LAST, -5), ZONE);
const making = await timed(() => makeDay(host, day));
const made = makeDay(host, day);
const writing = await timed(() => host.transact((tx) => keepWhole(tx.db, made)));
const rowsMade = made.parts.contacts[0]?.data.length ?? 0;
console.log(
  `  a day of ${rowsMade} contacts: made in ${making.toFixed(0)} ms (a thread of its own), written in ${writing.toFixed(1)} ms, in turns of 4`,
);
for (const { name, bytes } of rows<{ name: string; bytes: number }>(
  db,
  `SELECT coalesce(m.tbl_name, s.name) AS name, sum(s.pgsize) AS bytes FROM dbstat s LEFT JOIN sqlite_schema m ON m.name = s.name
    WHERE coalesce(m.tbl_name, s.name) IN ('contacts', 'visits', 'offers', 'legs', 'packed_contacts', 'fact_columns', 'fact_rollups') GROUP BY 1 ORDER BY 2 DESC`,
))
  console.log(`  ${name.padEnd(20)}${String(Math.round(bytes / contacts)).padStart(6)} bytes a contact`);
pool.close();
close();

/** A year of made-up contacts: by weekday and hour, each with what becomes of it, packed as long ago. */
function writeYear(folder: string): void {
  const began = performance.now();
  const { db: made, close: done } = openDatabase(folder, 'src/data/migrations', { synchronous: 'OFF' });
  fillSettings(made, daySpan(plusDays(LAST, -DAYS), ZONE).from);
  const chance = seeded(9);
  const doors = readDoors(made);
  const queues = readQueues(made).map((q) => q.id);
  const people = readPeople(made).map((p) => p.id);
  const outcomes = readOutcomes(made).map((o) => o.code);
  run(made, "INSERT INTO customers (id, channel, address, vouched) VALUES ('customer_all', 'chat', 'bench', 0)");
  const readers = [
    'contacts_started',
    'legs_ended',
    'legs_taken',
    'offers_of_person',
    'offers_of',
    'visits_entered',
    'visits_of',
    'legs_of',
  ];
  const left = rows<{ name: string; sql: string }>(
    made,
    `SELECT name, sql FROM sqlite_schema WHERE type = 'index' AND name IN (${readers.map(() => '?').join()})`,
    ...readers,
  );
  for (const { name } of left) made.exec(`DROP INDEX ${name}`);
  const from = plusDays(LAST, 1 - DAYS);
  const shape = [1.2, 1.1, 1, 1, 0.95, 0.5, 0.25];
  let seq = 1;
  let written = 0;
  for (let d = 0; d < DAYS; d++) {
    const date = plusDays(from, d);
    const span = daySpan(date, ZONE);
    const many = Math.round(((CONTACTS / DAYS) * (shape[d % 7] ?? 1) * 7) / 6);
    made.transaction(() => {
      const starts = Array.from(
        { length: many },
        () => span.from + Math.floor((7 + 14 * chance.next()) * 3_600_000),
      ).sort((a, b) => a - b);
      for (const at of starts) seq = writeContact(made, { chance, doors, queues, people, outcomes }, seq, at);
    })();
    written += many;
    if (d % 30 === 29)
      process.stderr.write(
        `writing the year: ${written} contacts, ${((performance.now() - began) / 1000).toFixed(0)} s\n`,
      );
  }
  run(
    made,
    "INSERT INTO sqlite_sequence (name, seq) SELECT 'events', ? WHERE NOT EXISTS (SELECT 1 FROM sqlite_sequence WHERE name = 'events')",
    seq,
  );
  run(made, "UPDATE sqlite_sequence SET seq = ? WHERE name = 'events'", seq);
  for (const { sql: index } of left) made.exec(index);
  done();
  process.stderr.write(`written in ${((performance.now() - began) / 1000).toFixed(0)} s\n`);
}

/** Keeps the days of the year that are not kept, or by an earlier form. */
function keepDays(made: Db): void {
  const began = performance.now();
  const from = plusDays(LAST, 1 - DAYS);
  const kept = new Set(keptDays(made, daySpan(from, ZONE).from, daySpan(LAST, ZONE).to).map((day) => day.fromAt));
  const missing = Array.from({ length: DAYS }, (_, d) => daySpan(plusDays(from, d), ZONE)).filter(
    (span) => !kept.has(span.from),
  );
  for (const span of missing) {
    const day = makeDay({ db: made }, span);
    made.transaction(() => keepWhole(made, day))();
  }
  if (missing.length > 0)
    process.stderr.write(`${missing.length} days kept in ${((performance.now() - began) / 1000).toFixed(0)} s\n`);
}

type Company = {
  readonly chance: Chance;
  readonly doors: ReturnType<typeof readDoors>;
  readonly queues: readonly string[];
  readonly people: readonly string[];
  readonly outcomes: readonly string[];
};
function writeContact(made: Db, { chance, doors, queues, people, outcomes }: Company, seq: number, at: number): number {
  const [door, queueId] = [chance.pick(doors), chance.pick(queues)];
  const channel: Channel = door.channel;
  const [id, visitId, legId] = [`contact_${seq}`, `visit_${seq}`, `leg_${seq}`];
  const events: EventRow[] = [];
  const happened = (body: EventBody, when: number) =>
    void events.push({
      seq: seq + events.length,
      code: codeOfType(body.type),
      v: EVENT_VERSION,
      floorAt: when,
      realAt: null,
      body: packedBody(body),
    });
  const language = chance.next() < 0.8 ? 'en' : 'fr';
  happened(
    {
      type: 'contact.started',
      contactId: id,
      doorId: door.id,
      channel,
      customerId: 'customer_all',
      language,
      botId: door.botId,
      botVersion: 1,
      open: true,
    },
    at,
  );
  const alone = chance.next() < 0.3;
  const entered = at + 30_000;
  happened(
    {
      type: 'bot.finished',
      contactId: id,
      lineId: 'l2',
      how: alone ? 'ended' : 'handed-over',
      because: null,
      path: ['l1>next', 'l2>next'],
    },
    entered,
  );
  const wait = Math.floor(chance.exponential(20_000));
  const lost = chance.next() < 0.05;
  const [answered, handled] = [entered + wait, Math.floor(120_000 + chance.next() * 400_000)];
  const over = alone ? at + 60_000 : lost ? answered : answered + handled;
  const how = alone ? 'bot' : lost ? 'gave-up' : 'resolved';
  run(
    made,
    'INSERT INTO contacts (no, id, door_id, channel, customer_id, language, bot_id, bot_version, open, started_at, ended_at, ended_how) VALUES (?, ?, ?, ?, ?, ?, ?, 1, 1, ?, ?, ?)',
    seq,
    id,
    door.id,
    channel,
    'customer_all',
    language,
    door.botId,
    at,
    over,
    how,
  );
  if (!alone) {
    const personId = chance.pick(people);
    happened(
      {
        type: 'visit.began',
        contactId: id,
        visitId,
        queueId,
        channel,
        settingsVersion: 1,
        placedAt: entered,
        needs: [],
        priority: 0,
        goalSeconds: 30,
        because: 'made up',
      },
      entered,
    );
    run(
      made,
      `INSERT INTO visits (id, entry, contact_id, queue_id, channel, settings_version, placed_at, entered_at, ended_at, ended_how, needs, priority, goal_seconds, hand_over, passed, callback)
        VALUES (?, ?, ?, ?, ?, 1, ?, ?, ?, ?, '[]', 0, 30, '[]', '[]', 0)`,
      visitId,
      seq,
      id,
      queueId,
      channel,
      entered,
      entered,
      answered,
      lost ? 'gave-up' : 'accepted',
    );
    happened({ type: 'visit.ended', contactId: id, visitId, how: lost ? 'gave-up' : 'accepted' }, answered);
    if (!lost) {
      const outcome = chance.pick(outcomes);
      run(
        made,
        "INSERT INTO offers (id, visit_id, person_id, made_at, accept_by, ended_at, ended_how) VALUES (?, ?, ?, ?, ?, ?, 'accepted')",
        `offer_${seq}`,
        visitId,
        personId,
        answered - 1000,
        answered + 20_000,
        answered,
      );
      run(
        made,
        'INSERT INTO legs (id, contact_id, visit_id, person_id, accepted_at, talk_ended_at, ended_at, passed_on, first_reply_at, outcome, handle_seconds) VALUES (?, ?, ?, ?, ?, ?, ?, 0, ?, ?, ?)',
        legId,
        id,
        visitId,
        personId,
        answered,
        over - 20_000,
        over,
        answered + 15_000,
        outcome,
        handled / 1000,
      );
      happened({ type: 'leg.began', contactId: id, visitId, legId, personId }, answered);
      happened({ type: 'leg.ended', contactId: id, legId, personId, outcome, handleSeconds: handled / 1000 }, over);
    }
  }
  happened({ type: 'contact.ended', contactId: id, how }, over);
  writePacked(made, seq, { events, said: [], decisions: [] });
  return seq + events.length;
}
