import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../chance';
import { CHANNELS, type Channel } from '../channels';
import { DEFAULT_LOAD, FULL, usedLoad } from '../people/load';
import { ableFor, ASK_AGAIN_SECONDS, nextChange, unable } from './able';
import { acceptOffer, allDue, beginVisit, endLeg, endVisit, personChanged, setDuty, turnDownOffer, visitDue, type Engine, type OfferMade } from './engine';
import { emptyFloor, heldBy, type FloorPerson, type WaitingVisit } from './floor';
import { mergeNeeds } from './needs';
import { personPrefers, rank } from './order';
import { explain } from './pass';
import type { PickingRule, QueueSettings } from './queue';
import { decisionSentence, otherLines } from './trail';

const queue = (id: string, order: PickingRule[] = ['longest-idle']): QueueSettings => ({ id, name: id, channels: [...CHANNELS], goal: { percent: 80, seconds: 30 }, needs: [], order, wrapUpSeconds: null });
const person = (id: string, change: Partial<FloorPerson> = {}): FloorPerson => ({
  id, duty: 'ready', reachable: true, profile: { rows: CHANNELS.map((channel) => ({ queueId: 'q', channel, band: 1, delaySeconds: 0 })) }, load: DEFAULT_LOAD, levels: new Map(), open: new Map(), pending: null, lastContactAt: null, ...change,
});
let entries = 0;
const visit = (id: string, change: Partial<WaitingVisit> = {}): WaitingVisit => ({
  id, contactId: `c-${id}`, channel: 'voice', queue: queue('q'), settingsVersion: 1, needs: [], priority: 0, placedAt: 0, enteredAt: 0, entry: entries++, refused: new Map(), offeredTo: null, ...change,
});
const engineOf = (...people: FloorPerson[]): Engine => {
  let offers = 0;
  const floor = emptyFloor();
  people.forEach((p) => floor.people.set(p.id, p));
  return { floor, newOfferId: () => `o${offers++}` };
};
const asked = (offers: readonly OfferMade[]) => offers.map((o) => [o.visit.id, o.person.id]);

describe('who is able: the first failing check is the reason', () => {
  const need = { skillId: 's', atLeast: 3 } as const;
  it.each([
    ['off-duty', person('a', { duty: 'off', reachable: false }), visit('v')],
    ['away', person('a', { duty: 'away' }), visit('v')],
    ['away', person('a', { duty: 'away-when-empty' }), visit('v')],
    ['unreachable', person('a', { reachable: false }), visit('v')],
    ['not-in-duty', person('a', { profile: { rows: [] } }), visit('v', { needs: [need] })],
    ['not-yet', person('a', { profile: { rows: [{ queueId: 'q', channel: 'voice', band: 1, delaySeconds: 60 }] } }), visit('v', { needs: [need] })],
    ['skill', person('a', { levels: new Map([['s', 2]]), open: new Map([['l', { channel: 'voice', cost: 100 }]]) }), visit('v', { needs: [need] })],
    ['channel-most', person('a', { open: new Map([['l', { channel: 'voice', cost: 100 }]]) }), visit('v')],
    ['load', person('a', { open: new Map([['l', { channel: 'sms', cost: 10 }]]) }), visit('v')],
    ['offer-pending', person('a', { pending: { offerId: 'o', visitId: 'x', channel: 'sms', cost: 10 } }), visit('v', { channel: 'chat' })],
  ])('%s', (why, who, what) => expect(unable(who, what, 1000)?.why).toBe(why));
  it('able at exactly the needed level and exactly at the delay', () => {
    const rows = [{ queueId: 'q', channel: 'voice' as Channel, band: 1, delaySeconds: 60 }];
    expect(unable(person('a', { levels: new Map([['s', 3]]), profile: { rows } }), visit('v', { needs: [need] }), 60_000)).toBeNull();
  });
  it('somebody who refused is passed over while others are able, then asked again 30 s on', () => {
    const engine = engineOf(person('a'), person('b', { open: new Map([['l', { channel: 'voice', cost: 100 }]]) }));
    const v = visit('v', { refused: new Map([['a', 10_000]]) });
    const again = 10_000 + ASK_AGAIN_SECONDS * 1000;
    expect(ableFor(engine.floor, v, again - 1).able).toEqual([]);
    expect(nextChange(engine.floor, v, 11_000)).toBe(again);
    expect(ableFor(engine.floor, v, again).able.map((p) => p.id)).toEqual(['a']);
    engine.floor.people.get('b')?.open.clear();
    expect(ableFor(engine.floor, v, again).able.map((p) => p.id)).toEqual(['b']);
  });
  it('a delay is a reason to look again even while nobody is on duty', () => {
    const engine = engineOf(person('a', { duty: 'off', profile: { rows: [{ queueId: 'q', channel: 'voice', band: 1, delaySeconds: 60 }] } }));
    expect(nextChange(engine.floor, visit('v', { enteredAt: 5000 }), 6000)).toBe(65_000);
  });
});

