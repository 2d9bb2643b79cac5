import { createAgenda } from '../../src/core/agenda';
import { seeded } from '../../src/core/chance';
import { quantile } from '../../src/core/measures/quantile';
import { DEFAULT_LOAD } from '../../src/core/people/load';
import { runOnce } from '../../src/core/rehearsal/run';
import type { Act } from '../../src/core/routing/acts';
import type { Decision } from '../../src/core/routing/decision';
import { decide } from '../../src/core/routing/pass';
import { createRouter } from '../../src/core/routing/router';
import { advance } from '../../src/core/routing/advance';
import { arrivalsOf, exponential, poolOf, queueOf, scenarioOf } from '../helpers/scenarios';

const row = (what: string, ns: number, base: number, more = '') =>
  console.log(
    `${what.padEnd(58)} ${(ns / 1000).toFixed(2).padStart(9)} µs ${(ns / base).toFixed(1).padStart(8)} ×  ${more}`,
  );

/** A bare loop that only pops and pushes as many events on a binary heap as a day has. */
function bareHeap(events: number, size: number): number {
  const chance = seeded(2);
  const agenda = createAgenda<number>();
  for (let i = 0; i < size; i++) agenda.add(chance.next() * 1000, i);
  const begun = process.hrtime.bigint();
  for (let i = 0; i < events; i++) agenda.add((agenda.nextAt() ?? 0) + chance.next() * 1000, agenda.takeNext() ?? 0);
  return Number(process.hrtime.bigint() - begun) / events;
}

/** One decision on a large floor: everybody full, 2,000 waiting in 20 queues, and one thing after another happens. */
function decisions(): number[] {
  const chance = seeded(1);
  let ids = 0;
  const router = createRouter({ newId: (p) => `${p}${ids++}`, zone: 'UTC', trails: true, decide });
  const skills = Array.from({ length: 14 }, (_, i) => `s${i}`);
  const queues = Array.from({ length: 20 }, (_, i) =>
    queueOf(`q${i}`, {
      channels: ['chat'],
      needs: [{ skillId: skills[i % 14] ?? '', atLeast: 2 }],
      order: ['highest-level', 'lightest-load'],
      clocks: {
        chat: [{ atSeconds: 60, early: false, acts: [{ does: 'lower', skillId: skills[i % 14] ?? '', by: 1 }] }],
      },
    }),
  );
  advance(router, 0, { type: 'queues', queues: queues.map((settings) => ({ settings, version: 1, hours: null })) });
  advance(router, 0, {
    type: 'people',
    gone: [],
    people: Array.from({ length: 1000 }, (_, i) => ({
      id: `p${i}`,
      duty: 'ready',
      reachable: true,
      lastContactAt: null,
      today: 0,
      load: DEFAULT_LOAD,
      limited: null,
      levels: new Map(skills.filter(() => chance.next() < 0.5).map((s) => [s, 1 + chance.below(5)])),
      profile: {
        rows: queues
          .filter(() => chance.next() < 0.3)
          .map((q) => ({ queueId: q.id, channel: 'chat', band: 1 + chance.below(2), delaySeconds: 0 })),
      },
    })),
  });
  const open: { personId: string; legId: string }[] = [];
  const took: number[] = [];
  let now = 0;
  let measuring = false;
  const happen = (event: Parameters<typeof advance>[2]): void => {
    const begun = process.hrtime.bigint();
    const acts: Act[] = advance(router, now, event);
    if (measuring) took.push(Number(process.hrtime.bigint() - begun));
    for (const act of acts)
      if (act.do === 'offer') {
        happen({ type: 'accept', offerId: act.offerId, personId: act.person.id, legId: act.offerId });
        open.push({ personId: act.person.id, legId: act.offerId });
      }
  };
  const enter = () =>
    happen({
      type: 'enter',
      visit: {
        id: `v${ids++}`,
        contactId: `c${ids}`,
        queueId: chance.pick(queues).id,
        channel: 'chat',
        placedAt: now,
        handOver: [],
        priority: chance.below(2),
        familiarId: null,
        kind: 'live',
        because: '',
        passed: [],
      },
    });
  while (router.floor.waiting.size < 2000) {
    now += 100;
    enter();
  }
  measuring = true;
  for (let i = 0; i < 10_000; i++) {
    now += 50;
    if (chance.next() < 0.5) enter();
    else {
      const leg = open.splice(chance.below(open.length), 1)[0];
      if (leg) happen({ type: 'leg-ended', ...leg });
    }
    if (router.floor.waiting.size > 2200) {
      const first = router.floor.waiting.values().next().value;
      if (first) happen({ type: 'leave', visitId: first.id, how: 'gave-up' });
    }
  }
  return took;
}

