'use client';

import { useEffect, useState } from 'react';
import type { DeskContact } from '@/services/contacts/deskcontact';
import { readHere, writeHere } from './kepthere';

const isLookedAt = (): boolean => document.visibilityState === 'visible' && document.hasFocus();
const lastOf = (c: DeskContact): number => c.messages.at(-1)?.seq ?? 0;
const unreadOf = (c: DeskContact): number => {
  const seen = readHere('seen', c.legId, 0);
  return c.messages.filter((m) => m.from === 'customer' && m.at >= c.acceptedAt && m.seq > seen).length;
};

/** How many words of each customer nobody has looked at yet, by leg; what is in front of somebody who looks is read. */
export function useUnread(contacts: readonly DeskContact[], front: DeskContact | null): ReadonlyMap<string, number> {
  const [turn, setTurn] = useState(0);
  const last = front ? lastOf(front) : 0;
  const frontId = front?.legId ?? null;
  useEffect(() => {
    const look = () => {
      if (frontId !== null && isLookedAt() && readHere('seen', frontId, 0) < last) writeHere('seen', frontId, last);
      setTurn((n) => n + 1);
    };
    look();
    window.addEventListener('focus', look);
    document.addEventListener('visibilitychange', look);
    // Another window may have it in front.
    window.addEventListener('storage', look);
    return () => {
      window.removeEventListener('focus', look);
      document.removeEventListener('visibilitychange', look);
      window.removeEventListener('storage', look);
    };
  }, [frontId, last]);
  void turn;
  return new Map(typeof window === 'undefined' ? [] : contacts.map((c) => [c.legId, unreadOf(c)]));
}
