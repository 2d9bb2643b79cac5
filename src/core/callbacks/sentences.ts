import { type Localised, localised } from '../localised';

/** What is said while a call back is arranged. Queues and lines of bots may word each of them otherwise. */

/** A sentence or an answer, by what it is for. */
export const CALLBACK_SENTENCES = [
  'confirm',
  'typeNumber',
  'notNumber',
  'readBack',
  'when',
  'promised',
  'yes',
  'other',
  'right',
  'again',
  'soon',
] as const;
export type CallbackSentence = (typeof CALLBACK_SENTENCES)[number];
/** Wording of one's own; what is left out is said as it is built in. */
export type CallbackWording = Readonly<Partial<Record<CallbackSentence, Localised>>>;

/** What may be filled in: the number, the time promised, and what can be answered with its keys. */
export const CALLBACK_PLACES = ['number', 'when', 'options'] as const;

/** What each is for, as people read it, and what may be filled in. */
export const CALLBACK_PARTS: Readonly<
  Record<CallbackSentence, { readonly part: string; readonly places: readonly (typeof CALLBACK_PLACES)[number][] }>
> = {
  confirm: { part: 'Offers this number', places: ['number', 'options'] },
  typeNumber: { part: 'Asks for another number', places: [] },
  notNumber: { part: 'It is no number', places: [] },
  readBack: { part: 'Reads a number back', places: ['number', 'options'] },
  when: { part: 'Asks when', places: ['options'] },
  promised: { part: 'Promises the call', places: ['number', 'when'] },
  yes: { part: 'Answer: this number', places: [] },
  other: { part: 'Answer: another number', places: [] },
  right: { part: 'Answer: the number is right', places: [] },
  again: { part: 'Answer: give it again', places: [] },
  soon: { part: 'Answer: as soon as possible', places: [] },
};

const BUILT_IN: Readonly<Record<CallbackSentence | 'promisedInLine', Localised>> = {
  confirm: {
    en: 'Shall we call you back on {number}?',
    es: '¿Le llamamos al {number}?',
    fr: 'Pouvons-nous vous rappeler au {number} ?',
    pl: 'Czy mamy oddzwonić na {number}?',
  },
  typeNumber: {
    en: 'Which number shall we call?',
    es: '¿A qué número le llamamos?',
    fr: 'Quel numéro devons-nous appeler ?',
    pl: 'Na jaki numer mamy zadzwonić?',
  },
  notNumber: {
    en: 'That is not a telephone number we can call.',
    es: 'No es un número al que podamos llamar.',
    fr: 'Ce numéro ne peut pas être appelé.',
    pl: 'Na ten numer nie możemy zadzwonić.',
  },
  readBack: {
    en: 'We heard {number}. Is that right?',
    es: 'Hemos entendido {number}. ¿Es correcto?',
    fr: 'Nous avons noté {number}. Est-ce exact ?',
    pl: 'Zapisaliśmy {number}. Czy to się zgadza?',
  },
  when: {
    en: 'When shall we call?',
    es: '¿Cuándo le llamamos?',
    fr: 'Quand devons-nous appeler ?',
    pl: 'Kiedy mamy zadzwonić?',
  },
  promised: {
    en: 'We will call {number} {when}. Goodbye.',
    es: 'Le llamaremos al {number} {when}. Hasta pronto.',
    fr: 'Nous appellerons le {number} {when}. Au revoir.',
    pl: 'Zadzwonimy na {number} {when}. Do usłyszenia.',
  },
  promisedInLine: {
    en: 'We will call {number} {when}. Your place is kept. Goodbye.',
    es: 'Le llamaremos al {number} {when}. Guardamos su lugar. Hasta pronto.',
    fr: 'Nous appellerons le {number} {when}. Votre place est gardée. Au revoir.',
    pl: 'Zadzwonimy na {number} {when}. Miejsce w kolejce zostaje. Do usłyszenia.',
  },
  yes: { en: 'yes', es: 'sí', fr: 'oui', pl: 'tak' },
  other: { en: 'another number', es: 'otro número', fr: 'un autre numéro', pl: 'inny numer' },
  right: { en: 'right', es: 'correcto', fr: 'exact', pl: 'zgadza się' },
  again: { en: 'again', es: 'otra vez', fr: 'recommencer', pl: 'jeszcze raz' },
  soon: {
    en: 'as soon as possible',
    es: 'lo antes posible',
    fr: 'dès que possible',
    pl: 'jak najszybciej',
  },
};

/** Somebody who speaks presses a number, and says when it is whole. */
const BY_KEYS: Localised = {
  en: 'Press its digits, then the hash key.',
  es: 'Marque sus cifras y la almohadilla.',
  fr: 'Composez ses chiffres, puis dièse.',
  pl: 'Proszę wybrać cyfry, a potem krzyżyk.',
};

export const builtInSentence = (id: keyof typeof BUILT_IN, language: string): string =>
  localised(BUILT_IN[id], language, ['en']);
/** How a number is given by keys. */
export const numberByKeys = (language: string): string => localised(BY_KEYS, language, ['en']);
