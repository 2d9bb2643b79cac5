import { patternFrom } from '../bots/pattern';
import type { Phrasebook, Recognised } from './book';
import { oneSlip } from './slips';
import { folded } from './tokens';

/** A thing that was found in a text, and where. */
export type FoundThing = {
  readonly listId: string;
  readonly thingId: string;
  readonly at: number;
  readonly length: number;
};

type Known = { readonly listId: string; readonly thingId: string; readonly words: readonly string[] };
const split = (text: string): string[] =>
  folded(text)
    .split(/[^\p{L}\p{N}/]+/u)
    .filter(Boolean);
/** A word without the ending of a plural, where it has one. */
const singular = (word: string): string => (word.endsWith('s') ? word.replace(/(?<=[^s])e?s$/, '') : word);

/** Prepares a book's things for finding: the longest words first. */
export function thingFinder(book: Phrasebook): (text: string, listId?: string) => FoundThing[] {
  const known: Known[] = book.recognised
    .flatMap((r) =>
      r.kind === 'list'
        ? r.things.flatMap((t) =>
            Object.values(t.words)
              .flat()
              .map((w) => ({ listId: r.id, thingId: t.id, words: split(w) })),
          )
        : [],
    )
    .filter((k) => k.words.length > 0);
  const byLength = known.sort(
    (a, b) => b.words.length - a.words.length || b.words.join('').length - a.words.join('').length,
  );
  const byFirst = new Map<string, Known[]>();
  for (const k of byLength)
    for (const key of new Set([k.words[0] ?? '', singular(k.words[0] ?? '')]))
      byFirst.set(key, [...(byFirst.get(key) ?? []), k]);
  const patterns = book.recognised.filter((r): r is Extract<Recognised, { kind: 'pattern' }> => r.kind === 'pattern');
  const slack = byLength
    .filter((k) => k.words.length === 1 && (k.words[0] ?? '').length >= 5)
    .map((k) => ({ k, word: singular(k.words[0] ?? '') }));
  const same = (said: string, word: string): boolean => said === word || singular(said) === singular(word);
  return (text, listId) => {
    const said = split(text);
    const found: FoundThing[] = [];
    const taken = new Set<number>();
    const add = (k: Known, at: number): void => {
      for (let i = 0; i < k.words.length; i++) taken.add(at + i);
      found.push({ listId: k.listId, thingId: k.thingId, at, length: k.words.length });
    };
    const free = (at: number, length: number): boolean =>
      Array.from({ length }, (_, i) => at + i).every((i) => i < said.length && !taken.has(i));
    for (let at = 0; at < said.length; at++) {
      const word = said[at] ?? '';
      const hit = [...(byFirst.get(word) ?? []), ...(byFirst.get(singular(word)) ?? [])]
        .filter(
          (k) =>
            (!listId || k.listId === listId) &&
            free(at, k.words.length) &&
            k.words.every((w, i) => same(said[at + i] ?? '', w)),
        )
        .sort((a, b) => b.words.length - a.words.length)[0];
      if (hit) add(hit, at);
    }
    // Spelling slack only for longer words, and only where nothing was meant exactly.
    for (let at = 0; at < said.length; at++) {
      const word = said[at] ?? '';
      if (taken.has(at) || word.length < 5) continue;
      const one = singular(word);
      const hit = slack.find(({ k, word: known }) => (!listId || k.listId === listId) && oneSlip(one, known));
      if (hit) add(hit.k, at);
    }
    for (const r of patterns) {
      if (listId && r.id !== listId) continue;
      const matcher = patternFrom(r.pattern)?.matcher(text.slice(0, 2000));
      if (matcher?.find())
        found.push({ listId: r.id, thingId: (matcher.group() ?? '').toUpperCase(), at: said.length, length: 0 });
    }
    return found.sort((a, b) => a.at - b.at);
  };
}

/** A thing's name in a language; references stand for themselves. */
export function thingName(book: Phrasebook, listId: string, thingId: string, language: string): string {
  const list = book.recognised.find((r) => r.id === listId);
  const words = list?.kind === 'list' ? list.things.find((t) => t.id === thingId)?.words : undefined;
  return (
    words?.[language]?.[0] ??
    words?.[language.split('-')[0] ?? '']?.[0] ??
    Object.values(words ?? {})[0]?.[0] ??
    thingId
  );
}