describe('picking order', () => {
  const order = (rules: PickingRule[], ...people: FloorPerson[]) => rank(visit('v', { channel: 'chat', queue: queue('q', rules), needs: [{ skillId: 's', atLeast: 1 }] }), people).map((r) => r.person.id);
  const a = person('a', { levels: new Map([['s', 2]]), lastContactAt: 100 });
  const b = person('b', { levels: new Map([['s', 5]]), lastContactAt: 300, open: new Map([['l', { channel: 'chat', cost: 25 }]]) });
  const c = person('c', { levels: new Map([['s', 5]]), lastContactAt: 200 });
  it('longest idle', () => expect(order(['longest-idle'], c, b, a)).toEqual(['a', 'c', 'b']));
  it('lightest load, then longest idle', () => expect(order(['lightest-load'], c, b, a)).toEqual(['a', 'c', 'b']));
  it('highest level, then lightest load', () => expect(order(['highest-level', 'lightest-load'], a, b, c)).toEqual(['c', 'b', 'a']));
  it('is strict and does not depend on the order given', () => {
    const same = Array.from({ length: 9 }, (_, i) => person(`p${i}`));
    expect(order(['longest-idle'], ...same)).toEqual(order(['longest-idle'], ...same.toReversed()));
  });
  it('a person prefers lower band, then priority, then the longer wait, then the earlier entry', () => {
    const p = person('p', { profile: { rows: [{ queueId: 'q', channel: 'voice', band: 2, delaySeconds: 0 }, { queueId: 'first', channel: 'voice', band: 1, delaySeconds: 0 }] } });
    const sorted = [visit('late', { placedAt: 9 }), visit('early', { placedAt: 5 }), visit('urgent', { placedAt: 9, priority: 3 }), visit('band', { placedAt: 99, queue: queue('first') })].sort((x, y) => personPrefers(p, x, y));
    expect(sorted.map((v) => v.id)).toEqual(['band', 'urgent', 'early', 'late']);
  });
});

describe('needs', () => {
  it('merges the queue’s and the hand-over’s to the higher level', () => {
    expect(mergeNeeds([{ skillId: 'a', atLeast: 2 }, { skillId: 'b', atLeast: 4 }], [{ skillId: 'b', atLeast: 1 }, { skillId: 'c', atLeast: 3 }]))
      .toEqual([{ skillId: 'a', atLeast: 2 }, { skillId: 'b', atLeast: 4 }, { skillId: 'c', atLeast: 3 }]);
  });
});

