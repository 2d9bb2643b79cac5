import type { Chance } from '../src/core/chance';
import type { Message } from '../src/data/messages';
import { hireNumber, hireOf, HIRES } from './hiredesk';
import { OUTCOMES } from './company';

/** What simulated customers and people say. `Wish` is the reason somebody comes with. */
export type Wish = 'hire' | 'repair' | 'bill' | 'delivery' | 'school';

export const wish = (chance: Chance): Wish => {
  const x = chance.next();
  return x < 0.36 ? 'hire' : x < 0.58 ? 'repair' : x < 0.78 ? 'bill' : x < 0.93 ? 'delivery' : 'school';
};

const KEY: Readonly<Record<Wish, string>> = { hire: '1', repair: '2', bill: '3', delivery: '4', school: '5' };
const NAMES = [
  'Nerea Solas',
  'M. Ferro',
  'Jory Pennant',
  'Ida Lindqvarn',
  'Tobin Marlowe-Quist',
  'Rhea Castelmore',
  'Anselm Duarte-Finn',
  'Wren Holloway-Tarn',
  'Petros Vance-Alder',
  'Saoirse Dunmore-Vale',
];
export const customerName = (token: number): string => NAMES[token % NAMES.length] ?? 'Visitor';

const ODD = [
  'hmm',
  'hello?',
  'the usual',
  'it is about last week',
  'can my daughter try two of them',
  'is there parking at the shop',
  'do you do gift cards',
  'same as last time',
  'what?',
  'my neighbour told me about you',
  'do you have lessons as well',
  'one moment, my bus is here',
];
const ODD_ES = ['eh', 'lo de siempre', 'es por lo de la semana pasada', '¿dan clases también?', 'un momento'];
const QUESTIONS = [
  'when are you open',
  'how do I get my deposit back',
  'no, that is all',
  'what does the cover pay for',
];
/** What goes wrong with each instrument that the hire desk knows. */
const PROBLEMS: Readonly<Record<string, string>> = {
  violin: 'the bow has come apart',
  cello: 'the bridge of the cello snapped',
  viola: 'a peg on the viola keeps slipping',
  clarinet: 'a key on the clarinet is stuck',
  flute: 'the flute case does not close',
  trumpet: 'the valve on the trumpet leaks',
  trombone: 'the slide of the trombone is dented',
  saxophone: 'a pad has come off the saxophone',
  'snare drum': 'the drum head is torn',
  'digital piano': 'half the keys of the piano are dead',
  guitar: 'a string of the guitar buzzes',
  oboe: 'the oboe squeaks on the low notes',
};
const PROBLEM_IN: Readonly<Record<string, string>> = {
  es: 'se ha roto y ya no suena bien',
  fr: 'il est cassé et ne sonne plus bien',
  pl: 'jest zepsuty i źle brzmi',
};
const INSTRUMENTS = [
  'violin',
  'cello',
  'clarinet',
  'trumpet',
  'flute',
  'digital piano',
  'snare drum',
  'saxophone',
  'guitar',
  'oboe',
];

/**
 * What a customer answers to a bot's question. `token` is the customer's own, so that they keep to one hire and one
 * story.
 */
export function answer(
  chance: Chance,
  wants: Wish,
  language: string,
  asked: Pick<Message, 'text' | 'options'>,
  token: number,
): string {
  const keys = asked.options.map((o) => o.key).filter(Boolean);
  if (keys.length > 0) {
    // Some say nothing the bot knows; most press what they came for.
    if (chance.next() < 0.04) return chance.pick(language === 'es' ? ODD_ES : ODD);
    if (/language|idioma|langue/i.test(asked.text)) return language === 'es' ? '2' : language === 'fr' ? '3' : '1';
    return keys.includes(KEY[wants]) && keys.length > 3 ? KEY[wants] : chance.pick(keys);
  }
  if (/hire number|número de alquiler|numéro de location/i.test(asked.text))
    return chance.next() < 0.85 ? hireNumber(token % HIRES) : String(200000 + chance.below(99999));
  if (/how many|cuántos/i.test(asked.text)) return String(4 + chance.below(60));
  if (/which day|qué día/i.test(asked.text))
    return chance.pick(
      language === 'es' ? ['mañana', 'el viernes', 'el martes que viene'] : ['tomorrow', 'on friday', 'next tuesday'],
    );
  if (/yes or no|sí o no/i.test(asked.text)) return chance.next() < 0.6 ? (language === 'es' ? 'sí' : 'yes') : 'no';
  if (/own words|sus palabras|anything else|otra cosa/i.test(asked.text)) return chance.pick(QUESTIONS);
  return /instrument would|instrumento le|instrument souhaitez/i.test(asked.text)
    ? chance.pick(INSTRUMENTS)
    : (PROBLEM_IN[language] ?? PROBLEMS[hireOf(hireNumber(token % HIRES), 0)?.instrument ?? ''] ?? 'it is broken');
}

const GREETINGS: Readonly<Record<string, string[]>> = {
  en: [
    'Hello, this is {name}. I have read what you told our assistant.',
    'Good day, {name} here. Let me look at this with you.',
  ],
  es: ['Hola, soy {name}. Ya he leído lo que ha contado.'],
  fr: ['Bonjour, {name} à l’appareil. Je regarde cela avec vous.'],
  pl: ['Dzień dobry, {name}. Już czytam, o co chodzi.'],
};
const HELP: Readonly<Record<string, string[]>> = {
  en: [
    'I can arrange that for tomorrow morning.',
    'That is covered, so nothing to pay.',
    'I have put a note on your hire.',
    'You will have a message from us within the hour.',
  ],
  es: ['Puedo dejarlo listo para mañana.', 'Está incluido, no tiene que pagar nada.'],
  fr: ['Je peux l’organiser pour demain matin.', 'C’est couvert, rien à payer.'],
  pl: ['Mogę to załatwić na jutro rano.', 'Jest to objęte umową, nic Państwo nie płacą.'],
};
const CHATTER: Readonly<Record<string, string[]>> = {
  en: [
    'That would be great, thank you.',
    'Could it be before noon?',
    'The concert is on Saturday, so it is a bit urgent.',
    'Yes, the same address as before.',
  ],
  es: ['Perfecto, muchas gracias.', '¿Podría ser por la mañana?'],
  fr: ['Oh merci, avant midi c’est possible ?', 'Très bien, merci.'],
  pl: ['Świetnie, dziękuję.', 'Czy mogłoby to być przed południem?'],
};
const of = (chance: Chance, all: Readonly<Record<string, string[]>>, language: string): string =>
  chance.pick(all[language] ?? all.en ?? ['']);

/** How somebody rates a contact that went well enough. */
export const rating = (chance: Chance): string => chance.pick(['5', '5', '4', '4', '3', '2']);
export const greeting = (chance: Chance, language: string, name: string): string =>
  of(chance, GREETINGS, language).replace('{name}', name);
export const help = (chance: Chance, language: string): string => of(chance, HELP, language);
export const chatter = (chance: Chance, language: string): string => of(chance, CHATTER, language);
export const outcome = (chance: Chance): string => chance.pick(OUTCOMES).code;
