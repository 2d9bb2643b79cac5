import { describeError, LaneError } from '@/core/errors';
import type { Actor } from '@/services/ground/actor';
import { isDeeper, MOST_DEEP } from '@/services/ground/validate';
import { currentActor, stillHere } from '../services';

/** The largest body the interface takes where no file is meant, bytes. */
const MOST_BYTES = 64 * 1024;

/** A body as it came, read up to a limit. Throws `too-large`. */
export async function readBytes(request: Request, most: number): Promise<Uint8Array> {
  const declared = Number(request.headers.get('content-length') ?? 0);
  if (declared > most) throw new LaneError('too-large', `The body is larger than ${most / 1024} KB.`);
  const reader = request.body?.getReader();
  const parts: Uint8Array[] = [];
  let size = 0;
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    size += part.value.byteLength;
    if (size > most) {
      await reader?.cancel();
      throw new LaneError('too-large', `The body is larger than ${most / 1024} KB.`);
    }
    parts.push(part.value);
  }
  return Buffer.concat(parts);
}

/** JSON of a body, read up to the limit. Throws `too-large` or `broken-json`. */
export async function readJson(request: Request, most = MOST_BYTES): Promise<unknown> {
  const bytes = await readBytes(request, most);
  let value: unknown;
  try {
    value = JSON.parse(Buffer.from(bytes).toString('utf8'));
  } catch (error) {
    throw new LaneError(
      'broken-json',
      `The body is not JSON: ${error instanceof Error ? error.message : 'unreadable'}.`,
      [{ where: 'the body', what: 'is not JSON' }],
    );
  }
  if (isDeeper(value, MOST_DEEP))
    throw new LaneError('broken-json', `The body is nested over ${MOST_DEEP} deep.`, [
      { where: 'the body', what: 'is nested too deep' },
    ]);
  return value;
}

/** Runs a handler and turns what it throws into the error body that docs/api.md describes. */
export async function reply(work: () => unknown | Promise<unknown>, status = 200): Promise<Response> {
  try {
    const result = await work();
    return result instanceof Response
      ? result
      : Response.json(result ?? null, { status, headers: { 'cache-control': 'no-store' } });
  } catch (error) {
    const { status: code, body } = describeError(error);
    if (code >= 500) console.error(error);
    return Response.json(body, { status: code, headers: { 'cache-control': 'no-store' } });
  }
}

/**
 * Like `reply`, for handlers that only signed-in people may use. Whoever changes something is there, so that their session
 * goes on; what pages read or send by themselves (`alone`) says nothing of that.
 */
export const replyTo = (
  request: Request,
  work: (actor: Actor) => unknown | Promise<unknown>,
  { status = 200, alone = request.method === 'GET' }: { readonly status?: number; readonly alone?: boolean } = {},
): Promise<Response> =>
  reply(async () => {
    const actor = await currentActor();
    if (!actor) throw new LaneError('sign-in-needed', 'You are not signed in.');
    if (!alone) await stillHere();
    return work(actor);
  }, status);

export const keyOf = (request: Request): string | null => {
  const key = request.headers.get('idempotency-key');
  if (key !== null && (key.length < 8 || key.length > 100))
    throw new LaneError('not-valid', 'An idempotency key has 8 to 100 characters.', [
      { where: 'Idempotency-Key', what: 'has the wrong length' },
    ]);
  return key;
};
export const bearer = (request: Request): string | null =>
  /^Bearer (.+)$/.exec(request.headers.get('authorization') ?? '')?.[1] ?? null;
type FileKind = { readonly name: string; readonly type: string };
const csv = (name: string): FileKind => ({ name, type: 'text/csv; charset=utf-8' });
const fileHeaders = ({ name, type }: FileKind) => ({
  'content-type': type,
  'content-disposition': `attachment; filename="${name}"`,
  'cache-control': 'no-store',
});
/** A CSV file to be kept. */
export const csvFile = ({ name, text }: { name: string; text: string }): Response =>
  new Response(text, { headers: fileHeaders(csv(name)) });

/**
 * A long file, read part by part as its reader takes it; `part` gives one from where the one before ended. What keeps
 * the first from being read is an answer of its own; what breaks later ends the file short, which its reader sees.
 */
export async function fileParts(
  kind: FileKind,
  part: (after: string) => Promise<{ readonly text: string; readonly next: string | null }>,
): Promise<Response> {
  let ready: Awaited<ReturnType<typeof part>> | null = await part('');
  const bytes = new TextEncoder();
  const body = new ReadableStream<Uint8Array>(
    {
      async pull(reader) {
        if (!ready) return reader.close();
        const { text, next } = ready;
        reader.enqueue(bytes.encode(text));
        ready = next === null ? null : await part(next);
      },
    },
    { highWaterMark: 1 },
  );
  return new Response(body, { headers: fileHeaders(kind) });
}
export const csvParts = (name: string, part: Parameters<typeof fileParts>[1]): Promise<Response> =>
  fileParts(csv(name), part);
export const query = (request: Request): Record<string, string> =>
  Object.fromEntries(new URL(request.url).searchParams);

/** A file whose address is the digest of its bytes, so that it never changes. */
export const unchanging = ({ type, bytes }: { readonly type: string; readonly bytes: Uint8Array }): Response =>
  new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': type,
      'cache-control': 'public, max-age=31536000, immutable',
      'content-disposition': 'inline',
    },
  });
