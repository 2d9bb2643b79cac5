import { describe, expect, it } from 'vitest';
import { arrivalsOf, exponential, poolOf, queueOf, scenarioOf } from '../../../tests/helpers/scenarios';
import { expectedWait, laneOf, spokenWait } from '../routing/expectedwait';
import type { Need } from '../routing/needs';
import { queueFigure } from '../routing/queuefigures';
import { decide } from '../routing/pass';
import { createRouter } from '../routing/router';
import { advance } from '../routing/advance';
import { runOnce, type Observer } from './run';
import type { Scenario } from './scenario';

type Prediction = { readonly at: number; readonly ours: number; readonly best: number; actual: number | null };

/**
 * Runs a scenario of one first-come queue and notes, for everybody who has to wait, what we said, what the best
 * possible predictor would have said (it knows the rates), and the wait they had, or would have had had they not
 * given up: a contact that left is served in thought by the first free place that comes when nobody before it is
 * left.
 */
function predictions(scenario: Scenario, run: number, best: (ahead: number) => number): Prediction[] {
  const made: Prediction[] = [];
  /** Those not served yet, in order, with those who gave up still standing in thought. */
  const line: { readonly id: string; readonly prediction: Prediction | null }[] = [];
  const from = scenario.startsAt + scenario.warmUpSeconds * 1000;
  const observe: Observer = (router, now, acts, event) => {
    for (const act of acts) {
      if (act.do !== 'took') continue;
      // Whoever stands before the contact that is taken now would have been taken by now.
      const place = line.findIndex((l) => l.id === act.visit.id);
      for (const gone of line.splice(0, place + 1))
        if (gone.prediction && gone.prediction.actual === null)
          gone.prediction.actual = (now - gone.prediction.at) / 1000;
      if (place < 0 && line.length > 0)
        for (const gone of line.splice(0))
          if (gone.prediction && gone.prediction.actual === null)
            gone.prediction.actual = (now - gone.prediction.at) / 1000;
    }
    if (event.type === 'leg-ended' && router.floor.waiting.size === 0)
      for (const gone of line.splice(0))
        if (gone.prediction && gone.prediction.actual === null)
          gone.prediction.actual = (now - gone.prediction.at) / 1000;
    if (event.type !== 'enter') return;
    const visit = router.floor.waiting.get(event.visit.id);
    if (!visit || visit.offers.length > 0) return;
    const ahead = laneOf(router, visit.queue.id, visit.channel).waiting - 1;
    const ours = expectedWait(router, visit, ahead + 1, now);
    const prediction: Prediction | null =
      ours === null || now < from ? null : { at: now, ours, best: best(ahead), actual: null };
    if (prediction) made.push(prediction);
    line.push({ id: visit.id, prediction });
  };
  runOnce(scenario, run, { observe });
  return made.filter((p) => p.actual !== null);
}
const mean = (numbers: readonly number[]) => numbers.reduce((s, n) => s + n, 0) / numbers.length;

describe('the expected wait', () => {
  it.each([
    ['patient', 10, 170, 200, null],
    ['impatient', 8, 175, 180, 150],
    ['small', 4, 60, 200, 400],
    ['large', 30, 560, 190, 200],
  ] as const)(
    '%s: its bias is within 15%% and its error within 1.25 times the best possible',
    (_what, n, perHour, handle, patience) => {
      const [mu, theta] = [1 / handle, patience === null ? 0 : 1 / patience];
      const best = (ahead: number) =>
        Array.from({ length: ahead + 1 }, (_, j) => 1 / (n * mu + j * theta)).reduce((s, t) => s + t, 0);
      const scenario = scenarioOf({
        runs: 6,
        lengthSeconds: 8 * 36_000,
        warmUpSeconds: 7_200,
        pools: [poolOf('p', n)],
        arrivals: [
          arrivalsOf(perHour, exponential(handle), { patience: patience === null ? null : exponential(patience) }),
        ],
      });
      const all = Array.from({ length: scenario.runs }, (_, run) => predictions(scenario, run, best)).flat();
      expect(all.length).toBeGreaterThan(1500);
      const actual = mean(all.map((p) => p.actual ?? 0));
      expect(Math.abs(mean(all.map((p) => p.ours)) - actual) / actual, 'bias').toBeLessThanOrEqual(0.15);
      const error = (of: (p: Prediction) => number) => mean(all.map((p) => Math.abs(of(p) - (p.actual ?? 0))));
      expect(error((p) => p.ours) / error((p) => p.best), 'error').toBeLessThanOrEqual(1.25);
    },
  );
  it('is nothing while somebody is able, and is not given when nobody ever is or before anything is known', () => {
    let id = 0;
    const router = createRouter({ newId: (p) => `${p}${id++}`, zone: 'UTC', trails: false, decide });
    const queue = queueOf('q', { needs: [{ skillId: 'fr', atLeast: 3 }] });
    advance(router, 0, { type: 'queues', queues: [{ settings: queue, version: 1, hours: null }] });
    const person = (personId: string, level: number) => ({
      id: personId,
      duty: 'ready' as const,
      reachable: true,
      lastContactAt: null,
      today: 0,
      limited: null,
      levels: new Map([['fr', level]]),
      load: {
        voice: { cost: 100, most: 1 },
        chat: { cost: 25, most: 4 },
        messaging: { cost: 20, most: 5 },
        sms: { cost: 10, most: 8 },
      },
      profile: { rows: [{ queueId: 'q', channel: 'voice' as const, band: 1, delaySeconds: 0 }] },
    });
    advance(router, 0, { type: 'people', gone: [], people: [person('a', 2)] });
    const told = (now: number, needs: Need[] = []) =>
      queueFigure(router, { queueId: 'q', channel: 'voice', needs, figure: 'expectedWait', within: null }, now);
    expect(told(0)).toBeNull();
    advance(router, 1, { type: 'people', gone: [], people: [person('b', 4)] });
    expect(told(1)).toBe(0);
    const visit = (visitId: string) => ({
      id: visitId,
      contactId: visitId,
      queueId: 'q',
      channel: 'voice' as const,
      placedAt: 2,
      handOver: [],
      priority: 0,
      familiarId: null,
      kind: 'live' as const,
      because: '',
      passed: [],
    });
    const take = (now: number, id: string) => {
      const offer = advance(router, now, { type: 'enter', visit: visit(id) }).find((a) => a.do === 'offer');
      if (offer?.do === 'offer')
        advance(router, now, { type: 'accept', offerId: offer.offerId, personId: 'b', legId: `l ${id}` });
    };
    take(2, 'v');
    expect(told(3)).toBeNull();
    advance(router, 100_002, { type: 'leg-ended', personId: 'b', legId: 'l v' });
    take(100_003, 'w');
    expect(told(100_003)).toBeCloseTo(100, 0);
    advance(router, 100_003, { type: 'enter', visit: visit('x') });
    expect(told(100_003)).toBeCloseTo(200, 0);
    // Nobody knows what this one needs besides; and nobody is there once they are away.
    expect(told(100_003, [{ skillId: 'fr', atLeast: 5 }])).toBeNull();
    advance(router, 100_004, { type: 'duty', personId: 'b', duty: 'away' });
    expect(told(100_005)).toBeNull();
  });
  it.each([
    [3, 10],
    [24, 20],
    [56, 60],
    [130, 120],
    [140, 150],
    [400, 420],
  ])('%i s is spoken as %i s', (seconds, spoken) => expect(spokenWait(seconds)).toBe(spoken));
});
