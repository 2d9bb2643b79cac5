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

/** Asks our own server; throws Refused with a sentence when it says no, or cannot be reached. */
export async function call<T>(
  path: string,
  init?: { method?: string; body?: unknown; headers?: Record<string, string> },
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: init?.method ?? (init?.body === undefined ? 'GET' : 'POST'),
      headers: { ...(init?.body === undefined ? {} : { 'content-type': 'application/json' }), ...init?.headers },
      ...(init?.body === undefined ? {} : { body: JSON.stringify(init.body) }),
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
