import type { ContactFact, Facts, LegFact, VisitFact } from './facts';
import { mean, quantile } from './quantile';
import { inGoal, isShortGiveUp, serviceLevel, waitSeconds } from './servicelevel';

export type Unit = 'count' | 'share' | 'seconds';

/** One figure: what it is called, how it is made in words, and the code that makes it, with the contacts behind it. */
export type Measure = {
  readonly id: string;
  readonly name: string;
  readonly unit: Unit;
  readonly formula: string;
  /** By which instant a contact belongs to the range. */
  readonly countsBy: 'entry' | 'end' | 'start';
  readonly value: (facts: Facts) => number | null;
  /** Ids of the contacts that the figure is made of (for a share, those in its numerator come first). */
  readonly contacts: (facts: Facts) => string[];
  /** Whether more is better, for colouring a change; null where neither is. */
  readonly moreIsBetter: boolean | null;
};

const ids = (rows: readonly { readonly contactId: string }[]) => [...new Set(rows.map((r) => r.contactId))];
const contactIds = (rows: readonly ContactFact[]) => rows.map((r) => r.id);
const accepted = (f: Facts): VisitFact[] => f.visits.filter((v) => v.end === 'accepted');
const gaveUp = (f: Facts): VisitFact[] => f.visits.filter((v) => v.end === 'gave-up' && !isShortGiveUp(v));
const rated = (f: Facts): VisitFact[] => [...accepted(f), ...gaveUp(f)];
const finished = (f: Facts): LegFact[] => f.legs.filter((l) => l.handleSeconds !== null);
const handle = (f: Facts): number[] => finished(f).map((l) => l.handleSeconds ?? 0);
const waits = (f: Facts): number[] => accepted(f).map(waitSeconds);

/** The figures of Review, in reading order. */
export const MEASURES: readonly Measure[] = [
  {
    id: 'offered',
    name: 'Offered',
    unit: 'count',
    countsBy: 'entry',
    moreIsBetter: null,
    formula: 'Visits: entries of a contact into a queue. A contact passed to another queue counts again there.',
    value: (f) => f.visits.length,
    contacts: (f) => ids(f.visits),
  },
  {
    id: 'handled',
    name: 'Handled',
    unit: 'count',
    countsBy: 'end',
    moreIsBetter: true,
    formula: 'Legs: turns of a person with a contact that ended in the range, wrap-up included.',
    value: (f) => finished(f).length,
    contacts: (f) => ids(finished(f)),
  },
  {
    id: 'service-level',
    name: 'Answered in goal',
    unit: 'share',
    countsBy: 'entry',
    moreIsBetter: true,
    formula:
      'Accepted within the goal ÷ (accepted + gave up − short give-ups). The goal is the one in force when the visit began.',
    value: (f) => serviceLevel(f.visits),
    contacts: (f) => ids([...rated(f).filter(inGoal), ...rated(f).filter((v) => !inGoal(v))]),
  },
  {
    id: 'speed',
    name: 'Mean wait',
    unit: 'seconds',
    countsBy: 'entry',
    moreIsBetter: false,
    formula:
      'Speed of answer: from when the customer began to wait to when a person accepted; mean over accepted visits.',
    value: (f) => mean(waits(f)),
    contacts: (f) => ids([...accepted(f)].sort((a, b) => waitSeconds(b) - waitSeconds(a))),
  },
  {
    id: 'speed-90',
    name: '90% wait less',
    unit: 'seconds',
    countsBy: 'entry',
    moreIsBetter: false,
    formula: 'Speed of answer, 90th percentile: nine of ten accepted visits were answered within this time.',
    value: (f) => quantile(waits(f), 0.9),
    contacts: (f) => ids([...accepted(f)].sort((a, b) => waitSeconds(b) - waitSeconds(a))),
  },
  {
    id: 'handle-time',
    name: 'Handle time',
    unit: 'seconds',
    countsBy: 'end',
    moreIsBetter: null,
    formula:
      'Voice: talk and wrap-up. Text: each gap between signs of activity counts up to 5 minutes, plus wrap-up. Mean over legs that ended.',
    value: (f) => mean(handle(f)),
    contacts: (f) => ids([...finished(f)].sort((a, b) => (b.handleSeconds ?? 0) - (a.handleSeconds ?? 0))),
  },
  {
    id: 'gave-up',
    name: 'Gave up waiting',
    unit: 'share',
    countsBy: 'entry',
    moreIsBetter: false,
    formula: 'Gave up after more than 5 s ÷ (accepted + gave up − short give-ups).',
    value: (f) => (rated(f).length === 0 ? null : gaveUp(f).length / rated(f).length),
    contacts: (f) => ids(gaveUp(f)),
  },
  {
    id: 'bot',
    name: 'Finished by a bot',
    unit: 'share',
    countsBy: 'start',
    moreIsBetter: true,
    formula:
      'Contacts that a bot brought to its end without a person ÷ contacts started. Those who left ' +
      'while it was talking are not counted in.',
    value: (f) =>
      f.contacts.length === 0 ? null : f.contacts.filter((c) => c.end === 'bot').length / f.contacts.length,
    contacts: (f) => contactIds(f.contacts.filter((c) => c.end === 'bot')),
  },
  {
    id: 'left-bot',
    name: 'Left in the bot',
    unit: 'share',
    countsBy: 'start',
    moreIsBetter: false,
    formula: 'Contacts whose customer left while a bot was talking to them ÷ contacts started.',
    value: (f) =>
      f.contacts.length === 0 ? null : f.contacts.filter((c) => c.end === 'left-bot').length / f.contacts.length,
    contacts: (f) => contactIds(f.contacts.filter((c) => c.end === 'left-bot')),
  },
];

export type PersonFigures = {
  readonly personId: string;
  readonly handled: number;
  readonly handleSeconds: number | null;
  readonly firstReplySeconds: number | null;
  readonly inGoal: number | null;
  readonly passedOn: number;
  readonly contactIds: readonly string[];
};

/** Figures per person over the legs that ended in the range, most handled first. */
export function perPerson(facts: Facts): PersonFigures[] {
  const byPerson = new Map<string, LegFact[]>();
  for (const leg of finished(facts)) {
    const legs = byPerson.get(leg.personId);
    if (legs) legs.push(leg);
    else byPerson.set(leg.personId, [leg]);
  }
  return [...byPerson]
    .map(([personId, legs]) => {
      const replies = legs
        .filter((l) => l.channel !== 'voice' && l.firstReplyAt !== null)
        .map((l) => ((l.firstReplyAt ?? 0) - l.placedAt) / 1000);
      return {
        personId,
        handled: legs.length,
        handleSeconds: mean(legs.map((l) => l.handleSeconds ?? 0)),
        firstReplySeconds: mean(replies),
        inGoal: legs.filter((l) => (l.acceptedAt - l.placedAt) / 1000 <= l.goalSeconds).length / legs.length,
        passedOn: legs.filter((l) => l.passedOn).length,
        contactIds: ids(legs),
      };
    })
    .sort((a, b) => b.handled - a.handled || (a.personId < b.personId ? -1 : 1));
}
