import { localised } from '../localised';
import type { Option } from '../messages/options';
import type { Choice } from './model';

/** Choices as they are offered in a language; whoever chooses a language is told of it in that language. */
export const menuOptions = (
  choices: readonly Pick<Choice, 'key' | 'label' | 'setsLanguage'>[],
  language: string,
  languages: readonly string[],
): Option[] =>
  choices.map((c) => {
    const of = c.setsLanguage !== undefined && c.label[c.setsLanguage] ? c.setsLanguage : language;
    const label = localised(c.label, of, languages);
    return { key: c.key, label, ...(of === language ? {} : { language: of }) };
  });
