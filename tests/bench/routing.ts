import { createAgenda } from '../../demo/agenda';
import { BOTS } from '../../demo/bots';
import { beginning, runBot } from '../../src/core/bots/interpreter';
import { seeded } from '../../src/core/chance';
import { DEFAULT_LOAD } from '../../src/core/people/load';
import { acceptOffer, beginVisit, endLeg, type Engine, type OfferMade } from '../../src/core/routing/engine';
import { emptyFloor, type WaitingVisit } from '../../src/core/routing/floor';
import { mean, quantile } from '../../src/core/measures/quantile';
import { time } from './time';

const chance = seeded(1);
const agenda = createAgenda();
for (let i = 0; i < 1000; i++) agenda.add(chance.below(1e6), () => undefined);
const heap = time(200_000, () => { agenda.add((agenda.nextAt() ?? 0) + chance.below(1e6), () => undefined); agenda.takeNext(); });

/** A busy floor: people with skills, one queue each third of them serves, contacts that come, are taken at once and end. */
function decisions(people: number): { each: number; p99: number } {
  let offers = 0;
  const engine: Engine = { floor: emptyFloor(), newOfferId: () => `o${offers++}` };
  const queues = Array.from({ length: 8 }, (_, i) => ({ id: `q${i}`, name: `q${i}`, channels: ['chat'] as const, goal: { percent: 80, seconds: 30 }, needs: [], order: ['highest-level', 'lightest-load'] as const, wrapUpSeconds: null }));
  for (let i = 0; i < people; i++) {
    engine.floor.people.set(`p${i}`, { id: `p${i}`, duty: 'ready', reachable: true, load: DEFAULT_LOAD, levels: new Map([['s', 1 + chance.below(5)]]), open: new Map(), pending: null, lastContactAt: null,
      profile: { rows: queues.filter(() => chance.next() < 0.35).map((q) => ({ queueId: q.id, channel: 'chat', band: 1, delaySeconds: 0 })) } });
  }
  const open: { personId: string; legId: string }[] = [];
  const took: number[] = [];
  for (let i = 0; i < 3000; i++) {
    const visit: WaitingVisit = { id: `v${i}`, contactId: `c${i}`, channel: 'chat', queue: chance.pick(queues), settingsVersion: 1, needs: [{ skillId: 's', atLeast: 2 }], priority: 0, placedAt: i, enteredAt: i, entry: i, refused: new Map(), offeredTo: null };
    const take = (made: readonly OfferMade[]) => made.forEach((o) => { acceptOffer(engine, o.person.id, `l${o.visit.id}`, i); open.push({ personId: o.person.id, legId: `l${o.visit.id}` }); });
    const begun = process.hrtime.bigint();
    take(beginVisit(engine, visit, i).offers);
    const done = open.length > people * 2 ? open.shift() : undefined;
    if (done) take(endLeg(engine, done.personId, done.legId, i));
    if (i >= 500) took.push(Number(process.hrtime.bigint() - begun));
  }
  return { each: mean(took) ?? 0, p99: quantile(took, 0.99) ?? 0 };
}

const script = BOTS[1]?.script;
const world = { channel: 'chat', open: true } as const;
const bot = script ? time(5000, () => {
  let { state } = runBot(script, world, beginning('en'), { type: 'start' });
  for (const text of ['a repair', '204816', 'the bridge snapped']) state = runBot(script, world, state, { type: 'text', text }).state;
}) : 0;

console.log(`heap, one push and pop          ${heap.toFixed(0)} ns   1.0 ×`);
for (const n of [64, 300]) {
  const { each, p99 } = decisions(n);
  console.log(`routing, arrival and end, ${String(n).padStart(4)} people  ${(each / 1000).toFixed(0)} µs   ${(each / heap).toFixed(0)} ×   99th percentile ${(p99 / 1000).toFixed(0)} µs`);
}
console.log(`bot, a conversation of 8 lines  ${(bot / 1000).toFixed(1)} µs   ${(bot / heap).toFixed(0)} ×   ${Math.round(8e9 / bot).toLocaleString('en')} lines a second`);
