import type { ErrorBody } from '@/core/errors';

/** What the server refused, in a sentence; `faults` name the places. */
export class Refused extends Error {
  readonly code: string;
  readonly faults: ErrorBody['error']['faults'];
  constructor(code: string, sentence: string, faults: ErrorBody['error']['faults']) {
    super(sentence);
    this.code = code;
    this.faults = faults;
  }
}

async function answer<T>(response: Response): Promise<T> {
  const body: unknown = await response.json().catch(() => null);
  if (response.ok) return body as T;
  const error = (body as ErrorBody | null)?.error;
  throw new Refused(
    error?.code ?? 'broken-inside',
    error?.message ?? 'The server did not answer as expected.',
    error?.faults ?? [],
  );
}

/** Browsers send no more than 64 KB after a page is gone. */
const LAST_WORDS = 50_000;

/**
 * Asks our own server; throws Refused with a sentence when it says no, or cannot be reached. `last` is sent also when the
 * page is left meanwhile, unless it is large.
 */
export async function call<T>(
  path: string,
  init?: { method?: string; body?: unknown; headers?: Record<string, string>; last?: boolean },
): Promise<T> {
  let response: Response;
  const body = init?.body === undefined ? undefined : JSON.stringify(init.body);
  try {
    response = await fetch(path, {
      method: init?.method ?? (init?.body === undefined ? 'GET' : 'POST'),
      headers: { ...(init?.body === undefined ? {} : { 'content-type': 'application/json' }), ...init?.headers },
      ...(body === undefined ? {} : { body }),
      ...(init?.last && (body?.length ?? 0) < LAST_WORDS ? { keepalive: true } : {}),
    });
  } catch {
    throw new Refused(
      'unreachable',
      'The server cannot be reached. Check the connection; nothing you typed is lost.',
      [],
    );
  }
  return answer<T>(response);
}

export const setting = <T>(act: string, body: unknown): Promise<T> => call<T>(`/api/settings/${act}`, { body });
export const newKey = (): string => crypto.randomUUID();
export const sentence = (error: unknown): string => (error instanceof Error ? error.message : 'Something went wrong.');
