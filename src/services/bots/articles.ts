import { array, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { localDate } from '../../core/hours/weekly';
import { ARTICLES, indexOf } from '../../data/articles';
import { contactsAsking } from '../../data/articlequestions';
import { noteTaken } from '../../data/takenfrom';
import { readWorkspace } from '../../data/workspace';
import { articleFor } from '../contacts/botanswers';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import type { Host } from '../ground/host';
import { day, exactly, id, languageTag, requiredText, text } from '../ground/schemas';
import { parse } from '../ground/validate';
import { indexArticle, type BotPartsDeps, head, mayChange, save } from './keepparts';

const asksSchema = array(requiredText(300, 'A question')).max(40, 'At most 40 questions of one article');
const articleSchema = exactly(
  object({
    ...head,
    name: requiredText(120, 'The title'),
    language: languageTag,
    text: requiredText(4000, 'The text'),
    of: id('The article it says the same as').optional(),
    lookAgain: day.optional(),
    asks: asksSchema.optional(),
  }),
);
const effectSchema = exactly(
  object({
    id: string().nullable().defined(),
    name: text(120, 'The title').defined(),
    language: languageTag,
    text: text(4000, 'The text').defined(),
    asks: asksSchema.defined(),
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
    readonly lookAgain?: string;
    readonly asks?: readonly string[];
    readonly revision: number;
    /** The day to look at it again has come. */
    readonly due: boolean;
  }[];
  readonly languages: readonly string[];
  readonly mayChange: boolean;
};

/** Whether the day has come to look at an article again; `today` is a local day. */
export const isDue = ({ lookAgain }: { readonly lookAgain?: string }, today: string): boolean =>
  lookAgain !== undefined && lookAgain <= today;

export function viewArticles({ host }: BotPartsDeps, actor: Actor): ArticlesView {
  mustHold(actor, 'settings.view');
  const workspace = readWorkspace(host.db);
  const today = localDate(host.times.floor(), workspace?.zone ?? 'UTC');
  return {
    articles: ARTICLES.all(host.db).map(({ place: _p, ...a }) => ({ ...a, due: isDue(a, today) })),
    languages: workspace?.languages ?? ['en'],
    mayChange: mayChange(actor),
  };
}

export function saveArticle(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string; revision: number } {
  mustHoldEverywhere(actor, 'bots.change');
  const { id: thingId, revision, name, language, text: words, of, lookAgain, asks } = parse(articleSchema, input);
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
    {
      language,
      text: words,
      ...(of === undefined ? {} : { of }),
      ...(lookAgain === undefined ? {} : { lookAgain }),
      ...(asks === undefined || asks.length === 0 ? {} : { asks }),
    },
    (tx, made) => {
      indexArticle(tx, { id: made, name, language, text: words });
      // A customer's own words go from it with them.
      for (const text of asks ?? []) noteTaken(tx.db, { kind: 'phrase', language, text }, contactsAsking(tx.db, text));
    },
  );
}

/** A kept question that another article answers than should; titles, null where nothing fits. */
export type AskedElsewhere = {
  readonly question: string;
  readonly should: string;
  readonly before: string | null;
  readonly after: string | null;
};
/** How the kept questions of a language fare: of all, those answered by their own article now and then. */
export type ArticleEffect = {
  readonly of: number;
  readonly before: number;
  readonly after: number;
  /** Those that go elsewhere than before, and those that still miss their own. */
  readonly elsewhere: readonly AskedElsewhere[];
};

/** What a changed article does to the kept questions of its language. For a thread of its own. */
export function articleEffect({ db }: Host, actor: Actor, input: unknown): ArticleEffect {
  mustHold(actor, 'settings.view');
  const draft = parse(effectSchema, input);
  const { language } = draft;
  const there = ARTICLES.all(db).map((a) => ({ ...a, title: a.name }));
  const changed = { id: draft.id ?? 'new', title: draft.name, language, text: draft.text, asks: draft.asks };
  const would = [...there.filter((a) => a.id !== changed.id), changed];
  const titles = new Map([...there, changed].map((a) => [a.id, a.title]));
  const [now, then] = [indexOf(there), indexOf(would)];
  try {
    const asked = would
      .filter((a) => a.language === language)
      .flatMap((a) => (a.asks ?? []).map((question) => ({ question, own: a.id })))
      .map(({ question, own }) => {
        const before = articleFor(now, question, language, [])?.id ?? null;
        const after = articleFor(then, question, language, [])?.id ?? null;
        return { question, own, before, after };
      });
    const titleOf = (id: string | null): string | null => (id === null ? null : (titles.get(id) ?? id));
    return {
      of: asked.length,
      before: asked.filter((q) => q.before === q.own).length,
      after: asked.filter((q) => q.after === q.own).length,
      elsewhere: asked
        .filter((q) => q.after !== q.before || q.after !== q.own)
        .map((q) => ({
          question: q.question,
          should: titleOf(q.own) ?? '',
          before: titleOf(q.before),
          after: titleOf(q.after),
        })),
    };
  } finally {
    now.close();
    then.close();
  }
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
