import { ORDER, partsOf, type Path, reorders } from './drafts/parts';
import { choiceWords, partWords } from './settingwords';

/** Whether two plain values say the same, whatever the order of their names and of things that are told apart. */
export const sameValue = (a: unknown, b: unknown): boolean => partsOf(a, b).every(({ path }) => path.at(-1) === ORDER);

/** A difference as it is put to people. */
export type ChangeLine = { readonly what: string; readonly from: string; readonly to: string };

/** How ids and instants (UTC ms) are said. */
export type Sayer = { readonly name: (id: string) => string; readonly time: (at: number) => string };
const empty = (value: unknown): boolean =>
  value === null ||
  value === undefined ||
  value === '' ||
  (typeof value === 'object' && Object.keys(value).length === 0);

/**
 * A plain value in words, as it stands in a field; what is empty within it is left out. Numbers that can only be instants
 * are said as times.
 */
export function sayValue(value: unknown, say: Sayer, field?: string): string {
  if (empty(value)) return '–';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return choiceWords(field, value) ?? say.name(value);
  if (typeof value === 'number') return value > 1e12 ? say.time(value) : String(value);
  if (Array.isArray(value)) return value.map((v) => sayValue(v, say, field)).join(', ');
  return Object.entries(value as object)
    .filter(([k, v]) => k !== 'id' && !empty(v))
    .map(([k, v]) => `${partWords(field, k) ?? say.name(k)} ${sayValue(v, say, k)}`)
    .join(', ');
}

/** A place in words. */
export const sayPath = (path: Path, say: Pick<Sayer, 'name'>): string =>
  path
    .map((key, i) =>
      key === ORDER
        ? 'order'
        : key
            .split(' ')
            .map((word) => partWords(path[i - 1], word) ?? choiceWords(path[i - 1], word) ?? say.name(word))
            .join(' '),
    )
    .join(' · ');

const isPlain = (value: unknown): boolean => typeof value === 'object' && value !== null && !Array.isArray(value);
/** The field that a place belongs to: of an item of a list, the list. */
const fieldOf = (path: Path): string | undefined => (path.at(-1) === ORDER ? path.at(-2) : path.at(-1));

/**
 * All differences of two versions in words, without ids of their own and revisions. Either may be null: then the
 * thing was not there.
 */
export function describeDifferences(before: unknown, after: unknown, say: Sayer): ChangeLine[] {
  const whole = [before, after].every((v) => v === null || v === undefined || isPlain(v));
  return partsOf(whole ? (before ?? {}) : { value: before }, whole ? (after ?? {}) : { value: after })
    .filter(({ path: [first], from, to }) => first !== 'id' && first !== 'revision' && !(empty(from) && empty(to)))
    .filter((part) => part.path.at(-1) !== ORDER || reorders(part))
    .map(({ path, from, to }) => ({
      what: sayPath(path, say),
      from: sayValue(from, say, fieldOf(path)),
      to: sayValue(to, say, fieldOf(path)),
    }));
}
