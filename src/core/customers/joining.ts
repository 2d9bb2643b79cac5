/**
 * How two customers came to be known as one: they came by one telephone number on two channels, a bot identified them, or
 * somebody joined them by hand.
 */
export const TIED_HOW = ['same-number', 'identified', 'by-hand'] as const;
export type TiedHow = (typeof TIED_HOW)[number];

/** What joins two customers. Whoever is joined to somebody who is joined to a third is one with both. */
export type Tie = { readonly id: string; readonly customerId: string; readonly otherId: string };

/**
 * All whom ties join with one customer, itself among them, in the order in which they are met. Ties that are gone must not
 * be given.
 */
export function joinedWith(customerId: string, ties: readonly Tie[]): string[] {
  const found = [customerId];
  for (let at = 0; at < found.length; at++)
    for (const tie of ties)
      for (const [one, other] of [
        [tie.customerId, tie.otherId],
        [tie.otherId, tie.customerId],
      ] as const)
        if (one === found[at] && !found.includes(other)) found.push(other);
  return found;
}