describe('the engine', () => {
  it('offers on arrival, waits without anybody, and asks whoever becomes free', () => {
    const engine = engineOf(person('a'));
    expect(asked(beginVisit(engine, visit('v1'), 0).offers)).toEqual([['v1', 'a']]);
    const second = beginVisit(engine, visit('v2', { placedAt: 1 }), 1);
    expect(second.offers).toEqual([]);
    expect(second.nobody?.others).toEqual({ 'channel-most': ['a'] });
    acceptOffer(engine, 'a', 'leg1', 5);
    expect(personChanged(engine, 'a', 5)).toEqual([]);
    expect(asked(endLeg(engine, 'a', 'leg1', 9))).toEqual([['v2', 'a']]);
  });
  it('a declined offer goes on to the next, a missed one also sets the person away', () => {
    const engine = engineOf(person('a', { lastContactAt: 1 }), person('b', { lastContactAt: 2 }));
    beginVisit(engine, visit('v'), 10);
    expect(asked(turnDownOffer(engine, 'a', 'declined', 11))).toEqual([['v', 'b']]);
    turnDownOffer(engine, 'b', 'missed', 12);
    expect(engine.floor.people.get('b')?.duty).toBe('away');
    expect(asked(visitDue(engine, 'v', 11 + ASK_AGAIN_SECONDS * 1000))).toEqual([['v', 'a']]);
  });
  it('a customer who leaves frees the person who was being asked', () => {
    const engine = engineOf(person('a'));
    beginVisit(engine, visit('v1'), 0);
    beginVisit(engine, visit('v2', { placedAt: 1 }), 1);
    expect(asked(endVisit(engine, 'v1', 2))).toEqual([['v2', 'a']]);
  });
  it('somebody coming on duty does not jump the line of the idle', () => {
    const engine = engineOf(person('a', { lastContactAt: 50 }), person('new', { duty: 'off' }));
    setDuty(engine, 'new', 'ready', 100);
    expect(asked(beginVisit(engine, visit('v'), 101).offers)).toEqual([['v', 'a']]);
  });
  it('says why in sentences', () => {
    const engine = engineOf(person('a'), person('b', { duty: 'off' }), person('c', { lastContactAt: 9 }));
    const [offer] = beginVisit(engine, visit('v'), 4000).offers;
    expect(offer && decisionSentence(offer.trail, (p) => p.toUpperCase())).toBe('A was asked after 4 s: longest since the last contact of 2 able people.');
    expect(offer && otherLines(offer.trail).map((o) => o.text)).toEqual(['1 off duty', '1 able, later in the picking order']);
    expect(decisionSentence(explain(engineOf().floor, visit('w'), 0), String)).toBe('Nobody on duty takes this queue on this channel.');
  });
});

/** A random floor driven by random events; gives what must hold after each. */
function randomHistory(seed: number, steps: number, check: (engine: Engine, now: number, made: readonly OfferMade[], kind: string) => void): string {
  const chance = seeded(seed);
  const skills = ['s1', 's2'];
  const people = Array.from({ length: 8 }, (_, i) => person(`p${i}`, {
    duty: chance.next() < 0.7 ? 'ready' : 'off', levels: new Map(skills.flatMap((s): [string, number][] => (chance.next() < 0.6 ? [[s, 1 + chance.below(5)]] : []))),
    profile: { rows: ['q', 'r'].flatMap((q) => CHANNELS.filter(() => chance.next() < 0.8).map((channel) => ({ queueId: q, channel, band: 1 + chance.below(3), delaySeconds: chance.below(2) * 20 }))) },
  }));
  const engine = engineOf(...people);
  const orders: PickingRule[][] = [['longest-idle'], ['lightest-load'], ['highest-level', 'lightest-load']];
  const log: string[] = [];
  let now = 0;
  for (let i = 0; i < steps; i++) {
    now += chance.below(8000);
    const p = chance.pick(people);
    const waiting = [...engine.floor.waiting.values()];
    const roll = chance.next();
    let made: OfferMade[] = [];
    let kind = 'other';
    if (roll < 0.4) made = beginVisit(engine, visit(`v${i}`, { channel: chance.pick(CHANNELS), queue: queue(chance.pick(['q', 'r']), chance.pick(orders)), placedAt: now - chance.below(5000), enteredAt: now, entry: i, priority: chance.below(2), needs: chance.next() < 0.5 ? [{ skillId: chance.pick(skills), atLeast: (1 + chance.below(5)) as 1 }] : [] }), now).offers;
    else if (roll < 0.6) { if (p.pending) { acceptOffer(engine, p.id, `l${i}`, now); made = personChanged(engine, p.id, now); } }
    else if (roll < 0.75) { const leg = [...p.open.keys()][0]; if (leg) made = endLeg(engine, p.id, leg, now); }
    else if (roll < 0.8) made = turnDownOffer(engine, p.id, chance.next() < 0.7 ? 'declined' : 'missed', now);
    else if (roll < 0.85) { const v = waiting[0]; if (v) made = endVisit(engine, v.id, now); }
    else if (roll < 0.95) { if (!p.pending) made = setDuty(engine, p.id, chance.pick(['ready', 'ready', 'away', 'off']), now); }
    else { made = allDue(engine, now); kind = 'all'; }
    log.push(...made.map((o) => `${o.visit.id}→${o.person.id}`));
    check(engine, now, made, kind);
  }
  return log.join(' ');
}

