import type { WhenClosed } from '../doors/doorway';
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
  /** Why it is closed, where that was said when it was shut by hand. */
  readonly reason: Localised;
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

/** Said at a door without words of its own. */
const SHUT: Localised = {
  en: 'We are closed just now.',
  es: 'Ahora mismo está cerrado.',
  fr: 'Nous sommes fermés pour le moment.',
  pl: 'Teraz jest zamknięte.',
};

/**
 * The closing words of a door in a language; `{opens}` is when it opens again, `{reason}` why it was shut by hand,
 * nothing where it was not.
 */
export const closedWords = (closed: Closed, now: number, language: string): string =>
  (localised(closed.wording, language, closed.languages) || builtIn(SHUT, language))
    .replaceAll('{opens}', () => opensWords(closed, now, language))
    .replaceAll('{reason}', () => localised(closed.reason, language, closed.languages))
    .replace(/ {2,}/g, ' ')
    .replace(/ (?=[.,;:!?])/g, '')
    .trim();

/** What is said at each closed door that somebody came to, and what follows. */
export type Turned = {
  readonly said: readonly Closed[];
  readonly then:
    | Exclude<WhenClosed, { readonly does: 'door' }>
    /** The last door they were led to is open. */
    | { readonly does: 'in' };
};
