/** A text as it is searched: lower case, without accents, white space as one space. */
export const folded = (text: string): string =>
  text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().replace(/\s+/g, ' ').trim();

/** What is looked for: each word must be there, anywhere; words in quotation marks stay together. */
export function searchedWords(typed: string): string[] {
  const parts = folded(typed).match(/["“”][^"“”]*["“”]?|[^\s"“”]+/g) ?? [];
  return [...new Set(parts.map((part) => part.replace(/["“”]/g, '').trim()).filter((part) => part !== ''))];
}

/** Whether texts have every word between them. */
export function haveWords(texts: readonly string[], words: readonly string[]): boolean {
  const all = texts.map(folded);
  return words.every((word) => all.some((text) => text.includes(word)));
}

/** What stands around the first of the words that a text has; null where it has none. */
export function around(text: string, words: readonly string[], reach = 40): string | null {
  const plain = folded(text);
  const at = words.map((word) => plain.indexOf(word)).filter((place) => place >= 0);
  if (at.length === 0) return null;
  // Folding may change lengths a little: the place is a guess that is good enough to cut by.
  const whole = text.replace(/\s+/g, ' ').trim();
  const place = Math.min(...at);
  const [from, to] = [Math.max(0, place - reach), Math.min(whole.length, place + reach)];
  return `${from > 0 ? '…' : ''}${whole.slice(from, to)}${to < whole.length ? '…' : ''}`;
}

/** The digits of a number as somebody types it, without what stands before the country's own; empty where it is none. */
export function searchedDigits(typed: string): string {
  const digits = typed.replace(/\D/g, '');
  return digits.length < 3 || /[\p{L}@]/u.test(typed) ? '' : digits.replace(/^0+/, '');
}
