import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { seeded } from '../../src/core/chance';
import { daySpan } from '../../src/core/measures/calendar';
import { measureById } from '../../src/core/measures/definitions';
import { tally } from '../../src/core/measures/counting';
import { emptyTally } from '../../src/core/measures/tally';
import type { LaneEvent } from '../../src/core/events';
import { tiesAround } from '../../src/data/customerties';
import { row, rows, run } from '../../src/data/database';
import { appendEvent, replayAll } from '../../src/data/events';
import { takeOut } from '../../src/data/past';
import { factDays } from '../../src/services/review/factdays';
import { sized } from '../helpers/size';
import { makeWorld, MIGRATIONS, MORNING, type World } from '../helpers/world';

/** Journeys: what a customer begins within a week of a first contact, on whatever channel, is one matter. */
const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const ZONE = 'Europe/London';
let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());

const customer = (id: string, channel: string): void =>
  void run(w.db, 'INSERT INTO customers (id, channel, address, vouched) VALUES (?, ?, ?, 1)', id, channel, id);
/** A contact that lasted ten minutes; with whom they talked, where they did. */
function contact(id: string, customerId: string, at: number, channel: 'sms' | 'voice', people: readonly string[] = []) {
  const say = (body: Parameters<typeof appendEvent>[1], when: number): LaneEvent => appendEvent(w.db, body, when, when);
  const door = { doorId: channel === 'voice' ? 'door_main' : 'door_sms', botId: null, botVersion: null };
  say({ type: 'contact.started', contactId: id, channel, customerId, language: 'en', ...door }, at);
  people.forEach((personId, i) => {
    const visit = { contactId: id, visitId: `${id}_v${i}` };
    say(
      {
        type: 'visit.began',
        ...visit,
        queueId: 'queue_billing',
        channel,
        settingsVersion: 1,
        placedAt: at,
        needs: [],
        priority: 0,
        goalSeconds: 30,
        because: 'a test',
      },
      at,
    );
    say({ type: 'visit.ended', ...visit, how: 'accepted' }, at);
    const leg = { contactId: id, legId: `${id}_l${i}`, personId };
    say({ type: 'leg.began', ...leg, visitId: visit.visitId }, at);
    say({ type: 'leg.ended', ...leg, outcome: null, handleSeconds: 60 }, at + 60_000);
  });
  say({ type: 'contact.ended', contactId: id, how: 'resolved' }, at + 600_000);
}
const joined = (tieId: string, customerId: string, otherId: string): void =>
  void appendEvent(
    w.db,
    { type: 'customer.joined', tieId, customerId, otherId, how: 'by-hand', byPersonId: 'person_01', inContactId: null },
    MORNING,
    MORNING,
  );
const parts = () =>
  rows<{ id: string; first: string | null }>(
    w.db,
    'SELECT c.id, f.id AS first FROM contacts c LEFT JOIN contacts f ON f.no = c.part_of ORDER BY c.id',
  );
/** By the rule itself: over all that customers who are one began, in its order. */
function expected(whose: ReadonlyMap<string, { readonly who: string; readonly at: number; readonly no: number }>) {
  const found: { id: string; first: string | null }[] = [];
  for (const who of new Set([...whose.values()].map((c) => c.who))) {
    const theirs = [...whose].filter(([, c]) => c.who === who).sort(([, a], [, b]) => a.at - b.at || a.no - b.no);
    let [first, since] = ['', -Infinity];
    for (const [id, { at }] of theirs)
      if (at <= since + 7 * DAY) found.push({ id, first });
      else {
        found.push({ id, first: null });
        [first, since] = [id, at];
      }
  }
  return found.sort((a, b) => (a.id < b.id ? -1 : 1));
}

