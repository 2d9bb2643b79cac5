import { bodyOf, type BodyPart, inputsIn } from './bodies';
import type { Reply } from './conversation';
import type { Value, Values } from './value';

export const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;
export type Method = (typeof METHODS)[number];

/**
 * How whoever asks says who they are: with the secret as a bearer token (RFC 6750) or as the password of a user (RFC 7617),
 * under a header of its own, or by a token that is given for it (OAuth 2.0 client credentials, RFC 6749 §4.4).
 */
export type SignIn =
  | { readonly by: 'bearer' }
  | { readonly by: 'basic'; readonly user: string }
  | { readonly by: 'header'; readonly header: string }
  | {
      readonly by: 'client';
      readonly clientId: string;
      readonly tokenHost: string;
      readonly tokenPath: string;
      readonly scope: string;
    };

/** One way to ask something outside, defined once for all bots. Secrets stand apart and never leave the server. */
export type Connector = {
  readonly id: string;
  readonly name: string;
  /** Whether it only looks, or changes something outside. */
  readonly does: 'look-up' | 'do';
  /** `https://api.example`; empty is the stand-in system that is registered where the server was started. */
  readonly host: string;
  readonly method: Method;
  /** May hold inputs as `{name}`; inputs that it does not hold go as a query (GET, DELETE) or as JSON. */
  readonly path: string;
  /** Sent along; values may show inputs as `{name}`. */
  readonly headers: readonly { readonly name: string; readonly value: string }[];
  /** The JSON that is sent; null sends the inputs that the path does not hold, each by its name. */
  readonly body: BodyPart | null;
  readonly signIn: SignIn;
  readonly inputs: readonly string[];
  /** What is taken out of the answer: a name for bots, and where it stands, as `order.delivery.date`. */
  readonly outputs: readonly { readonly name: string; readonly from: string }[];
  readonly timeoutSeconds: number;
};

export type OutsideRequest = {
  readonly host: string;
  readonly method: Method;
  readonly path: string;
  readonly headers: readonly { readonly name: string; readonly value: string }[];
  readonly signIn: SignIn;
  readonly body: string | null;
  readonly timeoutSeconds: number;
  /** Sent with what changes something, so that it is done once. */ readonly key: string | null;
};
export type OutsideAnswer = { readonly status: number; readonly body: unknown } | { readonly fault: string };

const PLACE = /\{([^{}]+)\}/g;

/** The request that a connector makes of some inputs. Inputs it does not know are left out. */
export function requestOf(connector: Connector, inputs: Values, key: string): OutsideRequest {
  const query = connector.method === 'GET' || connector.method === 'DELETE';
  const used = new Set<string>();
  const path = connector.path.replace(PLACE, (_, name: string) => {
    used.add(name);
    // Half a sign, as a customer may send, would be refused.
    return encodeURIComponent(String(inputs[name] ?? '').toWellFormed());
  });
  const own = connector.body === null || query ? null : connector.body;
  for (const name of own ? inputsIn(own) : []) used.add(name);
  const headers = connector.headers.map(({ name, value }) => ({
    name,
    value: value.replace(PLACE, (_, input: string) => {
      used.add(input);
      return String(inputs[input] ?? '');
    }),
  }));
  const rest = Object.fromEntries(
    connector.inputs
      .filter((name) => !used.has(name) && inputs[name] !== undefined && inputs[name] !== '')
      .map((name) => [name, inputs[name] ?? '']),
  );
  const search =
    query && Object.keys(rest).length > 0
      ? (path.includes('?') ? '&' : '?') +
        new URLSearchParams(Object.entries(rest).map(([name, value]) => [name, String(value)])).toString()
      : '';
  return {
    host: connector.host,
    method: connector.method,
    path: path + search,
    // What a customer said must not begin another header.
    headers: headers.map(({ name, value }) => ({ name, value: value.replace(/[^\t\x20-\x7e\x80-\xff]/g, ' ').trim() })),
    signIn: connector.signIn,
    body: query ? null : JSON.stringify(own ? (bodyOf(own, inputs) ?? {}) : rest),
    timeoutSeconds: connector.timeoutSeconds,
    key: connector.does === 'do' ? key : null,
  };
}

/** A plain value at a place such as `order.delivery.date` or `items.0.name`; undefined where there is none. */
export function valueAt(body: unknown, from: string): Value | undefined {
  let at: unknown = body;
  for (const part of from.split('.').filter(Boolean)) {
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, part)) return undefined;
    at = (at as Readonly<Record<string, unknown>>)[part];
  }
  return typeof at === 'string'
    ? at.slice(0, 500)
    : typeof at === 'boolean' || (typeof at === 'number' && Number.isFinite(at))
      ? at
      : undefined;
}

/** What each output found in an answer; undefined where there is nothing that can be taken. */
export const found = (connector: Pick<Connector, 'outputs'>, body: unknown) =>
  connector.outputs.map(({ name, from }) => ({ name, from, value: valueAt(body, from) }));

const outputsOf = (connector: Connector, body: unknown): Values =>
  Object.fromEntries(
    connector.outputs.flatMap(({ name, from }) => {
      const value = valueAt(body, from);
      return value === undefined ? [] : [[name, value]];
    }),
  );
const isDone = (answer: OutsideAnswer): answer is Extract<OutsideAnswer, { status: number }> =>
  'status' in answer && answer.status >= 200 && answer.status < 300;

/**
 * What an answer says to a bot: 2xx is found or done, 404 not found, another 4xx refused; everything else failed, or
 * is unsure when it was to change something.
 */
export function replyOf(connector: Connector, answer: OutsideAnswer): Reply {
  if (connector.does === 'look-up') {
    const outcome = isDone(answer) ? 'found' : 'status' in answer && answer.status === 404 ? 'not-found' : 'failed';
    return { to: 'look-up', outcome, outputs: isDone(answer) ? outputsOf(connector, answer.body) : {} };
  }
  const status = 'status' in answer ? answer.status : 0;
  const outcome = isDone(answer)
    ? 'done'
    : status >= 400 && status < 500 && status !== 408 && status !== 429
      ? 'refused'
      : 'unsure';
  return { to: 'do', outcome, outputs: isDone(answer) ? outputsOf(connector, answer.body) : {} };
}

/**
 * Looks something up in a workspace table: by the first column that is an input's name, else by the first column;
 * without regard to case.
 */
export function replyOfTable(
  table: { readonly columns: readonly string[]; readonly rows: readonly (readonly string[])[] },
  inputs: Values,
): Reply {
  const folded = (text: string): string => text.trim().toLowerCase();
  const asked = Object.entries(inputs).map(([name, value]) => ({
    at: Math.max(
      0,
      table.columns.findIndex((c) => folded(c) === folded(name)),
    ),
    value: folded(String(value)),
  }));
  const row =
    asked.length === 0
      ? undefined
      : table.rows.find((r) => asked.every(({ at, value }) => folded(r[at] ?? '') === value));
  return row
    ? { to: 'look-up', outcome: 'found', outputs: Object.fromEntries(table.columns.map((c, i) => [c, row[i] ?? ''])) }
    : { to: 'look-up', outcome: 'not-found', outputs: {} };
}
