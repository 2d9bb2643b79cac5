import { object } from 'yup';
import { seeded } from '../../core/chance';
import { type Drawable, drawFor, type Drawn } from '../../core/people/coaching';
import { daysFrom, monthOf } from '../../core/hours/dates';
import { daySpan } from '../../core/measures/calendar';
import { type FactDay, NONE } from '../../core/measures/columns';
import { localDate } from '../../core/hours/weekly';
import { readPeople } from '../../data/people';
import { readWorkspace } from '../../data/workspace';
import { type CoachDraw, drawsOfMonth, readCoachingRules } from '../../data/coaching';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly } from '../ground/schemas';
import { parse } from '../ground/validate';
import { factDays } from '../review/factdays';
import { isMonth } from './months';
import { coaches } from '../ground/coached';

/** Contacts drawn for somebody: what a reading finds, and the press keeps. */
export type DrawnFor = { readonly personId: string; readonly drawn: readonly Drawn[] };

export const monthSchema = exactly(object({ month: isMonth }));

/** Turns of a month by who had them, and whether their customer came back. */
function turnsOf(days: readonly FactDay[], wanted: ReadonlySet<string>): Map<string, Drawable[]> {
  const came = new Set<number>();
  for (const day of days) {
    const part = day.part('contacts');
    const [no, again] = [part.numbers('no'), part.numbers('again')];
    for (let i = 0; i < part.rows; i++) if (again[i] !== NONE && (again[i] ?? 0) > 0) came.add(no[i] ?? 0);
  }
  const turns = new Map<string, Drawable[]>();
  for (const day of days) {
    const part = day.part('legs');
    const [no, handled] = [part.numbers('no'), part.numbers('handled')];
    const [how, person] = [part.coded('how'), part.coded('person')];
    for (let i = 0; i < part.rows; i++) {
      const personId = person.entries[person.codes[i] ?? 0]?.[0];
      if (personId === undefined || !wanted.has(personId) || handled[i] === NONE) continue;
      const of = turns.get(personId) ?? [];
      if (of.length === 0) turns.set(personId, of);
      of.push({
        no: no[i] ?? 0,
        handledMs: handled[i] ?? 0,
        passedOn: how.entries[how.codes[i] ?? 0]?.[0] === 'passed-on',
        cameBack: came.has(no[i] ?? 0),
      });
    }
  }
  return turns;
}

/** What is drawn already, by person. */
function alreadyDrawn(draws: readonly CoachDraw[]): Map<string, Drawn[]> {
  const by = new Map<string, Drawn[]>();
  for (const { personId, no, why } of draws) by.set(personId, [...(by.get(personId) ?? []), { no, why }]);
  return by;
}

/** Picks the contacts of a month that are still to be drawn, for each active person whom the actor coaches. For a thread of its own. */
export function pickToRate(host: Host, actor: Actor, input: unknown): DrawnFor[] {
  mustHold(actor, 'people.coach');
  const { month } = parse(monthSchema, input);
  const zone = readWorkspace(host.db)?.zone ?? 'UTC';
  const whom = readPeople(host.db).filter((person) => person.active && coaches(actor, person));
  const { from, to } = monthOf(month);
  const last = [to, localDate(host.times.floor(), zone)].sort()[0] ?? to;
  const days = factDays(
    host,
    daysFrom(from, last).map((day) => daySpan(day, zone)),
  );
  const turns = turnsOf(days, new Set(whom.map((person) => person.id)));
  const already = alreadyDrawn(drawsOfMonth(host.db, month));
  const rules = readCoachingRules(host.db);
  // Which ones chance draws must not be known beforehand, hence not from the month or the person.
  const chance = seeded(Math.floor(Math.random() * 2 ** 32));
  return whom.flatMap(({ id: personId }) => {
    const drawn = drawFor(turns.get(personId) ?? [], rules, already.get(personId) ?? [], chance);
    return drawn.length === 0 ? [] : [{ personId, drawn }];
  });
}
