import { bind } from '../ground/bind';
import { mendWords } from './mendwords';
import { undoableBotWords } from './rewordbot';
import { beginLanguage, type LanguageDeps, openLanguage, takeInLanguage, undoableLanguages } from './takein';

/** Words wherever customers meet them: mended where they are wrong, and whole in each language. */
export const createWords = (deps: LanguageDeps) =>
  bind(deps, { mend: mendWords, takeIn: takeInLanguage, begin: beginLanguage, open: openLanguage });

export const undoableWords = (worlds: LanguageDeps['worlds']) => ({
  ...undoableBotWords(worlds),
  ...undoableLanguages,
});
