import { textOf } from './formats/bytes';
import { readTable, type Table, UnreadableTable } from './formats/csv';
import type { DayRange } from './formats/calendar/events';
import { type HoursCalendar, readHoursCalendar, type TimesMean } from './formats/calendar/hours';
import { type CalendarShifts, readShiftCalendar } from './formats/calendar/shifts';
import type { WeekPattern } from './hours/weekly';
import { type ImportPlan, type ImportWorld, planImport, type Target } from './people/importplan';
import { readShiftTable } from './people/shifttable';
import type { Phrasebook } from './phrases/book';
import { type BookRead, readBookCsv, readBookJson } from './phrases/bookfile';
import type { Encoder } from './phrases/encoder/encoder';
import type { Glosses } from './phrases/glosses';
import type { Judged } from './phrases/judging';
import { learn } from './phrases/learning';
import { judgeAside } from './phrases/matching';
import { keepLearnt, learntFrom } from './phrases/packed';

/** What understands words, made where it is first needed. */
export type Understanding = { readonly encoder: () => Encoder; readonly glosses: () => Glosses };

/**
 * What takes long enough to hold others up: functions of plain data alone, so that they can run in a thread of their
 * own. Each may say how far it is.
 */
export const HEAVY = {
  'people-table': (bytes: Uint8Array): Table => readTable(textOf(bytes)),
  'people-plan': (
    { rows, targets, world }: { rows: Table['rows']; targets: readonly Target[]; world: ImportWorld },
    progress: (done: number) => void,
  ): ImportPlan => planImport(rows, targets, world, progress),
  table: (text: string): Table => readTable(text),
  'hours-calendar': ({
    text,
    range,
    hours,
    timesMean,
  }: {
    text: string;
    range: DayRange;
    hours: WeekPattern;
    timesMean: TimesMean;
  }): HoursCalendar => readHoursCalendar(text, range, hours, timesMean),
  /** `zones` are those of people and teams, by address and name in small letters; `zone` is anybody else's. */
  shifts: ({
    text,
    today,
    zones,
    zone,
  }: {
    text: string;
    today: string;
    zones: ReadonlyMap<string, string>;
    zone: string;
  }): CalendarShifts => {
    if (/^\s*BEGIN:VCALENDAR/i.test(text)) return readShiftCalendar(text, today, (who) => zones.get(who) ?? zone);
    const { shifts, faults } = readShiftTable(readTable(text));
    return { shifts, faults: faults.map((f) => `Row ${f.row}: ${f.what}`) };
  },
  /** The phrasebook's learnt form, as it is kept; what was learnt before spares most of the work. */
  phrasebook: (
    { book, last }: { book: Phrasebook; last: string | null },
    progress: (done: number) => void,
    { encoder, glosses }: Understanding,
  ): string =>
    keepLearnt(
      learn(book, { encoder: encoder(), glosses: glosses(), last: last === null ? null : learntFrom(last), progress }),
    ),
  /** How the phrases kept aside fare with what was learnt. */
  aside: (
    learnt: string,
    _progress: (done: number) => void,
    { encoder, glosses }: Understanding,
  ): readonly Judged[] => {
    const read = learntFrom(learnt);
    return read ? judgeAside(read, { encoder, glosses: glosses() }) : [];
  },
  'phrasebook-file': ({ kind, text, book }: { kind: 'json' | 'csv'; text: string; book: Phrasebook }): BookRead =>
    kind === 'json' ? readBookJson(text) : readBookCsv(text, book),
} as const;

export type HeavyTask = keyof typeof HEAVY;
export type HeavyGiven<K extends HeavyTask> = Parameters<(typeof HEAVY)[K]>[0];
export type HeavyResult<K extends HeavyTask> = ReturnType<(typeof HEAVY)[K]>;

/** Something given that cannot be taken, in a sentence for whoever gave it; `row` where it stands in a table. */
export class Refused extends Error {
  readonly row: number | null;
  constructor(sentence: string, row: number | null) {
    super(sentence);
    this.row = row;
  }
}

/** What came of a task, as plain data. */
export type HeavyOutcome<K extends HeavyTask> =
  { readonly result: HeavyResult<K> } | { readonly refused: string; readonly row: number | null };

/** Runs a task in this thread. What cannot be taken is an outcome; anything else that goes wrong is thrown. */
export function runHeavy<K extends HeavyTask>(
  task: K,
  given: HeavyGiven<K>,
  progress: (done: number) => void,
  understanding: Understanding,
): HeavyOutcome<K> {
  try {
    const work = HEAVY[task] as (
      given: HeavyGiven<K>,
      progress: (done: number) => void,
      understanding: Understanding,
    ) => HeavyResult<K>;
    return { result: work(given, progress, understanding) };
  } catch (error) {
    if (error instanceof UnreadableTable) return { refused: error.message, row: error.row };
    if (error instanceof RangeError) return { refused: error.message, row: null };
    throw error;
  }
}
export function resultOf<K extends HeavyTask>(outcome: HeavyOutcome<K>): HeavyResult<K> {
  if ('refused' in outcome) throw new Refused(outcome.refused, outcome.row);
  return outcome.result;
}

/**
 * Runs a task where it holds nobody up. Rejects with Refused for what cannot be taken, and with a sentence when it was
 * stopped, took too long or ran out of memory.
 */
export type Heavy = <K extends HeavyTask>(
  task: K,
  given: HeavyGiven<K>,
  more?: { readonly signal?: AbortSignal; readonly progress?: (done: number) => void },
) => Promise<HeavyResult<K>>;

/** In this thread: for tests and small tools. The server gives a pool instead. */
export const heavyHere =
  (understanding: Understanding): Heavy =>
  async (task, given, { signal, progress } = {}) =>
    resultOf(
      runHeavy(
        task,
        given,
        (done) => {
          signal?.throwIfAborted();
          progress?.(done);
        },
        understanding,
      ),
    );
