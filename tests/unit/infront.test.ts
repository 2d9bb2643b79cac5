import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { row, rows } from '../../src/data/database';
import { replayAll } from '../../src/data/events';
import { readLeg } from '../../src/data/legs';
import { handsIn } from '../helpers/hands';
import { makeWorld, type World } from '../helpers/world';

let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());
const { chat, ready, take, tamsin } = handsIn(() => w);
const MINUTE = 60;
/** Somebody looks at a turn (null: at none) for so long; their Desk says so every 15 s. */
function looks(legId: string | null, seconds: number, more: object = {}): void {
  const say = () => w.services.desk.beat(tamsin(), { window: 'one', legId, seen: true, focused: true, ...more });
  say();
  for (let gone = 0; gone < seconds; gone += 15) {
    w.at(w.now() + Math.min(15, seconds - gone) * 1000);
    say();
    w.services.inFront.tick();
  }
}
const passes = (seconds: number) => w.at(w.now() + seconds * 1000);
function over(legId: string) {
  w.services.desk.act(tamsin(), { act: 'end', legId }, null);
  const leg = readLeg(w.db, legId);
  if (leg?.endedAt === null) w.services.desk.act(tamsin(), { act: 'file', legId, code: 'ADVICE' }, null);
  return row<{ handled: number; inFront: number }>(
    w.db,
    'SELECT handle_seconds AS handled, in_front AS inFront FROM legs WHERE id = ?',
    legId,
  );
}
/** Two chats that Tamsin has taken. */
function two(): [string, string] {
  ready(tamsin());
  return ['guest-1', 'guest-2'].map((from) => {
    chat(from);
    return take(tamsin());
  }) as [string, string];
}

describe('what is in front of a person', () => {
  it('makes the handle time of texts: read for four minutes and answered for seven is eleven', () => {
    const [one, other] = two();
    looks(one, 4 * MINUTE);
    looks(other, 20 * MINUTE);
    looks(one, 7 * MINUTE);
    expect(over(one)).toEqual({ handled: 11 * MINUTE, inFront: 1 });
    expect(over(other)).toEqual({ handled: 20 * MINUTE, inFront: 1 });
  });
  it('where no Desk has said anything, the gaps between messages stand in', () => {
    const [one] = two();
    passes(4 * MINUTE);
    w.services.desk.act(tamsin(), { act: 'say', legId: one, text: 'Good day' }, null);
    passes(20 * MINUTE);
    expect(over(one)).toEqual({ handled: 9 * MINUTE, inFront: 0 });
  });
  it('is written when it is over, in one transaction for all, and never by a beat alone', () => {
    const [one, other] = two();
    const events = () => rows(w.db, 'SELECT 1 FROM events').length;
    const was = events();
    looks(one, 10 * MINUTE);
    expect(events()).toBe(was);
    looks(other, 15);
    expect(events()).toBe(was + 1);
    expect(
      rows(w.db, 'SELECT leg_id AS leg, to_at - from_at AS ms, real_to - real_from AS realMs FROM leg_fronts'),
    ).toEqual([{ leg: one, ms: 600_000, realMs: 600_000 }]);
  });
  it('ends with the last word of a Desk that has gone silent, and when the process stops', () => {
    const [one, other] = two();
    looks(one, 60);
    passes(300);
    w.services.inFront.tick();
    looks(other, 30);
    w.services.inFront.close();
    expect(rows(w.db, 'SELECT leg_id AS leg, to_at - from_at AS ms FROM leg_fronts ORDER BY from_at')).toEqual([
      { leg: one, ms: 60_000 },
      { leg: other, ms: 30_000 },
    ]);
    const before = rows(w.db, 'SELECT * FROM leg_fronts');
    replayAll(w.db);
    expect(rows(w.db, 'SELECT * FROM leg_fronts')).toEqual(before);
  });
  it('a hidden window, another person’s turn and one that is over are in front of nobody', () => {
    const [one] = two();
    looks(one, 60, { seen: false, focused: false });
    looks('somebody else’s', 60);
    looks(one, 30);
    expect(over(one)).toEqual({ handled: 30, inFront: 1 });
    looks(one, 60);
    w.services.inFront.close();
    expect(row(w.db, 'SELECT sum(to_at - from_at) AS ms FROM leg_fronts')).toEqual({ ms: 30_000 });
  });
  it('what cannot be written now is written later', () => {
    const [one, other] = two();
    looks(one, 60);
    w.db.exec("CREATE TEMP TRIGGER full BEFORE INSERT ON leg_fronts BEGIN SELECT RAISE(ABORT, 'disk is full'); END");
    expect(() => looks(other, 15)).toThrow('disk is full');
    w.db.exec('DROP TRIGGER full');
    w.services.inFront.tick();
    expect(row(w.db, 'SELECT leg_id AS leg, to_at - from_at AS ms FROM leg_fronts')).toEqual({ leg: one, ms: 60_000 });
  });
});
