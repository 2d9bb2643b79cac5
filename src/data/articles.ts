import Database from 'better-sqlite3';
import { type Db, rows, run } from './database';
import { documents } from './documents';

/**
 * A short answer kept in the workspace, in one language; `of` is the article that says the same in another, `lookAgain`
 * the day (YYYY-MM-DD) from which somebody should see whether it is still so; `asks` are
 * questions that it should answer, kept to judge changes by.
 */
export type Article = {
  readonly language: string;
  readonly title: string;
  readonly text: string;
  readonly of?: string;
  readonly lookAgain?: string;
  readonly asks?: readonly string[];
};

export const ARTICLES = documents<Omit<Article, 'title'>>('article');

export const wordArticle = (db: Db, id: string, article: Article | null): void => {
  run(db, 'DELETE FROM article_words WHERE id = ?', id);
  if (article)
    run(
      db,
      'INSERT INTO article_words (id, language, title, text) VALUES (?, ?, ?, ?)',
      id,
      article.language,
      article.title,
      article.text,
    );
};

type Worded = { readonly id: string } & Pick<Article, 'language' | 'title' | 'text'>;
/** An index of some articles alone, in memory: what would be found if there were just these. Close it when it is done with. */
export function indexOf(articles: readonly Worded[]): Db {
  const db = new Database(':memory:');
  db.exec(
    `CREATE VIRTUAL TABLE article_words USING fts5(id UNINDEXED, language UNINDEXED, title, text,
       tokenize = 'unicode61 remove_diacritics 2')`,
  );
  for (const article of articles) wordArticle(db, article.id, article);
  return db;
}

/**
 * Articles of a language that have one of some words, best first by BM25 with the title counted four times; smaller
 * scores fit better.
 */
export const findArticles = (
  db: Db,
  words: readonly string[],
  language: string,
  most: number,
): { readonly id: string; readonly title: string; readonly text: string; readonly score: number }[] =>
  words.length === 0
    ? []
    : rows(
        db,
        `SELECT id, title, text, bm25(article_words, 0, 0, 4, 1) AS score FROM article_words
          WHERE article_words MATCH ? AND language = ? ORDER BY score LIMIT ?`,
        words.map((w) => `"${w}"*`).join(' OR '),
        language,
        most,
      );
