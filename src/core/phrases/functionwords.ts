/**
 * Words that hold a sentence together and say nothing of what it is about, by language. No phrase is understood by these
 * alone, and no article is found by them.
 */
const LISTS: Readonly<Record<string, string>> = {
  en: `a an the this that these those i me my mine you your yours he him his she her hers it its we us our ours they them their theirs who whom whose which what where when why how
    is am are was were be been being do does did have has had can could will would shall should may might must of to in on at for from by with about as into and or but nor so if than then
    not no yes there here very just too also only please ok okay well hello hi hey thanks thank bye some any all both each`,
  es: `el la los las lo un una unos unas este esta esto estos estas ese esa eso esos esas yo me mi mis mío tú te ti tu tus usted ustedes se su sus él ella ellos ellas nos nosotros nuestro nuestra nuestros nuestras
    quien quién que qué cual cuál donde dónde cuando cuándo como cómo cuanto cuánto es son soy eres somos ser era fue está están estoy estar ha he han hay haber puedo puede pueden poder de del a al en para por con sin sobre y e o u pero ni si
    no sí muy ya más menos también solo aquí allí le les favor hola gracias bueno bien adiós algo todo toda todos todas`,
  fr: `le la les l un une des du de d ce cet cette ces ça je j me m mon ma mes moi tu te t ton ta tes toi il elle on nous notre nos vous votre vos ils elles leur leurs se s son sa ses qui que qu quoi quel quelle où quand comment pourquoi combien
    est suis es sont sommes êtes être était a ai as ont avons avez avoir peux peut pouvez pouvoir à au aux en dans pour par avec sans sur et ou mais ni si donc ne n pas non oui très aussi plus moins ici là y bonjour salut merci bien tout toute tous toutes`,
  pl: `ja mnie mi mną mój moja moje ty ci cię twój twoja pan pani pana panu on ona ono jego jej my nas nam nasz nasza nasze wy was wam wasz wasza oni one ich im ten ta to te tego tej tę tym tych kto kogo co czego gdzie kiedy jak dlaczego ile czy który która które
    jest są jestem być był była było mogę może mogą można mam ma mają mieć i a w we z ze na do od o po za przez dla u lub albo ale że żeby nie tak bardzo też już tylko się proszę dzień dobry cześć dziękuję tu tam wszystko`,
};
const fold = (word: string): string => word.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
const words: ReadonlyMap<string, ReadonlySet<string>> = new Map(
  Object.entries(LISTS).map(([language, list]) => [language, new Set(list.split(/\s+/).map(fold))]),
);

/** Whether a word (folded) only holds sentences together in a language; false for languages we have no list of. */
export const isFunctionWord = (word: string, language: string): boolean =>
  words.get(language.split('-')[0] ?? language)?.has(word) ?? false;
/** Whether it does so in any language that we have a list of. */
export const isFunctionWordAnywhere = (word: string): boolean => [...words.values()].some((list) => list.has(word));

/** How each language says that it is not one thing but another. */
const CONTRASTS: Readonly<Record<string, RegExp>> = {
  en: /(?:\b(?:not|never)|n['’]t)\b.*\b(?:but|only|just|instead|rather)\b|\b(?:rather than|instead of)\b/iu,
  es: /\bno\b.*\b(sino|pero|solo|sólo)\b|\ben (vez|lugar) de\b/iu,
  fr: /\b(pas|non)\b.*\b(mais|seulement|plutôt)\b|\bau lieu de\b/iu,
  pl: /\bnie\b.*\b(ale|tylko|lecz)\b|\bzamiast\b/iu,
};
/** Whether somebody says that they do not want one thing but another: which of the two is meant is not to be guessed. */
export const isContrast = (text: string, language: string): boolean =>
  CONTRASTS[language.split('-')[0] ?? language]?.test(text) ?? false;

/** Where one wish ends and another may begin. */
const JOINTS: Readonly<Record<string, RegExp>> = {
  en: /(?:[.?!;]|,?\s+(?:and|also|plus)\b)+\s*(?:(?:and|also|plus)\b\s*)*/iu,
  es: /(?:[.?!;¿¡]|,?\s+(?:y|e|además|también)(?=\s))+\s*(?:(?:y|e|además|también)(?=\s)\s*)*/iu,
  fr: /(?:[.?!;]|,?\s+(?:et|puis|aussi)(?=\s))+\s*(?:(?:et|puis|aussi)(?=\s)\s*)*/iu,
  pl: /(?:[.?!;]|,?\s+(?:i|oraz|także)(?=\s))+\s*(?:(?:i|oraz|także)(?=\s)\s*)*/iu,
};
/** The parts of what somebody says that may each be a wish of its own. */
export const clausesOf = (text: string, language: string): string[] =>
  text
    .split(JOINTS[language.split('-')[0] ?? language] ?? /[.?!;]+/u)
    .map((part) => part.trim())
    .filter(Boolean);
