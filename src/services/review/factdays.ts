import {
  columnsOf,
  type FactDay,
  type ColumnName,
  type DaySpan,
  type KeptColumn,
  type PartOfDay,
  partOf,
} from '../../core/measures/columns';
import { type Part, PARTS, ROLLED_BY, type RolledBy, type RollUp } from '../../core/measures/factparts';
import { factDay, rollUp } from '../../core/measures/rollups';
import { openAt } from '../../core/hours/weekly';
import type { Db } from '../../data/database';
import { type OpenOf, readDayFacts } from '../../data/dayfacts';
import { readDoors } from '../../data/doors';
import { lastSeq } from '../../data/events';
import { firstContactAt } from '../../data/facts';
import { keptColumn, type KeptDay, keptDays, keptRollUp, SETTLED_MS, stillHolds } from '../../data/factdays';
import { lastFloorInstant } from '../../data/floortime';
import { readAllHours } from '../../data/hours';
import type { Host } from '../ground/host';
import { DayCache } from './daycache';

type Columns = { readonly [P in Part]: readonly KeptColumn[] };
/** A day made from the tables: its columns, part by part, how it is counted by each key, and what it was made at. */
export type MadeDay = {
  readonly day: KeptDay;
  readonly parts: Columns;
  readonly rollUps: readonly (readonly [RolledBy, RollUp])[];
};

/** Makes a day from the tables. Takes about 0.1 ms a contact: for a thread of its own. */
export function makeDay({ db }: Pick<Host, 'db'>, span: DaySpan): MadeDay {
  const made = columnsNow(db, span);
  const whole = asFactDay(span, made);
  return { ...made, rollUps: ROLLED_BY.map((key) => [key, rollUp(whole, key)]) };
}
function columnsNow(db: Db, { from, to }: DaySpan): Pick<MadeDay, 'day' | 'parts'> {
  const seq = lastSeq(db);
  const settled = (lastFloorInstant(db) ?? 0) >= to + SETTLED_MS;
  const { rows, openContacts } = readDayFacts(db, from, to, openOfDoors(db), settled);
  return {
    day: { fromAt: from, toAt: to, seq, openContacts, settled },
    parts: {
      contacts: columnsOf('contacts', rows.contacts, from),
      visits: columnsOf('visits', rows.visits, from),
      offers: columnsOf('offers', rows.offers, from),
      legs: columnsOf('legs', rows.legs, from),
      lines: columnsOf('lines', rows.lines, from),
      messages: columnsOf('messages', rows.messages, from),
    },
  };
}

/** Whether a door was open at an instant, by its hours as they are now: for contacts of which that was not kept. */
function openOfDoors(db: Db): OpenOf {
  let hoursOf: ReadonlyMap<string, ReturnType<typeof readAllHours>[number] | undefined> | null = null;
  return (doorId, at) => {
    if (hoursOf === null) {
      const hours = new Map(readAllHours(db).map((h) => [h.id, h]));
      hoursOf = new Map(readDoors(db).map((d) => [d.id, hours.get(d.hoursId)]));
    }
    const hours = hoursOf.get(doorId);
    return hours ? (openAt(hours, at).open ? 'open' : 'shut') : 'unknown';
  };
}

/** A year of two million contacts has some 150 MB of columns, of which one question reads a third. */
const MOST_BYTES = 160 * 1024 * 1024;
const caches = new WeakMap<Db, DayCache>();

/** Days as they are now, each read when it is asked for: column by column where it is kept, else made from the tables. */
export function factDays({ db }: Pick<Host, 'db'>, spans: readonly DaySpan[]): FactDay[] {
  const [first, last] = [spans[0], spans.at(-1)];
  if (!first || !last) return [];
  let cache = caches.get(db);
  if (!cache) caches.set(db, (cache = new DayCache(MOST_BYTES)));
  const kept = new Map(keptDays(db, first.from, last.to).map((day) => [day.fromAt, day]));
  const [began, seq] = [firstContactAt(db) ?? Infinity, lastSeq(db)];
  return spans.map((span) => (span.to <= began ? emptyDay(span) : dayOf(db, cache, span, kept.get(span.from), seq)));
}

/** A day before the log begins. */
const NOTHING = new Int32Array(0);
const emptyDay = (span: DaySpan): FactDay =>
  factDay(span, () => ({ ...span, rows: 0, numbers: () => NOTHING, coded: () => ({ codes: NOTHING, entries: [] }) }));

function dayOf(db: Db, cache: DayCache, span: DaySpan, kept: KeptDay | undefined, seq: number): FactDay {
  const holds = kept !== undefined && kept.toAt === span.to && stillHolds(db, kept);
  const day = cache.day(holds ? kept.seq : seq, span.to, span.from, holds);
  const make = () => {
    const { parts } = columnsNow(db, span);
    for (const part of PARTS) for (const column of parts[part]) cache.add(day, `${part} ${column.name}`, column);
  };
  const column = (part: Part, name: ColumnName): KeptColumn => {
    const at = `${part} ${name}`;
    let found = day.columns.get(at);
    if (found) return found;
    const read = holds ? keptColumn(db, span.from, part, name) : undefined;
    if (read) cache.add(day, at, (found = read));
    else {
      // It was never kept, or has been dropped in between.
      make();
      found = day.columns.get(at);
    }
    if (!found) throw new Error(`a day has no column ${at}`);
    return found;
  };
  const parts = new Map<Part, PartOfDay>();
  return factDay(
    span,
    (part): PartOfDay => {
      let found = parts.get(part);
      if (!found)
        parts.set(
          part,
          (found = {
            ...span,
            rows: column(part, 'no').data.length,
            numbers: (name) => column(part, name).data,
            coded: (name) => {
              const { data, entries } = column(part, name);
              return { codes: data, entries: entries ?? [] };
            },
          }),
        );
      return found;
    },
    day.made,
    (key, piece) => (holds ? keptRollUp(db, span.from, key, piece) : undefined),
  );
}

/** Columns of a made day as a day to be counted, without keeping them: for tests and small tools. */
export const asFactDay = (span: DaySpan, { parts }: Pick<MadeDay, 'parts'>): FactDay =>
  factDay(span, (part) => partOf(parts[part], span));
