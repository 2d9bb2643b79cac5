import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js';
import { plainWords } from '../bots/heard';
import { type Channel, isText } from '../channels';
import { dateFormat } from '../formatters';
import { localised } from '../localised';
import { askForCode, CODE_TRIES, codeIn, notTheCode } from '../messages/numbercodes';
import { type Option, optionText } from '../messages/options';
import { spokenNumber } from '../messages/spokennumber';
import { builtInSentence, type CallbackSentence, type CallbackWording, numberByKeys } from './sentences';
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
  | { readonly type: 'key'; readonly key: string }
  | { readonly type: 'text'; readonly text: string }
  /** Nothing came for as long as there was time. */
  | { readonly type: 'silence' };
export type TalkAct =
  | {
      readonly do: 'say';
      readonly text: string;
      readonly options: readonly Option[];
    }
  /** A code goes to a number that they gave; and they gave a code for it. */
  | { readonly do: 'send-code'; readonly number: string }
  | { readonly do: 'code-tried'; readonly number: string; readonly right: boolean }
  /** The customer wants to be called at this number, in a window or as soon as possible (null). */
  | { readonly do: 'promise'; readonly number: string; readonly window: CallWindow | null }
  /** It came to nothing: they go on waiting at their place. */
  | { readonly do: 'back' };
type Turn = { readonly talk: CallbackTalk | null; readonly acts: readonly TalkAct[] };
/** What a line of a bot says in words of its own, in the customer's language; and which times it offers. */
export type Offered = {
  readonly sentences: Readonly<Partial<Record<CallbackSentence, string>>>;
  /** Whether as soon as possible is offered. */
  readonly soon: boolean;
};
/** Everything is offered, and said as the queue says it. */
export const ALL_OFFERED: Offered = { sentences: {}, soon: true };

export type TalkWords = {
  readonly channel: Channel;
  readonly language: string;
  readonly languages: readonly string[];
  /** The queue's own words. */
  readonly wording: CallbackWording;
  readonly offered: Offered;
  /** Whether they have a place in line, which they keep. */
  readonly inLine: boolean;
  readonly zone: string;
  readonly country: CountryCode | undefined;
  /** Whether a number is known to be theirs, and whether a code is the one that was sent to it. */
  readonly isProven: (number: string) => boolean;
  readonly isCode: (number: string, code: string) => boolean;
};

const MOST_TRIES = 3;

const words = (w: TalkWords, id: CallbackSentence): string =>
  w.offered.sentences[id] ||
  localised(w.wording[id] ?? {}, w.language, w.languages) ||
  builtInSentence(id === 'promised' && w.inLine ? 'promisedInLine' : id, w.language);

/** A sentence with what is filled in; what can be answered is put after it where it has no place of its own. */
function sentence(
  w: TalkWords,
  id: CallbackSentence,
  filled: Readonly<Record<string, string>> = {},
  options: readonly Option[] = [],
): string {
  const lines = optionText(w.channel, w.language, options);
  const text = words(w, id);
  const whole = text.includes('{options}') ? text : `${text}${lines}`;
  return whole
    .replace(/\{(number|when|options)\}/g, (_m, name: string) => (name === 'options' ? lines : (filled[name] ?? '')))
    .replace(/ {2,}/g, ' ')
    .trim();
}

const numbered = (labels: readonly string[]): Option[] => labels.map((label, i) => ({ key: String(i + 1), label }));

export function windowWords(window: CallWindow | null, w: TalkWords): string {
  if (!window) return words(w, 'soon');
  const day = dateFormat(w.language, { weekday: 'long', timeZone: w.zone }).format(window.from);
  const time = dateFormat(w.language, {
    hour: '2-digit',
    minute: '2-digit',
    hour12: false,
    timeZone: w.zone,
  });
  return `${day} ${time.format(window.from)}–${time.format(window.to)}`;
}

/** The times that are offered: as soon as possible (null), then the windows. */
const timesOf = ({ windows }: CallbackTalk, w: TalkWords): readonly (CallWindow | null)[] => [
  ...(w.offered.soon ? [null] : []),
  ...windows,
];

/** What can be answered where the talk stands. */
function optionsOf(talk: CallbackTalk, w: TalkWords): Option[] {
  switch (talk.step) {
    case 'confirm':
      return numbered([words(w, 'yes'), words(w, 'other')]);
    case 'read-back':
      return numbered([words(w, 'right'), words(w, 'again')]);
    case 'when':
      return numbered(timesOf(talk, w).map((window) => windowWords(window, w)));
    default:
      return [];
  }
}

function question(talk: CallbackTalk, w: TalkWords): string {
  const byKeys = !isText(w.channel);
  const options = optionsOf(talk, w);
  switch (talk.step) {
    case 'confirm':
      return sentence(w, 'confirm', { number: spokenNumber(talk.own ?? '') }, options);
    case 'type':
      return [sentence(w, 'typeNumber'), byKeys ? numberByKeys(w.language) : ''].filter(Boolean).join(' ');
    case 'read-back':
      return sentence(w, 'readBack', { number: spokenNumber(talk.number ?? '') }, options);
    case 'prove':
      return askForCode(w.language, talk.number ?? '', byKeys);
    case 'when':
      return sentence(w, 'when', {}, options);
  }
}

