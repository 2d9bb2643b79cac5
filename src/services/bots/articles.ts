import { object } from 'yup';
import { LaneError } from '../../core/errors';
import { ARTICLES } from '../../data/articles';
import { readWorkspace } from '../../data/workspace';
import { articleFor } from '../contacts/botanswers';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { exactly, id, languageTag, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';
import { indexArticle, type BotPartsDeps, head, mayChange, save } from './keepparts';

const articleSchema = exactly(
  object({
    ...head,
    name: requiredText(120, 'The title'),
    language: languageTag,
    text: requiredText(4000, 'The text'),
    of: id('The article it says the same as').optional(),
  }),
);

const questionSchema = exactly(object({ question: requiredText(300, 'The question'), language: languageTag }));

export type ArticlesView = {
  readonly articles: readonly {
    readonly id: string;
    readonly name: string;
    readonly language: string;
    readonly text: string;
    readonly of?: string;
    readonly revision: number;
  }[];
  readonly languages: readonly string[];
  readonly mayChange: boolean;
};

export function viewArticles({ host }: BotPartsDeps, actor: Actor): ArticlesView {
  mustHold(actor, 'settings.view');
  return {
    articles: ARTICLES.all(host.db).map(({ place: _p, ...a }) => a),
    languages: readWorkspace(host.db)?.languages ?? ['en'],
    mayChange: mayChange(actor),
  };
}

export function saveArticle(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string; revision: number } {
  mustHoldEverywhere(actor, 'bots.change');
  const { id: thingId, revision, name, language, text: words, of } = parse(articleSchema, input);
  const first = of === undefined ? undefined : ARTICLES.one(deps.host.db, of);
  if (of !== undefined && (!first || first.of !== undefined || first.language === language || first.id === thingId))
    throw new LaneError('not-valid', 'It can only say the same as an article in another language.', [
      { where: 'of', what: 'is no such article' },
    ]);
  return save(
    deps,
    actor,
    'article',
    ARTICLES,
    { id: thingId, revision, name },
    { language, text: words, ...(of === undefined ? {} : { of }) },
    (tx, made) => indexArticle(tx, { id: made, name, language, text: words }),
  );
}

/** What a bot would answer to a question; null when nothing fits. */
export function askArticles(
  { host }: BotPartsDeps,
  actor: Actor,
  input: unknown,
): { found: { id: string; title: string; text: string } | null } {
  mustHold(actor, 'settings.view');
  const asked = parse(questionSchema, input);
  return { found: articleFor(host.db, asked.question, asked.language, []) };
}
