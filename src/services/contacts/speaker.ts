import { RateLimiterMemory } from 'rate-limiter-flexible';
import type { Channel } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { doorKeyBy, markKeyUsed } from '../../data/doorkeys';
import type { Door } from '../../data/doors';
import type { Host } from '../ground/host';
import { hashToken } from '../ground/tokens';

/**
 * Who speaks for a customer: a server that has a key of the door and vouches for the address, a browser, for which
 * nobody vouches, or a stand-in of this server's own. `name` tells callers apart.
 */
export type Speaker = {
  readonly kind: 'server' | 'browser' | 'stand-in';
  readonly name: string;
  /** The only door a key opens; null where that is not bound. */
  readonly doorId: string | null;
};

/** Contacts that one caller may begin within a minute. */
const NEW_A_MINUTE: Readonly<Record<Speaker['kind'], number>> = {
  browser: Number(process.env.LANE_NEW_CONTACTS_PER_MINUTE ?? 60),
  server: 600,
  'stand-in': 600,
};
/** The channels that browsers are. */
const BROWSERS: readonly Channel[] = ['chat'];
const MINUTE_MS = 60_000;

/** The Handset and its like speak as anybody, by any door. */
export const STAND_IN: Speaker = { kind: 'stand-in', name: 'stand-in', doorId: null };

/** Who asks to begin a contact. Throws `bad-token` for a key that opens nothing. */
export function speakerBy({ db, times, transact }: Host, doorKey: string | null, network: string): Speaker {
  if (doorKey === null) return { kind: 'browser', name: `browser at ${network}`, doorId: null };
  const key = doorKeyBy(db, hashToken(doorKey));
  if (!key) throw new LaneError('bad-token', 'This key opens no door.');
  if (times.real() - (key.usedAt ?? 0) >= MINUTE_MS) transact((tx) => markKeyUsed(tx.db, key.id, tx.realAt));
  return { kind: 'server', name: `key ${key.id}`, doorId: key.doorId };
}

/** Browsers come in by chat only, and a key opens its own door. Throws `key-needed` or `bad-token`. */
export function mustOpen(speaker: Speaker, door: Door): void {
  if (speaker.kind === 'browser' && !BROWSERS.includes(door.channel))
    throw new LaneError(
      'key-needed',
      'Contacts by this door come from a server that has one of its keys. Browsers may only start chats.',
    );
  if (speaker.doorId !== null && speaker.doorId !== door.id)
    throw new LaneError('bad-token', 'This key belongs to another door.');
}

/** Counts what each caller begins. Throws `slow-down`. */
export function createNewContactLimit(): (speaker: Speaker) => Promise<void> {
  const limiters = new Map(
    Object.entries(NEW_A_MINUTE).map(([kind, points]) => [kind, new RateLimiterMemory({ points, duration: 60 })]),
  );
  return async (speaker) => {
    await limiters
      .get(speaker.kind)
      ?.consume(speaker.name)
      .catch(() => {
        throw new LaneError(
          'slow-down',
          `At most ${NEW_A_MINUTE[speaker.kind]} contacts can be started in a minute from here.`,
        );
      });
  };
}
