import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { writeCallback } from '../../src/data/callbacks';
import type { PromisesView } from '../../src/services/review/promises';
import { threeWeeks, writePast } from '../helpers/past';
import { makeWorld, type World } from '../helpers/world';

let w: World;
beforeEach(() => {
  w = makeWorld();
  writePast(w.db, threeWeeks('2026-10-26', 'Europe/Dublin', 'queue_newhire', ['person_05', 'person_04']));
});
afterEach(() => w.close());
const RANGE = { from: '2026-11-09', to: '2026-11-15' };
const at = (day: string, hour: number) => Date.parse(`${day}T${String(hour).padStart(2, '0')}:00:00Z`);
let made = 0;
function promise(queueId: string, askedAt: number, reachedAt: number | null, contactId = 'past0'): void {
  const state = reachedAt === null ? 'expired' : 'reached';
  const expiresAt = askedAt + 24 * 3_600_000;
  const [untilAt, endedAt] = [askedAt + 2 * 3_600_000, reachedAt ?? expiresAt];
  const rest = {
    needs: [],
    priority: 0,
    most: null,
    number: '+353209139999',
    callId: null,
    nextAt: null,
    outcome: null,
    attempts: reachedAt ? 1 : 3,
  };
  const when = { placedAt: askedAt, askedAt, fromAt: askedAt, untilAt, expiresAt, reachedAt, endedAt };
  writeCallback(w.db, { id: `callback_${made++}`, contactId, queueId, state, ...when, ...rest });
}
const ask = (asked: object, name = 'Noor Amsel') =>
  w.services.reading('promises', w.actor(name), { ...RANGE, ...asked }) as Promise<PromisesView>;
const told = ({ rows }: PromisesView) =>
  rows.map((row) => [row.name, row.values.promised, row.values['kept-in-time'], row.before.promised]);

describe('calls that were promised', () => {
  beforeEach(() => {
    promise('queue_newhire', at('2026-11-10', 10), at('2026-11-10', 11));
    promise('queue_newhire', at('2026-11-11', 10), at('2026-11-11', 15));
    promise('queue_repairs', at('2026-11-12', 10), null, 'past1');
    promise('queue_newhire', at('2026-11-04', 10), at('2026-11-04', 11));
    // The last moment of the range, and the first after it.
    promise('queue_repairs', at('2026-11-16', 0) - 1, at('2026-11-16', 1));
    promise('queue_repairs', at('2026-11-16', 0), at('2026-11-16', 1));
  });
  it('are counted by when they were asked for, by queue, beside the range before; what was not kept is listed', async () => {
    const view = await ask({});
    expect(told(view)).toEqual([
      ['All queues', 4, 2 / 4, 1],
      ['New hire', 2, 1 / 2, 1],
      ['Repairs', 2, 1 / 2, 0],
    ]);
    expect(view.rows[0]?.values).toMatchObject({ 'promise-reached': 3 / 4, attempts: 6 / 4 });
    // An hour, five hours, and an hour and a moment.
    expect(view.rows[0]?.values['until-reached']).toBeCloseTo(((1 + 5 + 1) * 3600) / 3, 2);
    expect(view.broken.map((one) => [one.queue, one.contactId, one.attempts])).toEqual([
      ['Repairs', 'past1', 3],
      ['New hire', 'past0', 1],
    ]);
  });
  it('are narrowed by queue, and to what their reader may see', async () => {
    expect(told(await ask({ queue: 'queue_repairs' }))).toEqual([
      ['All queues', 2, 1 / 2, 0],
      ['Repairs', 2, 1 / 2, 0],
    ]);
    const none = await ask({ queue: 'queue_billing' });
    expect([told(none), none.broken]).toEqual([[['All queues', 0, null, 0]], []]);
    const theirs = await ask({}, 'Bertil Achterberg');
    const served = theirs.choices.queue.map((q) => q.id);
    const other = (await ask({})).choices.queue.find((q) => !served.includes(q.id));
    promise(other?.id ?? '', at('2026-11-10', 10), null);
    expect(told(await ask({})).map(([name]) => name)).toContain(other?.name);
    expect(told(await ask({}, 'Bertil Achterberg'))).toEqual(told(theirs));
  });
  it('go out as a table', async () => {
    const { text } = (await w.services.reading('review-csv', w.actor('Noor Amsel'), {
      ...RANGE,
      kind: 'callbacks',
    })) as {
      text: string;
    };
    expect(text.split('\r\n')[1]).toMatch(/^,All queues,4,1,0\.5,1,/);
  });
});
