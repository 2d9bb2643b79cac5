import type { FactDay } from './columns';
import { countPart, noGoal, type PartOptions, SUMMABLE } from './countingrows';
import { type Part, PARTS } from './factparts';
import { groupName } from './grouping';
import type { Narrowing } from './narrowing';
import { addRolled, rolledFor, talliedIn } from './rollups';
import type { Tally } from './tally';

/** Groups with what is counted of each, by their values joined by line breaks. */
export type Tallies = ReadonlyMap<string, Tally>;

export type TallyOptions = PartOptions & { readonly parts?: readonly Part[] };

/**
 * Counts the rows of days that are asked about, told apart by keys. Without `by` there is one group, named ''. What is
 * narrowed, or told apart, by one key is added up from the days’ roll-ups; for all else time is linear in the rows. Days
 * are read one after the other.
 */
export function tally(
  days: Iterable<FactDay>,
  asked: Narrowing,
  { by = [], parts = PARTS, lengths = SUMMABLE, goals = noGoal }: TallyOptions = {},
): Tallies {
  const tallies = new Map<string, Tally>();
  const rolled = rolledFor(asked, by);
  for (const day of days)
    if (rolled && (asked.until ?? Infinity) >= day.to)
      addRolled(day, rolled, { by, parts, lengths, goals }, (name) => talliedIn(tallies, name));
    else
      for (const part of parts)
        countPart(part, day.part(part), asked, (group) => talliedIn(tallies, groupName(group)), {
          by,
          lengths,
          goals,
        });
  return tallies;
}
