import { createAgenda } from '../agenda';
import { stream } from '../chance';
import { DEFAULT_LOAD, withOverrides } from '../people/load';
import type { Act, RouterEvent, RouterTimer } from '../routing/acts';
import type { Decision } from '../routing/decision';
import type { WaitingVisit } from '../routing/floor';
import { decide } from '../routing/pass';
import { createRouter, type Router } from '../routing/router';
import { advance } from '../routing/advance';
import { arrivalTimes, groupFactsOf, numberFacts, sampler, type Scenario } from './scenario';
import { Recorder, type RunFigures } from './record';

/** What may look on while a day runs: every instant with the acts it led to. */
export type Observer = (router: Router, now: number, acts: readonly Act[], event: RouterEvent) => void;
export type RunOptions = {
  readonly observe?: Observer;
  /** Keeps every decision's trail. */ readonly trails?: Decision[];
  readonly progress?: (share: number) => void;
};

type Due =
  | { readonly what: 'arrival'; readonly source: number }
  | { readonly what: 'give-up'; readonly visit: WaitingVisit }
  | { readonly what: 'answer'; readonly offerId: string; readonly personId: string }
  | { readonly what: 'leg-ends'; readonly legId: string; readonly personId: string }
  | { readonly what: 'shift'; readonly personId: string; readonly on: boolean }
  | {
      readonly what: 'timer';
      readonly key: string;
      readonly kind: RouterTimer['kind'];
      readonly id: string;
    }
  | { readonly what: 'dial'; readonly callId: string; readonly partnerId: string }
  | { readonly what: 'call-ends'; readonly callId: string };

/**
 * Runs a scenario once, in memory, through the same router as the live floor. Arrivals go on after the scenario's end
 * until whoever entered before it is served or gone, so that nobody's wait is cut off; they are not measured.
 */