describe('over random histories', () => {
  const runs = { numRuns: 60 };
  it('nobody holds over 100 or a channel’s most, and everybody has one offer at the most', () => {
    fc.assert(fc.property(fc.integer(), (seed) => {
      randomHistory(seed, 120, ({ floor }) => {
        for (const p of floor.people.values()) {
          expect(usedLoad(heldBy(p))).toBeLessThanOrEqual(FULL);
          for (const c of CHANNELS) expect(heldBy(p).filter((h) => h.channel === c).length).toBeLessThanOrEqual(DEFAULT_LOAD[c].most);
        }
        const pending = [...floor.people.values()].flatMap((p) => (p.pending ? [p.pending.visitId] : []));
        expect(new Set(pending).size).toBe(pending.length);
        for (const v of floor.waiting.values()) expect(v.offeredTo !== null).toBe(pending.includes(v.id));
      });
    }), runs);
  });
  it('after a full pass no able pair is left', () => {
    fc.assert(fc.property(fc.integer(), (seed) => {
      randomHistory(seed, 120, ({ floor }, now, _made, kind) => {
        if (kind !== 'all') return;
        for (const v of floor.waiting.values()) if (v.offeredTo === null) expect(ableFor(floor, v, now).able).toEqual([]);
      });
    }), runs);
  });
  it('the same events give the same decisions', () => {
    fc.assert(fc.property(fc.integer(), (seed) => randomHistory(seed, 80, () => undefined) === randomHistory(seed, 80, () => undefined)), runs);
  });
  it('nobody able who has not refused is passed over for somebody who has', () => {
    fc.assert(fc.property(fc.integer(), (seed) => {
      randomHistory(seed, 120, ({ floor }, now, made) => {
        for (const { visit: v, person: p } of made) if (v.refused.has(p.id)) expect([...floor.people.values()].filter((x) => !v.refused.has(x.id) && unable(x, v, now) === null)).toEqual([]);
      });
    }), runs);
  });
});

describe('stability', () => {
  it('within a round no visit and person would both rather have had each other', () => {
    fc.assert(fc.property(fc.integer(), (seed) => {
      const chance = seeded(seed);
      const people = Array.from({ length: 6 }, (_, i) => person(`p${i}`, { lastContactAt: chance.below(100), levels: new Map([['s', 1 + chance.below(5)]]), profile: { rows: [{ queueId: 'q', channel: 'voice', band: 1 + chance.below(2), delaySeconds: 0 }, { queueId: 'r', channel: 'voice', band: 1 + chance.below(2), delaySeconds: 0 }] } }));
      const engine = engineOf(...people);
      const visits = Array.from({ length: 8 }, (_, i) => visit(`v${i}`, { entry: i, placedAt: chance.below(50), queue: queue(chance.pick(['q', 'r']), chance.pick<PickingRule[]>([['longest-idle'], ['highest-level']])), needs: [{ skillId: 's', atLeast: (1 + chance.below(3)) as 1 }] }));
      visits.forEach((v) => engine.floor.waiting.set(v.id, v));
      // A call fills a person, so that one round settles everything and its preferences can be frozen here.
      const wishes = new Map(visits.map((v) => [v.id, rank(v, ableFor(engine.floor, v, 100).able).map((r) => r.person.id)]));
      const made = allDue(engine, 100);
      const got = new Map(made.map((o) => [o.visit.id, o.person.id]));
      const holds = new Map(made.map((o) => [o.person.id, o.visit]));
      for (const v of visits) {
        const list = wishes.get(v.id) ?? [];
        const mine = got.get(v.id);
        for (const id of list.slice(0, mine === undefined ? list.length : list.indexOf(mine))) {
          const held = holds.get(id);
          const p = engine.floor.people.get(id);
          expect(held && p && personPrefers(p, held, v) < 0, `${v.id} and ${id} block`).toBe(true);
        }
      }
    }), { numRuns: 200 });
  });
});
