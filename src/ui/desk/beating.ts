'use client';

import { useEffect, useRef } from 'react';
import { call, newKey } from '../kit/call';

/** Real ms between signs that this Desk is there. */
const BEAT_MS = 15_000;

/** Says every 15 s that this Desk is there, and at once when what is in front of whoever looks at it changes. */
export function useBeat(legId: string | null): void {
  const front = useRef(legId);
  const beat = useRef<() => void>(() => undefined);
  useEffect(() => {
    const window = newKey();
    beat.current = () => {
      const seen = document.visibilityState === 'visible';
      const said = { window, legId: front.current, seen, focused: seen && document.hasFocus() };
      void call('/api/desk/beat', { body: said }).catch(() => undefined);
    };
    const now = () => beat.current();
    const gone = () =>
      void call('/api/desk/beat', { body: { window, legId: null, seen: false, focused: false } }).catch(
        () => undefined,
      );
    document.addEventListener('visibilitychange', now);
    globalThis.addEventListener('focus', now);
    globalThis.addEventListener('pagehide', gone);
    const timer = setInterval(now, BEAT_MS);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', now);
      globalThis.removeEventListener('focus', now);
      globalThis.removeEventListener('pagehide', gone);
      gone();
    };
  }, []);
  useEffect(() => {
    front.current = legId;
    beat.current();
  }, [legId]);
}
