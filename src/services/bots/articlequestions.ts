import { object, string } from 'yup';
import { type Asked, type Group, groupsOf } from '../../core/articles/questions';
import { ARTICLES } from '../../data/articles';
import { type Followed, readAsked } from '../../data/articlequestions';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { parse } from '../ground/validate';

const DAY = 86_400_000;
/** Days that are looked back over. */
export const BACK = [7, 28, 90] as const;
/** Of more than these the newest are looked at, and the page says so. */
const MOST_QUESTIONS = 5000;
const MOST_GROUPS = 100;
const MOST_TEXTS = 8;

const askedSchema = object({ days: string().oneOf(BACK.map(String), 'It looks back 7, 28 or 90 days') });

/** An article by what was asked of it; `title` is its name now, null where it is not there any more. */
export type ArticleAsked = {
  readonly id: string;
  readonly title: string | null;
  readonly language: string;
  readonly asked: number;
  /** How often each of these came after it. */
  readonly followed: Readonly<Record<Followed, number>>;
  readonly questions: readonly Asked[];
};
export type ArticleQuestionsView = {
  readonly days: number;
  readonly asked: number;
  /** Only the newest were looked at. */
  readonly cut: boolean;
  readonly articles: readonly ArticleAsked[];
  /** What no article fitted, put together by what it asks for. */
  readonly nothing: readonly Group[];
  readonly nothingTotal: number;
};

/** The same words in one language, with how often they came, the most frequent first. */
function counted(questions: readonly { readonly text: string; readonly language: string }[]): Asked[] {
  const times = new Map<string, Asked>();
  for (const { text, language } of questions) {
    const key = `${language} ${text.toLowerCase()}`;
    const there = times.get(key);
    times.set(key, { text: there?.text ?? text, language, times: (there?.times ?? 0) + 1 });
  }
  return [...times.values()].sort((a, b) => b.times - a.times);
}

/** What customers asked of the articles lately, which answered, what followed, and what none fitted. */
export function viewArticleQuestions({ db, times }: Host, actor: Actor, input: unknown): ArticleQuestionsView {
  mustHold(actor, 'settings.view');
  const days = Number(parse(askedSchema, input).days ?? 28);
  const all = readAsked(db, times.floor() - days * DAY, MOST_QUESTIONS + 1);
  const asked = all.slice(0, MOST_QUESTIONS);
  const titles = new Map(ARTICLES.all(db).map((a) => [a.id, a.name]));
  const byArticle = new Map<string | null, (typeof asked)[number][]>();
  for (const q of asked) {
    const there = byArticle.get(q.articleId);
    if (there) there.push(q);
    else byArticle.set(q.articleId, [q]);
  }
  const nothing = groupsOf(counted(byArticle.get(null) ?? []));
  return {
    days,
    asked: asked.length,
    cut: all.length > MOST_QUESTIONS,
    articles: [...byArticle]
      .flatMap(([id, questions]) => {
        if (id === null) return [];
        const followed = { 'asked-again': 0, person: 0, ended: 0, open: 0 };
        for (const q of questions) followed[q.followed]++;
        return [
          {
            id,
            title: titles.get(id) ?? null,
            language: questions[0]?.language ?? '',
            asked: questions.length,
            followed,
            questions: counted(questions).slice(0, MOST_TEXTS),
          },
        ];
      })
      .sort((a, b) => b.asked - a.asked),
    nothing: nothing.slice(0, MOST_GROUPS),
    nothingTotal: (byArticle.get(null) ?? []).length,
  };
}