export function runOnce(scenario: Scenario, run: number, options: RunOptions = {}): RunFigures {
  let ids = 0;
  const router = createRouter({
    newId: () => `${ids++}`,
    zone: scenario.zone,
    trails: options.trails !== undefined,
    decide,
  });
  const agenda = createAgenda<Due>();
  const at = (seconds: number) => scenario.startsAt + seconds * 1000;
  const [from, to] = [at(scenario.warmUpSeconds), at(scenario.lengthSeconds)];
  const record = new Recorder(from, to);
  const timers = new Map<string, number>();
  const limit = scenario.lengthSeconds * 3 + 86_400;
  const sources = scenario.arrivals.map((arrivals, i) => ({
    arrivals,
    times: arrivalTimes(arrivals, stream(scenario.seed, run * 1000 + i * 3), limit),
    handle: sampler(arrivals.handle, stream(scenario.seed, run * 1000 + i * 3 + 1)),
    patience: arrivals.patience && sampler(arrivals.patience, stream(scenario.seed, run * 1000 + i * 3 + 2)),
  }));
  const others = stream(scenario.seed, run * 1000 + 999);
  const answers = new Map<string, () => number>();
  const partners = new Map(
    scenario.partners.map((p) => [p.id, { answer: sampler(p.answer, others), handle: sampler(p.handle, others) }]),
  );
  /** Handle time of each contact, drawn when it comes, so that who takes it does not change it. */
  const handles = new Map<string, number>();
  let waiting = 0;
  let now = scenario.startsAt;

  const happen = (event: RouterEvent): void => {
    const acts = advance(router, now, event);
    options.observe?.(router, now, acts, event);
    for (let i = 0; i < acts.length; i++) carryOut(acts[i] as Act);
  };
  function carryOut(act: Act): void {
    switch (act.do) {
      case 'began':
        record.began(act.visit);
        if (act.visit.enteredAt >= from && act.visit.enteredAt < to) waiting++;
        break;
      case 'offer': {
        if (options.trails && act.decision) options.trails.push(act.decision);
        record.holds(act.person, now);
        const after = answers.get(act.person.id)?.() ?? 0;
        const due = { what: 'answer', offerId: act.offerId, personId: act.person.id } as const;
        if (after > 0) agenda.add(now + after * 1000, due);
        else happen({ type: 'accept', offerId: due.offerId, personId: due.personId, legId: act.offerId });
        break;
      }
      case 'took': {
        const seconds = handles.get(act.visit.contactId) ?? 0;
        handles.delete(act.visit.contactId);
        agenda.add(now + seconds * 1000, { what: 'leg-ends', legId: act.legId, personId: act.personId });
        record.took(act.visit, act.personId, now);
        record.changed(router.floor.people.get(act.personId), now);
        break;
      }
      case 'ended':
        record.ended(act.visit, act.how, now);
        if (act.visit.enteredAt >= from && act.visit.enteredAt < to) waiting--;
        break;
      case 'trail':
        options.trails?.push(act.decision);
        break;
      case 'timer': {
        const key = `${act.timer.kind} ${act.timer.id}`;
        if (act.at === null) timers.delete(key);
        else {
          timers.set(key, act.at);
          agenda.add(act.at, { what: 'timer', key, kind: act.timer.kind, id: act.timer.id });
        }
        break;
      }
      case 'dial': {
        const partner = partners.get(act.partnerId);
        agenda.add(Math.min(act.ringUntil, now + (partner?.answer() ?? 0) * 1000), {
          what: 'dial',
          callId: act.callId,
          partnerId: act.partnerId,
        });
        break;
      }
      case 'set-duty':
        record.changed(router.floor.people.get(act.personId), now);
        break;
      default:
        break;
    }
  }

  happen({ type: 'queues', queues: scenario.queues.map((settings) => ({ settings, version: 1, hours: null })) });
  const people = scenario.pools.flatMap((pool) =>
    Array.from({ length: pool.size }, (_, i) => ({
      id: pool.size === 1 ? pool.id : `${pool.id}-${i + 1}`,
      pool: pool.id,
      of: pool,
    })),
  );
  happen({
    type: 'people',
    gone: [],
    people: people.map(({ id, of: pool }) => ({
      id,
      duty: pool.shifts.length === 0 ? ('ready' as const) : ('off' as const),
      reachable: true,
      lastContactAt: null,
      today: 0,
      limited: null,
      levels: new Map(Object.entries(pool.skills)),
      load: { ...withOverrides(DEFAULT_LOAD, {}), ...pool.load },
      profile: {
        rows: pool.duty.map((d) => ({
          queueId: d.queue,
          channel: d.channel,
          band: d.band,
          delaySeconds: d.delaySeconds,
        })),
      },
    })),
  });
  if (scenario.groups.length > 0)
    happen({ type: 'groups', groups: scenario.groups.map((g) => groupFactsOf(g, people, scenario.zone)) });
  if (scenario.partners.length > 0)
    happen({
      type: 'partners',
      partners: scenario.partners.map((p) => ({
        id: p.id,
        way: p.way,
        ringSeconds: p.ringSeconds,
        countsFromSeconds: p.countsFromSeconds,
        zone: scenario.zone,
        hours: null,
        limits: p.limits,
        numbers: p.numbers.map((n) => numberFacts(n.id, n.limits, scenario.zone)),
      })),
    });
  for (const { id, of: pool } of people) {
    if (pool.answer.kind !== 'fixed' || pool.answer.seconds > 0) answers.set(id, sampler(pool.answer, others));
    for (const shift of pool.shifts) {
      agenda.add(at(shift.fromSeconds), { what: 'shift', personId: id, on: true });
      agenda.add(at(shift.toSeconds), { what: 'shift', personId: id, on: false });
    }
    record.person(id, pool.id, router.floor.people.get(id), now);
  }
  const plan = (source: number): void => {
    const next = sources[source]?.times.next();
    if (next && !next.done) agenda.add(at(next.value), { what: 'arrival', source });
  };
  sources.forEach((_, i) => plan(i));

  let contacts = 0;
  for (
    let due = agenda.nextAt();
    due !== null && (due < to || (waiting > 0 && due < at(limit)));
    due = agenda.nextAt()
  ) {
    now = due;
    const item = agenda.takeNext() as Due;
    switch (item.what) {
      case 'arrival': {
        const source = sources[item.source];
        if (!source) break;
        plan(item.source);
        const { arrivals } = source;
        const contactId = `c${contacts++}`;
        handles.set(contactId, source.handle());
        const patience = source.patience?.() ?? null;
        happen({
          type: 'enter',
          visit: {
            id: contactId,
            contactId,
            queueId: arrivals.queue,
            channel: arrivals.channel,
            placedAt: now,
            handOver: arrivals.needs,
            priority: arrivals.priority,
            familiarId: null,
            kind: 'live',
            because: 'it came',
            passed: [],
          },
        });
        const visit = router.floor.waiting.get(contactId);
        if (visit && patience !== null) agenda.add(now + patience * 1000, { what: 'give-up', visit });
        if ((contacts & 4095) === 0)
          options.progress?.(Math.min(1, (now - scenario.startsAt) / (to - scenario.startsAt)));
        break;
      }
      case 'give-up': {
        // Overflow makes a new visit of the same contact; patience goes on.
        const visit =
          router.floor.waiting.get(item.visit.id) ??
          [
            ...(item.visit.queue.clocks[item.visit.channel]?.length || item.visit.queue.entryRules.length
              ? router.floor.waiting.values()
              : []),
          ].find((v) => v.contactId === item.visit.contactId);
        if (visit) happen({ type: 'leave', visitId: visit.id, how: 'gave-up' });
        break;
      }
      case 'answer':
        happen({ type: 'accept', offerId: item.offerId, personId: item.personId, legId: item.offerId });
        break;
      case 'leg-ends':
        happen({ type: 'leg-ended', personId: item.personId, legId: item.legId });
        record.changed(router.floor.people.get(item.personId), now);
        break;
      case 'shift': {
        const person = router.floor.people.get(item.personId);
        if (!person) break;
        const empty = person.open.size === 0 && person.pending === null;
        happen({ type: 'duty', personId: item.personId, duty: item.on ? 'ready' : empty ? 'off' : 'away-when-empty' });
        record.changed(person, now);
        break;
      }
      case 'timer':
        if (timers.get(item.key) !== due) break;
        timers.delete(item.key);
        happen({ type: 'due', timer: { kind: item.kind, id: item.id } });
        break;
      case 'dial': {
        const visit = [...router.floor.waiting.values()].find((v) => v.dials.has(item.callId));
        const dial = visit?.dials.get(item.callId);
        if (!visit || !dial) break;
        const answered = now < dial.startedAt + (router.floor.partners.get(item.partnerId)?.ringSeconds ?? 0) * 1000;
        happen({ type: 'dial-ended', callId: item.callId, how: answered ? 'answered' : 'no-answer' });
        if (answered)
          agenda.add(now + (partners.get(item.partnerId)?.handle() ?? 0) * 1000, {
            what: 'call-ends',
            callId: item.callId,
          });
        break;
      }
      case 'call-ends':
        happen({ type: 'partner-done', callId: item.callId });
    }
  }
  return record.figures(Math.max(now, to));
}
