import { RateLimiterMemory } from 'rate-limiter-flexible';
import { LaneError } from '../../core/errors';

/**
 * Tries to sign in are counted before anything dear is done with them, and given back when they were right:
 *
 * - from one network to one account, 10 in 5 minutes: guessing is slow, and a stranger elsewhere locks nobody out;
 * - from one network, to whatever accounts, 60 in 5 minutes: many people may share one;
 * - to one account, from wherever, 100 in an hour: guesses spread over many networks. A browser in which somebody has
 *   signed in to the account before counts apart from all that, by itself.
 */
const LIMITS = {
  pair: { points: 10, duration: 300 },
  network: { points: 60, duration: 300 },
  account: { points: 100, duration: 3600 },
  device: { points: 10, duration: 300 },
} as const;

/** Where a try comes from. `known` says that its browser has signed in to this account before. */
export type Try = { readonly account: string; readonly network: string; readonly known: boolean };

export type Tries = ReturnType<typeof createTries>;

export function createTries() {
  const made = (name: keyof typeof LIMITS) => new RateLimiterMemory({ ...LIMITS[name], keyPrefix: name });
  const limiters = {
    pair: made('pair'),
    network: made('network'),
    account: made('account'),
    device: made('device'),
  };
  const counted = ({ account, network, known }: Try) =>
    known
      ? [[limiters.device, `${account}|${network}`] as const]
      : [
          [limiters.pair, `${account}|${network}`] as const,
          [limiters.network, network] as const,
          [limiters.account, account] as const,
        ];
  return {
    /** Counts a try; throws `slow-down` when it is one too many. */
    count: async (asked: Try): Promise<void> => {
      for (const [limiter, key] of counted(asked))
        try {
          await limiter.consume(key);
        } catch (state) {
          const ms =
            typeof state === 'object' && state !== null && 'msBeforeNext' in state ? Number(state.msBeforeNext) : 0;
          throw new LaneError(
            'slow-down',
            `Too many tries. Wait ${Math.max(1, Math.ceil(ms / 1000))} s, then try again.`,
          );
        }
    },
    /** It was right: it counts no more, and neither do those before it from the same place. */
    right: async (asked: Try): Promise<void> => {
      const [first, ...others] = counted(asked);
      if (first) await first[0].delete(first[1]);
      for (const [limiter, key] of others) await limiter.reward(key, 1);
    },
  };
}
