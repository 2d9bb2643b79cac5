import { number, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { measureById } from '../../core/measures/definitions';
import { holds } from '../../core/people/rights';
import type { Db } from '../../data/database';
import { type FigureGoal, FIGURE_GOALS } from '../../data/figuregoals';
import { valueOf } from '../../data/documents';
import { readTeams } from '../../data/teams';
import { readPeople } from '../../data/people';
import { type Actor, mustHold, sees } from '../ground/actor';
import { recordChange, type Undoable } from '../ground/change';
import type { Host } from '../ground/host';
import { exactly, id, oneOf } from '../ground/schemas';
import { parse } from '../ground/validate';
import { KINDS } from './each';
import { coached } from '../ground/coached';

const goalSchema = exactly(
  object({
    kind: oneOf<FigureGoal['kind']>(['people', 'teams'], 'Whose goal it is'),
    of: id('Whose goal it is'),
    measure: string().required('The figure is missing'),
    bound: oneOf<FigureGoal['bound']>(['least', 'most'], 'Whether it is at least or at most'),
    /** In the figure's own unit, a share from 0 to 1; null takes the goal away. */
    value: number().min(0, 'A goal is at least 0').max(1e6, 'That is too much for a goal').nullable().defined(),
  }),
);

const goalId = (goal: Pick<FigureGoal, 'kind' | 'of' | 'measure'>): string => `${goal.kind} ${goal.of} ${goal.measure}`;

/** The actor must coach them: everybody of a team, or the person. Gives the name. */
function mustSetFor(host: Pick<Host, 'db'>, actor: Actor, { kind, of }: Pick<FigureGoal, 'kind' | 'of'>): string {
  if (kind === 'people') return coached(host, actor, of).name;
  mustHold(actor, 'people.coach');
  const team = readTeams(host.db).find((t) => t.id === of);
  if (!team || (actor.teams !== 'all' && !actor.teams.includes(of)))
    throw new LaneError('not-found', 'There is no such team of yours.');
  return team.name;
}

const readGoal = (db: Db, goal: string) => {
  const found = FIGURE_GOALS.one(db, goal);
  return found ? valueOf(found) : null;
};
export const undoableGoals: Readonly<Record<string, Undoable>> = {
  'figure-goal': {
    name: 'goal',
    path: (goal) => `/review/${goal.split(' ').slice(0, 2).map(encodeURIComponent).join('/')}`,
    read: readGoal,
    restore: (tx, actor, goal, value) => {
      const was = (value ?? FIGURE_GOALS.one(tx.db, goal)) as FigureGoal | undefined;
      if (was) mustSetFor(tx, actor, was);
      if (value === null) FIGURE_GOALS.remove(tx.db, goal);
      else FIGURE_GOALS.restore(tx.db, goal, value);
    },
  },
};

/** Sets what somebody or a team is to reach in a figure, or takes that away. */
export function setFigureGoal(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.coach');
  const { value, ...goal } = parse(goalSchema, input);
  const whose = mustSetFor(host, actor, goal);
  const measure = measureById(goal.measure);
  if (!measure || !(KINDS[goal.kind].figures as readonly string[]).includes(goal.measure))
    throw new LaneError('not-valid', 'There is no such figure.', [{ where: 'measure', what: 'is none' }]);
  if (measure.unit === 'count')
    throw new LaneError('not-valid', 'How many depends on how long one looks: goals are for shares and lengths.', [
      { where: 'measure', what: 'is a count' },
    ]);
  if (value !== null && measure.unit === 'share' && value > 1)
    throw new LaneError('not-valid', 'A share is at most 100%.', [{ where: 'value', what: 'is above 1' }]);
  if (value !== null && measure.unit === 'stars' && value > 5)
    throw new LaneError('not-valid', 'A rating is at most 5.', [{ where: 'value', what: 'is above 5' }]);
  return host.transact((tx) => {
    const thing = goalId(goal);
    const before = readGoal(tx.db, thing);
    if (value === null && before === null) throw new LaneError('not-found', 'There is no such goal any more.');
    if (value === null) FIGURE_GOALS.remove(tx.db, thing);
    else FIGURE_GOALS.write(tx.db, thing, `${whose}: ${measure.name}`, { ...goal, value });
    recordChange(tx, actor, 'figure-goal', thing, before, readGoal(tx.db, thing), {
      label: `${whose}: ${measure.name}`,
    });
    return { id: thing };
  });
}

/** A goal as a chart shows it. */
export type ShownGoal = Pick<FigureGoal, 'measure' | 'bound' | 'value'> & {
  /** Whether it is their own, not their team's. */
  readonly own: boolean;
};

/** What somebody or a team is to reach, and whether the actor may change it. A person's goals are their own; else their team's. */
export function goalsOf(
  host: Pick<Host, 'db'>,
  actor: Actor,
  kind: string,
  of: string,
): { readonly goals: readonly ShownGoal[]; readonly maySet: boolean } {
  if (kind !== 'people' && kind !== 'teams') return { goals: [], maySet: false };
  const all = FIGURE_GOALS.all(host.db);
  const own = (k: FigureGoal['kind'], thing: string) => all.filter((goal) => goal.kind === k && goal.of === thing);
  const person = kind === 'people' ? readPeople(host.db).find((p) => p.id === of) : undefined;
  const mine = own(kind, of);
  const teams = person ? own('teams', person.teamId).filter((g) => !mine.some((m) => m.measure === g.measure)) : [];
  return {
    goals: [...mine, ...teams].map((goal) => ({
      measure: goal.measure,
      bound: goal.bound,
      value: goal.value,
      own: goal.kind === kind,
    })),
    maySet:
      holds(actor, 'people.coach') &&
      (kind === 'teams'
        ? actor.teams === 'all' || actor.teams.includes(of)
        : person !== undefined && person.id !== actor.personId && sees(actor, person)),
  };
}