const heap = bareHeap(400_000, 40);
row('heap: one pop and one push, 40 on it', heap, heap);

const single = scenarioOf({
  runs: 1,
  lengthSeconds: 1_000_000,
  warmUpSeconds: 0,
  pools: [poolOf('p', 20)],
  arrivals: [arrivalsOf(300, exponential(200), { patience: exponential(300) })],
});
runOnce({ ...single, lengthSeconds: 100_000 }, 1);
for (const trails of [false, true]) {
  const kept: Decision[] = [];
  const begun = process.hrtime.bigint();
  const figures = runOnce(single, 0, trails ? { trails: kept } : {});
  const took = Number(process.hrtime.bigint() - begun);
  // Arrivals, ends of legs and ends of patience are what a bare loop would pop.
  const lane = figures.lanes[0];
  const events = (lane?.offered ?? 0) + (lane?.handled ?? 0) + Math.round(lane?.waited ?? 0);
  row(
    `a queue of one skill, 20 people, ${trails ? 'trail kept' : 'no trail'}: each event`,
    took / events,
    heap,
    trails ? `${kept.length} decisions kept` : '',
  );
}

const took = decisions();
row('1,000 people, 2,000 waiting: a decision, median', quantile(took, 0.5) ?? 0, heap);
row('1,000 people, 2,000 waiting: a decision, 99th percentile', quantile(took, 0.99) ?? 0, heap);

const skills = Array.from({ length: 14 }, (_, i) => `s${i}`);
const chance = seeded(3);
const twenty = Array.from({ length: 20 }, (_, i) =>
  queueOf(`q${i}`, {
    needs: [{ skillId: skills[i % 14] ?? '', atLeast: 2 }],
    order: ['highest-level', 'lightest-load'],
  }),
);
const day = scenarioOf({
  runs: 1,
  lengthSeconds: 36_000,
  warmUpSeconds: 0,
  queues: twenty,
  pools: Array.from({ length: 300 }, (_, i) =>
    poolOf(`p${i}`, 1, [], {
      skills: Object.fromEntries(skills.filter(() => chance.next() < 0.4).map((s) => [s, 1 + chance.below(5)])),
      duty: twenty
        .filter(() => chance.next() < 0.3)
        .flatMap((q) =>
          (['voice', 'chat'] as const).map((channel) => ({
            queue: q.id,
            channel,
            band: 1 + chance.below(2),
            delaySeconds: 0,
          })),
        ),
    }),
  ),
  arrivals: twenty.flatMap((q) => [
    arrivalsOf(60, exponential(320), { queue: q.id, patience: exponential(240) }),
    arrivalsOf(40, exponential(600), { queue: q.id, channel: 'chat', patience: exponential(600) }),
  ]),
});
const begun = process.hrtime.bigint();
const lived = runOnce(day, 0, { trails: [] });
const dayMs = Number(process.hrtime.bigint() - begun) / 1e6;
const contacts = lived.lanes.reduce((n, l) => n + l.offered, 0);
console.log(
  `a day of ${contacts.toLocaleString('en')} contacts, 300 people, 20 queues, 14 skills, trail ` +
    `kept: ${(dayMs / 1000).toFixed(2)} s on one core`,
);
