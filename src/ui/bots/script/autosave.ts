import { useCallback, useEffect, useRef, useState } from 'react';
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
};

/**
 * Something that is kept by itself a moment after each edit, with undo and redo. `send` saves it on a revision and gives
 * the next one; `latestRevision` is asked for where somebody else has saved meanwhile and theirs is to be replaced.
 */
export function useAutosave<T>(
  initial: T,
  firstRevision: number,
  send: (value: T, revision: number) => Promise<number>,
  latestRevision: () => Promise<number>,
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
  const ways = useRef({ send, latestRevision, keep: (): Promise<boolean> => Promise.resolve(true) });

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
      if (error instanceof Refused && error.code === 'unreachable' && timer.current === undefined)
        timer.current = setTimeout(() => void ways.current.keep(), AGAIN_MS);
      const where = error instanceof Refused && error.faults[0] ? ` ${error.faults[0].what}` : '';
      toast.error(
        `${sentence(error)}${where}`,
        error instanceof Refused && error.code === 'changed-meanwhile'
          ? {
              id: TOLD,
              duration: Infinity,
              action: {
                label: 'Take their version',
                onClick: () => {
                  kept.current = latest.current;
                  window.location.reload();
                },
              },
              cancel: {
                label: 'Save mine over it',
                onClick: () =>
                  void ways.current.latestRevision().then(
                    (theirs) => {
                      revision.current = theirs;
                      return sendNow();
                    },
                    (e: unknown) => toast.error(sentence(e)),
                  ),
              },
            }
          : { id: TOLD },
      );
      return false;
    }
  }, []);
  /** One save at a time, since each goes on from the revision of the one before. */
  const keep = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    timer.current = undefined;
    while (flight.current) await flight.current;
    if (kept.current === latest.current) {
      setSaved('kept');
      return true;
    }
    flight.current = sendNow();
    const done = await flight.current;
    flight.current = null;
    return done;
  }, [sendNow]);
  ways.current = { send, latestRevision, keep };
  const put = (next: T) => {
    setValue(next);
    setSaved('pending');
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void keep(), SETTLE_MS);
  };
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
      if (kept.current !== latest.current) void keep();
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
