/** Formatters of Intl, each made once and kept: making one takes longer than a whole step of a contact. */

/** How many of each are kept; with one more, all are made anew. Languages may be named by strangers. */
const MOST = 200;
const numbers = new Map<string, Intl.NumberFormat>();
const dates = new Map<string, Intl.DateTimeFormat>();

function kept<T>(there: Map<string, T>, language: string, options: object, make: () => T): T {
  const name = `${language} ${JSON.stringify(options)}`;
  let format = there.get(name);
  if (format) return format;
  format = make();
  if (there.size >= MOST) there.clear();
  there.set(name, format);
  return format;
}

/** Throws RangeError where `language` is no BCP 47 tag. */
export const numberFormat = (language: string, options: Intl.NumberFormatOptions): Intl.NumberFormat =>
  kept(numbers, language, options, () => new Intl.NumberFormat(language, options));

/** Throws RangeError where `language` is no BCP 47 tag, or the zone is none. */
export const dateFormat = (language: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat =>
  kept(dates, language, options, () => new Intl.DateTimeFormat(language, options));
