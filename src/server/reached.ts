import type { IncomingMessage } from 'node:http';
import proxyaddr from 'proxy-addr';

/** How this server is reached: by which names and over which proxies. What a request says of that itself counts for nothing. */
export type Reached = {
  /** Where people open it, such as `https://desk.example`. */
  readonly origin: string;
  /** Whether that is over TLS, here or at a proxy before it. */
  readonly secure: boolean;
  /** Whether a `Host` is one of its names. */
  readonly isOurs: (host: string | undefined) => boolean;
  /** The network address of whoever asks, behind whatever proxies are trusted. */
  readonly clientOf: (req: IncomingMessage) => string;
  /** Whether simulated outside devices may be used: the Handset, which speaks as any customer. */
  readonly standIns: boolean;
};

type Environment = Readonly<Record<string, string | undefined>>;

/** Names by which a machine reaches itself; no name server can lend them to somebody else. */
const LOOPBACK = /^(localhost|127\.0\.0\.1|\[::1\])$/i;
const nameOf = (host: string): string => host.replace(/:\d+$/, '');

/** A setting that cannot be used; says which, and how it is written. */
export class BadSetting extends Error {}

/**
 * Reads how the server is reached from its settings: `LANE_URL` (the public origin), `LANE_HOSTS` (further names, with
 * commas), `LANE_TRUSTED_PROXIES` (addresses, ranges or `loopback`, with commas), `LANE_STANDINS` (`on` or `off`; left
 * out it is on where the server listens to its own machine only and has no public origin). Throws BadSetting.
 */
export function reachedBy(env: Environment, { hostname, port }: { hostname: string; port: number }): Reached {
  const list = (name: string) =>
    (env[name] ?? '')
      .split(',')
      .map((part) => part.trim())
      .filter((part) => part !== '');
  const url = env.LANE_URL ?? '';
  let origin: URL;
  try {
    origin = new URL(url === '' ? `http://localhost:${port}` : url);
  } catch {
    throw new BadSetting(`LANE_URL is ${url}, which is no address. It is written like https://desk.example.`);
  }
  if (!/^https?:$/.test(origin.protocol))
    throw new BadSetting(`LANE_URL is ${url}, and must begin with https:// or http://.`);
  let trusted: (address: string, hop: number) => boolean;
  try {
    trusted = proxyaddr.compile(list('LANE_TRUSTED_PROXIES'));
  } catch (error) {
    throw new BadSetting(
      `LANE_TRUSTED_PROXIES cannot be read (${error instanceof Error ? error.message : 'unknown'}). It lists addresses or ` +
        `ranges with commas, such as 10.0.0.0/8,127.0.0.1.`,
    );
  }
  const standIns = env.LANE_STANDINS ?? '';
  if (!['', 'on', 'off'].includes(standIns))
    throw new BadSetting(`LANE_STANDINS is ${standIns}, and must be on or off.`);
  const local = LOOPBACK.test(hostname.includes(':') && !hostname.startsWith('[') ? `[${hostname}]` : hostname);
  const names = new Set(
    [...(url === '' ? [] : [origin.host]), ...list('LANE_HOSTS')].map((name) => name.toLowerCase()),
  );
  // Listening to one address, it is called by that; listening to all, only by names that are set.
  if (!local && !/^(0\.0\.0\.0|::|\[::\])$/.test(hostname)) names.add(`${hostname}:${port}`.toLowerCase());
  return {
    origin: origin.origin,
    secure: origin.protocol === 'https:',
    isOurs: (host) =>
      host !== undefined &&
      (LOOPBACK.test(nameOf(host)) || names.has(host.toLowerCase()) || names.has(nameOf(host).toLowerCase())),
    clientOf: (req) => proxyaddr(req, trusted),
    standIns: standIns === 'on' || (standIns === '' && local && url === ''),
  };
}
