import { type Localised, localised } from '../localised';
import { spokenNumber } from './spokennumber';

/** Codes by which a customer shows that a telephone number they gave is theirs. */

/** How many digits a code has, how long it is good for, and how often it may be tried. */
export const CODE_DIGITS = 6;
export const CODE_MINUTES = 10;
export const CODE_TRIES = 3;

const ASK: Localised = {
  en: 'We have sent a code to {number}. Please give it here.',
  es: 'Hemos enviado un código al {number}. Indíquelo aquí.',
  fr: 'Nous avons envoyé un code au {number}. Indiquez-le ici.',
  pl: 'Wysłaliśmy kod na {number}. Proszę go tu podać.',
};
const KEYS: Localised = {
  en: 'Press its six digits, then the hash key.',
  es: 'Marque sus seis cifras y la almohadilla.',
  fr: 'Tapez ses six chiffres, puis dièse.',
  pl: 'Proszę wybrać sześć cyfr, a potem krzyżyk.',
};
const WRONG: Localised = {
  en: 'That is not the code.',
  es: 'Ese no es el código.',
  fr: 'Ce n’est pas le code.',
  pl: 'To nie jest ten kod.',
};
const SENT: Localised = {
  en: 'Your code is {code}. It is good for ten minutes. If you did not ask for it, do nothing.',
  es: 'Su código es {code}. Vale diez minutos. Si no lo ha pedido, no haga nada.',
  fr: 'Votre code est {code}, valable dix minutes. Si vous ne l’avez pas demandé, ne faites rien.',
  pl: 'Kod: {code}. Jest ważny dziesięć minut. Jeśli to nie Ty, nic nie rób.',
};

/** Asks for the code that was sent to a number. */
export const askForCode = (language: string, number: string, byKeys: boolean): string =>
  localised(ASK, language, ['en']).replace('{number}', spokenNumber(number)) +
  (byKeys ? ` ${localised(KEYS, language, ['en'])}` : '');
export const notTheCode = (language: string): string => localised(WRONG, language, ['en']);
/** What is sent to the number. */
export const codeText = (language: string, code: string): string =>
  localised(SENT, language, ['en']).replace('{code}', code);
/** The digits of what somebody says or types as a code. */
export const codeIn = (said: string): string => said.replace(/\D/g, '').slice(0, CODE_DIGITS);