describe('journeys', () => {
  it('are the rule’s own, in whatever order contacts come, customers are joined and parted, and some are taken out', () => {
    const step = fc.oneof(
      { weight: 6, arbitrary: fc.record({ does: fc.constant('come' as const), of: fc.nat(2), day: fc.nat(30) }) },
      { weight: 1, arbitrary: fc.record({ does: fc.constant('join' as const), of: fc.nat(2), to: fc.nat(2) }) },
      { weight: 1, arbitrary: fc.record({ does: fc.constant('part' as const), nth: fc.nat(9) }) },
      { weight: 1, arbitrary: fc.record({ does: fc.constant('leave' as const), nth: fc.nat(30) }) },
    );
    let run_ = 0;
    fc.assert(
      fc.property(fc.array(step, { maxLength: 25 }), (steps) => {
        w.db.exec('SAVEPOINT journeys');
        const name = `r${run_++}`;
        const all = [0, 1, 2].map((i) => `${name}_${i}`);
        for (const id of all) customer(id, 'sms');
        let made = 0;
        for (const one of steps) {
          const id = `${name}_c${made++}`;
          if (one.does === 'come') contact(id, all[one.of] ?? '', MORNING - one.day * DAY, 'sms');
          else if (one.does === 'join') {
            if (one.of !== one.to) joined(`${name}_t${id}`, all[one.of] ?? '', all[one.to] ?? '');
          } else if (one.does === 'part') {
            const ties = all.flatMap((c) => tiesAround(w.db, c));
            const tie = ties[one.nth % Math.max(1, ties.length)];
            if (tie)
              appendEvent(w.db, { type: 'customer.parted', tieId: tie.id, byPersonId: 'person_01' }, MORNING, MORNING);
          } else {
            const there = rows<{ no: number; customerId: string }>(
              w.db,
              'SELECT no, customer_id AS customerId FROM contacts ORDER BY no',
            );
            const gone = there[one.nth % Math.max(1, there.length)];
            // Customers stay: only what they began goes.
            if (gone && there.filter((c) => c.customerId === gone.customerId).length > 1) takeOut(w.db, gone.no);
          }
        }
        const whose = new Map(
          rows<{ id: string; who: string; at: number; no: number }>(
            w.db,
            `SELECT c.id, coalesce(s.main_id, c.customer_id) AS who, c.started_at AS at, c.no FROM contacts c
              LEFT JOIN customer_stands s ON s.customer_id = c.customer_id`,
          ).map(({ id, ...rest }) => [id, rest]),
        );
        expect(parts()).toEqual(expected(whose));
        w.db.exec('ROLLBACK TO journeys; RELEASE journeys');
      }),
      { numRuns: sized({ quick: 30, usual: 120, long: 2000 }) },
    );
  });

  it('of contacts that were there before journeys were kept are the same', () => {
    const upgrade = readFileSync(join(MIGRATIONS, '026-journeys-and-calls.sql'), 'utf8').split(
      '-- Journeys of contacts',
    )[1];
    for (const [i, id] of ['one', 'two', 'three'].entries()) customer(id, i === 1 ? 'voice' : 'sms');
    const chance = seeded(3);
    for (let i = 0; i < 120; i++) {
      const whose = chance.pick(['one', 'two', 'three']);
      // Some begin at one instant.
      contact(`c${String(i).padStart(3, '0')}`, whose, MORNING - Math.floor(chance.next() * 60) * DAY, 'sms');
    }
    joined('tie', 'one', 'two');
    const before = parts();
    expect(before.filter((c) => c.first === null).length).toBeGreaterThan(10);
    run(w.db, 'UPDATE contacts SET part_of = NULL');
    w.db.exec(`--${upgrade}`);
    expect(parts()).toEqual(before);
  });

  it('count once, when all of them is over and a week has passed: their time, contacts, channels and people', () => {
    customer('ada', 'sms');
    customer('ada-calls', 'voice');
    const monday = daySpan('2026-11-02', ZONE);
    const at = monday.from + 10 * HOUR;
    contact('first', 'ada', at, 'sms', ['person_04']);
    contact('second', 'ada-calls', at + 2 * DAY, 'voice', ['person_05']);
    contact('third', 'ada', at + 9 * DAY, 'sms');
    const figures = () => {
      const one = tally(factDays(w, [monday]), {}).get('') ?? emptyTally();
      return ['journey', 'journey-several', 'journey-channels', 'journey-people'].map(
        (id) => measureById(id)?.value(one) ?? null,
      );
    };
    w.at(at + 9 * DAY);
    // Two customers, as far as anybody knows.
    expect(figures()).toEqual([600, 0, 0, 0]);
    joined('tie', 'ada', 'ada-calls');
    expect(figures()).toEqual([2 * 86_400 + 600, 1, 1, 1]);
    // What began more than a week later is a matter of its own.
    expect(parts().map((c) => c.first)).toEqual([null, 'first', null]);
    const before = [parts(), figures()];
    replayAll(w.db);
    expect([parts(), figures()]).toEqual(before);
  });

  it('are not told while it cannot be known, or one of them is still open', () => {
    customer('bo', 'sms');
    const tuesday = daySpan('2026-11-03', ZONE);
    const at = tuesday.from + 10 * HOUR;
    contact('first', 'bo', at, 'sms');
    const known = () => measureById('journey')?.count(tally(factDays(w, [tuesday]), {}).get('') ?? emptyTally());
    w.at(at + 6 * DAY);
    appendEvent(w.db, { type: 'person.duty', personId: 'person_04', duty: 'ready', reason: null }, at + 6 * DAY, 0);
    expect(known()).toBe(0);
    const open = at + 6 * DAY;
    appendEvent(
      w.db,
      {
        type: 'contact.started',
        contactId: 'open',
        doorId: 'door_sms',
        channel: 'sms',
        customerId: 'bo',
        language: 'en',
        botId: null,
        botVersion: null,
      },
      open,
      open,
    );
    w.at(at + 12 * DAY);
    appendEvent(w.db, { type: 'person.duty', personId: 'person_04', duty: 'off', reason: null }, at + 12 * DAY, 0);
    expect(known()).toBe(0);
    appendEvent(w.db, { type: 'contact.ended', contactId: 'open', how: 'resolved' }, at + 12 * DAY, at + 12 * DAY);
    expect(known()).toBe(1);
  });

  it('of somebody who came thousands of times are put anew in no more than a moment, and lose nobody', () => {
    customer('many', 'sms');
    const first = MORNING - 90 * DAY;
    for (let i = 0; i < 1500; i++) contact(`m${String(i).padStart(4, '0')}`, 'many', first + i * HOUR, 'sms');
    customer('other', 'voice');
    contact('o', 'other', first - HOUR, 'voice');
    joined('tie', 'other', 'many');
    // Each is the first of a journey, or goes on with one that is.
    const lost = row<{ n: number }>(
      w.db,
      'SELECT count(*) AS n FROM contacts c JOIN contacts f ON f.no = c.part_of WHERE f.part_of IS NOT NULL',
    );
    expect(lost?.n).toBe(0);
    expect(parts().find((c) => c.id === 'm0100')?.first).toBe('o');
  });
});
