import * as chrono from 'chrono-node';
import { parsePhoneNumberFromString } from 'libphonenumber-js/max';
import { countryOf } from '../messages/country';
import { plainWords } from './heard';
import type { Asked } from './model';
import { patternFrom } from './pattern';
import type { Value } from './value';

/** What an answer is read against: the language it is in, and the day it is at the door, in its zone. */
export type AnswerWorld = {
  readonly language: string;
  /** ISO 3166 alpha-2, or empty. */ readonly country: string;
  /** Local date and time, `YYYY-MM-DDTHH:MM`. */ readonly local: string;
  /** Finds a thing of a list of the phrasebook that is named in a text. */ readonly listed: (
    listId: string,
    text: string,
  ) => string | null;
};

const YES: Readonly<Record<string, readonly string[]>> = {
  en: ['yes', 'yeah', 'yep', 'sure', 'ok', 'okay', 'correct', 'right', 'please', 'of course'],
  es: ['si', 'claro', 'vale', 'correcto', 'por supuesto', 'de acuerdo'],
  fr: ['oui', 'd accord', 'bien sur', 'exact'],
  pl: ['tak', 'jasne', 'dobrze', 'zgadza sie'],
};
const NO: Readonly<Record<string, readonly string[]>> = {
  en: ['no', 'nope', 'not', 'never', 'wrong'],
  es: ['no', 'nunca', 'incorrecto'],
  fr: ['non', 'pas', 'jamais'],
  pl: ['nie', 'nigdy'],
};
const NUMBERS: Readonly<Record<string, readonly string[]>> = {
  en: ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'],
  es: ['cero', 'uno', 'dos', 'tres', 'cuatro', 'cinco', 'seis', 'siete', 'ocho', 'nueve', 'diez', 'once', 'doce'],
  fr: ['zero', 'un', 'deux', 'trois', 'quatre', 'cinq', 'six', 'sept', 'huit', 'neuf', 'dix', 'onze', 'douze'],
  pl: [
    'zero',
    'jeden',
    'dwa',
    'trzy',
    'cztery',
    'piec',
    'szesc',
    'siedem',
    'osiem',
    'dziewiec',
    'dziesiec',
    'jedenascie',
    'dwanascie',
  ],
};
const UNSURE: Readonly<Record<string, readonly string[]>> = {
  en: ['not sure', 'not really sure', 'do not know', 'don t know', 'no idea'],
  es: ['no estoy seguro', 'no estoy segura', 'no lo se', 'ni idea'],
  fr: ['pas sur', 'pas sure', 'ne sais pas', 'sais pas', 'aucune idee'],
  pl: ['nie wiem', 'nie jestem pewien', 'nie jestem pewna'],
};
/** Where the first of some words stands in a text, as whole words; Infinity when none does. */
const firstOf = (text: string, words: readonly string[] | undefined): number =>
  Math.min(
    ...(words ?? []).map((w) => {
      const at = ` ${text} `.indexOf(` ${w} `);
      return at < 0 ? Infinity : at;
    }),
  );
const says = (text: string, words: readonly string[] | undefined): boolean => firstOf(text, words) < Infinity;
const base = (language: string): string => language.split('-')[0] ?? language;

function wholeNumber(text: string, language: string): number | null {
  const digits = /(?<![\d.,])-?\d{1,3}(?:[ .,]\d{3})+(?![\d])|(?<![\d.,])-?\d+(?![.,]?\d)/.exec(text)?.[0];
  if (digits !== undefined) return Number(digits.replace(/[ .,]/g, ''));
  const word = plainWords(text)
    .split(' ')
    .map((w) => (NUMBERS[base(language)] ?? []).indexOf(w))
    .find((n) => n >= 0);
  return word ?? null;
}

