import { array, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import type { Heavy } from '../../core/heavy';
import { TIMES_MEAN, writeHoursCalendar } from '../../core/formats/calendar/hours';
import { type DatedDay, type Hours, localDate, openAt, type Opening } from '../../core/hours/weekly';
import { holds } from '../../core/people/rights';
import type { Db } from '../../data/database';
import { readDoors } from '../../data/doors';
import { GROUPS, PARTNERS } from '../../data/groups';
import { dropHours, type HoursRecord, readAllHours, writeHours } from '../../data/hours';
import { readQueues } from '../../data/queuesettings';
import { readWorkspace } from '../../data/workspace';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Undoable, recordChange, removeUndoable, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { refusal } from '../ground/refusal';
import { day, differ, exactly, id, requiredText, text, timeOfDay, whole } from '../ground/schemas';
import { parse } from '../ground/validate';

const date = day.required('A day is missing');
export const zone = requiredText(60, 'The zone').test('zone', 'The zone must be an IANA name, as Area/City', (name) => {
  try {
    return name !== undefined && new Intl.DateTimeFormat('en', { timeZone: name }) !== null;
  } catch {
    return false;
  }
});
const MOST_DATED = 800;
const exceptionsSchema = array(
  exactly(
    object({
      date,
      note: text(80, 'The note').defined(),
      intervals: array(exactly(object({ from: timeOfDay, to: timeOfDay })))
        .max(10, 'At most 10 openings on a day')
        .required(),
    }),
  ),
)
  .max(MOST_DATED, `At most ${MOST_DATED} dated days`)
  .required('The dated days are missing')
  .test('once', 'A day stands twice among the dated days', (days) => differ(days, 'date'));
const hoursSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(60, 'The name'),
    zone,
    weekly: array(exactly(object({ day: whole(1, 7, 'The day'), from: timeOfDay, to: timeOfDay })))
      .max(50, 'At most 50 intervals')
      .required('The intervals are missing'),
    exceptions: exceptionsSchema,
  }),
);
const importSchema = exactly(
  object({
    id: id('The hours'),
    text: string().max(900_000, 'The file is too large').required('The file is missing'),
    /** What events with times mean. */
    timesMean: string()
      .oneOf(TIMES_MEAN, 'It must say what events with times mean')
      .required('It must say what events with times mean'),
    seen: array(exactly(object({ date, over: string().max(20_000).defined() })))
      .max(1000, 'At most 1000 days')
      .nullable()
      .defined(),
  }),
);
const removeSchema = exactly(object({ id: id('The hours') }));

export type HoursLine = HoursRecord & { readonly opening: Opening; readonly usedBy: readonly string[] };
export type HoursView = {
  readonly hours: readonly HoursLine[];
  readonly now: number;
  readonly zone: string;
  readonly mayChange: boolean;
};
export type HoursImport = {
  readonly applied: boolean;
  /** `over` is what stands there for that day, as text; empty for nothing. */
  readonly days: readonly (DatedDay & { readonly was: 'new' | 'changed' | 'same'; readonly over: string })[];
  /** Days that were left, because somebody else had changed them after they were shown. */
  readonly met: readonly string[];
  readonly faults: readonly string[];
};

/** What the functions of this file are given first. */
export type HoursDeps = { readonly host: Host; readonly floor: LiveFloor; readonly heavy: Heavy };

const bare = ({ revision: _revision, ...hours }: HoursRecord): Hours => hours;

const one = (db: Db, hoursId: string): HoursRecord | undefined => readAllHours(db).find((h) => h.id === hoursId);

const usersOf = (db: Db, hoursId: string): string[] => [
  ...readDoors(db)
    .filter((d) => d.hoursId === hoursId)
    .map((d) => `the door ${d.name}`),
  ...readQueues(db)
    .filter((q) => q.hoursId === hoursId)
    .map((q) => `the queue ${q.name}`),
  ...GROUPS.all(db)
    .filter((g) => g.hoursId === hoursId)
    .map((g) => `the group ${g.name}`),
  ...PARTNERS.all(db)
    .filter((p) => p.hoursId === hoursId || p.numbers.some((n) => n.hoursId === hoursId))
    .map((p) => `the partner desk ${p.name}`),
];

function put({ floor }: HoursDeps, tx: Tx, after: Hours): void {
  const twin = readAllHours(tx.db).find((h) => h.id !== after.id && h.name.toLowerCase() === after.name.toLowerCase());
  if (twin)
    throw new LaneError('not-valid', `There are already hours called ${twin.name}.`, [
      { where: 'name', what: 'is taken' },
    ]);
  writeHours(tx.db, { ...after, exceptions: [...after.exceptions].sort((a, b) => (a.date < b.date ? -1 : 1)) });
  floor.refreshSettings(tx);
}
function keep(deps: HoursDeps, tx: Tx, actor: Actor, before: HoursRecord | undefined, after: Hours): void {
  put(deps, tx, after);
  recordChange(tx, actor, 'hours', after.id, before && bare(before), after);
}

export const undoableHours = (deps: HoursDeps): Readonly<Record<string, Undoable>> => ({
  hours: {
    name: 'opening hours',
    path: () => '/doors/hours',
    read: (db, hoursId) => {
      const found = one(db, hoursId);
      return found ? bare(found) : null;
    },
    restore: (tx, actor, hoursId, value) => {
      mustHoldEverywhere(actor, 'doors.change');
      if (value === null) return void dropUnused(deps, tx, hoursId);
      const hours = value as Hours;
      put(deps, tx, { ...hours, exceptions: hours.exceptions ?? [] });
    },
  },
});

