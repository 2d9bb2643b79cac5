import { hasWords, plainWords } from '../bots/heard';
import type { FirstWords } from './doorway';

/**
 * Which bot somebody's first words ask for, and the language these words are of: the longest words that stand in what was
 * written; of equally long ones those of the language given, then the earlier rule. Null where none do.
 */
export function askedFor(
  rules: readonly FirstWords[],
  text: string,
  language: string,
): { readonly botId: string; readonly language: string } | null {
  const said = plainWords(text);
  let best: { botId: string; language: string; length: number } | null = null;
  for (const { botId, words } of rules)
    for (const [of, each] of Object.entries(words))
      for (const { length } of each.map(plainWords).filter((w) => hasWords(said, w))) {
        const same = best !== null && length === best.length;
        if (best === null || length > best.length || (same && of === language && best.language !== language))
          best = { botId, language: of, length };
      }
  return best && { botId: best.botId, language: best.language };
}