type Reader = Pick<typeof chrono.en, 'parse'>;
const readers: Readonly<Record<string, Reader>> = { es: chrono.es, fr: chrono.fr };
/** Days come before months, as everywhere but in one country. */
function moment(text: string, { language, local }: AnswerWorld): chrono.ParsedResult | null {
  const reader = base(language) === 'en' ? chrono.en.GB : (readers[base(language)] ?? chrono.en.GB);
  const [year = 2000, month = 1, day = 1, hour = 0, minute = 0] = local.split(/\D/).map(Number);
  return reader.parse(text, new Date(year, month - 1, day, hour, minute), { forwardDate: true })[0] ?? null;
}
const two = (n: number): string => String(n).padStart(2, '0');

/**
 * What an answer says, read as the type that was asked for; null when it does not say such a thing. Dates become
 * `YYYY-MM-DD`, times `HH:MM`, telephone numbers E.164 (without a country code they are of the world's own country),
 * listed things their name.
 */
export function readAnswer(asked: Asked, text: string, world: AnswerWorld): Value | null {
  const said = text.trim().slice(0, 2000);
  if (said === '') return null;
  switch (asked.type) {
    case 'text':
      return said;
    case 'whole': {
      const n = wholeNumber(said, world.language);
      return n === null || !Number.isSafeInteger(n) || n < (asked.least ?? -Infinity) || n > (asked.most ?? Infinity)
        ? null
        : n;
    }
    case 'yes-no': {
      const words = plainWords(said);
      if (words === '1' || words === '2') return words === '1';
      if (says(words, UNSURE[base(world.language)]) || says(words, UNSURE.en)) return null;
      // Whichever comes first counts: "no, that is not right" says no, "yes, no problem" says yes.
      const [yes, no] = [YES, NO].map((by) =>
        Math.min(firstOf(words, by[base(world.language)]), firstOf(words, by.en)),
      );
      return yes === no ? null : (yes ?? Infinity) < (no ?? Infinity);
    }
    case 'telephone': {
      const number = parsePhoneNumberFromString(said, countryOf(world.country));
      return number?.isPossible() ? number.number : null;
    }
    case 'email':
      return /[\p{L}\p{N}._%+-]+@[\p{L}\p{N}-]+(?:\.[\p{L}\p{N}-]+)+/u.exec(said)?.[0].toLowerCase() ?? null;
    case 'date': {
      if (/^\d{8}$/.test(said)) return keyedDate(said);
      const found = moment(said, world);
      const [y, m, d] = found ? (['year', 'month', 'day'] as const).map((part) => found.start.get(part)) : [];
      return y && m && d && (found?.start.isCertain('day') || found?.start.isCertain('weekday'))
        ? `${y}-${two(m)}-${two(d)}`
        : null;
    }
    case 'time': {
      if (/^\d{4}$/.test(said))
        return Number(said.slice(0, 2)) < 24 && Number(said.slice(2)) < 60
          ? `${said.slice(0, 2)}:${said.slice(2)}`
          : null;
      const found = moment(said, world);
      return found?.start.isCertain('hour')
        ? `${two(found.start.get('hour') ?? 0)}:${two(found.start.get('minute') ?? 0)}`
        : null;
    }
    case 'pattern':
      return matched(asked.pattern, said);
    case 'listed':
      return world.listed(asked.listId, said);
  }
}

/** A date keyed by telephone as day, month, year: 24122026. */
function keyedDate(digits: string): string | null {
  const [d, m, y] = [Number(digits.slice(0, 2)), Number(digits.slice(2, 4)), Number(digits.slice(4))];
  const date = new Date(Date.UTC(y, m - 1, d));
  return date.getUTCDate() === d && date.getUTCMonth() === m - 1 ? `${y}-${two(m)}-${two(d)}` : null;
}

/**
 * What fits a pattern: the whole answer, else the first part of it that does. Letters are given in capitals, since
 * patterns are of references.
 */
function matched(pattern: string, text: string): string | null {
  const matcher = patternFrom(pattern)?.matcher(text);
  return matcher?.find() ? (matcher.group() ?? '').toUpperCase() : null;
}
