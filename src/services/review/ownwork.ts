import { plusDays } from '../../core/hours/dates';
import { localDate } from '../../core/hours/weekly';
import { emptyTally } from '../../core/measures/tally';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { askedOf } from './asking';
import { KINDS } from './each';
import { daysOf, eachCompared, type Figure, figuresOf, measuresOf } from './figures';
import { type DifferenceLine, matesOf, meanFigure, type TwoView, whyOf } from './two';

/** Days that somebody looks back on: four weeks that are over. */
const DAYS = 28;
/** A mean of fewer others would say who they are. */
const FEWEST = 3;

/** How somebody did themselves, beside the mean of their team; nobody else is named. */
export type OwnWorkView = {
  readonly from: string;
  readonly to: string;
  readonly zone: string;
  readonly figures: readonly {
    readonly mine: Figure;
    /** Null where the team is too small. */ readonly team: Figure | null;
  }[];
  readonly why: TwoView['why'];
  readonly whyNot: string | null;
};

export function viewOwnWork(host: Host, actor: Actor): OwnWorkView {
  mustHold(actor, 'desk.work');
  const zone = readWorkspace(host.db)?.zone ?? 'UTC';
  const to = plusDays(localDate(host.times.floor(), zone), -1);
  const from = plusDays(to, 1 - DAYS);
  // What they did themselves counts wherever it was; of others nothing but means comes out of it.
  const asked = askedOf(host, { ...actor, teams: 'all' }, { from, to });
  const days = daysOf(host, asked);
  const measures = measuresOf(KINDS.people.figures);
  const [now, then] = eachCompared(days, asked, 'person', measures);
  const figuresFor = (one: string): Figure[] =>
    figuresOf(measures, now.get(one) ?? emptyTally(), then.get(one) ?? emptyTally());
  const mates = matesOf(host, actor.personId).filter((mate) => (now.get(mate)?.legs.handles.count ?? 0) > 0);
  const enough = mates.length >= FEWEST;
  const others = enough ? mates.map(figuresFor) : [];
  const { why, whyNot } = enough
    ? whyOf(host, asked, days.now, actor.personId, mates)
    : { why: null, whyNot: 'Your team is too small for a mean that names nobody.' };
  const unset = (line: DifferenceLine): DifferenceLine => ({ ...line, setting: null });
  return {
    from,
    to,
    zone,
    figures: figuresFor(actor.personId).map((mine, i) => ({
      mine,
      team: enough
        ? meanFigure(
            mine,
            others.flatMap((of) => of[i] ?? []),
          )
        : null,
    })),
    why: why && { ...why, lines: why.lines.map(unset), rest: why.rest.map(unset) },
    whyNot,
  };
}
