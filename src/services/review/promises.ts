import { daySpan } from '../../core/measures/calendar';
import { countPromises, PROMISE_FIGURES, type Promised, type PromiseTally } from '../../core/measures/promises';
import { callbacksAsked } from '../../data/callbacks';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { askedOf, type Range } from './asking';
import { type AskedView, askedView } from './askedview';
import { namesOf } from './names';

/** Promises that were not kept, which a page shows. */
const MOST_BROKEN = 50;

type FigureId = (typeof PROMISE_FIGURES)[number]['id'];
export type PromiseRow = {
  readonly id: string;
  readonly name: string;
  readonly values: Readonly<Record<FigureId, number | null>>;
  readonly before: Readonly<Record<FigureId, number | null>>;
};
export type PromisesView = AskedView & {
  readonly columns: readonly {
    readonly id: FigureId;
    readonly name: string;
    readonly unit: string;
    readonly formula: string;
  }[];
  /** All together first, then each queue that promised something. */
  readonly rows: readonly PromiseRow[];
  /** The last ones that were over and not kept in time. */
  readonly broken: readonly {
    readonly contactId: string;
    readonly queue: string;
    readonly askedAt: number;
    readonly attempts: number;
    readonly reachedAt: number | null;
  }[];
};

/** Calls that were promised, by when customers asked for them: how many were reached, when, and by how many attempts. */
export function viewPromises(host: Host, actor: Actor, input: unknown): PromisesView {
  mustHold(actor, 'review.view');
  const asked = askedOf(host, actor, input);
  const now = host.times.floor();
  const [found, before] = [promisesIn(host, asked.now), promisesIn(host, asked.then)];
  const nameOf = namesOf(host, actor);
  const row = (id: string, name: string, of: (one: Promised) => boolean): PromiseRow => ({
    id,
    name,
    values: valuesOf(countPromises(found.filter(of), now)),
    before: valuesOf(countPromises(before.filter(of), now)),
  });
  const queues = [...new Set([...found, ...before].map((one) => one.queueId))];
  return {
    ...askedView(host, actor, asked),
    columns: PROMISE_FIGURES.map(({ id, name, unit, formula }) => ({ id, name, unit, formula })),
    rows: [
      row('', 'All queues', () => true),
      ...queues
        .map((queueId) => row(queueId, nameOf('queue', queueId), (one) => one.queueId === queueId))
        .sort((a, b) => (b.values.promised ?? 0) - (a.values.promised ?? 0) || (a.name < b.name ? -1 : 1)),
    ],
    broken: found
      .filter((one) => {
        const { over, inTime } = countPromises([one], now);
        return over > inTime;
      })
      .slice(-MOST_BROKEN)
      .reverse()
      .map(({ contactId, queueId, askedAt, attempts, reachedAt }) => ({
        contactId,
        queue: nameOf('queue', queueId),
        askedAt,
        attempts,
        reachedAt,
      })),
  };
}
const valuesOf = (tally: PromiseTally): PromiseRow['values'] =>
  Object.fromEntries(PROMISE_FIGURES.map((f) => [f.id, f.value(tally)])) as PromiseRow['values'];

/** Promises of a range, by queue alone: what else narrows it says nothing of them. */
function promisesIn(host: Host, { from, to, zone, narrowing: { queue, until } }: Range): Promised[] {
  const end = Math.min(daySpan(to, zone).to, until ?? Infinity);
  return callbacksAsked(host.db, daySpan(from, zone).from, end).filter(
    (one) => queue === undefined || queue.includes(one.queueId),
  );
}
