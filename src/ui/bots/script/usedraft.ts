import { useCallback, useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { BotFault } from '@/core/bots/faults';
import type { BotScript } from '@/core/bots/model';
import type { BotView } from '@/services/bots/botviews';
import { call, Refused, sentence, setting } from '../../kit/call';
import { asTime } from '../../kit/figures';

/** Real ms after the last edit at which the draft is kept. */
const SETTLE_MS = 700;
type Saved = 'kept' | 'pending' | 'saving' | 'failed';
export type Draft = {
  readonly script: BotScript;
  readonly name: string;
  readonly faults: readonly BotFault[];
  readonly saved: Saved;
  readonly savedAt: string | null;
  readonly revision: () => number;
  readonly touched: boolean;
  readonly change: (next: BotScript) => void;
  readonly rename: (name: string) => void;
  readonly undo: (() => void) | null;
  readonly redo: (() => void) | null;
  /** Keeps what is not kept yet; gives whether it is. */
  readonly keep: () => Promise<boolean>;
  readonly settled: () => void;
};

/**
 * A draft as it is written: kept by itself a moment after each edit, with undo and redo, and with what the checks say
 * of it.
 */
export function useDraft(initial: BotView): Draft {
  const botId = initial.bot.id;
  const [script, setScript] = useState<BotScript>(initial.bot.draft);
  const [name, setName] = useState(initial.bot.name);
  const [past, setPast] = useState<readonly BotScript[]>([]);
  const [future, setFuture] = useState<readonly BotScript[]>([]);
  const [faults, setFaults] = useState<readonly BotFault[]>(initial.faults);
  const [saved, setSaved] = useState<Saved>('kept');
  const [savedAt, setSavedAt] = useState<string | null>(null);
  const revision = useRef(initial.bot.revision);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const latest = useRef({ script, name });
  latest.current = { script, name };

  const kept = useRef({ script, name });
  const flight = useRef<Promise<boolean> | null>(null);

  const send = useCallback(async (): Promise<boolean> => {
    setSaved('saving');
    const sent = latest.current;
    try {
      const done = await setting<{ revision: number; faults: BotFault[] }>('save-bot', {
        id: botId,
        revision: revision.current,
        name: sent.name,
        draft: sent.script,
      });
      revision.current = done.revision;
      kept.current = sent;
      setFaults(done.faults);
      setSaved(timer.current === undefined ? 'kept' : 'pending');
      setSavedAt(asTime(Date.now()));
      return true;
    } catch (error) {
      setSaved('failed');
      const where = error instanceof Refused && error.faults[0] ? ` ${error.faults[0].what}` : '';
      toast.error(
        `${sentence(error)}${where}`,
        error instanceof Refused && error.code === 'changed-meanwhile'
          ? {
              duration: Infinity,
              action: { label: 'Take their version', onClick: () => window.location.reload() },
              cancel: {
                label: 'Save mine over it',
                onClick: () =>
                  void call<BotView>(`/api/read/bot?id=${botId}`).then(
                    (theirs) => {
                      revision.current = theirs.bot.revision;
                      return send();
                    },
                    (e: unknown) => toast.error(sentence(e)),
                  ),
              },
            }
          : {},
      );
      return false;
    }
  }, [botId]);
  /** One save at a time, since each goes on from the revision of the one before. */
  const keep = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    timer.current = undefined;
    while (flight.current) await flight.current;
    if (kept.current.script === latest.current.script && kept.current.name === latest.current.name) {
      setSaved('kept');
      return true;
    }
    flight.current = send();
    const done = await flight.current;
    flight.current = null;
    return done;
  }, [send]);
  const soon = () => {
    setSaved('pending');
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void keep(), SETTLE_MS);
  };
  const change = (next: BotScript) => {
    setPast((p) => [...p.slice(-199), script]);
    setFuture([]);
    setScript(next);
    soon();
  };
  const before = past.at(-1);
  const after = future[0];
  const undo = before
    ? () => {
        setPast(past.slice(0, -1));
        setFuture([script, ...future]);
        setScript(before);
        soon();
      }
    : null;
  const redo = after
    ? () => {
        setFuture(future.slice(1));
        setPast([...past, script]);
        setScript(after);
        soon();
      }
    : null;

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
      if (timer.current !== undefined) {
        e.preventDefault();
        void keep();
      }
    };
    window.addEventListener('keydown', press);
    window.addEventListener('beforeunload', warn);
    return () => {
      window.removeEventListener('keydown', press);
      window.removeEventListener('beforeunload', warn);
      if (timer.current !== undefined) void keep();
    };
  }, [keep]);
  return {
    script,
    name,
    faults,
    saved,
    savedAt,
    revision: () => revision.current,
    touched: past.length > 0,
    change,
    rename: (next) => {
      setName(next);
      soon();
    },
    undo,
    redo,
    keep,
    settled: () => {
      setPast([]);
      setFuture([]);
    },
  };
}
