'use client';

import { useCallback, useEffect, useState } from 'react';

/** What this browser keeps of a Desk's open contacts: shared by its windows, and there after a reload. */
const KINDS = ['unsent', 'outgoing', 'seen'] as const;
export type KeptHere = (typeof KINDS)[number];
const nameOf = (kind: KeptHere, legId: string): string => `lane.${kind}.${legId}`;

export function readHere<T>(kind: KeptHere, legId: string, none: T): T {
  try {
    const kept = localStorage.getItem(nameOf(kind, legId));
    return kept === null ? none : (JSON.parse(kept) as T);
  } catch {
    // A browser that keeps nothing, or what is not ours.
    return none;
  }
}
/** Keeps something, or forgets it where it is the same as nothing. Other hooks of this window hear of it as well. */
export function writeHere<T>(kind: KeptHere, legId: string, value: T | null): void {
  const name = nameOf(kind, legId);
  try {
    if (value === null) localStorage.removeItem(name);
    else localStorage.setItem(name, JSON.stringify(value));
  } catch {
    return;
  }
  window.dispatchEvent(new StorageEvent('storage', { key: name }));
}

/** Forgets what is kept of contacts that are not open any more: whoever uses this browser next does not find it. */
export function forgetOthers(legIds: readonly string[]): void {
  const open = new Set(legIds.flatMap((id) => KINDS.map((kind) => nameOf(kind, id))));
  try {
    for (const name of Object.keys(localStorage))
      if (KINDS.some((kind) => name.startsWith(`lane.${kind}.`)) && !open.has(name)) localStorage.removeItem(name);
  } catch {
    return;
  }
}

/** Something kept of an open contact, as it is in any window of this browser. */
export function useHere<T>(kind: KeptHere, legId: string, none: T): readonly [T, (value: T | null) => void] {
  const [value, setValue] = useState(none);
  useEffect(() => {
    const name = nameOf(kind, legId);
    const read = () => setValue(readHere(kind, legId, none));
    read();
    const hear = (event: StorageEvent) => {
      if (event.key === name || event.key === null) read();
    };
    window.addEventListener('storage', hear);
    return () => window.removeEventListener('storage', hear);
    // What stands for nothing is the same each time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [kind, legId]);
  const write = useCallback((next: T | null) => writeHere(kind, legId, next), [kind, legId]);
  return [value, write];
}
