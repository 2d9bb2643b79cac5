import { TZDate } from '@date-fns/tz';
import { array, object, string } from 'yup';
import type { Heavy } from '../../core/heavy';
import { localDate, openingsBetween, weekBegins, type WeekPattern } from '../../core/hours/weekly';
import { HALF_HOUR, NO_SHIFT, plannedPerHalfHour, type Shift } from '../../core/people/coverage';
import type { Db } from '../../data/database';
import { SHIFTS } from '../../data/duty';
import { type Person, readPeople, readPerson } from '../../data/people';
import { readTeams } from '../../data/teams';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mayChangeTeam, mustHold, mustSee, mustReach, sees } from '../ground/actor';
import { bind } from '../ground/bind';
import { announce, type Undoable, noteChange, recordChange, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { refusal } from '../ground/refusal';
import { day, exactly, id, text, whole, timeOfDay } from '../ground/schemas';
import { parse } from '../ground/validate';
import type { Demand } from './demand';
import { zoneOfPerson } from './peoplebook';

const date = day.required('The day is missing');
const shiftSchema = exactly(
  object({
    ownerId: id('Whose shift'),
    revision: whole(0, 1e9, 'The revision'),
    weekly: array(exactly(object({ day: whole(1, 7, 'The day'), from: timeOfDay, to: timeOfDay })))
      .max(30, 'At most 30 intervals a week')
      .required('The week is missing'),
    exceptions: array(
      exactly(
        object({
          date,
          intervals: array(exactly(object({ from: timeOfDay, to: timeOfDay })))
            .max(6)
            .required(),
          note: text(100, 'The note').defined(),
        }),
      ),
    )
      .max(800, 'At most 800 dated days')
      .required('The exceptions are missing'),
  }),
);
const dropSchema = exactly(object({ ownerId: id('Whose shift') }));
const importSchema = exactly(
  object({
    text: string().max(900_000, 'The file is too large').required('The file is missing'),
    ownerId: string().nullable().defined(),
    seen: array(exactly(object({ ownerId: id('Whose shift'), over: string().max(100_000).defined() })))
      .max(20_000, 'At most 20,000 shifts')
      .nullable()
      .defined(),
  }),
);
const viewSchema = exactly(
  object({
    week: day.optional(),
    team: string().optional(),
  }),
);

export type ShiftLine = {
  readonly ownerId: string;
  readonly name: string;
  readonly kind: 'person' | 'team';
  readonly teamId: string;
  readonly zone: string;
  readonly own: (Shift & { revision: number }) | null;
  readonly from: 'own' | 'team' | 'none';
  readonly weekly: Shift['weekly'];
  readonly mayChange: boolean;
  /** Shifts of the shown week, UTC ms. */ readonly week: readonly { start: number; end: number }[];
};
export type ShiftsView = {
  readonly zone: string;
  readonly monday: number;
  readonly now: number;
  readonly planned: readonly number[];
  readonly needed: readonly number[];
  readonly weeksOfHistory: number;
  readonly lines: readonly ShiftLine[];
  readonly teams: readonly { id: string; name: string }[];
  readonly everybody: boolean;
};
/** `over` is the shift that it would replace, as text; empty where there is none. */
type ImportLine = {
  readonly ownerId: string;
  readonly over: string;
  readonly name: string;
  readonly week: number;
  readonly days: number;
};
export type ShiftImport = {
  readonly applied: boolean;
  readonly lines: readonly ImportLine[];
  /** Who was left, because somebody else had changed their shift after it was shown. */
  readonly met: readonly string[];
  readonly faults: readonly string[];
};

/** What the functions of this file are given first. */
export type ShiftsDeps = { readonly host: Host; readonly demand: Demand; readonly heavy: Heavy };

/** When somebody should be on duty by their own shift, else their team's; null for never. */
export function patternOf(
  { host }: Pick<ShiftsDeps, 'host'>,
  p: Person,
  all: ReadonlyMap<string, Shift>,
): WeekPattern | null {
  const shift = all.get(p.id) ?? all.get(p.teamId);
  return shift ? { zone: zoneOfPerson(host, p), ...shift } : null;
}

const bare = (s: Shift): Shift => ({ weekly: s.weekly, exceptions: s.exceptions });

function ownerOf(actor: Actor, db: Db, ownerId: string): { name: string; teamId: string } {
  const team = readTeams(db).find((t) => t.id === ownerId);
  const found = team ? { name: team.name, teamId: team.id } : mustSee(actor, readPerson(db, ownerId));
  mustReach(actor, found.teamId);
  return found;
}

const put = (tx: Tx, ownerId: string, name: string, shift: Shift | null) =>
  shift ? SHIFTS.write(tx.db, ownerId, name, bare(shift)) : SHIFTS.remove(tx.db, ownerId);

const undoableShifts: Record<string, Undoable> = {
  shift: {
    name: 'shift',
    path: (ownerId) => `/people/shifts?owner=${ownerId}`,
    read: (db, ownerId) => {
      const s = SHIFTS.one(db, ownerId);
      return s ? bare(s) : null;
    },
    restore: (tx, actor, ownerId, value) =>
      put(tx, ownerId, ownerOf(actor, tx.db, ownerId).name, value as Shift | null),
  },
};

export function viewShifts(deps: ShiftsDeps, actor: Actor, input: unknown): ShiftsView {
  mustHold(actor, 'people.view');
  const asked = parse(viewSchema, input);
  const zone = readWorkspace(deps.host.db)?.zone ?? 'UTC';
  const now = deps.host.times.floor();
  const [y = 0, m = 1, d = 1] = (asked.week ?? '').split('-').map(Number);
  const day = asked.week ? new TZDate(y, m - 1, d, 12, 0, 0, zone) : new TZDate(now, zone);
  const monday = weekBegins(day.getTime(), zone);
  const shifts = new Map(SHIFTS.all(deps.host.db).map((s) => [s.id, s]));
  const teams = readTeams(deps.host.db).filter((t) => actor.teams === 'all' || actor.teams.includes(t.id));
  const people = readPeople(deps.host.db).filter(
    (p) => p.active && sees(actor, p) && (!asked.team || p.teamId === asked.team),
  );
  const end = monday + 336 * HALF_HOUR;
  const patterns = people.flatMap((p) => patternOf(deps, p, shifts) ?? []);
  const line = (
    ownerId: string,
    name: string,
    kind: 'person' | 'team',
    teamId: string,
    lineZone: string,
  ): ShiftLine => {
    const own = shifts.get(ownerId);
    const team = kind === 'person' ? shifts.get(teamId) : undefined;
    const counts = own ?? team ?? NO_SHIFT;
    return {
      ownerId,
      name,
      kind,
      teamId,
      zone: lineZone,
      own: own ? { ...bare(own), revision: own.revision } : null,
      from: own ? 'own' : team ? 'team' : 'none',
      weekly: counts.weekly,
      mayChange: mayChangeTeam(actor, teamId),
      week: openingsBetween({ zone: lineZone, ...bare(counts) }, monday, end),
    };
  };
  const everybody = actor.teams === 'all' && !asked.team;
  return {
    zone,
    monday,
    now,
    planned: plannedPerHalfHour(patterns, monday, 336),
    needed: everybody ? deps.demand.halfHours() : [],
    weeksOfHistory: deps.demand.weeks(),
    everybody,
    teams: teams.map((t) => ({ id: t.id, name: t.name })),
    lines: teams
      .filter((t) => !asked.team || t.id === asked.team)
      .flatMap((t) => [
        line(t.id, t.name, 'team', t.id, t.zone),
        ...people
          .filter((p) => p.teamId === t.id)
          .map((p) => line(p.id, p.name, 'person', p.teamId, zoneOfPerson(deps.host, p))),
      ]),
  };
}

export function saveShifts({ host }: ShiftsDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.change');
  const { ownerId, revision, ...asked } = parse(shiftSchema, input);
  return host.transact((tx) => {
    const owner = ownerOf(actor, tx.db, ownerId);
    const before = SHIFTS.one(tx.db, ownerId);
    sameRevision(before, revision, `The shift of ${owner.name}`);
    put(tx, ownerId, owner.name, asked);
    recordChange(tx, actor, 'shift', ownerId, before ? bare(before) : null, asked, { label: owner.name });
    return { id: ownerId };
  });
}

/** Takes a person's or team's own shift away; a person then has the team's. */
export function removeShifts({ host }: ShiftsDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.change');
  const { ownerId } = parse(dropSchema, input);
  return host.transact((tx) => {
    const owner = ownerOf(actor, tx.db, ownerId);
    const before = SHIFTS.one(tx.db, ownerId);
    if (before) {
      put(tx, ownerId, owner.name, null);
      recordChange(tx, actor, 'shift', ownerId, bare(before), null, { label: owner.name });
    }
    return { id: ownerId };
  });
}

/**
 * Reads shifts from CSV or iCalendar: shown first, then kept in one press for those of `seen` whose shift is still the one
 * that it was shown for. `ownerId` is for whom a calendar without addresses is.
 */
export async function importShifts({ host, heavy }: ShiftsDeps, actor: Actor, input: unknown): Promise<ShiftImport> {
  mustHold(actor, 'people.change');
  const asked = parse(importSchema, input);
  const zone = readWorkspace(host.db)?.zone ?? 'UTC';
  const zones = new Map<string, string>();
  for (const team of readTeams(host.db)) {
    zones.set(team.name.toLowerCase(), team.zone);
    if (team.id === asked.ownerId) zones.set('', team.zone);
  }
  for (const person of readPeople(host.db)) {
    const theirs = zoneOfPerson(host, person);
    zones.set(person.email, theirs);
    if (person.id === asked.ownerId) zones.set('', theirs);
  }
  const today = localDate(host.times.floor(), zone);
  const read = await heavy('shifts', { text: asked.text, today, zones, zone }).catch(refusal);
  return host.transact((tx) => {
    const faults = [...read.faults];
    const people = readPeople(tx.db);
    const teams = readTeams(tx.db);
    const batch = tx.ids('batch');
    const seen = asked.seen && new Map(asked.seen.map((s) => [s.ownerId, s.over]));
    const lines: ImportLine[] = [];
    const met: string[] = [];
    for (const [who, shift] of read.shifts) {
      const person =
        who === ''
          ? people.find((p) => p.id === asked.ownerId)
          : people.find((p) => p.email === who || p.name.toLowerCase() === who);
      const team =
        who === '' ? teams.find((t) => t.id === asked.ownerId) : teams.find((t) => t.name.toLowerCase() === who);
      const owner = person ?? team;
      const teamId = person?.teamId ?? team?.id ?? '';
      if (!owner || !mayChangeTeam(actor, teamId)) {
        faults.push(
          who === ''
            ? 'This calendar does not say for whom it is. Choose somebody first.'
            : `${who} is neither a person nor a team that you may change.`,
        );
        continue;
      }
      const before = SHIFTS.one(tx.db, owner.id);
      const over = before ? JSON.stringify([before.weekly, before.exceptions]) : '';
      if (seen && seen.get(owner.id) !== over) {
        met.push(owner.name);
        continue;
      }
      const { length: week } = shift.weekly;
      lines.push({ ownerId: owner.id, over, name: owner.name, week, days: shift.exceptions.length });
      if (!seen) continue;
      // A file with dated days only adds them to the week that is there.
      const after: Shift =
        shift.weekly.length > 0 || !before
          ? shift
          : {
              weekly: before.weekly,
              exceptions: [
                ...before.exceptions.filter((e) => !shift.exceptions.some((n) => n.date === e.date)),
                ...shift.exceptions,
              ].sort((a, b) => (a.date < b.date ? -1 : 1)),
            };
      put(tx, owner.id, owner.name, after);
      noteChange(tx, actor, 'shift', owner.id, before ? bare(before) : null, after, { label: owner.name, batch });
    }
    if (seen && lines.length > 0) announce(tx, 'shift', batch);
    return { applied: seen !== null, lines, met, faults };
  });
}

/** When people should be on duty: by person, else by team. Says what to cover; it does not plan. */
export const createShifts = (deps: ShiftsDeps) => ({
  undoable: undoableShifts,
  ...bind(deps, { view: viewShifts, save: saveShifts, remove: removeShifts, import: importShifts }),
});
