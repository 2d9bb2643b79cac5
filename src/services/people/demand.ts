import { weekBegins } from '../../core/hours/weekly';
import { HALF_HOUR, peopleNeeded, type Work, workPerSlot } from '../../core/people/coverage';
import { DEFAULT_LOAD } from '../../core/people/load';
import { workedBetween } from '../../data/legs';
import { readWorkspace } from '../../data/workspace';
import type { Host } from '../ground/host';

/** How many people with a skill the busiest hour of the week took, and when that is (day 1 is Monday, local hour). */
export type SkillNeed = { readonly people: number; readonly day: number; readonly hour: number };
type DemandFigures = {
  readonly skills: Readonly<Record<string, SkillNeed>>;
  /** People needed per half-hour of the week, from Monday 00:00, in the busiest week. */
  readonly halfHours: readonly number[];
  readonly weeks: number;
};

const WEEKS = 4;
const WEEK = 7 * 86_400_000;
/** History changes little from one minute to the next. */
const KEEP_MS = 600_000;

export type Demand = ReturnType<typeof createDemand>;

/** What the last four whole or part weeks took of people's time, from the legs themselves. */
export function createDemand(host: Host) {
  let kept: { readonly at: number; readonly figures: DemandFigures } | null = null;

  function count(): DemandFigures {
    const zone = readWorkspace(host.db)?.zone ?? 'UTC';
    const monday = weekBegins(host.times.floor(), zone);
    const halfHours = new Float64Array(336);
    const perSkill = new Map<string, Float64Array>();
    let weeks = 0;
    for (let back = 0; back < WEEKS; back++) {
      const from = monday - back * WEEK;
      const legs = workedBetween(host.db, from, from + WEEK);
      if (legs.length === 0) continue;
      weeks++;
      const week: Work[] = [];
      const skills = new Map<string, Work[]>();
      for (const leg of legs) {
        // The time really worked on it, from its start; a text that waits for its customer takes a share, not all, of
        // a person.
        const work: Work = {
          from: leg.acceptedAt,
          to: leg.acceptedAt + leg.handleSeconds * 1000,
          share: DEFAULT_LOAD[leg.channel].cost / 100,
        };
        week.push(work);
        for (const need of leg.needs) {
          const list = skills.get(need.skillId);
          if (list) list.push(work);
          else skills.set(need.skillId, [work]);
        }
      }
      workPerSlot(week, from, 336, HALF_HOUR).forEach((load, i) => {
        halfHours[i] = Math.max(halfHours[i] ?? 0, load);
      });
      for (const [skillId, work] of skills) {
        const most = perSkill.get(skillId) ?? new Float64Array(168);
        workPerSlot(work, from, 168, 3_600_000).forEach((load, i) => {
          most[i] = Math.max(most[i] ?? 0, load);
        });
        perSkill.set(skillId, most);
      }
    }
    const skills = Object.fromEntries(
      [...perSkill].map(([skillId, hours]): [string, SkillNeed] => {
        const busiest = hours.reduce((best, load, i) => (load > (hours[best] ?? 0) ? i : best), 0);
        return [
          skillId,
          { people: peopleNeeded(hours[busiest] ?? 0), day: Math.floor(busiest / 24) + 1, hour: busiest % 24 },
        ];
      }),
    );
    return { skills, halfHours: [...halfHours].map(peopleNeeded), weeks };
  }
  const figures = (): DemandFigures => {
    const at = host.times.real();
    if (!kept || at - kept.at > KEEP_MS || at < kept.at) kept = { at, figures: count() };
    return kept.figures;
  };
  return { skillNeeds: () => figures().skills, halfHours: () => figures().halfHours, weeks: () => figures().weeks };
}
