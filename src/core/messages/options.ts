import { type Channel, isText } from '../channels';
import { type Localised, localised } from '../localised';
import { escapeXml, type Speech, together } from './ssml';

/** One thing that can be answered: its key or number, and its words; in a language of its own, where it is chosen by it. */
export type Option = { readonly key: string; readonly label: string; readonly language?: string };

/** How a call is told what it can answer: by keys, by words that can be said, or by both. */
export const OFFERED_BY = ['keys', 'words', 'both'] as const;
export type OfferedBy = (typeof OFFERED_BY)[number];

const PRESS: Localised = {
  en: 'For {label}, press {key}.',
  es: 'Para {label}, pulse {key}.',
  fr: 'Pour {label}, tapez {key}.',
  pl: '{label}: naciśnij {key}.',
};
const PRESS_OR_SAY: Localised = {
  en: 'For {label}, say so or press {key}.',
  es: 'Para {label}, dígalo o pulse {key}.',
  fr: 'Pour {label}, dites-le ou tapez {key}.',
  pl: '{label}: powiedz to lub naciśnij {key}.',
};
const SAY: Localised = {
  en: 'You can say: {labels}.',
  es: 'Puede decir: {labels}.',
  fr: 'Vous pouvez dire : {labels}.',
  pl: 'Możesz powiedzieć: {labels}.',
};

/** A key that wording itself tells somebody to press. */
const TOLD =
  /(?:press|dial|pulse|marque|oprima|presione|tapez|appuyez sur(?: la touche)?|composez|naciśnij|wciśnij)\s+([0-9*#])(?![0-9])/giu;
const toldKeys = (question: string): ReadonlySet<string> =>
  new Set([...question.matchAll(TOLD)].map((match) => match[1] ?? ''));

/** Channels on which what can be answered is read as numbered text; in chat it is there to be pressed. */
export const isNumbered = (channel: Channel): boolean => isText(channel) && channel !== 'chat';

/** Channels on which what can be answered is there to be pressed, beside what is read. */
export const isTapped = (channel: Channel): boolean => channel === 'chat' || channel === 'messaging';

type Piece = { readonly text: string; readonly language: string | null };
/** How they are told, and the question after which they are. */
type Asked = { readonly by?: OfferedBy; readonly question?: string };

/** What can be answered, in pieces: spoken, each in its language, or numbered, on a line of its own. */
function pieces(channel: Channel, language: string, options: readonly Option[], { by, question }: Asked): Piece[] {
  if (channel === 'chat') return [];
  const plain = (text: string): Piece => ({ text, language: null });
  if (isNumbered(channel)) return options.map(({ key, label }) => plain(`\n${`${key} ${label}`.trim()}`));
  const told = toldKeys(question ?? '');
  const offered = options.filter(({ key }) => !told.has(key));
  const foreign = (option: Option) =>
    option.language !== undefined && option.language !== language ? option.language : null;
  if (by === 'words' || (by === 'both' && offered.every((o) => o.key === ''))) {
    const spoken = (of: readonly Option[], within: string | null): Piece[] =>
      of.length === 0
        ? []
        : [
            {
              text: ` ${localised(SAY, within ?? language, ['en']).replace('{labels}', () => of.map((o) => o.label).join(', '))}`,
              language: within,
            },
          ];
    return [
      ...spoken(
        offered.filter((o) => foreign(o) === null),
        null,
      ),
      ...offered.flatMap((o) => (foreign(o) === null ? [] : spoken([o], foreign(o)))),
    ];
  }
  return offered
    .filter(({ key }) => key)
    .map((option) => {
      const of = foreign(option);
      return {
        text: ` ${localised(by === 'both' ? PRESS_OR_SAY : PRESS, of ?? language, ['en'])
          .replace('{label}', () => option.label)
          .replace('{key}', () => option.key)}`,
        language: of,
      };
    });
}

/** What can be answered, as one text that a channel reads after a question; empty where it is shown to be pressed. */
export const optionText = (channel: Channel, language: string, options: readonly Option[]): string =>
  pieces(channel, language, options, {})
    .map((p) => p.text)
    .join('');

/** The same, each by itself. */
export const optionTexts = (channel: Channel, language: string, options: readonly Option[], asked: Asked): string[] =>
  pieces(channel, language, options, asked).map((p) => p.text.trim());

/**
 * A question with what can be answered, as a channel shows or says it. What is chosen by its language is said in it; a
 * key that the question tells them to press is not told again.
 */
export function withOptions(
  channel: Channel,
  language: string,
  question: Speech,
  options: readonly Option[],
  by: OfferedBy,
): Speech {
  const told = pieces(channel, language, options, { by, question: question.text });
  if (told.every((p) => p.language === null)) return together('', question, told.map((p) => p.text).join(''));
  const asked = question.tagged ? question.text : escapeXml(question.text);
  const answers = told.map(({ text, language: of }) =>
    of === null ? escapeXml(text) : ` <lang xml:lang="${of}">${escapeXml(text.trim())}</lang>`,
  );
  return { text: `${asked}${answers.join('')}`, tagged: true };
}
