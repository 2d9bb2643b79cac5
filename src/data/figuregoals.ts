import { documents } from './documents';

/** What a person or team is to reach in a figure: at least or at most so much, in the figure's own unit. */
export type FigureGoal = {
  readonly kind: 'people' | 'teams';
  readonly of: string;
  readonly measure: string;
  readonly bound: 'least' | 'most';
  readonly value: number;
};
export const FIGURE_GOALS = documents<FigureGoal>('figure-goal');
