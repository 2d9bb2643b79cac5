import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js';
import { askForCode, CODE_TRIES, codeIn, notTheCode } from '../messages/numbercodes';
import { spokenNumber } from '../messages/spokennumber';
import { dateFormat } from '../formatters';
import { localised, type Localised } from '../localised';
import type { CallbackSettings } from '../routing/queue';
import type { CallWindow } from './windows';

/** Where the short conversation about a callback stands. Plain data: it is kept between the customer's answers. */
export type CallbackTalk = {
  readonly step: 'confirm' | 'type' | 'read-back' | 'prove' | 'when';
  readonly own: string | null;
  readonly number: string | null;
  readonly keyed: string;
  readonly tries: number;
  readonly windows: readonly CallWindow[];
};
export type TalkInput =
  { readonly type: 'key'; readonly key: string } | { readonly type: 'text'; readonly text: string };
export type TalkAct =
  | {
      readonly do: 'say';
      readonly text: string;
      readonly options: readonly { readonly key: string; readonly label: string }[];
    }
  /** A code goes to a number that they gave; and they gave a code for it. */
  | { readonly do: 'send-code'; readonly number: string }
  | { readonly do: 'code-tried'; readonly number: string; readonly right: boolean }
  /** The customer wants to be called at this number, in a window or as soon as possible (null). */
  | { readonly do: 'promise'; readonly number: string; readonly window: CallWindow | null }
  /** It came to nothing: they go on waiting at their place. */
  | { readonly do: 'back' };
type Turn = { readonly talk: CallbackTalk | null; readonly acts: readonly TalkAct[] };
export type TalkWords = {
  readonly language: string;
  readonly languages: readonly string[];
  readonly wording: CallbackSettings['wording'];
  readonly zone: string;
  readonly country: CountryCode | undefined;
  /** Whether they speak, and press keys. */
  readonly byKeys: boolean;
  /** Whether a number is known to be theirs, and whether a code is the one that was sent to it. */
  readonly isProven: (number: string) => boolean;
  readonly isCode: (number: string, code: string) => boolean;
};

const MOST_TRIES = 3;
/** What is said where a queue has no words of its own. */
export const BUILT_IN: CallbackSettings['wording'] = {
  confirm: {
    en: 'Shall we call you back on {number}?',
    es: '¿Le llamamos al {number}?',
    fr: 'Pouvons-nous vous rappeler au {number} ?',
    pl: 'Czy mamy oddzwonić na {number}?',
  },
  typeNumber: {
    en: 'Please give the number to call, then the hash key.',
    es: 'Marque el número y la almohadilla.',
    fr: 'Indiquez le numéro, puis dièse.',
    pl: 'Proszę podać numer, a potem krzyżyk.',
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
    en: 'We will call {number} {when}. Your place is kept. Goodbye.',
    es: 'Le llamaremos al {number} {when}. Guardamos su lugar. Hasta pronto.',
    fr: 'Nous appellerons le {number} {when}. Votre place est gardée. Au revoir.',
    pl: 'Zadzwonimy na {number} {when}. Miejsce w kolejce zostaje. Do usłyszenia.',
  },
};
const YES_NO: Localised = {
  en: 'yes|another number',
  es: 'sí|otro número',
  fr: 'oui|un autre numéro',
  pl: 'tak|inny numer',
};
const RIGHT: Localised = {
  en: 'right|again',
  es: 'correcto|otra vez',
  fr: 'exact|recommencer',
  pl: 'zgadza się|jeszcze raz',
};
const SOON: Localised = {
  en: 'as soon as possible',
  es: 'lo antes posible',
  fr: 'dès que possible',
  pl: 'jak najszybciej',
};
const NOT_A_NUMBER: Localised = {
  en: 'That is not a telephone number we can call.',
  es: 'No es un número al que podamos llamar.',
  fr: 'Ce numéro ne peut pas être appelé.',
  pl: 'Na ten numer nie możemy zadzwonić.',
};

const words = (
  w: TalkWords,
  id: keyof CallbackSettings['wording'],
  filled: Readonly<Record<string, string>> = {},
): string => {
  const own = localised(w.wording[id], w.language, w.languages);
  return (own || localised(BUILT_IN[id], w.language, ['en'])).replace(
    /\{(number|when)\}/g,
    (_m, name: string) => filled[name] ?? '',
  );
};
const pair = (w: TalkWords, labels: Localised) =>
  localised(labels, w.language, ['en'])
    .split('|')
    .map((label, i) => ({ key: String(i + 1), label }));
export function windowWords(window: CallWindow | null, w: Pick<TalkWords, 'language' | 'zone'>): string {
  if (!window) return localised(SOON, w.language, ['en']);
  const day = dateFormat(w.language, { weekday: 'long', timeZone: w.zone }).format(window.from);
  const time = dateFormat(w.language, {
    hour: '2-digit',
    minute: '2-digit',
    hour12: false,
    timeZone: w.zone,
  });
  return `${day} ${time.format(window.from)}–${time.format(window.to)}`;
}

