import { LaneError } from '@/core/errors';
import type { LaneEvent } from '@/core/events';
import { eventsAfterLimited, type Holds, type StreamSource } from '@/services/floor/stream';
import { services } from '../services';

/** The most events replayed to somebody who was away; more means `reset`, and the page reads itself anew. */
const MOST_REPLAYED = 2000;
/** Streams that one reader may have open: a person's pages, or a customer's side. */
const MOST_STREAMS = 20;
const reading = new Map<string, number>();
/** Bytes that may wait for a slow reader before the stream is closed; it reconnects and replays from its last id. */
const MOST_WAITING = 1_000_000;

/**
 * A server-sent-events response from a position in the log: first what was missed, then what comes, each event with its
 * log sequence as id. Nothing is lost between the two, since listening begins before the replay is read. `reader` is whoever
 * reads: one has a few streams open at most; more is `slow-down`. It ends as soon as what it `holds` by has ended.
 */
export function eventStream(request: Request, source: StreamSource, reader: string, holds: Holds): Response {
  const open = reading.get(reader) ?? 0;
  if (open >= MOST_STREAMS)
    throw new LaneError('slow-down', `There are ${MOST_STREAMS} streams open here. Close a page first.`);
  const asked = request.headers.get('last-event-id') ?? new URL(request.url).searchParams.get('after');
  const { host } = services();
  const encoder = new TextEncoder();
  let stopped = false;
  let stop = () => {};
  const body = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        let sent = 0;
        const push = (text: string) => {
          if ((controller.desiredSize ?? 0) < -MOST_WAITING) return close();
          controller.enqueue(encoder.encode(text));
        };
        const send = (event: LaneEvent) => {
          if (event.seq <= sent) return;
          sent = event.seq;
          const shown = source(event);
          if (shown !== null) push(`id: ${event.seq}\ndata: ${JSON.stringify(shown)}\n\n`);
        };
        reading.set(reader, open + 1);
        const close = () => {
          stop();
          try {
            controller.close();
          } catch {
            // Already closed by the reader.
          }
        };
        const ended = (): boolean => {
          if (!holds.still()) close();
          return stopped;
        };
        // A change of settings may have changed what the reader may hear: first looked at, then heard.
        const unlisten = host.listen((events) => {
          if (!events.some((e) => e.type === 'settings.changed') || !ended()) events.forEach(send);
        });
        const unwatch = holds.watch(ended);
        const beat = setInterval(() => {
          if (!ended()) push(': still here\n\n');
        }, 15_000);
        stop = () => {
          if (stopped) return;
          stopped = true;
          clearInterval(beat);
          unlisten();
          unwatch();
          const left = (reading.get(reader) ?? 1) - 1;
          if (left > 0) reading.set(reader, left);
          else reading.delete(reader);
        };
        request.signal.addEventListener('abort', close);
        push('retry: 1000\n\n');
        const { newest, missed } = eventsAfterLimited(host, asked === null ? null : Number(asked), MOST_REPLAYED);
        if (missed === null) push(`id: ${newest}\nevent: reset\ndata: {}\n\n`);
        else missed.forEach(send);
        sent = Math.max(sent, newest);
      },
      cancel: () => stop(),
    },
    { highWaterMark: 0, size: (chunk) => chunk.byteLength },
  );
  return new Response(body, {
    headers: {
      'content-type': 'text/event-stream; charset=utf-8',
      'cache-control': 'no-store, no-transform',
      connection: 'keep-alive',
      'x-accel-buffering': 'no',
    },
  });
}
