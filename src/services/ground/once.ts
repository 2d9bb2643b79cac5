import { LaneError } from '../../core/errors';
import { earlierAct, writeAct } from '../../data/onceacts';
import type { Host, Tx } from './host';

/**
 * Carries out an act once, however often it is sent: the same key gives the answer of the first time, and the same key
 * with another request is refused. Without a key every call is an act of its own.
 */
export function once<T>(host: Host, key: string | null, who: string, request: unknown, work: (tx: Tx) => T): T {
  return host.transact((tx) => {
    if (key === null) return work(tx);
    const name = `${who}:${key}`;
    const asked = JSON.stringify(request);
    const earlier = earlierAct(tx.db, name);
    if (earlier && earlier.request !== asked)
      throw new LaneError('not-valid', 'This idempotency key was used for another request.', [
        { where: 'Idempotency-Key', what: 'was used for another request' },
      ]);
    if (earlier) return JSON.parse(earlier.answer) as T;
    const answer = work(tx);
    writeAct(tx.db, name, tx.realAt, asked, JSON.stringify(answer ?? null));
    return answer;
  });
}
