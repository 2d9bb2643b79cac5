-- What customers asked of the articles, and which of them answered.
CREATE TABLE article_questions (id INTEGER PRIMARY KEY, contact_id TEXT NOT NULL REFERENCES contacts(id), line_id TEXT NOT NULL, language TEXT NOT NULL, text TEXT NOT NULL, article_id TEXT, floor_at INTEGER NOT NULL) STRICT;
CREATE INDEX article_questions_at ON article_questions(floor_at);
CREATE INDEX article_questions_of ON article_questions(contact_id);
