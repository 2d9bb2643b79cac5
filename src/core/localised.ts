/** Wording that a customer meets: one text per BCP 47 language tag. */
export type Localised = Readonly<Record<string, string>>;

/**
 * The text for a language: the tag itself, then its primary language (`es` for `es-MX`), then each fallback in turn,
 * then whatever wording there is. Empty wording counts as missing.
 *
 * @example localised({ en: 'Hello', es: 'Hola' }, 'es-MX', ['en']) // 'Hola'
 */
export function localised(wording: Localised, language: string, fallbacks: readonly string[] = []): string {
  const own = wording[language] || wording[language.split('-')[0] ?? language];
  if (own) return own;
  for (const tag of fallbacks) {
    const text = wording[tag];
    if (text) return text;
  }
  return Object.values(wording).find((text) => text !== '') ?? '';
}

/** The languages of `wanted` for which there is no wording. */
export const missingLanguages = (wording: Localised, wanted: readonly string[]): string[] =>
  wanted.filter((tag) => !wording[tag]?.trim());

const LANGUAGE_NAMES: Readonly<Record<string, string>> = {
  en: 'English',
  es: 'Spanish',
  fr: 'French',
  pl: 'Polish',
  pt: 'Portuguese',
  de: 'German',
};
/** The English name of a language, or its tag where we have none. */
export const languageName = (tag: string): string => LANGUAGE_NAMES[tag] ?? tag;
