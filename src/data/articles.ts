import { type Db, rows, run } from './database';
import { documents } from './documents';

/** A short answer kept in the workspace, in one language; `of` is the article that says the same in another. */
export type Article = {
  readonly language: string;
  readonly title: string;
  readonly text: string;
  readonly of?: string;
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
