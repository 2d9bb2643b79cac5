import { dateFormat, numberFormat } from '../formatters';

/** What a bot remembers. Dates are kept as `YYYY-MM-DD`, times of day as `HH:MM`, telephone numbers as E.164. */
export type Value = string | number | boolean;
export type Values = Readonly<Record<string, Value>>;

/**
 * Where a value is put: for the rest of this scene only, or for the whole conversation. Fields are always kept for
 * the conversation.
 */
export type Into = { readonly name: string; readonly scope: 'scene' | 'conversation' };

export const VALUE_NAME = /^[\p{L}\p{N}][\p{L}\p{N} _-]{0,59}$/u;

/** How a value reads within a sentence: `{order number as digits}`. */
export const FORMATS = ['digits', 'date', 'time', 'money'] as const;
export type Format = (typeof FORMATS)[number];

const PLACE = /( ?)\{([\p{L}\p{N}][\p{L}\p{N} _-]*?)(?: as (digits|date|time|money))?\}/gu;

/** The names of the values that a text shows, in order, each once. */
export const placesIn = (text: string): string[] => [...new Set([...text.matchAll(PLACE)].map((m) => m[2] ?? ''))];

/**
 * A value as it is said. `digits` one by one, by voice with pauses; `money` in euros; a value that cannot be read
 * that way is said as it is.
 *
 * @example spoken('2048', 'digits', 'en', true) // '2 0 4 8'
 */
export function spoken(value: Value, as: Format | undefined, language: string, byVoice: boolean): string {
  if (typeof value === 'boolean') return (YES_NO[language.split('-')[0] ?? ''] ?? ['yes', 'no'])[value ? 0 : 1];
  const text = String(value);
  if (as === 'digits') return byVoice ? [...text.replace(/[\s-]/g, '')].join(' ') : text;
  if (as === 'money' && Number.isFinite(Number(value)))
    return numberFormat(localeOf(language), { style: 'currency', currency: 'EUR' }).format(Number(value));
  if (as === 'date' && /^\d{4}-\d{2}-\d{2}/.test(text))
    return dateFormat(localeOf(language), {
      weekday: 'long',
      day: 'numeric',
      month: 'long',
      timeZone: 'UTC',
    }).format(new Date(`${text.slice(0, 10)}T12:00:00Z`));
  if (as === 'time' && /^\d{2}:\d{2}/.test(text))
    return dateFormat(localeOf(language), { hour: 'numeric', minute: '2-digit', timeZone: 'UTC' }).format(
      new Date(`2000-01-01T${text.slice(0, 5)}:00Z`),
    );
  return text;
}
/** English without a country is as it is written where the company is. */
const localeOf = (language: string): string => (language === 'en' ? 'en-IE' : language);
const YES_NO: Readonly<Record<string, readonly [string, string]>> = {
  en: ['yes', 'no'],
  es: ['sí', 'no'],
  fr: ['oui', 'non'],
  pl: ['tak', 'nie'],
};

/** A value by its name; what every object has, such as a constructor, is no value. */
export const valueIn = (values: Values, name: string): Value | undefined =>
  Object.hasOwn(values, name) ? values[name] : undefined;

/** Fills a text's places from the values; a name that is not known is left out, with the space before it. */
export const filled = (text: string, values: Values, language = 'en', byVoice = false): string =>
  text.includes('{')
    ? text.replace(PLACE, (_, space: string, name: string, as?: Format) => {
        const value = valueIn(values, name);
        return value === undefined || value === '' ? '' : space + spoken(value, as, language, byVoice);
      })
    : text;

/**
 * What a template of a line gives: the value itself when it is one place alone, so that a number stays a number; else
 * text.
 */
export function templateValue(template: string, values: Values): Value {
  const [only] = placesIn(template);
  if (only !== undefined && template === `{${only}}`) return valueIn(values, only) ?? '';
  return filled(template, values);
}
