import { createAgenda } from '../../src/core/agenda';
import { type Chance, seeded } from '../../src/core/chance';
import { type Channel, CHANNELS } from '../../src/core/channels';
import type { Level } from '../../src/core/people/levels';
import { DEFAULT_LOAD } from '../../src/core/people/load';
import type { Act, RouterEvent } from '../../src/core/routing/acts';
import type { Stage, StageAct } from '../../src/core/routing/clock';
import { type Limits, NO_LIMITS } from '../../src/core/routing/limits';
import type { Need } from '../../src/core/routing/needs';
import type { Onward } from '../../src/core/routing/onward';
import { PICKING_RULES, QUEUE_DEFAULTS, type QueueSettings } from '../../src/core/routing/queue';
import { createRouter, type Decide, type Router } from '../../src/core/routing/router';
import { advance } from '../../src/core/routing/advance';

const SKILLS = ['s1', 's2'];
const GROUPS = ['g1', 'g2'];
const QUEUES = ['q1', 'q2', 'q3'];
export const HOUR = 3_600_000;

const some = <T>(chance: Chance, from: readonly T[], share: number): T[] => from.filter(() => chance.next() < share);
const level = (chance: Chance): Level => (1 + chance.below(5)) as Level;
const limits = (chance: Chance, share: number): Limits => ({
  atOnce: chance.next() < share ? 1 + chance.below(3) : null,
  perHour: chance.next() < share ? 1 + chance.below(5) : null,
  perDay: chance.next() < share / 2 ? 3 + chance.below(6) : null,
  perMonth: null,
});
const needs = (chance: Chance): Need[] =>
  some(chance, SKILLS, 0.4).map((skillId) => {
    const atLeast = level(chance);
    return {
      skillId,
      atLeast,
      ...(chance.next() < 0.2 ? { atMost: Math.min(5, atLeast + chance.below(3)) as Level } : {}),
      ...(chance.next() < 0.2 ? { firm: true } : {}),
    };
  });
function stageAct(chance: Chance): StageAct {
  const roll = chance.next();
  if (roll < 0.35) return { does: 'lower', skillId: chance.pick(SKILLS), by: 1 + chance.below(3) };
  if (roll < 0.6) return { does: 'add-group', groupId: chance.pick(GROUPS) };
  if (roll < 0.7) return { does: 'raise', by: 1 };
  if (roll < 0.8) return { does: 'add-partner', partnerId: 'p' };
  if (roll < 0.9)
    return {
      does: 'ask',
      wording: { en: 'Still waiting?' },
      choices: [{ key: '1', what: 'callback' }],
      everySeconds: chance.next() < 0.5 ? 40 : null,
    };
  return { does: 'move', onward: { to: 'queue', queueId: chance.pick(QUEUES) } };
}
const clock = (chance: Chance): Stage[] =>
  [0, 20, 45, 90]
    .filter((s) => chance.next() < (s === 0 ? 0.2 : 0.5))
    .map((atSeconds) => ({ atSeconds, early: chance.next() < 0.3, acts: [stageAct(chance)] }));
const onward = (chance: Chance): Onward =>
  chance.pick<Onward>([
    { to: 'queue', queueId: chance.pick(QUEUES) },
    { to: 'group', groupId: chance.pick(GROUPS) },
    { to: 'callback' },
    { to: 'end', wording: {} },
  ]);
const queue = (chance: Chance, id: string): QueueSettings => ({
  ...QUEUE_DEFAULTS,
  id,
  name: id,
  channels: CHANNELS,
  needs: needs(chance),
  order: [...new Set([chance.pick(PICKING_RULES), chance.pick(PICKING_RULES)])],
  familiar: chance.next() < 0.4 ? { days: 7, holdSeconds: 30 } : null,
  offering: chance.next() < 0.15 ? { way: 'claim' } : { way: 'one' },
  missedSetsAway: chance.next() < 0.7,
  entryRules:
    chance.next() < 0.3
      ? [
          {
            if: chance.pick([
              { when: 'nobody' as const },
              { when: 'waiting' as const, atLeast: 4 },
              { when: 'expected' as const, atLeast: 60 },
            ]),
            then: onward(chance),
          },
        ]
      : [],
  clocks: Object.fromEntries(CHANNELS.filter(() => chance.next() < 0.7).map((c) => [c, clock(chance)])),
});

