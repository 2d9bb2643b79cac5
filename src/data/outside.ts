import { rows, run, type Db } from './database';

/** Something sent to the world outside: a mail, a text, or words spoken by telephone. Real ms. */
export type OutsideMessage = {
  readonly id: number;
  readonly realAt: number;
  readonly medium: 'mail' | 'text' | 'call';
  readonly address: string;
  readonly subject: string;
  readonly body: string;
};
export const keepOutside = (db: Db, m: Omit<OutsideMessage, 'id'>): void => {
  run(
    db,
    'INSERT INTO outside_messages (real_at, medium, address, subject, body) VALUES (?, ?, ?, ?, ?)',
    m.realAt,
    m.medium,
    m.address,
    m.subject,
    m.body,
  );
};
export const readOutside = (db: Db, most: number): OutsideMessage[] =>
  rows<OutsideMessage>(
    db,
    'SELECT id, real_at AS realAt, medium, address, subject, body FROM outside_messages ORDER BY id DESC LIMIT ?',
    most,
  );
