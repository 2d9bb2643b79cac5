'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { call, newKey, Refused } from '../kit/call';
import { readHere, useHere, writeHere } from './kepthere';

/** Words on their way to a customer: sent under one key however often, so that they arrive once. */
export type Outgoing = {
  readonly key: string;
  readonly text: string;
  /** The stock reply that they came from. */ readonly replyId: string | null;
  /** Why they were refused; null while they are on their way. */ readonly why: string | null;
};
const NONE: readonly Outgoing[] = [];

/** How soon what did not arrive is tried again, ms. */
const AGAIN_MS = 3000;
/** What says that the words may have arrived, or may later: they go again under the same key. */
const NOT_ARRIVED: readonly string[] = ['unreachable', 'broken-inside', 'not-kept', 'slow-down'];

/**
 * What is said to one customer, in order, one after the other. What was refused waits to be sent again or taken back, and
 * what follows waits behind it. It is kept in this browser until it has arrived.
 */
export function useOutgoing(legId: string, onArrived: () => void) {
  const [outgoing] = useHere<readonly Outgoing[]>('outgoing', legId, NONE);
  const [late, setLate] = useState(false);
  const busy = useRef(false);
  const arrived = useRef(onArrived);
  arrived.current = onArrived;

  const change = useCallback(
    (next: (all: readonly Outgoing[]) => readonly Outgoing[]) => {
      const all = next(readHere('outgoing', legId, NONE));
      writeHere('outgoing', legId, all.length === 0 ? null : all);
    },
    [legId],
  );
  const goOn = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    try {
      for (;;) {
        const [first] = readHere('outgoing', legId, NONE);
        if (!first || first.why !== null) return;
        const { key, text, replyId } = first;
        try {
          await call('/api/desk', {
            body: { act: 'say', legId, text, ...(replyId === null ? {} : { replyId }) },
            headers: { 'idempotency-key': key },
          });
          setLate(false);
          change((all) => all.filter((o) => o.key !== key));
          arrived.current();
        } catch (error) {
          if (error instanceof Refused && !NOT_ARRIVED.includes(error.code)) {
            change((all) => all.map((o) => (o.key === key ? { ...o, why: error.message } : o)));
            return;
          }
          setLate(true);
          await new Promise((resume) => setTimeout(resume, AGAIN_MS));
        }
      }
    } finally {
      busy.current = false;
    }
  }, [legId, change]);
  // What was on its way when the page was left goes on.
  useEffect(() => {
    void goOn();
  }, [goOn]);

  return {
    outgoing,
    /** Whether the server could not be reached the last time. */ late,
    send: (text: string, replyId: string | null) => {
      change((all) => [...all, { key: newKey(), text, replyId, why: null }]);
      void goOn();
    },
    again: (key: string) => {
      change((all) => all.map((o) => (o.key === key ? { ...o, why: null } : o)));
      void goOn();
    },
    takeBack: (key: string) => {
      change((all) => all.filter((o) => o.key !== key));
      void goOn();
    },
  };
}
