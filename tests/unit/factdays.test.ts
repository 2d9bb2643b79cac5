import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fillHistory } from '../../demo/fill';
import { daySpan } from '../../src/core/measures/calendar';
import { MEASURES } from '../../src/core/measures/definitions';
import { CHANNELS } from '../../src/core/channels';
import type { Narrowing } from '../../src/core/measures/narrowing';
import { tally } from '../../src/core/measures/counting';
import { emptyTally } from '../../src/core/measures/tally';
import { row, run } from '../../src/data/database';
import { openReader } from '../../src/data/databasefile';
import { dropDays, keptDays, stillHolds } from '../../src/data/factdays';
import { replayAll } from '../../src/data/events';
import { join } from 'node:path';
import type { Actor } from '../../src/services/ground/actor';
import { asFactDay, factDays, makeDay } from '../../src/services/review/factdays';
import { sized } from '../helpers/size';
import { makeWorld, MORNING, type World } from '../helpers/world';

/**
 * Days that are kept as columns say what the tables say, whenever they are asked, whatever has happened since they were
 * kept.
 */
const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const ZONE = 'Europe/London';
let w: World;
const lead = (): Actor => w.actor('Noor Amsel');
const evening = MORNING - 17 * HOUR;
beforeAll(() => {
  w = makeWorld();
  // Yesterday until half past five, with contacts still open when the day is over.
  const begin = evening - sized({ quick: 1, usual: 2, long: 6 }) * HOUR;
  w.at(begin);
  fillHistory(w.db, begin, evening, 5, 0.5, () => undefined);
  w.at(evening);
});
afterAll(() => w.close());

const yesterday = () => daySpan('2026-11-16', ZONE);
/** From what is counted of days, and from their rows: by several channels no roll-up says anything. */
const WAYS: readonly Narrowing[] = [{}, { channel: CHANNELS }];
const valuesOf = (days: Parameters<typeof tally>[0], ways = WAYS) =>
  ways.flatMap((asked) => {
    const one = tally(days, asked).get('') ?? emptyTally();
    return MEASURES.map((m) => [m.id, m.value(one), m.count(one)]);
  });
/** What the tables say now, and what a reader beside the server finds. */
const directly = () => valuesOf([asFactDay(yesterday(), makeDay(w, yesterday()))]);
const asked = () => {
  const db = openReader(join(w.folder, 'lane.db'));
  const found = valuesOf(factDays({ db }, [yesterday()]));
  db.close();
  return found;
};
const kept = () => keptDays(w.db, yesterday().from, yesterday().to)[0];
const keepAll = async () => {
  while (await w.services.dayKeeper.keepOne());
};

describe('a day', () => {
  it('that is not over is made anew whenever it is asked for', async () => {
    await keepAll();
    expect(kept()).toBeUndefined();
    expect(asked()).toEqual(directly());
    expect(directly().find(([id]) => id === 'started')?.[1]).toBeGreaterThan(20);
  });
  it('that is over is kept, and read from what was kept', async () => {
    w.at(yesterday().to + 60_000);
    await keepAll();
    const day = kept();
    expect(day && stillHolds(w.db, day)).toBe(true);
    expect(asked()).toEqual(directly());
    // What is kept is what is read: what is changed in it by hand is believed.
    const [half, before] = [MEASURES.length, asked()];
    expect(before.slice(0, half)).toEqual(before.slice(half));
    w.db.exec('SAVEPOINT changed');
    run(w.db, "UPDATE fact_columns SET data = zeroblob(length(data)) WHERE part = 'visits' AND name = 'waited'");
    run(w.db, `UPDATE fact_rollups SET counted = replace(counted, '"numbers":[', '"numbers":[1')`);
    const changed = valuesOf(factDays({ db: w.db }, [yesterday()]));
    expect(changed.slice(0, half)).not.toEqual(before.slice(0, half));
    expect(changed.slice(half)).not.toEqual(before.slice(half));
    w.db.exec('ROLLBACK TO changed; RELEASE changed');
  });
  it('is counted anew when something happens in a contact that was still open', async () => {
    const open = row<{ id: string; no: number }>(w.db, 'SELECT id, no FROM contacts WHERE ended_at IS NULL LIMIT 1');
    expect(open && kept()?.openContacts.includes(open.no)).toBe(true);
    w.pass(HOUR / 1000);
    w.services.host.transact((tx) => {
      tx.emit({ type: 'contact.ended', contactId: open?.id ?? '', how: 'closed-by-us' });
    });
    const day = kept();
    expect(day && stillHolds(w.db, day)).toBe(false);
    expect(asked()).toEqual(directly());
    await keepAll();
    expect(kept()?.seq).toBeGreaterThan(day?.seq ?? 0);
    expect(asked()).toEqual(directly());
  });
  it('has what was written in it, in whichever day the contact began', () => {
    const said = (date: string) =>
      tally(factDays({ db: w.db }, [daySpan(date, ZONE)]), {}).get('')?.messages.byPerson.sum ?? 0;
    const open = row<{ id: string }>(w.db, 'SELECT id FROM contacts WHERE ended_at IS NULL LIMIT 1');
    const [before, after] = [said('2026-11-16'), said('2026-11-17')];
    w.services.host.transact((tx) => {
      tx.emit({
        type: 'message.written',
        contactId: open?.id ?? '',
        from: 'person',
        personId: 'person_04',
        lineId: null,
      });
    });
    expect([said('2026-11-16'), said('2026-11-17')]).toEqual([before, after + 1]);
  });
  it('is forgotten when a contact that was over goes on', async () => {
    await keepAll();
    const over = row<{ id: string; queueId: string }>(
      w.db,
      `SELECT c.id, v.queue_id AS queueId FROM contacts c JOIN visits v ON v.contact_id = c.id
        WHERE c.ended_at IS NOT NULL LIMIT 1`,
    );
    expect(kept()).toBeDefined();
    w.services.host.transact((tx) => {
      tx.emit({
        type: 'visit.began',
        contactId: over?.id ?? '',
        visitId: 'visit_again',
        queueId: 'queue_billing',
        channel: 'chat',
        settingsVersion: 1,
        placedAt: tx.floorAt,
        needs: [],
        priority: 0,
        goalSeconds: 30,
        because: 'a test',
      });
    });
    expect(kept()).toBeUndefined();
    expect(asked()).toEqual(directly());
    w.services.host.transact((tx) => {
      tx.emit({ type: 'visit.ended', contactId: over?.id ?? '', visitId: 'visit_again', how: 'closed-by-us' });
    });
    await keepAll();
    expect(asked()).toEqual(directly());
  });
  it('that was dropped while it was made is made again', async () => {
    dropDays(w.db, yesterday().from, yesterday().to);
    const keeper = w.services.dayKeeper.keepOne();
    dropDays(w.db, yesterday().from, yesterday().to);
    expect(await keeper).toBe(true);
    expect(kept()).toBeUndefined();
    await keepAll();
    expect(kept()).toBeDefined();
  });
  it('of which a stop left only some columns is not read, and kept again', async () => {
    run(w.db, 'UPDATE fact_days SET shape = 0');
    run(w.db, "DELETE FROM fact_columns WHERE part = 'legs'");
    expect(kept()).toBeUndefined();
    expect(asked()).toEqual(directly());
    await keepAll();
    expect(kept()).toBeDefined();
    expect(asked()).toEqual(directly());
  });
  it('of another zone is another day', async () => {
    await keepAll();
    const there = daySpan('2026-11-16', 'Asia/Tokyo');
    const made = valuesOf([asFactDay(there, makeDay(w, there))]);
    expect(valuesOf(factDays({ db: w.db }, [there]))).toEqual(made);
    expect(made).not.toEqual(directly());
  });
  it('is the same from the log alone', async () => {
    const before = directly();
    replayAll(w.db);
    expect(kept()).toBeUndefined();
    expect(directly()).toEqual(before);
    await keepAll();
    expect(asked()).toEqual(before);
  });
});

