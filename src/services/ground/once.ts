import { createHash } from 'node:crypto';
import { LaneError } from '../../core/errors';
import { earlierAct, writeAct } from '../../data/onceacts';
import type { Host, Tx } from './host';

const digest = (...parts: readonly string[]): Buffer => {
  const hash = createHash('sha256');
  for (const part of parts) hash.update(`${part.length}:${part}`);
  return hash.digest();
};

/**
 * Carries out an act once, however often it is sent: the same key of the same caller gives the answer of the first time,
 * and with another request it is refused. Without a key every call is an act of its own. Only digests are kept, and the
 * answer: that may hold ids and figures, never words or a token.
 */
export function once<T>(host: Host, key: string | null, caller: string, request: unknown, work: (tx: Tx) => T): T {
  return host.transact((tx) => {
    if (key === null) return work(tx);
    const name = digest(caller, key);
    const asked = digest(JSON.stringify(request));
    const earlier = earlierAct(tx.db, name);
    if (earlier && !earlier.request.equals(asked))
      throw new LaneError('not-valid', 'This idempotency key was used for another request.', [
        { where: 'Idempotency-Key', what: 'was used for another request' },
      ]);
    if (earlier) return JSON.parse(earlier.answer) as T;
    const answer = work(tx);
    writeAct(tx.db, name, tx.realAt, asked, JSON.stringify(answer ?? null));
    return answer;
  });
}
