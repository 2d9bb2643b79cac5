import { FIRST_FIGURES } from '../../core/measures/definitions';
import type { GoalStanding } from '../../core/measures/servicelevel';
import { tally } from '../../core/measures/tally';
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
  goalsOf,
  type Line,
  measuresOf,
  wordsOf,
} from './figures';
import { type AskedView, askedView } from './askedview';
import { namesOf } from './names';
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
    figures: figures.filter((f) => f.id !== 'rung-back' || f.count > 0),
    line,
    people: eachRows(host, actor, asked, days, 'people'),
    columns: measuresOf(KINDS.people.figures).map(wordsOf),
    perQueue: perQueue(host, actor, asked, days),
    busy: busyHours(days.now, asked.now),
  };
}

function perQueue(host: Host, actor: Actor, asked: Asked, days: ReturnType<typeof daysOf>): ReviewView['perQueue'] {
  const queues = new Map(readQueues(host.db).map((q) => [q.id, q]));
  const nameOf = namesOf(host, actor);
  const byChannel = tally(days.now, asked.now.narrowing, { by: ['queue', 'channel'], parts: ['visits'] });
  const standingOf = goalsOf(queues, byChannel, (t) => t.visits.rated);
  return [...tally(days.now, asked.now.narrowing, { by: ['queue'], parts: ['visits'] })]
    .filter(([, { visits }]) => visits.offered > 0)
    .map(([id, { visits }]) => {
      const inGoal = visits.rated === 0 ? null : visits.inGoal / visits.rated;
      return {
        id,
        name: nameOf('queue', id),
        offered: visits.offered,
        inGoal,
        ...standingOf(inGoal, ([queueId]) => queueId === id),
        gaveUp: visits.rated === 0 ? null : (visits.rated - visits.ended.accepted) / visits.rated,
      };
    })
    .sort((a, b) => placeOf(queues, a.id) - placeOf(queues, b.id));
}
const placeOf = (queues: ReadonlyMap<string, unknown>, id: string): number => {
  const place = [...queues.keys()].indexOf(id);
  return place === -1 ? queues.size : place;
};
