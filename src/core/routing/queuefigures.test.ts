import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomHistory } from '../../../tests/helpers/randomfloor';
import { sized } from '../../../tests/helpers/size';
import { type Channel, CHANNELS } from '../channels';
import { type Unable, unable } from './able';
import type { FloorQueue, WaitingVisit } from './floor';
import type { Horizon } from './horizon';
import type { Need } from './needs';
import { decide } from './pass';
import { queueFigure } from './queuefigures';
import type { Router } from './router';
import { afterWaiting, placeAtStage, stagesOf } from './stages';
import { newVisit } from './visit';

const RUNS = { numRuns: sized({ quick: 8, usual: 12, long: 200 }) };
/** Every second until all delays and stages of the made-up floors have come, and long after. */
const AGES = [...Array.from({ length: 100 }, (_, second) => second), 5000];

/** A visit that came so long ago, put together stage by stage; null once a stage has moved it on. */
function visitAged({ settings }: FloorQueue, channel: Channel, needs: readonly Need[], age: number, now: number) {
  const came = { id: 'v', contactId: 'c', queueId: settings.id, channel, placedAt: now, handOver: needs };
  const { visit } = newVisit(
    settings,
    1,
    0,
    { ...came, priority: 0, familiarId: null, kind: 'live', because: '', passed: [] },
    now - age * 1000,
  );
  for (const [place, stage] of stagesOf(visit).entries()) {
    if (stage.atSeconds > age) break;
    if (stage.acts.some((act) => act.does === 'move')) return null;
    placeAtStage(visit, place + 1, visit.groups, visit.partners);
  }
  return visit;
}
const peopleWho = (router: Router, visit: WaitingVisit | null, now: number, may: readonly (Unable['why'] | null)[]) =>
  visit === null
    ? []
    : [...router.floor.people.values()].filter((p) => may.includes(unable(router.floor, p, visit, now)?.why ?? null));

describe('figures of a queue, for a contact that would come to it', () => {
  it('count everybody whom the router would let through at some moment until the horizon, all else held still', () => {
    let counted = 0;
    fc.assert(
      fc.property(
        fc.integer(),
        fc.constantFrom<Horizon>(null, null, 0, 20, 44, 60),
        fc.constantFrom<readonly Need[]>(
          [],
          [{ skillId: 's1', atLeast: 3 }],
          [{ skillId: 's2', atLeast: 2, firm: true }],
        ),
        (seed, within, needs) => {
          let step = 0;
          randomHistory(seed, 60, decide, (router, now, _acts, _event, settled) => {
            if (!settled || step++ % 12 > 0) return;
            for (const queue of router.floor.queues.values())
              for (const channel of CHANNELS) {
                const ages = AGES.filter((age) => within === null || age <= within);
                const union = (may: readonly (Unable['why'] | null)[]) =>
                  new Set(
                    ages.flatMap((age) =>
                      peopleWho(router, visitAged(queue, channel, needs, age, now), now, may).map((p) => p.id),
                    ),
                  ).size;
                const figure = (name: 'able' | 'free' | 'onDuty') =>
                  queueFigure(router, { queueId: queue.settings.id, channel, needs, figure: name, within }, now);
                expect(figure('able')).toBe(union([null]));
                expect(figure('free')).toBe(union([null, 'offer-pending']));
                expect(figure('onDuty')).toBe(union([null, 'offer-pending', 'load', 'channel-most', 'limit']));
                counted += figure('able') ?? 0;
              }
          });
        },
      ),
      RUNS,
    );
    expect(counted).toBeGreaterThan(0);
  });
  it('an expected wait is nothing exactly where as many as stand before it, and one more, could take it now', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        let step = 0;
        randomHistory(seed, 60, decide, (router, now, _acts, _event, settled) => {
          if (!settled || step++ % 6 > 0) return;
          for (const queue of router.floor.queues.values())
            for (const channel of CHANNELS) {
              const told = queueFigure(
                router,
                { queueId: queue.settings.id, channel, needs: [], figure: 'expectedWait', within: null },
                now,
              );
              const standing = [...router.standing].filter(
                (v) => v.queue.id === queue.settings.id && v.channel === channel,
              ).length;
              const came = visitAged(queue, channel, [], 0, now);
              const able = peopleWho(router, came, now, [null]).length;
              expect([told === 0, told]).toEqual([able > standing, told]);
              // Nobody who is there could ever take it: nothing is told.
              const there = peopleWho(router, came && afterWaiting(came, null, now), now, [
                null,
                'offer-pending',
                'load',
                'channel-most',
                'limit',
              ]);
              if (there.length === 0) expect(told).toBeNull();
            }
        });
      }),
      // Contacts that were all taken the moment they came: nothing is known of how long a place takes to become free.
      { ...RUNS, examples: [[764477492]] },
    );
  });
});