function dropUnused({ floor }: HoursDeps, tx: Tx, hoursId: string): void {
  const users = usersOf(tx.db, hoursId);
  if (users.length > 0)
    throw new LaneError('not-now', `These hours are used by ${users.join(', ')}. Give them other hours first.`);
  dropHours(tx.db, hoursId);
  floor.refreshSettings(tx);
}

export function viewHours({ host }: HoursDeps, actor: Actor): HoursView {
  mustHold(actor, 'settings.view');
  const now = host.times.floor();
  return {
    hours: readAllHours(host.db).map((h) => ({ ...h, opening: openAt(h, now), usedBy: usersOf(host.db, h.id) })),
    now,
    zone: readWorkspace(host.db)?.zone ?? 'UTC',
    mayChange: holds(actor, 'doors.change') && actor.teams === 'all',
  };
}

/** Adds (`id` null) or changes hours; whatever uses them follows at once. */
export function saveHours(deps: HoursDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'doors.change');
  const h = parse(hoursSchema, input);
  return deps.host.transact((tx) => {
    const before = h.id === null ? undefined : one(tx.db, h.id);
    if (h.id !== null && !before) throw new LaneError('not-found', 'These hours are not there any more.');
    sameRevision(before, h.revision, h.name);
    const hoursId = h.id ?? tx.ids('hours');
    keep(deps, tx, actor, before, {
      id: hoursId,
      name: h.name,
      zone: h.zone,
      weekly: h.weekly,
      exceptions: h.exceptions,
    });
    return { id: hoursId };
  });
}

export function removeHours(deps: HoursDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'doors.change');
  const asked = parse(removeSchema, input);
  return deps.host.transact((tx) =>
    removeUndoable(tx, actor, undoableHours(deps), 'hours', asked.id, () => dropUnused(deps, tx, asked.id)),
  );
}

const gone = () => new LaneError('not-found', 'These hours are not there any more.');

/**
 * Reads dated days from iCalendar: shown first, then put in place of the same days in one press, for those of `seen` whose
 * day still stands as it did when it was shown.
 */
export async function importExceptions(deps: HoursDeps, actor: Actor, input: unknown): Promise<HoursImport> {
  mustHoldEverywhere(actor, 'doors.change');
  const asked = parse(importSchema, input);
  const there = one(deps.host.db, asked.id);
  if (!there) throw gone();
  const from = localDate(deps.host.times.floor(), there.zone);
  const to = `${Number(from.slice(0, 4)) + 2}${from.slice(4)}`;
  const read = await deps
    .heavy('hours-calendar', {
      text: asked.text,
      range: { from, to },
      hours: { zone: there.zone, weekly: there.weekly, exceptions: there.exceptions },
      timesMean: asked.timesMean,
    })
    .catch(refusal);
  return deps.host.transact((tx) => {
    const before = one(tx.db, asked.id);
    if (!before) throw gone();
    const said = ({ intervals, note }: DatedDay) => JSON.stringify([intervals, note]);
    const standing = new Map(before.exceptions.map((e) => [e.date, said(e)]));
    const days = read.exceptions.map((day) => {
      const over = standing.get(day.date) ?? '';
      return {
        ...day,
        over,
        was: over === '' ? ('new' as const) : over === said(day) ? ('same' as const) : ('changed' as const),
      };
    });
    const seen = asked.seen && new Map(asked.seen.map((d) => [d.date, d.over]));
    const different = days.filter((d) => d.was !== 'same');
    const changed = different.filter((d) => seen?.get(d.date) === d.over);
    if (changed.length > 0) {
      const dates = new Set(changed.map((d) => d.date));
      const exceptions = [
        ...before.exceptions.filter((e) => !dates.has(e.date)),
        ...changed.map(({ was: _was, over: _over, ...day }) => day),
      ];
      if (exceptions.length > MOST_DATED)
        throw new LaneError(
          'not-valid',
          `Hours have at most ${MOST_DATED} dated days; these would be ${exceptions.length}.`,
        );
      keep(deps, tx, actor, before, { ...bare(before), exceptions });
    }
    return {
      applied: seen !== null,
      days,
      met: seen ? different.filter((d) => !changed.includes(d)).map((d) => d.date) : [],
      faults: [
        ...read.faults,
        ...(read.exceptions.length === 0 ? ['Nothing in this calendar falls into the next two years.'] : []),
      ],
    };
  });
}

/** Dated days as iCalendar. */
export function exceptionsCalendar({ host }: HoursDeps, actor: Actor, hoursId: string): { name: string; text: string } {
  mustHold(actor, 'settings.view');
  const hours = one(host.db, hoursId);
  if (!hours) throw new LaneError('not-found', 'There are no such hours.');
  return {
    name: `${hours.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.ics`,
    text: writeHoursCalendar(bare(hours)),
  };
}

/** Opening hours, their dated days, and calendars in and out. */
export const createHours = (deps: HoursDeps) => ({
  undoable: undoableHours(deps),
  ...bind(deps, {
    view: viewHours,
    save: saveHours,
    remove: removeHours,
    import: importExceptions,
    calendar: exceptionsCalendar,
  }),
});
