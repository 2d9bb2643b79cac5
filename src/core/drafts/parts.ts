/**
 * A change as its parts: the places at which one version of a thing differs from another, so that it can be laid on a
 * third. Values are plain, as JSON has them.
 */
export type Path = readonly string[];
/** One place. Without `from` nothing stood there, without `to` nothing is to stand there. */
export type Part = { readonly path: Path; readonly from?: unknown; readonly to?: unknown };

/** The place of a list's order, beside those of its items: `from` and `to` are keys. No field is called so. */
export const ORDER = '\n order';

type Plain = Readonly<Record<string, unknown>>;
const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const same = (a: unknown, b: unknown): boolean => Object.is(a, b) || JSON.stringify(a) === JSON.stringify(b);

/** By these the items of a list are told apart, the first that they all have. One list is named alike in all versions. */
const NAMED_BY: readonly (readonly string[])[] = [
  ['id'],
  ['queueId', 'channel'],
  ['queueId'],
  ['skillId'],
  ['date'],
  ['day', 'from'],
  ['atSeconds'],
];
/** Words are told apart by themselves. */
const ITSELF: readonly string[] = [];
const isKey = (value: unknown): boolean => typeof value === 'string' || typeof value === 'number';

/** A list by the keys of its items, in their order; null where its items are not all told apart. */
type Items = { readonly by: readonly string[] | null; readonly at: ReadonlyMap<string, unknown> };
function itemsOf(list: readonly unknown[]): Items | null {
  if (list.length === 0) return { by: null, at: new Map() };
  if (list.every((item) => typeof item === 'string')) {
    const words = new Map(list.map((word) => [word, word]));
    return words.size === list.length ? { by: ITSELF, at: words } : null;
  }
  const by = NAMED_BY.find((fields) => list.every((item) => isPlain(item) && fields.every((f) => isKey(item[f]))));
  if (!by) return null;
  const at = new Map(list.map((item) => [by.map((field) => String((item as Plain)[field])).join(' '), item]));
  return at.size === list.length ? { by, at } : null;
}
/** Both as items told apart in one way; null where they are not. */
function bothItems(from: unknown, to: unknown, byWord: boolean): readonly [Items['at'], Items['at']] | null {
  if (!Array.isArray(from) || !Array.isArray(to)) return null;
  const [a, b] = [itemsOf(from), itemsOf(to)];
  if (!a || !b || (a.by !== null && b.by !== null && a.by !== b.by)) return null;
  return (a.by ?? b.by) === ITSELF && !byWord ? null : [a.at, b.at];
}

/**
 * All places at which two versions differ. Laid on the first, they give the second. Lists of words are one place each, or
 * told word by word.
 */
export function partsOf(from: unknown, to: unknown, byWord = false, path: Path = []): Part[] {
  if (same(from, to)) return [];
  if (isPlain(from) && isPlain(to))
    return [...new Set([...Object.keys(from), ...Object.keys(to)])].flatMap((key) =>
      partsAt(byWord, [...path, key], key in from, from[key], key in to, to[key]),
    );
  const items = bothItems(from, to, byWord);
  if (!items) return [{ path, from, to }];
  const [a, b] = items;
  const parts = [...new Set([...a.keys(), ...b.keys()])].flatMap((key) =>
    partsAt(byWord, [...path, key], a.has(key), a.get(key), b.has(key), b.get(key)),
  );
  const unasked = [...[...a.keys()].filter((key) => b.has(key)), ...[...b.keys()].filter((key) => !a.has(key))];
  return same(unasked, [...b.keys()])
    ? parts
    : [...parts, { path: [...path, ORDER], from: [...a.keys()], to: [...b.keys()] }];
}
function partsAt(byWord: boolean, path: Path, was: boolean, from: unknown, is: boolean, to: unknown): Part[] {
  if (was && is) return partsOf(from, to, byWord, path);
  return [{ path, ...(was ? { from } : {}), ...(is ? { to } : {}) }];
}

/** What stands at a place of a version; undefined for nothing. */
export const standingAt = (version: unknown, path: Path): unknown =>
  path.reduce<unknown>((value, key) => {
    if (isPlain(value)) return value[key];
    const items = Array.isArray(value) ? itemsOf(value) : null;
    return key === ORDER ? items && [...items.at.keys()] : items?.at.get(key);
  }, version);

/**
 * A version with parts laid on it. Parts of another version than this one may find nothing where they stand: what lies
 * within something that is not there is left out.
 */
export function laidOn(version: unknown, parts: readonly Part[]): unknown {
  // Order is given to what is there in the end.
  const last = ({ path }: Part) => Number(path.at(-1) === ORDER);
  return parts
    .toSorted((a, b) => last(a) - last(b))
    .reduce<unknown>((value, part) => laid(value, part.path, part), version);
}

function laid(value: unknown, [key, ...rest]: Path, part: Part): unknown {
  if (key === undefined) return part.to;
  if (isPlain(value)) return withField(value, key, rest, part);
  const items = Array.isArray(value) ? itemsOf(value) : null;
  if (!items) return value;
  if (key === ORDER) return ordered(items.at, part);
  const at = new Map(items.at);
  if (rest.length > 0) {
    if (at.has(key)) at.set(key, laid(at.get(key), rest, part));
  } else if ('to' in part) at.set(key, part.to);
  else at.delete(key);
  return [...at.values()];
}
function withField(value: Plain, key: string, rest: Path, part: Part): unknown {
  if (rest.length > 0) return key in value ? { ...value, [key]: laid(value[key], rest, part) } : value;
  if ('to' in part) return { ...value, [key]: part.to };
  const { [key]: _gone, ...left } = value;
  return left;
}

/** Whether a part gives things that were there before another order among themselves, and does not only put new ones between. */
export function reorders({ path, from, to }: Part): boolean {
  if (path.at(-1) !== ORDER) return false;
  const [was, is] = [from as readonly string[], to as readonly string[]];
  const stayed = (keys: readonly string[], other: readonly string[]) => keys.filter((key) => other.includes(key));
  return !same(stayed(was, is), stayed(is, was));
}

/**
 * Items in the order that a part gives; what it does not name stays behind what it stood behind. One that only puts new
 * items between others leaves these as they stand.
 */
function ordered(items: Items['at'], part: Part): readonly unknown[] {
  const [was, is] = [part.from as readonly string[], part.to as readonly string[]];
  const here = [...items.keys()];
  const placed = (reorders(part) ? is : is.filter((key) => !was.includes(key))).filter((key) => items.has(key));
  const moved = new Set(placed);
  const [first, others] = reorders(part) ? [placed, here] : [here.filter((key) => !moved.has(key)), is];
  const wanted = [...first];
  const there = new Set(wanted);
  let before: string | undefined;
  for (const key of others) {
    if (!items.has(key)) continue;
    if (!there.has(key)) wanted.splice(before === undefined ? 0 : wanted.indexOf(before) + 1, 0, key);
    there.add(key);
    before = key;
  }
  return wanted.map((key) => items.get(key));
}
