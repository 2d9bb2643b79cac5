import type { Callback } from '../contact/contact';
import { meanSeconds, shareOf, type Spread } from './tally';

/** A call that was promised, as it is counted. Instants are floor ms. */
export type Promised = Pick<
  Callback,
  | 'id'
  | 'state'
  | 'contactId'
  | 'queueId'
  | 'askedAt'
  | 'fromAt'
  | 'untilAt'
  | 'expiresAt'
  | 'attempts'
  | 'reachedAt'
  | 'endedAt'
>;

/** By when a call was promised: the end of the window that the customer chose, or the last instant at which it may be made. */
const promisedBy = ({ untilAt, expiresAt }: Promised): number => untilAt ?? expiresAt;

/** What some promises came to. `over` are those that are not still to be made; `waits` from the window's begin to when they were reached. */
export type PromiseTally = {
  asked: number;
  over: number;
  reached: number;
  inTime: number;
  attempts: number;
  readonly waits: Spread;
};
export const noPromises = (): PromiseTally => ({
  asked: 0,
  over: 0,
  reached: 0,
  inTime: 0,
  attempts: 0,
  waits: { count: 0, sum: 0 },
});

/**
 * Counts promises. One that was taken back, and one whose time is not over and whose customer has not been reached is still to be kept, are in no share;
 * one that is reached after its window was reached, but not in time.
 */
export function countPromises(some: readonly Promised[], now: number): PromiseTally {
  const tally = noPromises();
  for (const one of some) {
    tally.asked++;
    if (one.state === 'cancelled') continue;
    const reached = one.reachedAt !== null;
    if (!reached && one.endedAt === null && now < promisedBy(one)) continue;
    tally.over++;
    tally.attempts += one.attempts;
    if (one.reachedAt === null) continue;
    tally.reached++;
    if (one.reachedAt <= promisedBy(one)) tally.inTime++;
    tally.waits.count++;
    // Somebody may be there before the window begins.
    tally.waits.sum += Math.max(0, one.reachedAt - Math.max(one.askedAt, one.fromAt));
  }
  return tally;
}

/** The figures of promises, in reading order. */
export const PROMISE_FIGURES = [
  {
    id: 'promised',
    name: 'Promised',
    unit: 'count',
    formula: 'Calls that customers asked for instead of waiting, by when they asked.',
    value: (t: PromiseTally) => t.asked,
  },
  {
    id: 'kept-in-time',
    name: 'Reached in time',
    unit: 'share',
    formula:
      'Promises whose customer was reached before the end of the window they chose, or where they chose none before the promise ended ÷ promises that are over.',
    value: (t: PromiseTally) => shareOf(t.inTime, t.over),
  },
  {
    id: 'promise-reached',
    name: 'Reached at all',
    unit: 'share',
    formula: 'Promises whose customer was reached, in time or later ÷ promises that are over.',
    value: (t: PromiseTally) => shareOf(t.reached, t.over),
  },
  {
    id: 'attempts',
    name: 'Attempts',
    unit: 'number',
    formula: 'How often it was dialled for a promise, mean over promises that are over.',
    value: (t: PromiseTally) => shareOf(t.attempts, t.over),
  },
  {
    id: 'until-reached',
    name: 'Until reached',
    unit: 'seconds',
    formula: 'From when the window began, or the customer asked, to when they were reached; mean over those reached.',
    value: (t: PromiseTally) => meanSeconds(t.waits),
  },
] as const;
