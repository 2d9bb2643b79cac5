import { type Db, rows, run } from './database';

/** A question that a customer put to the articles; `articleId` is the one that answered, null where none fitted. */
export type ArticleQuestion = {
  readonly id: number;
  readonly contactId: string;
  readonly lineId: string;
  readonly language: string;
  readonly text: string;
  readonly articleId: string | null;
  readonly floorAt: number;
};

/** How the contact went on after an answer. */
export const FOLLOWED = ['asked-again', 'person', 'ended', 'open'] as const;
export type Followed = (typeof FOLLOWED)[number];

export const keepAsked = (db: Db, q: Omit<ArticleQuestion, 'id'>): void => {
  run(
    db,
    'INSERT INTO article_questions (contact_id, line_id, language, text, article_id, floor_at) VALUES (?, ?, ?, ?, ?, ?)',
    q.contactId,
    q.lineId,
    q.language,
    q.text,
    q.articleId,
    q.floorAt,
  );
};

/**
 * Questions from an instant on (floor ms), the newest first, each with what followed: another question, a place in a
 * queue, the end of the contact, or nothing yet.
 */
export const readAsked = (db: Db, from: number, most: number): (ArticleQuestion & { readonly followed: Followed })[] =>
  rows(
    db,
    `SELECT q.id, q.contact_id AS contactId, q.line_id AS lineId, q.language, q.text, q.article_id AS articleId,
            q.floor_at AS floorAt,
            CASE
              WHEN EXISTS (SELECT 1 FROM article_questions n WHERE n.contact_id = q.contact_id AND n.id > q.id) THEN 'asked-again'
              WHEN EXISTS (SELECT 1 FROM visits v WHERE v.contact_id = q.contact_id AND v.placed_at >= q.floor_at) THEN 'person'
              WHEN c.ended_at IS NOT NULL THEN 'ended'
              ELSE 'open'
            END AS followed
       FROM article_questions q JOIN contacts c ON c.id = q.contact_id
      WHERE q.floor_at >= ? ORDER BY q.id DESC LIMIT ?`,
    from,
    most,
  );

/** The contacts in which just this was asked. */
export const contactsAsking = (db: Db, text: string): string[] =>
  rows<{ id: string }>(db, 'SELECT DISTINCT contact_id AS id FROM article_questions WHERE text = ?', text).map(
    (r) => r.id,
  );