/** What may be looked at after every event: the router as it stands, the instant, and what the event led to. */
/** `settled`: nothing else is due at this very instant, so that all that follows from it has happened. */
export type Look = (router: Router, now: number, acts: readonly Act[], event: RouterEvent, settled: boolean) => void;

const profile = (chance: Chance) => ({
  rows: QUEUES.flatMap((queueId) =>
    some(chance, CHANNELS, 0.6).map((channel) => ({
      queueId,
      channel,
      band: 1 + chance.below(3),
      delaySeconds: chance.pick([0, 0, 20, 45]),
    })),
  ),
});

/**
 * A made-up floor and a made-up day on it: people come and go, contacts come, are offered, accepted, turned down,
 * rest, end; limits are reached and time passes. The same seed gives the same history. The driver of it delivers
 * timers when they are due.
 */
export function randomHistory(seed: number, steps: number, decide: Decide, look: Look, ringAll = false): Act[] {
  const chance = seeded(seed);
  const counts = new Map<string, number>();
  const newId = (prefix: string) => {
    counts.set(prefix, (counts.get(prefix) ?? 0) + 1);
    return `${prefix}${counts.get(prefix) ?? 0}`;
  };
  const router = createRouter({ newId, zone: 'Europe/Dublin', trails: true, decide });
  const agenda = createAgenda<RouterEvent>();
  const timers = new Map<string, number>();
  const all: Act[] = [];
  let now = Date.UTC(2026, 10, 23, 9);
  const pending = new Map<string, { offerId: string; personId: string }>();
  const dials = new Set<string>();
  const calls = new Set<string>();
  const happen = (event: RouterEvent): void => {
    const acts = advance(router, now, event);
    for (const act of acts) {
      if (act.do === 'timer') {
        const key = `${act.timer.kind} ${act.timer.id}`;
        if (act.at === null) timers.delete(key);
        else {
          timers.set(key, act.at);
          agenda.add(act.at, { type: 'due', timer: act.timer });
        }
      } else if (act.do === 'offer') pending.set(act.offerId, { offerId: act.offerId, personId: act.person.id });
      else if (act.do === 'offer-over') pending.delete(act.offerId);
      else if (act.do === 'dial') dials.add(act.callId);
      else if (act.do === 'call-over') dials.delete(act.callId);
    }
    all.push(...acts);
    look(router, now, acts, event, ![...timers.values()].some((due) => due <= now));
  };
  const pass = (until: number): void => {
    for (let at = agenda.nextAt(); at !== null && at <= until; at = agenda.nextAt()) {
      const event = agenda.takeNext();
      if (event?.type !== 'due' || timers.get(`${event.timer.kind} ${event.timer.id}`) !== at) continue;
      timers.delete(`${event.timer.kind} ${event.timer.id}`);
      now = at;
      happen(event);
    }
    now = until;
  };
  const settings = QUEUES.map((id) => queue(chance, id));
  if (ringAll) settings[0] = { ...(settings[0] as QueueSettings), offering: { way: 'ring-all', most: 3 } };
  happen({ type: 'queues', queues: settings.map((s) => ({ settings: s, version: 1, hours: null })) });
  const ids = Array.from({ length: 7 }, (_, i) => `p${i}`);
  happen({
    type: 'people',
    gone: [],
    people: ids.map((id) => ({
      id,
      duty: chance.next() < 0.7 ? 'ready' : 'off',
      reachable: true,
      lastContactAt: chance.next() < 0.5 ? now - chance.below(100000) : null,
      today: 0,
      load: DEFAULT_LOAD,
      levels: new Map(some(chance, SKILLS, 0.7).map((s) => [s, level(chance)])),
      limited: chance.next() < 0.25 ? { zone: 'Europe/Dublin', hours: null, limits: limits(chance, 0.7) } : null,
      profile: profile(chance),
    })),
  });
  happen({
    type: 'groups',
    groups: GROUPS.map((id) => ({
      id,
      zone: 'Europe/Lisbon',
      hours: null,
      limits: limits(chance, 0.6),
      instead: chance.next() < 0.3 ? ['perHour'] : [],
      members: new Map(some(chance, ids, 0.4).map((p) => [p, 1 + chance.below(3)])),
    })),
  });
  happen({
    type: 'partners',
    partners: [
      {
        id: 'p',
        zone: 'Europe/Dublin',
        hours: null,
        limits: { ...NO_LIMITS, perHour: 3 },
        way: chance.pick(['one-by-one', 'all-at-once']),
        ringSeconds: 20,
        countsFromSeconds: 10,
        numbers: ['n1', 'n2'].map((id) => ({
          id,
          address: id,
          zone: 'Europe/Dublin',
          hours: null,
          limits: { ...NO_LIMITS, atOnce: 1, perHour: 2 },
          perQueue: new Map(),
        })),
      },
    ],
  });
  for (let i = 0; i < steps; i++) {
    pass(now + chance.below(9000) + (chance.next() < 0.01 ? HOUR : 0));
    const person = router.floor.people.get(chance.pick(ids));
    const visits = [...router.floor.waiting.values()];
    const offer = pending.size > 0 ? chance.pick([...pending.values()]) : null;
    const roll = chance.next();
    if (!person) continue;
    if (roll < 0.36) {
      const channel: Channel = chance.pick(CHANNELS);
      happen({
        type: 'enter',
        visit: {
          id: newId('visit'),
          contactId: `c${i}`,
          queueId: chance.pick(QUEUES),
          channel,
          placedAt: now - chance.below(5000),
          handOver: chance.next() < 0.3 ? needs(chance) : [],
          priority: chance.below(2),
          familiarId: chance.next() < 0.3 ? chance.pick(ids) : null,
          kind: chance.pick(['live', 'live', 'live', 'live', 'live', 'live', 'callback', 'message']),
          because: 'it came',
          passed: [],
        },
      });
    } else if (roll < 0.58) {
      if (offer) happen({ type: 'accept', ...offer, legId: `l${i}` });
    } else if (roll < 0.66) {
      if (offer) happen({ type: 'turn-down', ...offer, how: chance.pick(['declined', 'missed', 'withdrawn']) });
    } else if (roll < 0.78) {
      const leg = [...person.open.keys()][0];
      if (leg) happen({ type: 'leg-ended', personId: person.id, legId: leg });
    } else if (roll < 0.82) {
      const leg = [...person.open].find(([, l]) => l.channel !== 'voice');
      if (leg) happen({ type: 'rest', personId: person.id, legId: leg[0], resting: !leg[1].resting });
    } else if (roll < 0.86) {
      const v = visits[0];
      if (v) happen({ type: 'leave', visitId: v.id, how: 'gave-up' });
    } else if (roll < 0.93)
      happen({
        type: 'duty',
        personId: person.id,
        duty: chance.pick(['ready', 'ready', 'away', 'off', 'away-when-empty']),
      });
    else if (roll < 0.95) happen({ type: 'reach', personId: person.id, reachable: chance.next() < 0.7 });
    else if (roll < 0.96) {
      const v = visits.find((x) => x.queue.offering.way === 'claim');
      if (v && person.pending === null) happen({ type: 'claim', visitId: v.id, personId: person.id, legId: `l${i}` });
    } else if (roll < 0.98) {
      const call = [...dials][0];
      if (call) {
        dials.delete(call);
        const how = chance.pick(['answered', 'no-answer'] as const);
        if (how === 'answered') calls.add(call);
        happen({ type: 'dial-ended', callId: call, how });
      } else {
        const talking = [...calls][0];
        if (talking) {
          calls.delete(talking);
          happen({ type: 'partner-done', callId: talking });
        }
      }
    } else if (roll < 0.99) {
      const v = visits.find((x) => x.choosingUntil !== null);
      if (v) happen({ type: 'chose', visitId: v.id });
    } else if (chance.next() < 0.5) {
      const levels = new Map(some(chance, SKILLS, 0.7).map((s) => [s, level(chance)]));
      const otherwise = chance.next() < 0.3 ? { profile: profile(chance) } : {};
      happen({ type: 'people', gone: [], people: [{ ...person, levels, ...otherwise }] });
    } else
      happen({
        type: 'members',
        changes: some(chance, GROUPS, 0.5).map((groupId) => ({
          groupId,
          personId: person.id,
          weight: chance.next() < 0.4 ? null : 1 + chance.below(3),
        })),
      });
  }
  return all;
}
