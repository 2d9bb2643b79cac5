import { array, object, string } from 'yup';
import { type CoachingRules, DRAW_RULES } from '../../core/people/coaching';
import { dropCoachingRules, keptCoachingRules, readCoachingRules, writeCoachingRules } from '../../data/coaching';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { recordChange, sameRevision, type Undoable } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { differ, exactly, requiredText, text, whole } from '../ground/schemas';
import { parse } from '../ground/validate';

const many = (label: string) => whole(0, 20, label);
const rulesSchema = exactly(
  object({
    revision: whole(0, 1e9, 'The revision'),
    points: array(
      exactly(
        object({
          /** Null for a new one. */
          id: string().max(80).nullable().defined('The id is missing'),
          name: requiredText(40, 'A point’s name'),
          words: text(300, 'What a point asks').defined(),
        }),
      ),
    )
      .min(1, 'There must be at least one point')
      .max(20, 'At most 20 points')
      .test('names', 'Two points have the same name', (points) => differ(points, 'name'))
      .required('The points are missing'),
    byChance: many('Drawn by chance'),
    byRule: exactly(object(Object.fromEntries(DRAW_RULES.map((rule) => [rule, many('Drawn by a rule')])))),
  }),
);

const bareOf = (rules: CoachingRules | undefined): CoachingRules | null =>
  rules ? { points: rules.points, byChance: rules.byChance, byRule: rules.byRule } : null;
const ONE = 'coaching';

export const undoableCoaching: Readonly<Record<string, Undoable>> = {
  coaching: {
    name: 'points of ratings',
    path: () => '/review/coaching',
    read: (db) => bareOf(keptCoachingRules(db)),
    restore: (tx, actor, _id, value) => {
      mustHoldEverywhere(actor, 'people.coach');
      if (value === null) dropCoachingRules(tx.db);
      else writeCoachingRules(tx.db, value as CoachingRules);
    },
  },
};

/** Words the points by which conversations are rated, and says how many contacts are drawn for it. */
export function saveCoachingRules(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'people.coach');
  const { revision, points, byChance, byRule } = parse(rulesSchema, input);
  return host.transact((tx: Tx) => {
    const [before, keptBefore] = [readCoachingRules(tx.db), keptCoachingRules(tx.db)];
    sameRevision(before, revision, 'What is rated');
    const known = new Set(before.points.map((point) => point.id));
    const after: CoachingRules = {
      points: points.map(({ id, name, words }) => ({
        id: id !== null && known.has(id) ? id : tx.ids('point'),
        name,
        words,
      })),
      byChance,
      byRule: byRule as CoachingRules['byRule'],
    };
    writeCoachingRules(tx.db, after);
    recordChange(tx, actor, 'coaching', ONE, bareOf(keptBefore), after, { label: 'what is rated' });
    return { id: ONE };
  });
}
