import type { Channel } from '../channels';
import type { Localised } from '../localised';

/** Kinds of things in which words stand that customers meet. */
export const WORDED_KINDS = ['bot', 'shared-scene', 'door', 'queue', 'stock-set', 'article'] as const;
export type WordedKind = (typeof WORDED_KINDS)[number];

/** One sentence that customers meet, with where it stands within its thing. */
export type Said = {
  /** Tells it from the other sentences of its thing, as long as it stands there. */
  readonly key: string;
  /** Where it stands as people read it, such as `3.4`; empty for the whole. */
  readonly place: string;
  readonly part: string;
  /** The channel for which alone it is; null for all that have no words of their own. */
  readonly channel: Channel | null;
  readonly texts: Localised;
  /** Whether customers meet nothing, or another language, where it is missing. */
  readonly needed: boolean;
  /** Most characters. */
  readonly most: number;
};

/** The words to stand in a place instead. */
export type Reword = (said: Said) => Localised;

/** Whether a sentence has no words in a language that it ought to have: it is needed, or there in another language. */
export const lacks = ({ texts, needed, channel }: Said, language: string): boolean =>
  !texts[language]?.trim() && channel === null && (needed || Object.values(texts).some((text) => text.trim() !== ''));

/** Words with another text in a language; an empty one is left out. */
export function withLanguage(texts: Localised, language: string, text: string): Localised {
  const { [language]: _before, ...others } = texts;
  return text === '' ? others : { ...others, [language]: text };
}

/**
 * The sentences that somebody on a channel would meet in another language, or not at all: where neither the common words
 * nor those of the channel are there in the language. Words of other channels count for nothing.
 */
export function gapsOn(said: readonly Said[], channel: Channel, language: string): Said[] {
  const own = new Set(
    said.flatMap((s) => (s.channel === channel && s.texts[language]?.trim() ? [commonKey(s.key)] : [])),
  );
  return said.filter((s) => lacks(s, language) && !own.has(commonKey(s.key)));
}
/** A sentence's key without the channel at its end. */
const commonKey = (key: string): string => key.slice(0, key.lastIndexOf('|') + 1) || key;
