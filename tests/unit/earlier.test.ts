import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { NOTHING_PLANTED } from '../../demo/crowd';
import { fillEarlier } from '../../demo/earlier';
import { bulkHost, liveThrough } from '../../demo/fill';
import { createWeek, type Week } from '../../demo/week';
import { seeded } from '../../src/core/chance';
import { beginBulk, endBulk } from '../../src/data/bulk';
import { rows } from '../../src/data/database';
import { replayAll } from '../../src/data/events';
import { startOfDay } from '../../src/core/hours/weekly';
import { makeWorld, type World } from '../helpers/world';

const ZONE = 'Europe/Dublin';
const DAY = 86_400_000;
let [lived, earlier]: [World, World] = [makeWorld(), makeWorld()];
beforeEach(() => {
  [lived, earlier] = [makeWorld(), makeWorld()];
});
afterEach(() => [lived, earlier].forEach((w) => w.close()));

/** A morning that is lived through, as an example of how contacts come. */
function morning(w: World, from: number): Week {
  const { hear, week } = createWeek();
  beginBulk(w.db);
  const until = from + 11 * 3_600_000;
  liveThrough(w.db, { from, until, seed: 3, scale: 0.3, planted: NOTHING_PLANTED }, () => undefined, hear);
  endBulk(w.db);
  return week();
}
function fill(w: World, week: Week, from: number, days: number, after = 0): number {
  beginBulk(w.db, after);
  const contacts = fillEarlier((now) => bulkHost(w.db, seeded(9), now), week, {
    from,
    until: from + days * DAY,
    chance: seeded(11),
    scale: 0.2,
  });
  endBulk(w.db);
  return contacts;
}
const count = (w: World, of: string): number => rows<{ n: number }>(w.db, `SELECT count(*) AS n FROM ${of}`)[0]?.n ?? 0;
const TABLES = ['contacts', 'visits', 'offers', 'legs', 'partner_calls', 'person_states'];

describe('the weeks before those that are lived through', () => {
  it('are the product’s own routing of contacts that came alike: each is over, and the log says the same', () => {
    const monday = startOfDay('2026-11-09', ZONE);
    const week = morning(lived, monday);
    // The clocks go back on the first of these days.
    const from = startOfDay('2026-10-25', ZONE);
    const contacts = fill(earlier, week, from, 3);
    expect(contacts).toBeGreaterThan(200);
    expect(count(earlier, 'contacts WHERE ended_at IS NOT NULL')).toBe(contacts);
    expect(count(earlier, 'packed_contacts')).toBe(contacts);
    expect(count(earlier, 'visits WHERE ended_at IS NULL')).toBe(0);
    expect(count(earlier, 'legs WHERE ended_at IS NULL')).toBe(0);
    expect(count(earlier, 'legs')).toBe(count(earlier, "visits WHERE ended_how = 'accepted'"));
    // Whoever was there went home, and came on both mornings at eight or after by their own clock.
    expect(count(earlier, "people WHERE duty <> 'off'")).toBe(0);
    const first = rows<{ at: number }>(earlier.db, "SELECT min(at) AS at FROM person_states WHERE duty = 'ready'")[0];
    expect(first?.at).toBeGreaterThanOrEqual(startOfDay('2026-10-26', ZONE) + 7 * 3_600_000);
    expect(count(earlier, 'messages')).toBe(0);
    const all = () => TABLES.map((table) => rows(earlier.db, `SELECT * FROM ${table} ORDER BY 1, 2`));
    const before = all();
    replayAll(earlier.db);
    expect(all()).toEqual(before);
  });
  it('are taken over from a database beside, before what was lived through in the log', () => {
    const monday = startOfDay('2026-11-09', ZONE);
    const { hear, week } = createWeek();
    beginBulk(lived.db, 1_000_000);
    const scale = 0.2;
    liveThrough(lived.db, { from: monday, until: monday + 10 * 3_600_000, seed: 3, scale }, () => undefined, hear);
    const contacts = fill(earlier, week(), startOfDay('2026-11-05', ZONE), 1);
    const [mine, theirs] = [lived, earlier].map((w) => TABLES.map((table) => count(w, table)));
    endBulk(lived.db, [join(earlier.folder, 'lane.db')]);
    expect(TABLES.map((table) => count(lived, table))).toEqual(mine?.map((n, i) => n + (theirs?.[i] ?? 0)));
    expect(count(lived, 'packed_contacts')).toBe(contacts);
    expect(count(lived, 'contacts WHERE no <= 1000000')).toBe(contacts);
    const before = rows(lived.db, 'SELECT id, duty, duty_since FROM people ORDER BY id');
    replayAll(lived.db);
    expect(rows(lived.db, 'SELECT id, duty, duty_since FROM people ORDER BY id')).toEqual(before);
  });
});
