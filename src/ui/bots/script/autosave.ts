import { useCallback, useEffect, useRef, useState } from 'react';
import { type Clash, clashesOf, merged, type Side } from '@/core/drafts/merging';
import { toast } from 'sonner';
import { Refused, sentence } from '../../kit/call';
import { asTime } from '../../kit/figures';

/** Real ms after the last edit at which it is kept. */
const SETTLE_MS = 700;
/** Real ms after which it is tried again where the server could not be reached. */
const AGAIN_MS = 3000;
/** What went wrong is told in one place, however often it is tried. */
const TOLD = 'autosave';
type Saved = 'kept' | 'pending' | 'saving' | 'failed';

export type Autosave<T> = {
  readonly value: T;
  readonly saved: Saved;
  readonly savedAt: string | null;
  readonly revision: () => number;
  readonly touched: boolean;
  /** What cannot be undone by itself, such as a letter of a name, is no step of undo. */
  readonly change: (next: T, step?: boolean) => void;
  readonly undo: (() => void) | null;
  readonly redo: (() => void) | null;
  /** Keeps what is not kept yet; gives whether it is. */
  readonly keep: () => Promise<boolean>;
  readonly settled: () => void;
  /** Where somebody else set the same otherwise; nothing is kept until it is chosen. */
  readonly clash: {
    readonly clashes: readonly Clash[];
    readonly take: (chosen: (clash: Clash) => Side) => void;
  } | null;
};

/** A version that somebody else has kept. */
type Theirs<T> = { readonly value: T; readonly revision: number };

/**
 * Something that is kept by itself a moment after each edit, with undo and redo. `send` saves it on a revision and gives
 * the next one; `readTheirs` is asked where somebody else has saved meanwhile: both are put together part by part.
 */
