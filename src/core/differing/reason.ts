import type { NotChosen, Trail } from '../routing/trail';

/**
 * Why somebody else did not have a contact that a person took: by the first check they failed in the decision that gave
 * it away; or because nobody decided (`by-hand`: chosen, claimed, direct or outbound), they were rung too and answered
 * later, they were not there yet, or how it was decided is not known (it was brought in).
 */
export type Why = NotChosen | 'by-hand' | 'rung-too' | 'not-there' | 'not-known';

/** `about` is what it was about: the skill lacking, the rule of the picking order, the limit; else null. */
export type Reason = { readonly why: Why; readonly about: string | null };

/** One turn of a person: the decision that gave it to them, and who else was being offered it when they accepted. */
export type Turn = {
  readonly legId: string;
  readonly contactId: string;
  readonly queueId: string;
  readonly acceptedAt: number;
  readonly handleSeconds: number;
  /** Null where nobody decided; `unknown` where it is not kept. */
  readonly trail: Trail | null | 'unknown';
  readonly rungToo: ReadonlySet<string>;
};

/** The one reason why somebody else did not have it. */
export function reasonFor({ trail, rungToo }: Pick<Turn, 'trail' | 'rungToo'>, otherId: string): Reason {
  if (trail === 'unknown') return { why: 'not-known', about: null };
  if (rungToo.has(otherId)) return { why: 'rung-too', about: null };
  if (trail === null) return { why: 'by-hand', about: null };
  const why = (Object.keys(trail.others) as NotChosen[]).find((one) => trail.others[one]?.includes(otherId));
  switch (why) {
    case undefined:
      return { why: 'not-there', about: null };
    case 'skill':
      return { why, about: trail.lacking[otherId] ?? null };
    case 'limit':
      return { why, about: trail.limits?.[otherId] ?? null };
    case 'later-in-order':
      return { why, about: trail.later?.[otherId] ?? null };
    default:
      return { why, about: null };
  }
}

/** Contacts and seconds of handling; against the mean of several, parts of them. */
export type Amount = { readonly contacts: number; readonly seconds: number };
export const NONE: Amount = { contacts: 0, seconds: 0 };
export const plus = (a: Amount, b: Amount): Amount => ({
  contacts: a.contacts + b.contacts,
  seconds: a.seconds + b.seconds,
});

/** One reason: what the one took because of it, and what the others took (of several, their mean). */
export type Part = Reason & { readonly mine: Amount; readonly theirs: Amount };

export const reasonKey = ({ why, about }: Reason): string => (about === null ? why : `${why} ${about}`);

/**
 * Why one person's turns differ from another's, or from the mean of several: each turn of the one gets one reason why the
 * other did not have it, and the other way round, so that `mine` less `theirs` sums to the difference, to the unit.
 * Against several it is the mean of the differences from each. Largest difference first.
 */
export function whyTheyDiffer(
  mine: { readonly id: string; readonly turns: readonly Turn[] },
  others: readonly { readonly id: string; readonly turns: readonly Turn[] }[],
): Part[] {
  const parts = new Map<string, Reason & { mine: Amount; theirs: Amount }>();
  const partOf = (reason: Reason) => {
    const key = reasonKey(reason);
    let part = parts.get(key);
    if (!part) parts.set(key, (part = { ...reason, mine: NONE, theirs: NONE }));
    return part;
  };
  const share = 1 / Math.max(1, others.length);
  for (const other of others) {
    for (const turn of mine.turns) {
      const part = partOf(reasonFor(turn, other.id));
      part.mine = plus(part.mine, { contacts: share, seconds: share * turn.handleSeconds });
    }
    for (const turn of other.turns) {
      const part = partOf(reasonFor(turn, mine.id));
      part.theirs = plus(part.theirs, { contacts: share, seconds: share * turn.handleSeconds });
    }
  }
  return [...parts.values()].sort(
    (a, b) =>
      Math.abs(b.mine.contacts - b.theirs.contacts) - Math.abs(a.mine.contacts - a.theirs.contacts) ||
      b.mine.contacts + b.theirs.contacts - (a.mine.contacts + a.theirs.contacts),
  );
}

/** Reasons for less than this share of all turns are told together. */
const FOLDED = 0.02;

/** The reasons worth a line each, and the others. */
export function folded(parts: readonly Part[]): { readonly shown: readonly Part[]; readonly rest: readonly Part[] } {
  const all = parts.reduce((n, p) => n + p.mine.contacts + p.theirs.contacts, 0);
  const small = (p: Part) => p.mine.contacts + p.theirs.contacts < all * FOLDED;
  const rest = parts.filter(small);
  // One alone is named as shortly as it would be with others.
  return rest.length < 2 ? { shown: parts, rest: [] } : { shown: parts.filter((p) => !small(p)), rest };
}