describe('what the log says of a contact from now on', () => {
  it('whether its door was open', () => {
    expect(row(w.db, 'SELECT count(*) AS n FROM contacts WHERE open = 1')).not.toEqual({ n: 0 });
    expect(row(w.db, 'SELECT count(*) AS n FROM contacts WHERE open IS NULL')).toEqual({ n: 0 });
  });
  it('and where that was not kept, the hours say so', () => {
    const rowsOf = () => makeDay(w, yesterday()).parts.contacts.find((c) => c.name === 'open');
    const before = rowsOf();
    w.db.exec('SAVEPOINT older');
    run(w.db, 'UPDATE contacts SET open = NULL');
    const after = rowsOf();
    w.db.exec('ROLLBACK TO older; RELEASE older');
    expect(after).toEqual(before);
  });
  it('the team somebody was in then, not the one they are in now', () => {
    const handledBy = () =>
      [...tally([asFactDay(yesterday(), makeDay(w, yesterday()))], {}, { by: ['team'], parts: ['legs'] })]
        .map(([team, t]) => [team, t.legs.handles.count])
        .sort();
    const before = handledBy();
    const { people } = w.services.people.view(lead());
    const one = people.find((p) => row(w.db, 'SELECT 1 FROM legs WHERE person_id = ?', p.id));
    const other = people.find((p) => p.teamId !== one?.teamId)?.teamId ?? '';
    w.pass(60);
    run(w.db, 'UPDATE people SET team_id = ? WHERE id = ?', other, one?.id ?? '');
    expect(handledBy()).toEqual(before);
    expect(
      row(
        w.db,
        'SELECT team_id AS team FROM team_spells WHERE person_id = ? ORDER BY from_at DESC LIMIT 1',
        one?.id ?? '',
      ),
    ).toEqual({ team: other });
    // Moved and moved back before anything else happens: one spell, of the team they are in.
    run(w.db, 'UPDATE people SET team_id = ? WHERE id = ?', one?.teamId ?? '', one?.id ?? '');
    expect(
      row(
        w.db,
        'SELECT count(*) AS n, max(team_id) FILTER (WHERE from_at > 0) AS team FROM team_spells WHERE person_id = ?',
        one?.id ?? '',
      ),
    ).toEqual({ n: 2, team: one?.teamId });
    expect(handledBy()).toEqual(before);
  });
});

describe('a year of days', () => {
  it('none of which is kept or has anything is no trouble', () => {
    const spans = Array.from({ length: 366 }, (_, i) => ({ from: i * DAY, to: (i + 1) * DAY, weekday: 1, hours: [] }));
    expect(tally(factDays({ db: w.db }, spans), {}).size).toBe(0);
  });
});
