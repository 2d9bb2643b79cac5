import { isText, type Channel } from '../channels';
import { localised, type Localised } from '../localised';
import type { Choice } from './model';

/** Sentences that exist whatever a script leaves out. `{label}` and `{key}` are filled in. */
const PRESS: Localised = { en: 'For {label}, press {key}.', es: 'Para {label}, pulse {key}.', fr: 'Pour {label}, tapez {key}.', pl: '{label}: naciśnij {key}.' };
const AGAIN: Localised = { en: 'Sorry, I did not catch that.', es: 'Perdone, no le he entendido.', fr: 'Pardon, je n’ai pas compris.', pl: 'Przepraszam, nie zrozumiałem.' };
const LAST: Localised = {
  en: 'Something went wrong on our side. I am passing you to a person.', es: 'Algo ha fallado por nuestra parte. Le paso con una persona.',
  fr: 'Un problème est survenu chez nous. Je vous passe quelqu’un.', pl: 'Coś poszło nie tak po naszej stronie. Łączę z człowiekiem.',
};

export const notUnderstood = (language: string): string => localised(AGAIN, language, ['en']);
export const lastSentence = (language: string): string => localised(LAST, language, ['en']);

/** A question as its channel says it: keys named by voice, numbered lines in SMS and messaging, bare in chat, where buttons follow. */
export function questionOn(channel: Channel, language: string, question: string, choices: readonly Choice[]): string {
  if (choices.length === 0 || channel === 'chat') return question;
  if (isText(channel)) return [question, ...choices.map((c) => `${c.key} ${localised(c.label, language, ['en'])}`.trim())].join('\n');
  const press = localised(PRESS, language, ['en']);
  const keys = choices.filter((c) => c.key).map((c) => press.replace('{label}', localised(c.label, language, ['en'])).replace('{key}', c.key));
  return [question, ...keys].join(' ');
}

/** Fills `{name}` from the values; a name that is not known is left out, with the space before it. */
export const filled = (text: string, values: Readonly<Record<string, string>>): string =>
  text.replace(/ ?\{([\p{L}\p{N} _-]+)\}/gu, (whole, name: string) => {
    const value = values[name.trim()];
    return value ? (whole.startsWith(' ') ? ' ' : '') + value : '';
  });
