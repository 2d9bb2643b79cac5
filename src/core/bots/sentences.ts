import { type Localised, localised } from '../localised';

/** Sentences that exist whatever a script leaves out. */
const AGAIN: Localised = {
  en: 'Sorry, I did not catch that.',
  es: 'Perdone, no le he entendido.',
  fr: 'Pardon, je n’ai pas compris.',
  pl: 'Przepraszam, nie zrozumiałem.',
};

const LAST: Localised = {
  en: 'Something went wrong on our side. I am passing you to a person.',
  es: 'Algo ha fallado por nuestra parte. Le paso con una persona.',
  fr: 'Un problème est survenu chez nous. Je vous passe quelqu’un.',
  pl: 'Coś poszło nie tak po naszej stronie. Łączę z człowiekiem.',
};

const GOODBYE: Localised = {
  en: 'Thank you, goodbye.',
  es: 'Gracias, adiós.',
  fr: 'Merci, au revoir.',
  pl: 'Dziękuję, do widzenia.',
};

const DOUBT: Localised = {
  en: 'Is it about {first}, or {second}?',
  es: '¿Se trata de {first} o de {second}?',
  fr: 'Est-ce pour {first} ou {second} ?',
  pl: 'Czy chodzi o: {first}, czy: {second}?',
};

const STILL_THERE: Localised = {
  en: 'Are you still there?',
  es: '¿Sigue ahí?',
  fr: 'Êtes-vous toujours là ?',
  pl: 'Czy nadal tu jesteś?',
};

const NOTHING_FITS: Localised = {
  en: 'I found nothing about that.',
  es: 'No he encontrado nada sobre eso.',
  fr: 'Je n’ai rien trouvé à ce sujet.',
  pl: 'Nic o tym nie znalazłem.',
};

const ANYTHING_ELSE: Localised = {
  en: 'Is there anything else?',
  es: '¿Alguna otra cosa?',
  fr: 'Autre chose ?',
  pl: 'Czy coś jeszcze?',
};

const GO_ON: Localised = {
  en: 'Say go on or press 1, again or 2, that is all or 3, or ask something else.',
  es: 'Diga seguir o pulse 1, repetir o 2, nada más o 3, o pregunte otra cosa.',
  fr: 'Dites continuer ou tapez 1, répéter ou 2, c’est tout ou 3, ou posez une autre question.',
  pl: 'Powiedz dalej lub naciśnij 1, powtórz lub 2, to wszystko lub 3, albo zapytaj o coś innego.',
};

const builtIn = (wording: Localised, language: string, filling: Readonly<Record<string, string>> = {}): string =>
  Object.entries(filling).reduce(
    (text, [name, value]) => text.replace(`{${name}}`, value),
    localised(wording, language, ['en']),
  );

export const notUnderstood = (language: string): string => builtIn(AGAIN, language);
export const lastSentence = (language: string): string => builtIn(LAST, language);
export const goodbye = (language: string): string => builtIn(GOODBYE, language);
export const stillThere = (language: string): string => builtIn(STILL_THERE, language);
export const nothingFits = (language: string): string => builtIn(NOTHING_FITS, language);
export const anythingElse = (language: string): string => builtIn(ANYTHING_ELSE, language);
export const goOn = (language: string): string => builtIn(GO_ON, language);

export const whichOfTwo = (language: string, first: string, second: string): string =>
  builtIn(DOUBT, language, { first, second });

const ARTICLE_WORDS: Readonly<Record<'on' | 'again' | 'done', readonly string[]>> = {
  on: ['1', 'go on', 'continue', 'more', 'next', 'seguir', 'siga', 'continuer', 'suite', 'dalej'],
  again: ['2', 'again', 'repeat', 'repetir', 'otra vez', 'repeter', 'encore', 'powtorz'],
  done: [
    '3',
    'no',
    'that is all',
    'that s all',
    'thanks',
    'thank you',
    'no thanks',
    'no thank you',
    'nada mas',
    'eso es todo',
    'gracias',
    'no gracias',
    'c est tout',
    'merci',
    'non',
    'non merci',
    'nie',
    'to wszystko',
    'dziekuje',
  ],
};

const WISHES = ['on', 'again', 'done'] as const;
/** One of the ways to say a wish, or several after each other: “no, that is all, thank you”. */
const SAYS = WISHES.map((wish) => {
  const ways = ARTICLE_WORDS[wish].toSorted((a, b) => b.length - a.length).join('|');
  return [wish, new RegExp(`^(?:${ways})(?: (?:${ways}))*$`)] as const;
});
/** What somebody who is being read an article wants, by their plain words; null when they ask something else. */
export const articleWish = (plain: string): (typeof WISHES)[number] | null =>
  SAYS.find(([, says]) => says.test(plain))?.[0] ?? null;