export function useAutosave<T>(
  initial: T,
  firstRevision: number,
  send: (value: T, revision: number) => Promise<number>,
  readTheirs: () => Promise<Theirs<T>>,
): Autosave<T> {
  const [value, setValue] = useState(initial);
  const [past, setPast] = useState<readonly T[]>([]);
  const [future, setFuture] = useState<readonly T[]>([]);
  const [saved, setSaved] = useState<Saved>('kept');
  const [savedAt, setSavedAt] = useState<string | null>(null);
  const revision = useRef(firstRevision);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const latest = useRef(value);
  latest.current = value;
  const kept = useRef(value);
  const flight = useRef<Promise<boolean> | null>(null);
  const [meets, setMeets] = useState<Theirs<T> | null>(null);
  const waits = useRef(false);
  waits.current = meets !== null;
  const ways = useRef({
    send,
    readTheirs,
    keep: (): Promise<boolean> => Promise.resolve(true),
    join: (_theirs: Theirs<T>): void => undefined,
    leave: (): void => undefined,
  });

  const sendNow = useCallback(async (): Promise<boolean> => {
    setSaved('saving');
    const sent = latest.current;
    try {
      revision.current = await ways.current.send(sent, revision.current);
      kept.current = sent;
      setSaved(timer.current === undefined ? 'kept' : 'pending');
      toast.dismiss(TOLD);
      setSavedAt(asTime(Date.now()));
      return true;
    } catch (error) {
      setSaved('failed');
      if (error instanceof Refused && error.code === 'changed-meanwhile') {
        const theirs = await ways.current.readTheirs().catch(() => null);
        if (theirs) {
          ways.current.join(theirs);
          return false;
        }
      }
      if (error instanceof Refused && error.code === 'unreachable' && timer.current === undefined)
        timer.current = setTimeout(() => void ways.current.keep(), AGAIN_MS);
      const where = error instanceof Refused && error.faults[0] ? ` ${error.faults[0].what}` : '';
      toast.error(`${sentence(error)}${where}`, { id: TOLD });
      return false;
    }
  }, []);
  /** One save at a time, since each goes on from the revision of the one before. */
  const keep = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    timer.current = undefined;
    while (flight.current) await flight.current;
    if (waits.current) return false;
    if (kept.current === latest.current) {
      setSaved('kept');
      return true;
    }
    flight.current = sendNow();
    const done = await flight.current;
    flight.current = null;
    return done;
  }, [sendNow]);
  /** Both in one, with every step of undo: undoing one's own takes nothing of theirs away. */
  const joined = (theirs: Theirs<T>, chosen: (clash: Clash) => Side) => {
    const base = kept.current;
    const both = (mine: T) => merged(base, mine, theirs.value, chosen);
    const next = both(latest.current);
    setPast((p) => p.map(both));
    setFuture((f) => f.map(both));
    setMeets(null);
    waits.current = false;
    kept.current = theirs.value;
    revision.current = theirs.revision;
    latest.current = next;
    put(next);
  };
  const join = (theirs: Theirs<T>): void => {
    if (clashesOf(kept.current, latest.current, theirs.value).length > 0) return setMeets(theirs);
    joined(theirs, () => 'mine');
    toast.message('Somebody else writes here as well. Both changes are in it.', { id: TOLD });
  };
  /** Left without choosing: one's own stands where both set the same, and History has theirs. */
  const leave = (): void => {
    if (meets) joined(meets, () => 'mine');
    if (kept.current !== latest.current) void keep();
  };
  ways.current = { send, readTheirs, keep, join, leave };
  const clashes = meets ? clashesOf(kept.current, value, meets.value) : [];
  function put(next: T): void {
    setValue(next);
    setSaved('pending');
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void keep(), SETTLE_MS);
  }
  const change = (next: T, step = true) => {
    if (step) {
      setPast((p) => [...p.slice(-199), value]);
      setFuture([]);
    }
    put(next);
  };
  const before = past.at(-1);
  const after = future[0];
  const undo =
    before === undefined
      ? null
      : () => {
          setPast(past.slice(0, -1));
          setFuture([value, ...future]);
          put(before);
        };
  const redo =
    after === undefined
      ? null
      : () => {
          setFuture(future.slice(1));
          setPast([...past, value]);
          put(after);
        };

  const keys = useRef<(e: KeyboardEvent) => void>(() => undefined);
  keys.current = (e) => {
    if (!(e.ctrlKey || e.metaKey)) return;
    const inText = e.target instanceof HTMLElement && e.target.closest('input, textarea, select');
    if (e.key.toLowerCase() === 's') {
      e.preventDefault();
      void keep();
    } else if (e.key.toLowerCase() === 'z' && !inText) {
      e.preventDefault();
      if (e.shiftKey) redo?.();
      else undo?.();
    }
  };
  useEffect(() => {
    const press = (e: KeyboardEvent) => keys.current(e);
    const warn = (e: BeforeUnloadEvent) => {
      if (kept.current !== latest.current) {
        e.preventDefault();
        void keep();
      }
    };
    window.addEventListener('keydown', press);
    window.addEventListener('beforeunload', warn);
    return () => {
      window.removeEventListener('keydown', press);
      window.removeEventListener('beforeunload', warn);
      ways.current.leave();
    };
  }, [keep]);
  return {
    value,
    saved,
    savedAt,
    revision: () => revision.current,
    touched: past.length > 0,
    change,
    undo,
    redo,
    keep,
    settled: () => {
      setPast([]);
      setFuture([]);
    },
    clash: meets && { clashes, take: (chosen) => joined(meets, chosen) },
  };
}

/** How far keeping it has come, in words. */
export const savedWords = ({ saved, savedAt }: Pick<Autosave<unknown>, 'saved' | 'savedAt'>): string =>
  saved === 'pending' || saved === 'saving'
    ? 'Saving…'
    : saved === 'failed'
      ? 'Not saved'
      : savedAt
        ? `Saved ${savedAt}`
        : '';