const ask = (talk: CallbackTalk, w: TalkWords, before = ''): Turn => ({
  talk,
  acts: [{ do: 'say', text: [before, question(talk, w)].filter(Boolean).join(' '), options: optionsOf(talk, w) }],
});

const callable = (given: string, country: CountryCode | undefined): string | null => {
  const parsed = parsePhoneNumberFromString(given.startsWith('00') ? `+${given.slice(2)}` : given, country);
  return parsed?.isPossible() ? parsed.number : null;
};

/**
 * Begins: the number that is known is confirmed, or one is typed; whichever is not known to be theirs they show to be
 * so by a code. `known` is null where the channel shows none or does not vouch for it, and none was given.
 */
export function beginCallback(known: string | null, windows: readonly CallWindow[], w: TalkWords): Turn {
  const own = known === null ? null : callable(known, w.country);
  const talk: CallbackTalk = { step: own ? 'confirm' : 'type', own, number: null, keyed: '', tries: 0, windows };
  // No time at all can be offered.
  return timesOf(talk, w).length === 0 ? { talk: null, acts: [{ do: 'back' }] } : ask(talk, w);
}

/**
 * Which option a key, its number or its words choose; null for none. Whole words count, the longest first, without
 * accents and case.
 */
function option(input: TalkInput, options: readonly Option[]): number | null {
  if (input.type === 'silence') return null;
  const said = plainWords(input.type === 'key' ? input.key : input.text);
  if (said === '') return null;
  const byKey = options.findIndex((o) => o.key === said);
  if (byKey >= 0) return byKey;
  const [best] = options
    .map((o, at) => ({ at, label: plainWords(o.label) }))
    .filter(({ label }) => label !== '' && ` ${said} `.includes(` ${label} `))
    .sort((a, b) => b.label.length - a.label.length);
  return best?.at ?? null;
}

/** Takes an answer. Pure; never throws. After three answers that fit nowhere it comes to nothing. */
export function continueCallback(talk: CallbackTalk, input: TalkInput, w: TalkWords): Turn {
  const again = (before = '', most = MOST_TRIES): Turn =>
    talk.tries + 1 >= most
      ? { talk: null, acts: [{ do: 'back' }] }
      : ask({ ...talk, tries: talk.tries + 1, keyed: '' }, w, before);
  const on = (next: Partial<CallbackTalk>): Turn => {
    const talkNow = { ...talk, keyed: '', tries: 0, ...next };
    const [only, ...others] = timesOf(talkNow, w);
    if (talkNow.step === 'when' && only === null && others.length === 0) return promise(talkNow.number ?? '', null, w);
    return ask(talkNow, w);
  };
  /** On to the time, once it is known whose number it is. */
  const proven = (number: string): Turn => {
    if (w.isProven(number)) return on({ step: 'when', number });
    const asked = on({ step: 'prove', number });
    return { ...asked, acts: [{ do: 'send-code', number }, ...asked.acts] };
  };
  const keying = (): Turn | null =>
    input.type === 'key' && input.key !== '#' ? { talk: { ...talk, keyed: talk.keyed + input.key }, acts: [] } : null;
  const typed = input.type === 'text' ? input.text : input.type === 'key' ? talk.keyed : '';
  switch (talk.step) {
    case 'confirm': {
      const chosen = option(input, optionsOf(talk, w));
      return chosen === 0 ? proven(talk.own ?? '') : chosen === 1 ? on({ step: 'type' }) : again();
    }
    case 'type': {
      const number = callable(typed.replaceAll('*', '+'), w.country);
      return (
        keying() ??
        (input.type === 'silence'
          ? again()
          : number === null
            ? again(sentence(w, 'notNumber'))
            : on({ step: 'read-back', number }))
      );
    }
    case 'read-back': {
      const chosen = option(input, optionsOf(talk, w));
      if (chosen === 1) return on({ step: 'type', number: null });
      return chosen === 0 ? proven(talk.number ?? '') : again();
    }
    case 'prove': {
      const more = keying();
      if (more) return more;
      if (input.type === 'silence') return again('', CODE_TRIES);
      const number = talk.number ?? '';
      const right = w.isCode(number, codeIn(typed));
      const next = right ? on({ step: 'when' }) : again(notTheCode(w.language), CODE_TRIES);
      return { ...next, acts: [{ do: 'code-tried', number, right }, ...next.acts] };
    }
    case 'when': {
      const chosen = option(input, optionsOf(talk, w));
      const window = chosen === null ? undefined : timesOf(talk, w)[chosen];
      return window === undefined ? again() : promise(talk.number ?? '', window, w);
    }
  }
}

const promise = (number: string, window: CallWindow | null, w: TalkWords): Turn => ({
  talk: null,
  acts: [
    {
      do: 'say',
      text: sentence(w, 'promised', { number: spokenNumber(number), when: windowWords(window, w) }),
      options: [],
    },
    { do: 'promise', number, window },
  ],
});
