import { dateFormat } from '../formatters';
import { daysBetween } from '../hours/dates';
import { localDate } from '../hours/weekly';
import { type Localised, localised } from '../localised';
import { builtIn } from './words';

/** What a customer hears at a door that is closed, and when it opens next (floor ms; null: not known), by the clock of its hours. */
export type Closed = {
  readonly wording: Localised;
  readonly languages: readonly string[];
  readonly opensAt: number | null;
  readonly zone: string;
};

const LATER: Localised = { en: 'later', es: 'más tarde', fr: 'plus tard', pl: 'później' };

/** When it opens again, in words: the time alone today, with the weekday within a week, with the date after it. */
export function opensWords({ opensAt, zone }: Closed, now: number, language: string): string {
  if (opensAt === null) return builtIn(LATER, language);
  const days = daysBetween(localDate(now, zone), localDate(opensAt, zone));
  return dateFormat(language, {
    timeZone: zone,
    hour: '2-digit',
    hour12: false,
    minute: '2-digit',
    ...(days > 0 ? { weekday: 'long' } : {}),
    ...(days > 6 ? { day: 'numeric', month: 'long' } : {}),
  }).format(opensAt);
}

/** The closing words of a door in a language; `{opens}` is when it opens again. */
export const closedWords = (closed: Closed, now: number, language: string): string =>
  localised(closed.wording, language, closed.languages).replaceAll('{opens}', () => opensWords(closed, now, language));
