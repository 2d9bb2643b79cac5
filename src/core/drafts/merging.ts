import { laidOn, ORDER, type Part, partsOf, type Path, reorders, standingAt } from './parts';

/**
 * Two changes of one version, by two people or on two days, put together part by part. What only one of them touches is
 * in the result; where both say something else, one has to be chosen: a clash. Neither is ever left out unseen.
 */
export type Clash = {
  /** The widest place that both touch. */
  readonly path: Path;
  /** What stands there in each; undefined for nothing. */
  readonly base: unknown;
  readonly mine: unknown;
  readonly theirs: unknown;
};
export type Side = 'mine' | 'theirs';

/** Two may each add a word to one list. */
const wordByWord = (from: unknown, to: unknown): Part[] => partsOf(from, to, true);
const begins = (path: Path, start: Path): boolean => start.every((key, i) => path[i] === key);
const touch = (a: Path, b: Path): boolean => begins(a, b) || begins(b, a);
/** New things beside others stand in nobody's way. */
const besideEachOther = (a: Part, b: Part): boolean =>
  a.path.at(-1) === ORDER && b.path.at(-1) === ORDER && !(reorders(a) && reorders(b));
const sayTheSame = (a: Part, b: Part): boolean =>
  JSON.stringify(a.path) === JSON.stringify(b.path) &&
  'to' in a === 'to' in b &&
  JSON.stringify(a.to) === JSON.stringify(b.to);

type Sorted = { readonly clashes: readonly Clash[]; readonly mine: readonly Part[]; readonly theirs: readonly Part[] };

/** Parts of both that stand in nobody's way, and the clashes of all others. */
function sorted(base: unknown, mine: unknown, theirs: unknown): Sorted {
  const [ours, others] = [wordByWord(base, mine), wordByWord(base, theirs)];
  const wide: Path[] = [];
  for (const a of ours)
    for (const b of others)
      if (touch(a.path, b.path) && !sayTheSame(a, b) && !besideEachOther(a, b))
        wide.push(a.path.length <= b.path.length ? a.path : b.path);
  const paths = wide.filter(
    (path, i) => !wide.some((other, j) => begins(path, other) && (other.length < path.length || j < i)),
  );
  const free = (part: Part) => !paths.some((path) => touch(part.path, path));
  return {
    mine: ours.filter(free),
    theirs: others.filter(free),
    clashes: paths.map((path) => ({
      path,
      base: standingAt(base, path),
      mine: standingAt(mine, path),
      theirs: standingAt(theirs, path),
    })),
  };
}

/** Where both touched the same and say something else. */
export const clashesOf = (base: unknown, mine: unknown, theirs: unknown): readonly Clash[] =>
  sorted(base, mine, theirs).clashes;

/** Both changes of `base` in one; `chosen` says which side a clash goes by. */
export function merged<T>(base: T, mine: T, theirs: T, chosen: (clash: Clash) => Side): T {
  const found = sorted(base, mine, theirs);
  const sides = found.clashes.map((clash) => ({ path: clash.path, side: chosen(clash) }));
  const of = (side: Side, parts: readonly Part[]) =>
    parts.filter((part) => sides.some((s) => s.side === side && touch(part.path, s.path)));
  return laidOn(base, [
    ...found.theirs,
    ...of('theirs', wordByWord(base, theirs)),
    ...found.mine,
    ...of('mine', wordByWord(base, mine)),
  ]) as T;
}
