/** Placeholders a stock reply may hold beside the names of fields, as `{name}`. */
export const PLACEHOLDERS = {
  customer: 'the customer’s name',
  agent: 'the name customers see',
  company: 'the company’s name',
  queue: 'the queue’s name',
} as const;

const PLACEHOLDER = /\{([^{}\n]{1,60})\}/g;
/** The names that stand in a text as placeholders, each once. */
export const placeholdersIn = (text: string): string[] => [
  ...new Set([...text.matchAll(PLACEHOLDER)].map((m) => (m[1] ?? '').trim())),
];

/** A stock reply with its placeholders filled, by name; one without a value stays as it is, to be filled by hand. */
export const fillReply = (text: string, values: Readonly<Record<string, string>>): string =>
  text.replace(PLACEHOLDER, (whole, name: string) => values[name.trim()] || whole);
/** Placeholders in a text that neither we nor a field of the workspace fill. */
export const unknownPlaceholders = (text: string, fields: readonly string[]): string[] =>
  placeholdersIn(text).filter((name) => !(name in PLACEHOLDERS) && !fields.includes(name));
/** Placeholders of stock replies that still stand in what is to be sent; braces that somebody typed are theirs. */
export const unfilled = (text: string, placeholders: readonly string[]): string[] =>
  placeholdersIn(text).filter((name) => placeholders.includes(name));

const words = (text: string): string[] =>
  text
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .match(/\p{L}{3,}/gu) ?? [];
/** The same word in another ending: long words are compared by their first six letters. */
const stem = (word: string): string => word.slice(0, 6);

/**
 * Replies in the order in which they fit the customer's words: the sum, over shared words, of how rare each is among
 * the replies (inverse document frequency, Spärck Jones 1972: ln(1 + N / n)). Replies that share nothing are left
 * out.
 */
export function suggestReplies<R extends { readonly title: string; readonly text: string }>(
  replies: readonly R[],
  said: string,
): R[] {
  const asked = new Set(words(said).map(stem));
  const bags = replies.map((reply) => new Set(words(`${reply.title} ${reply.text}`).map(stem)));
  const inBags = new Map<string, number>();
  for (const bag of bags) for (const word of bag) inBags.set(word, (inBags.get(word) ?? 0) + 1);
  return replies
    .map((reply, i) => ({
      reply,
      i,
      score: [...asked].reduce(
        (sum, word) => sum + (bags[i]?.has(word) ? Math.log(1 + replies.length / (inBags.get(word) ?? 1)) : 0),
        0,
      ),
    }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score || a.i - b.i)
    .map(({ reply }) => reply);
}

export type Said = { readonly from: 'customer' | 'bot' | 'person'; readonly text: string };
/**
 * A conversation in a few lines, all from its own words: what is known, the customer's first request in more than two
 * words, and the last word of each side.
 */
export function summarise(
  fields: readonly { readonly label: string; readonly value: string }[],
  messages: readonly Said[],
): string {
  const short = (text: string) => (text.length > 140 ? `${text.slice(0, 139).trimEnd()}…` : text);
  const customer = messages.filter((m) => m.from === 'customer').map((m) => m.text);
  const asked = customer.find((text) => words(text).length > 2) ?? customer[0];
  const last = customer.at(-1);
  const ours = messages.filter((m) => m.from === 'person').at(-1)?.text;
  return [
    fields.length > 0 ? `${fields.map((f) => `${f.label}: ${f.value}`).join('; ')}.` : '',
    asked ? `The customer wrote: “${short(asked)}”` : '',
    ours ? `We last said: “${short(ours)}”` : '',
    last && last !== asked ? `They last said: “${short(last)}”` : '',
  ]
    .filter(Boolean)
    .join('\n');
}
