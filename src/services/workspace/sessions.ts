import { randomBytes } from 'node:crypto';
import { object } from 'yup';
import { LaneError } from '../../core/errors';
import {
  dropOldSessions,
  endSession,
  endSessionOf,
  endSessionsOf,
  type Lasts,
  markSeen,
  type Session,
  sessionOf,
  sessionsOf,
  writeSession,
} from '../../data/sessions';
import { type Actor, actorOf } from '../ground/actor';
import type { Host, Tx } from '../ground/host';
import { exactly, id } from '../ground/schemas';
import { hashToken } from '../ground/tokens';
import { parse } from '../ground/validate';

/** The longest a session lasts, and how long without anything being asked for; real ms. */
const SESSION_MS = 14 * 86_400_000;
export const IDLE_MS = 12 * 3_600_000;
/** That somebody is here is written down this seldom. */
const SEEN_MS = 60_000;

/** A session as its person sees it; `here` is the one that asks. */
export type SessionLine = Session & { readonly here: boolean };
/** Where somebody signs in: the browser's own words, and the network address. */
export type Place = { readonly device: string; readonly network: string };

const endSchema = exactly(object({ id: id('The session') }));

export type Sessions = ReturnType<typeof createSessions>;

/** Who is signed in where. Whatever is open under a session asks `still` before it goes on. */
export function createSessions(host: Host) {
  const watching = new Set<() => void>();
  const lasting = (): Lasts => ({ realAt: host.times.real(), idleMs: IDLE_MS });
  const actor = (token: string | undefined): Actor | null => {
    const found = token ? sessionOf(host.db, hashToken(token), lasting()) : undefined;
    return found ? actorOf(host.db, found.personId) : null;
  };
  /** Whoever has something open looks again whether it may be. */
  const tell = (tx: Tx): void =>
    tx.onceKept(() => {
      for (const look of [...watching]) look();
    });
  /** Ends every session of somebody; call inside a transaction. */
  const endAll = (tx: Tx, personId: string): number => {
    tell(tx);
    return endSessionsOf(tx.db, personId);
  };
  return {
    /** Begins one; gives its token, which is kept nowhere. Call inside a transaction. */
    begin: (tx: Tx, personId: string, { device, network }: Place): { token: string; maxAgeSeconds: number } => {
      const token = randomBytes(32).toString('base64url');
      dropOldSessions(tx.db, { realAt: tx.realAt, idleMs: IDLE_MS });
      writeSession(tx.db, hashToken(token), personId, tx.realAt + SESSION_MS, {
        id: tx.ids('session'),
        beganAt: tx.realAt,
        device: device.slice(0, 100),
        network: network.slice(0, 60),
      });
      return { token, maxAgeSeconds: SESSION_MS / 1000 };
    },
    actor,
    /** Somebody is there and does something: their session goes on. */
    seen: (token: string | undefined): void => {
      const found = token ? sessionOf(host.db, hashToken(token), lasting()) : undefined;
      if (token && found && host.times.real() - found.seenAt >= SEEN_MS)
        host.transact((tx) => markSeen(tx.db, hashToken(token), tx.realAt));
    },
    /** Calls back whenever sessions have ended, until what is given back is called. */
    watch: (look: () => void): (() => void) => {
      watching.add(look);
      return () => watching.delete(look);
    },
    end: (token: string): void =>
      host.transact((tx) => {
        tell(tx);
        endSession(tx.db, hashToken(token));
      }),
    endAll,
    /** One's own sessions, the last used first. */
    view: (asking: Actor, token: string | undefined): { readonly sessions: readonly SessionLine[] } => {
      const here = token ? sessionOf(host.db, hashToken(token), lasting())?.id : undefined;
      return {
        sessions: sessionsOf(host.db, asking.personId, lasting()).map((s) => ({ ...s, here: s.id === here })),
      };
    },
    /** Ends one of one's own. Throws `not-found` for anybody else's. */
    endOne: (asking: Actor, input: unknown): { done: true } => {
      const asked = parse(endSchema, input);
      return host.transact((tx) => {
        tell(tx);
        if (endSessionOf(tx.db, asking.personId, asked.id) === 0)
          throw new LaneError('not-found', 'This session has ended already.');
        return { done: true };
      });
    },
    /** Ends every session of the person, this one too. */
    endEverywhere: (asking: Actor): number => host.transact((tx) => endAll(tx, asking.personId)),
  };
}
