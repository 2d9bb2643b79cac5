import { plainSpeech, type Speech, speechSeconds, withoutTags } from '../messages/ssml';

/**
 * Words that were recorded by somebody. A recording is of the very words that stand beside it, in their language: it is
 * heard wherever these are said on a call, and nowhere else, so that what is heard is always what is written.
 */
export type Recorded = { readonly id: string; readonly seconds: number };
/** The recording of words in a language, as `sameWords` gives them; null for none. */
export type FindRecorded = (language: string, words: string) => Recorded | null;
/** A stretch of what is said: recorded, or spoken by a voice. */
export type SpokenPart = { readonly text: string; readonly recorded: Recorded | null };

/** Words as they are compared: spaces do not matter. */
export const sameWords = (text: string): string => text.normalize('NFC').replace(/\s+/g, ' ').trim();

/** The most sentences that one recording is looked for over. */
const MOST_TOGETHER = 20;

/**
 * What is said on a call, in order: as many sentences together as there is a recording of, the others spoken. Words
 * without any recording are one part.
 */
export function spokenParts(text: string, language: string, find: FindRecorded): SpokenPart[] {
  const sentences = sameWords(text).split(/(?<=[.?!…]) /u);
  const parts: SpokenPart[] = [];
  let spoken: string[] = [];
  const speak = () => {
    if (spoken.length > 0) parts.push({ text: spoken.join(' '), recorded: null });
    spoken = [];
  };
  for (let i = 0; i < sentences.length;) {
    let found: { recorded: Recorded; count: number } | null = null;
    for (let count = Math.min(MOST_TOGETHER, sentences.length - i); count > 0 && !found; count--) {
      const recorded = find(language, sentences.slice(i, i + count).join(' '));
      if (recorded) found = { recorded, count };
    }
    if (!found) {
      spoken.push(sentences[i++] ?? '');
      continue;
    }
    speak();
    parts.push({ text: sentences.slice(i, i + found.count).join(' '), recorded: found.recorded });
    i += found.count;
  }
  speak();
  return parts.filter((p) => p.text !== '');
}

/** How long words take on a call, seconds: what is recorded as it was, the rest as it is spoken. */
export function saidSeconds(words: Speech, language: string, find: FindRecorded): number {
  const parts = spokenParts(withoutTags(words), language, find);
  if (parts.every((p) => p.recorded === null)) return speechSeconds(words);
  return parts.reduce((sum, p) => sum + (p.recorded?.seconds ?? speechSeconds(plainSpeech(p.text))), 0);
}

/** Languages of whose words some are recorded and others not, each with how many of how many are. */
export function mixedVoices(
  words: readonly { readonly language: string; readonly text: string }[],
  find: FindRecorded,
): { readonly language: string; readonly recorded: number; readonly of: number }[] {
  const counts = new Map<string, { recorded: number; of: number }>();
  for (const { language, text } of words) {
    const count = counts.get(language) ?? { recorded: 0, of: 0 };
    const whole = spokenParts(text, language, find).every((p) => p.recorded !== null);
    counts.set(language, { recorded: count.recorded + (whole ? 1 : 0), of: count.of + 1 });
  }
  return [...counts].flatMap(([language, count]) =>
    count.recorded > 0 && count.recorded < count.of ? [{ language, ...count }] : [],
  );
}
