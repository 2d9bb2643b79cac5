import type { FloorPerson, WaitingVisit } from './floor';
import { personPrefers } from './order';

/** A visit with the people who can take it, the one it prefers first. */
export type Wish<M extends { readonly person: FloorPerson }> = {
  readonly visit: WaitingVisit;
  readonly ranked: readonly M[];
};
export type Match<M extends { readonly person: FloorPerson }> = { readonly wish: Wish<M>; readonly member: M };

/**
 * One round: visits propose in the order they prefer people, each person keeps the one they like best
 * (contact-proposing deferred acceptance; Gale and Shapley, 1962). Preferences are strict, so the result is the only
 * stable one that is best for the contacts, whatever the order of proposals. Matches come in entry order.
 */
export function deferredAcceptance<M extends { readonly person: FloorPerson }>(wishes: readonly Wish<M>[]): Match<M>[] {
  const holds = new Map<FloorPerson, { wish: Wish<M>; member: M; next: number }>();
  const proposing = wishes.map((wish) => ({ wish, next: 0 }));
  for (let turn = proposing.pop(); turn; turn = proposing.pop()) {
    const member = turn.wish.ranked[turn.next];
    if (!member) continue;
    const mine = { wish: turn.wish, member, next: turn.next + 1 };
    const held = holds.get(member.person);
    if (!held) holds.set(member.person, mine);
    else if (personPrefers(member.person, mine.wish.visit, held.wish.visit) < 0) {
      holds.set(member.person, mine);
      proposing.push({ wish: held.wish, next: held.next });
    } else proposing.push({ wish: mine.wish, next: mine.next });
  }
  return [...holds.values()]
    .map(({ wish, member }) => ({ wish, member }))
    .sort((a, b) => a.wish.visit.entry - b.wish.visit.entry);
}
