import type { Channel } from '../channels';
import { SHORT_SECONDS } from '../measures/servicelevel';
import type { LeftHow } from '../routing/acts';
import type { FloorPerson, WaitingVisit } from '../routing/floor';
import { goalOf } from '../routing/queue';

/** What one run came to in one queue and channel; waits are seconds from placedAt to acceptance. */
export type LaneRun = {
  readonly queue: string;
  readonly channel: Channel;
  readonly offered: number;
  readonly handled: number;
  readonly gaveUp: number;
  readonly shortGiveUps: number;
  readonly otherwise: number;
  readonly waited: number;
  readonly inGoal: number;
  readonly waits: Float64Array;
};
/** What one person did in one run; seconds on duty, with a contact, and load-seconds ÷ 100. */
export type PersonRun = {
  readonly id: string;
  readonly pool: string;
  readonly handled: number;
  readonly onDuty: number;
  readonly busy: number;
  readonly load: number;
};
export type RunFigures = { readonly lanes: readonly LaneRun[]; readonly people: readonly PersonRun[] };

type Lane = {
  offered: number;
  handled: number;
  gaveUp: number;
  shortGiveUps: number;
  otherwise: number;
  waited: number;
  inGoal: number;
  waits: number[];
  readonly goalMs: number;
  readonly queue: string;
  readonly channel: Channel;
};
type Worker = {
  readonly pool: string;
  handled: number;
  onDutyMs: number;
  busyMs: number;
  loadMs: number;
  at: number;
  on: boolean;
  open: number;
  used: number;
};

/**
 * Counts a run as it goes. A visit counts when it entered between `from` and `to` (ms); people's time between the two.
 * Occupancy and load follow the definitions of Review: time with any contact open, and time-weighted load ÷ 100.
 */
export class Recorder {
  private readonly lanes = new Map<string, Lane>();
  private readonly workers = new Map<string, Worker>();
  constructor(
    private readonly from: number,
    private readonly to: number,
  ) {}

  private laneOf(visit: WaitingVisit): Lane | null {
    if (visit.enteredAt < this.from || visit.enteredAt >= this.to) return null;
    const key = `${visit.queue.id}|${visit.channel}`;
    let lane = this.lanes.get(key);
    if (!lane)
      this.lanes.set(
        key,
        (lane = {
          offered: 0,
          handled: 0,
          gaveUp: 0,
          shortGiveUps: 0,
          otherwise: 0,
          waited: 0,
          inGoal: 0,
          waits: [],
          goalMs: goalOf(visit.queue, visit.channel).seconds * 1000,
          queue: visit.queue.id,
          channel: visit.channel,
        }),
      );
    return lane;
  }
  began(visit: WaitingVisit): void {
    const lane = this.laneOf(visit);
    if (lane) lane.offered++;
  }
  took(visit: WaitingVisit, personId: string, now: number): void {
    const worker = this.workers.get(personId);
    if (worker && now >= this.from && now < this.to) worker.handled++;
    const lane = this.laneOf(visit);
    if (!lane) return;
    const wait = now - visit.placedAt;
    lane.waits.push(wait / 1000);
    if (wait > 0) lane.waited++;
    if (wait <= lane.goalMs) lane.inGoal++;
  }
  ended(visit: WaitingVisit, how: LeftHow | 'accepted', now: number): void {
    const lane = this.laneOf(visit);
    if (!lane) return;
    if (how === 'accepted') lane.handled++;
    else if (how === 'gave-up') {
      lane.gaveUp++;
      if (now > visit.enteredAt) lane.waited++;
      if (now - visit.enteredAt <= SHORT_SECONDS * 1000) lane.shortGiveUps++;
    } else lane.otherwise++;
  }

  person(id: string, pool: string, person: FloorPerson | undefined, now: number): void {
    this.workers.set(id, {
      pool,
      handled: 0,
      onDutyMs: 0,
      busyMs: 0,
      loadMs: 0,
      at: now,
      on: person?.duty === 'ready',
      open: 0,
      used: 0,
    });
  }
  /** What a person holds, or their state, is otherwise from now on. */
  changed(person: FloorPerson | undefined, now: number): void {
    const worker = person && this.workers.get(person.id);
    if (!worker) return;
    this.pass(worker, now);
    worker.on = person.duty === 'ready' || person.duty === 'away-when-empty';
    worker.open = person.open.size;
    worker.used = person.used;
  }
  /** Somebody is offered a contact, which holds load from now on. */
  holds(person: FloorPerson, now: number): void {
    this.changed(person, now);
  }

  private pass(worker: Worker, now: number): void {
    const ms = Math.max(0, Math.min(now, this.to) - Math.max(worker.at, this.from));
    worker.at = now;
    if (ms === 0) return;
    if (worker.on || worker.open > 0) worker.onDutyMs += ms;
    if (worker.open > 0) worker.busyMs += ms;
    worker.loadMs += (ms * worker.used) / 100;
  }

  figures(now: number): RunFigures {
    for (const worker of this.workers.values()) this.pass(worker, now);
    return {
      lanes: [...this.lanes.values()].map(({ goalMs: _goal, waits, ...lane }) => ({
        ...lane,
        waits: Float64Array.from(waits).sort(),
      })),
      people: [...this.workers].map(([id, w]) => ({
        id,
        pool: w.pool,
        handled: w.handled,
        onDuty: w.onDutyMs / 1000,
        busy: w.busyMs / 1000,
        load: w.loadMs / 1000,
      })),
    };
  }
}