const say = (talk: CallbackTalk, text: string, options: readonly { key: string; label: string }[] = []): Turn => ({
  talk,
  acts: [{ do: 'say', text, options }],
});
const ask = (talk: CallbackTalk, w: TalkWords): Turn => {
  switch (talk.step) {
    case 'confirm':
      return say(talk, words(w, 'confirm', { number: spokenNumber(talk.own ?? '') }), pair(w, YES_NO));
    case 'type':
      return say(talk, words(w, 'typeNumber'));
    case 'read-back':
      return say(talk, words(w, 'readBack', { number: spokenNumber(talk.number ?? '') }), pair(w, RIGHT));
    case 'prove':
      return say(talk, askForCode(w.language, talk.number ?? '', w.byKeys));
    case 'when':
      return say(
        talk,
        words(w, 'when'),
        [null, ...talk.windows].map((window, i) => ({ key: String(i + 1), label: windowWords(window, w) })),
      );
  }
};

/**
 * Begins: the caller's own number is confirmed, or one is typed, which they then show to be theirs by a code. `own` is
 * null where the channel shows none or does not vouch for it.
 */
export function beginCallback(own: string | null, windows: readonly CallWindow[], w: TalkWords): Turn {
  const valid = own !== null && parsePhoneNumberFromString(own, w.country)?.isPossible() ? own : null;
  return ask({ step: valid ? 'confirm' : 'type', own: valid, number: null, keyed: '', tries: 0, windows }, w);
}

/** Which option a key, its number or its words choose; null for none. */
function option(input: TalkInput, labels: readonly { key: string; label: string }[]): number | null {
  const said = (input.type === 'key' ? input.key : input.text).trim().toLowerCase();
  const found = labels.findIndex((o) => o.key === said || (said !== '' && o.label.toLowerCase() === said));
  return found < 0 ? null : found;
}

/** Takes an answer. Pure; never throws. After three answers that fit nowhere the customer goes on waiting. */
export function continueCallback(talk: CallbackTalk, input: TalkInput, w: TalkWords): Turn {
  const again = (prefix = '', most = MOST_TRIES): Turn => {
    if (talk.tries + 1 >= most) return { talk: null, acts: [{ do: 'back' }] };
    const turn = ask({ ...talk, tries: talk.tries + 1, keyed: '' }, w);
    return prefix === ''
      ? turn
      : { ...turn, acts: turn.acts.map((a) => (a.do === 'say' ? { ...a, text: `${prefix} ${a.text}` } : a)) };
  };
  const on = (next: Partial<CallbackTalk>): Turn => {
    const talkNow = { ...talk, keyed: '', tries: 0, ...next };
    if (talkNow.step === 'when' && talkNow.windows.length === 0) return promise(talkNow.number ?? '', null, w);
    return ask(talkNow, w);
  };
  switch (talk.step) {
    case 'confirm': {
      const chosen = option(input, pair(w, YES_NO));
      return chosen === 0 ? on({ step: 'when', number: talk.own }) : chosen === 1 ? on({ step: 'type' }) : again();
    }
    case 'type': {
      if (input.type === 'key' && input.key !== '#')
        return { talk: { ...talk, keyed: talk.keyed + (input.key === '*' ? '+' : input.key) }, acts: [] };
      const typed = input.type === 'key' ? talk.keyed : input.text;
      const parsed = parsePhoneNumberFromString(typed.startsWith('00') ? `+${typed.slice(2)}` : typed, w.country);
      return parsed?.isPossible()
        ? on({ step: 'read-back', number: parsed.number })
        : again(localised(NOT_A_NUMBER, w.language, ['en']));
    }
    case 'read-back': {
      const chosen = option(input, pair(w, RIGHT));
      if (chosen === 1) return on({ step: 'type', number: null });
      if (chosen !== 0) return again();
      const number = talk.number ?? '';
      if (w.isProven(number)) return on({ step: 'when' });
      const asked = on({ step: 'prove' });
      return { ...asked, acts: [{ do: 'send-code', number }, ...asked.acts] };
    }
    case 'prove': {
      if (input.type === 'key' && input.key !== '#')
        return { talk: { ...talk, keyed: talk.keyed + input.key }, acts: [] };
      const number = talk.number ?? '';
      const right = w.isCode(number, codeIn(input.type === 'key' ? talk.keyed : input.text));
      const next = right ? on({ step: 'when' }) : again(notTheCode(w.language), CODE_TRIES);
      return { ...next, acts: [{ do: 'code-tried', number, right }, ...next.acts] };
    }
    case 'when': {
      const chosen = option(
        input,
        [null, ...talk.windows].map((window, i) => ({ key: String(i + 1), label: windowWords(window, w) })),
      );
      return chosen === null
        ? again()
        : promise(talk.number ?? '', chosen === 0 ? null : (talk.windows[chosen - 1] ?? null), w);
    }
  }
}
const promise = (number: string, window: CallWindow | null, w: TalkWords): Turn => ({
  talk: null,
  acts: [
    {
      do: 'say',
      text: words(w, 'promised', { number: spokenNumber(number), when: windowWords(window, w) }),
      options: [],
    },
    { do: 'promise', number, window },
  ],
});
