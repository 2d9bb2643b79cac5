'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { PassedTo } from './passdialog';

/** How long passing on can be taken back, seconds. */
const UNDO_SECONDS = 5;

/** A contact that is about to be passed on. */
export type PassingOn = {
  readonly legId: string;
  readonly to: PassedTo;
  readonly note: string;
  readonly left: number;
};

/**
 * Passing on that can be taken back for a while: done when that is over, whatever is looked at meanwhile, when another is
 * begun, and when the page is left.
 */
export function usePassing(pass: (body: Record<string, unknown>) => void) {
  const [passing, setPassing] = useState<PassingOn | null>(null);
  const latest = useRef(passing);
  latest.current = passing;
  const act = useRef(pass);
  act.current = pass;
  const now = useCallback(() => {
    const due = latest.current;
    if (!due) return;
    latest.current = null;
    setPassing(null);
    const { to, note, legId } = due;
    act.current({
      act: 'pass-on',
      legId,
      queueId: to.queueId,
      ...(to.personId === undefined ? {} : { personId: to.personId }),
      ...(to.groupId === undefined ? {} : { groupId: to.groupId }),
      ...(note === '' ? {} : { note }),
    });
  }, []);
  useEffect(() => {
    if (!passing) return;
    const timer = setTimeout(() => {
      if (passing.left <= 1) now();
      else setPassing({ ...passing, left: passing.left - 1 });
    }, 1000);
    return () => clearTimeout(timer);
  }, [passing, now]);
  useEffect(() => {
    window.addEventListener('pagehide', now);
    return () => window.removeEventListener('pagehide', now);
  }, [now]);
  return {
    passing,
    begin: (legId: string, to: PassedTo, note: string) => {
      now();
      setPassing({ legId, to, note, left: UNDO_SECONDS });
    },
    undo: () => setPassing(null),
    now,
  };
}
