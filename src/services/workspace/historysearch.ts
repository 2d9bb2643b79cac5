import { object, string } from 'yup';
import { endOfDay, startOfDay } from '../../core/hours/weekly';
import type { Db } from '../../data/database';
import { type HistoryEntry, lastEntry, searchHistory } from '../../data/history';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold } from '../ground/actor';
import { exactly } from '../ground/schemas';
import { parse } from '../ground/validate';
import { readerOf } from './historyreader';

const PAGE = 60;
/** Entries looked through by one reading, so that none stands open for long. */
const WINDOW = 5_000;

const askSchema = exactly(
  object({
    kind: string().optional(),
    thing: string().optional(),
    person: string().optional(),
    text: string().max(100, 'Search for at most 100 characters').optional(),
    from: string()
      .matches(/^\d{4}-\d{2}-\d{2}$|^$/, 'A day is written like 2026-11-23')
      .optional(),
    to: string()
      .matches(/^\d{4}-\d{2}-\d{2}$|^$/, 'A day is written like 2026-11-23')
      .optional(),
    before: string().matches(/^\d*$/).optional(),
  }),
);

/** A page's entries, newest first; `next` is where the one after it begins, null where there is none. */
export type Found = {
  readonly thing: string | null;
  readonly entries: readonly HistoryEntry[];
  readonly next: number | null;
};

/** Whether finding a page may take long: with years of changes, whatever is narrowed looks through many. */
export const findsSlowly = (actor: Actor, asked: Readonly<Record<string, string>>): boolean =>
  actor.teams !== 'all' || Object.entries(asked).some(([name, value]) => name !== 'before' && value !== '');

/** Finds a page of changes that the actor may read. Entries out of sight are passed over, so that a page is full. */
export function findEntries(db: Db, actor: Actor, input: unknown): Found {
  mustHold(actor, 'history.view');
  const asked = parse(askSchema, input);
  const { mayRead } = readerOf(db, actor);
  const zone = readWorkspace(db)?.zone ?? 'UTC';
  const filter = {
    ...(asked.kind ? { kind: asked.kind } : {}),
    ...(asked.thing ? { thingId: asked.thing } : {}),
    ...(asked.person ? { personId: asked.person } : {}),
    ...(asked.text ? { text: asked.text } : {}),
    ...(asked.from ? { from: startOfDay(asked.from, zone) } : {}),
    ...(asked.to ? { to: endOfDay(asked.to, zone) } : {}),
  };
  const entries: HistoryEntry[] = [];
  for (let before = asked.before ? Number(asked.before) : lastEntry(db) + 1; before > 1 && entries.length <= PAGE;) {
    const after = Math.max(0, before - WINDOW - 1);
    const found = searchHistory(db, { ...filter, after, before }, PAGE + 1);
    entries.push(...found.filter(mayRead));
    before = found.length > PAGE ? (found.at(-1)?.id ?? 0) : after + 1;
  }
  const more = entries.length > PAGE;
  if (more) entries.length = PAGE;
  return { thing: asked.thing || null, entries, next: more ? (entries.at(-1)?.id ?? null) : null };
}
