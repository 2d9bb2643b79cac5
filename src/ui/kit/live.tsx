'use client';

import { QueryClient, QueryClientProvider, useQuery, useQueryClient, type UseQueryResult } from '@tanstack/react-query';
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import type { EventType } from '@/core/events';
import { call, Refused } from './call';

/** What the stream tells: something happened at this place in the log. */
type Notice = {
  readonly seq: number;
  readonly type: EventType;
  readonly contactId: string | null;
  readonly personId: string | null;
};
type Heard =
  | { readonly kind: 'notice'; readonly notice: Notice }
  | { readonly kind: 'reset' }
  | { readonly kind: 'signed-out' }
  | { readonly kind: 'link'; readonly up: boolean };

const LinkContext = createContext(true);
/** Whether the live stream is connected. */
export const useLinkUp = (): boolean => useContext(LinkContext);

/** How long until a stream that was refused is asked for again. */
const REOPEN_MS = 3000;

const signedOut = (): Promise<boolean> =>
  call('/api/session').then(
    () => false,
    (error: unknown) => error instanceof Refused && error.code === 'sign-in-needed',
  );

/** Reads again at most this often, however much happens. */
const SETTLE_MS = 250;

/**
 * One stream per browser: the tab that holds the lock listens to the server and tells the others. When it closes, the
 * next tab takes over from the last sequence it heard of, so nothing is lost between.
 */
function listenShared(after: number, hear: (heard: Heard) => void): () => void {
  const channel = new BroadcastChannel('usher-lane-stream');
  const abort = new AbortController();
  let last = after;
  let source: EventSource | null = null;
  const take = (heard: Heard) => {
    if (heard.kind === 'notice') last = Math.max(last, heard.notice.seq);
    hear(heard);
  };
  const tell = (heard: Heard) => {
    channel.postMessage(heard);
    take(heard);
  };
  channel.onmessage = (message: MessageEvent<Heard>) => take(message.data);
  void navigator.locks
    .request(
      'usher-lane-stream',
      { signal: abort.signal },
      () =>
        new Promise<void>((release) => {
          const open = () => {
            if (abort.signal.aborted) return;
            const opened = new EventSource(`/api/stream?after=${last}`);
            source = opened;
            opened.onopen = () => tell({ kind: 'link', up: true });
            opened.onerror = () => {
              tell({ kind: 'link', up: false });
              // The browser tries again by itself unless it was refused: then nobody is signed in any more, or later.
              if (opened.readyState === EventSource.CLOSED)
                void signedOut().then((out) => {
                  if (out) tell({ kind: 'signed-out' });
                  else setTimeout(open, REOPEN_MS);
                });
            };
            opened.onmessage = (message: MessageEvent<string>) =>
              tell({ kind: 'notice', notice: JSON.parse(message.data) as Notice });
            opened.addEventListener('reset', () => tell({ kind: 'reset' }));
          };
          open();
          abort.signal.addEventListener('abort', () => {
            source?.close();
            release();
          });
        }),
    )
    .catch(() => undefined);
  return () => {
    abort.abort();
    channel.close();
  };
}

type Meta = { readonly events: readonly EventType[] | 'all' };
const isMeta = (meta: unknown): meta is Meta => typeof meta === 'object' && meta !== null && 'events' in meta;

function Stream({ after, children }: { after: number; children: ReactNode }) {
  const client = useQueryClient();
  const [up, setUp] = useState(true);
  useEffect(() => {
    const heard = new Set<EventType>();
    let everything = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const flush = () => {
      timer = undefined;
      const wanted = everything ? null : new Set(heard);
      heard.clear();
      everything = false;
      void client.invalidateQueries({
        predicate: (query) =>
          isMeta(query.meta) &&
          (wanted === null || query.meta.events === 'all' || query.meta.events.some((e) => wanted.has(e))),
      });
    };
    const soon = () => {
      timer ??= setTimeout(flush, SETTLE_MS);
    };
    const stop = listenShared(after, (message) => {
      if (message.kind === 'link') return setUp(message.up);
      if (message.kind === 'signed-out') return window.location.assign('/signin');
      if (message.kind === 'reset') everything = true;
      else heard.add(message.notice.type);
      soon();
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [client, after]);
  return <LinkContext value={up}>{children}</LinkContext>;
}

/** Provides live views below it. `after` is the log sequence at which the page was rendered. */
export function Live({ after, children }: { after: number; children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({ defaultOptions: { queries: { staleTime: 60_000, retry: 1, refetchOnWindowFocus: false } } }),
  );
  return (
    <QueryClientProvider client={client}>
      <Stream after={after}>{children}</Stream>
    </QueryClientProvider>
  );
}

/**
 * A view of the server that reads itself anew when one of `events` happens. `initial` is what the page was rendered
 * with.
 */
export function useLive<T>(
  path: string,
  events: readonly EventType[] | 'all',
  initial?: T,
  everyMs: number | false = false,
): UseQueryResult<T> {
  return useQuery<T>({
    queryKey: [path],
    queryFn: () => call<T>(path),
    meta: { events },
    placeholderData: (before) => before,
    refetchInterval: everyMs,
    ...(initial === undefined ? {} : { initialData: initial }),
  });
}

/** A clock that ticks once a second from a known instant of the floor, at the floor's rate. */
export function useFloorNow(at: number, rate = 1): number {
  const [now, setNow] = useState(at);
  useEffect(() => {
    const begun = performance.now();
    setNow(at);
    const timer = setInterval(() => setNow(at + (performance.now() - begun) * rate), 500);
    return () => clearInterval(timer);
  }, [at, rate]);
  return now;
}
