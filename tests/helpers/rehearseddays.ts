import { columnsOf, type DaySpan, type FactDay, type PartOfDay, partOf } from '../../src/core/measures/columns';
import { factDay } from '../../src/core/measures/rollups';
import { daySpan } from '../../src/core/measures/calendar';
import type { FactRow, Part } from '../../src/core/measures/factparts';
import { daysFrom, plusDays } from '../../src/core/hours/dates';
import { localDate } from '../../src/core/hours/weekly';
import { runOnce } from '../../src/core/rehearsal/run';
import type { Scenario } from '../../src/core/rehearsal/scenario';
import type { WaitingVisit } from '../../src/core/routing/floor';
import { goalOf } from '../../src/core/routing/queue';

type Rows = { readonly [P in Part]: FactRow<P>[] };

/** Runs a scenario once and gives what happened as days of facts, the way that days of the log are read. */
export function rehearsedDays(scenario: Scenario, run: number): FactDay[] {
  const rows: Rows = { contacts: [], visits: [], offers: [], legs: [], lines: [], messages: [] };
  const numbers = new Map<string, number>();
  const noOf = (id: string) => numbers.get(id) ?? (numbers.set(id, numbers.size + 1), numbers.size);
  const keysOf = (visit: WaitingVisit, person: string | null): FactRow['keys'] => ({
    channel: [visit.channel],
    door: [`door ${visit.queue.id}`],
    bot: [],
    version: [],
    line: [],
    intent: [],
    stage: [],
    language: ['en'],
    queue: [visit.queue.id],
    person: person === null ? [] : [person],
    team: [],
    outcome: [],
    skill: [],
    open: ['open'],
  });
  const taken = new Map<string, { readonly visit: WaitingVisit; readonly at: number }>();
  const takers = new Map<string, string>();
  runOnce(scenario, run, {
    observe: (_router, now, acts, event) => {
      if (event.type === 'leg-ended') {
        const leg = taken.get(event.legId);
        if (!leg) return;
        taken.delete(event.legId);
        const waited = leg.at - leg.visit.placedAt;
        rows.legs.push({
          no: noOf(leg.visit.contactId),
          at: now,
          keys: keysOf(leg.visit, event.personId),
          how: 'kept',
          lengths: {
            handled: now - leg.at,
            wrapped: 0,
            waited,
            goal: goalOf(leg.visit.queue, leg.visit.channel).seconds * 1000,
            asked: waited,
            replied: null,
            held: now - leg.at,
            fronted: null,
          },
        });
      }
      for (const act of acts) {
        if (act.do === 'took') {
          taken.set(act.legId, { visit: act.visit, at: now });
          takers.set(act.visit.id, act.personId);
        }
        if (act.do !== 'ended') continue;
        const { visit, how } = act;
        const keys = keysOf(visit, takers.get(visit.id) ?? null);
        rows.visits.push({
          no: noOf(visit.contactId),
          at: visit.enteredAt,
          keys,
          how: how === 'accepted' || how === 'gave-up' ? how : 'moved-on',
          lengths: {
            waited: now - visit.placedAt,
            stayed: now - visit.enteredAt,
            goal: goalOf(visit.queue, visit.channel).seconds * 1000,
            told: null,
            followed: null,
          },
        });
        rows.contacts.push({
          no: noOf(visit.contactId),
          at: visit.placedAt,
          keys,
          how: how === 'gave-up' ? 'gave-up' : 'resolved',
          lengths: { lasted: null, again: null, rating: null, mood: null, journey: null, took: null },
        });
      }
    },
  });
  const first = localDate(scenario.startsAt, scenario.zone);
  const spans = daysFrom(first, plusDays(first, Math.round(scenario.lengthSeconds / 86_400) - 1)).map((date) =>
    daySpan(date, scenario.zone),
  );
  const parts = {
    contacts: byDay('contacts', rows.contacts, spans),
    visits: byDay('visits', rows.visits, spans),
    offers: byDay('offers', rows.offers, spans),
    legs: byDay('legs', rows.legs, spans),
    lines: byDay('lines', rows.lines, spans),
    messages: byDay('messages', rows.messages, spans),
  };
  return spans.map((span, i) => factDay(span, (name) => parts[name][i] as PartOfDay));
}

/** The rows that each day counts, as its columns. */
function byDay<P extends Part>(part: P, rows: readonly FactRow<P>[], spans: readonly DaySpan[]): PartOfDay[] {
  const of: FactRow<P>[][] = spans.map(() => []);
  const first = spans[0]?.from ?? 0;
  for (const row of rows) of[Math.floor((row.at - first) / 86_400_000)]?.push(row);
  return spans.map((span, i) => partOf(columnsOf(part, of[i] ?? [], span.from), span));
}
