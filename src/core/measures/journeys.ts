/** What a customer begins within this of the first contact belongs to the same journey, ms. */
export const JOURNEY_MS = 7 * 86_400_000;

/** A contact by its number, with when it began (floor ms). */
export type Begun = { readonly no: number; readonly at: number };

/**
 * Puts the contacts of one customer, on all channels, into journeys: the first one, and all that begin within seven days
 * of it; then the next. Gives, for each, the number of the first one of its journey, null where that is itself. The order
 * in which they are given does not matter; time is that of sorting them.
 */
export function journeysOf(contacts: readonly Begun[]): ReadonlyMap<number, number | null> {
  const inOrder = [...contacts].sort((a, b) => a.at - b.at || a.no - b.no);
  const firsts = new Map<number, number | null>();
  let first: Begun | null = null;
  for (const one of inOrder) {
    if (first !== null && one.at <= first.at + JOURNEY_MS) firsts.set(one.no, first.no);
    else {
      firsts.set(one.no, null);
      first = one;
    }
  }
  return firsts;
}

/** What a journey took, beside its time: more than one contact, channel, or person who dealt with it. */
export const JOURNEY_TOOK = ['several', 'channels', 'people'] as const;
export type JourneyTook = (typeof JOURNEY_TOOK)[number];
/** These as one number, a bit each. */
export const journeyBits = (took: Readonly<Record<JourneyTook, boolean>>): number =>
  JOURNEY_TOOK.reduce((bits, one, i) => bits | (took[one] ? 1 << i : 0), 0);
export const bitOf = (took: JourneyTook): number => 1 << JOURNEY_TOOK.indexOf(took);
