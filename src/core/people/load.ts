import { CHANNELS, type Channel } from '../channels';

/** What one contact on a channel takes of a person's 100, and how many of them at most at once. */
export type ChannelLoad = { readonly cost: number; readonly most: number };
export type LoadRules = Readonly<Record<Channel, ChannelLoad>>;

export const FULL = 100;

export const DEFAULT_LOAD: LoadRules = {
  voice: { cost: 100, most: 1 },
  chat: { cost: 25, most: 4 },
  messaging: { cost: 20, most: 5 },
  sms: { cost: 10, most: 8 },
};

/**
 * Something that holds load: an open contact, one in wrap-up, or an offer not yet answered. A resting one costs 0 and
 * does not count.
 */
export type Held = { readonly channel: Channel; readonly cost: number; readonly resting?: boolean };

export const usedLoad = (held: Iterable<Held>): number => {
  let used = 0;
  for (const { cost, resting } of held) if (!resting) used += cost;
  return used;
};

/** How many of a channel count against its most. */
export const countOf = (held: readonly Held[], channel: Channel): number =>
  held.filter((h) => h.channel === channel && !h.resting).length;

/** Why a contact does not fit, or null when it does: `used + cost ≤ 100` and fewer than `most` on its channel. */
export function misfit(
  rules: LoadRules,
  held: readonly Held[],
  channel: Channel,
): 'channel-off' | 'channel-most' | 'load' | null {
  const { cost, most } = rules[channel];
  if (most === 0) return 'channel-off';
  if (countOf(held, channel) >= most) return 'channel-most';
  return usedLoad(held) + cost > FULL ? 'load' : null;
}

/** A person's own most-at-once per channel, where set, in place of the duty profile's. */
export function withOverrides(rules: LoadRules, most: Readonly<Partial<Record<Channel, number>>>): LoadRules {
  const own = (channel: Channel): ChannelLoad => ({ ...rules[channel], most: most[channel] ?? rules[channel].most });
  return { voice: own('voice'), chat: own('chat'), messaging: own('messaging'), sms: own('sms') };
}

/** In words: what still fits, e.g. "room for 2 chats; no call until empty". */
export function roomFor(rules: LoadRules, held: readonly Held[]): string {
  const free = FULL - usedLoad(held);
  const parts = CHANNELS.filter((c) => rules[c].most > 0).map((channel) => {
    const open = countOf(held, channel);
    const { cost, most } = rules[channel];
    const room = Math.min(most - open, cost === 0 ? most - open : Math.floor(free / cost));
    const noun = channel === 'voice' ? 'call' : channel === 'chat' ? 'chat' : channel === 'sms' ? 'SMS' : 'message';
    const plural = room === 1 || noun === 'SMS' ? noun : `${noun}s`;
    const none = channel === 'voice' && held.length > 0 && cost === FULL ? 'no call until empty' : `no ${noun}`;
    return { room, words: room > 0 ? `${room} ${plural}` : none };
  });
  if (parts.length === 0) return 'takes no channel';
  const fits = parts.filter((p) => p.room > 0).map((p) => p.words);
  if (fits.length === 0 && held.length > 0) return 'full';
  return [
    ...(fits.length > 0 ? [`room for ${fits.join(', ')}`] : []),
    ...parts.filter((p) => p.room <= 0).map((p) => p.words),
  ].join('; ');
}
