import { optionTexts } from '../messages/options';
import { withoutTags, wordingSpeech } from '../messages/ssml';
import { sameWords } from '../sound/recorded';
import { sentencesOf } from './linesentences';
import { menuOptions } from './menu';
import { allSteps, type BotScript, offered, wordingOn } from './model';

/** Words that callers hear; with a value in them they are otherwise each time, so that nobody can record them. */
export type CallWords = { readonly lineId: string; readonly text: string; readonly valued: boolean };

/**
 * What a script says on calls in a language, in the words that callers hear: its sentences, and what they are told that
 * they can answer.
 */
export function saidOnCalls(script: BotScript, language: string): CallWords[] {
  return allSteps(script).flatMap((step) => {
    if (step.verb === 'text-them') return [];
    const said = sentencesOf(step).flatMap(({ key, wording }) => {
      if (key === 'alt' || key === 'link' || key.startsWith('choice:')) return [];
      const text = sameWords(withoutTags(wordingSpeech(wordingOn(wording, 'voice')[language] ?? '')));
      return text === '' ? [] : [text];
    });
    const told =
      step.verb === 'listen' && step.hears.kind === 'choices'
        ? optionTexts('voice', language, menuOptions(offered(step.hears.choices), language, script.languages), {
            by: step.hears.offeredBy ?? 'keys',
            question: said[0] ?? '',
          })
        : [];
    return [...said, ...told].map((text) => ({ lineId: step.id, text, valued: text.includes('{') }));
  });
}
