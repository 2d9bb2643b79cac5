import { KINDS_APART, FIRST_FIGURES } from '../../core/measures/definitions';
import type { GoalStanding } from '../../core/measures/servicelevel';
import { shareOf } from '../../core/measures/tally';
import { readQueues } from '../../data/queuesettings';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { type Asked, askedOf } from './asking';
import {
  type BusyHour,
  busyHours,
  daysOf,
  type Figure,
  type FigureWords,
  figuresThrough,
  type Compared,
  eachOf,
  goalsNow,
  standingOf,
  type Line,
  measuresOf,
  wordsOf,
} from './figures';
import { type AskedView, askedView } from './askedview';
import { namesOf } from './names';
import { staffByHour } from './staffing';
import { type EachRow, eachRows, KINDS } from './each';

export type ReviewView = AskedView & {
  readonly figures: readonly Figure[];
  readonly line: Line;
  readonly people: readonly EachRow[];
  readonly columns: readonly FigureWords[];
  readonly perQueue: readonly {
    readonly id: string;
    readonly name: string;
    readonly offered: number;
    readonly inGoal: number | null;
    /** The share to be reached over its channels, and how it stands to that. */ readonly wanted: number | null;
    readonly standing: GoalStanding | null;
    readonly gaveUp: number | null;
  }[];
  readonly busy: readonly BusyHour[];
};

/** How the team did in a range, against another. */
export function viewReview(host: Host, actor: Actor, input: unknown): ReviewView {
  mustHold(actor, 'review.view');
  const asked = askedOf(host, actor, input);
  const days = daysOf(host, asked);
  const { figures, line } = figuresThrough(measuresOf(FIRST_FIGURES), days, asked);
  return {
    ...askedView(host, actor, asked),
    // Whoever promises no calls back is not told how many were reached.
    figures: figures.filter((f) => !KINDS_APART.includes(f.id) || f.count > 0),
    line,
    people: eachRows(host, actor, asked, days, 'people'),
    columns: measuresOf(KINDS.people.figures).map(wordsOf),
    perQueue: perQueue(host, actor, asked, days),
    busy: busyHours(days.now, asked.now, staffByHour(host, days.now, asked.now)),
  };
}

function perQueue(host: Host, actor: Actor, asked: Asked, days: Compared): ReviewView['perQueue'] {
  const places = new Map(readQueues(host.db).map((q, place) => [q.id, place]));
  const nameOf = namesOf(host, actor);
  return [...eachOf(days.now, asked.now, 'queue', { parts: ['visits'], goals: goalsNow(host) })]
    .filter(([, { visits }]) => visits.offered > 0)
    .map(([id, { visits }]) => ({
      id,
      name: nameOf('queue', id),
      offered: visits.offered,
      inGoal: shareOf(visits.inGoal, visits.rated),
      ...standingOf(visits.inGoal, visits.rated, visits.wanted),
      gaveUp: shareOf(visits.rated - visits.ended.accepted, visits.rated),
    }))
    .sort((a, b) => (places.get(a.id) ?? places.size) - (places.get(b.id) ?? places.size));
}
