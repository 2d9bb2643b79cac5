import type { Channel } from '../channels';
import { askedBy, groupsOf } from './able';
import { addedBy, loweredBy } from './clock';
import { channelMask, rowKey, settle, type Floor, type FloorPerson } from './floor';
import { mergeNeeds, needsAfter, unmetNeed, type Need } from './needs';
import type { QueueSettings } from './queue';

/**
 * From this second of the clock on (until the next): who is asked, who of them knows enough, and who of those could
 * take it.
 */
export type ClockCount = {
  readonly atSeconds: number;
  readonly asked: number;
  readonly skilled: number;
  /** Skilled and on duty. */ readonly onDuty: number;
  /** With room right now. */ readonly able: number;
  /** Skilled and planned to be on duty in the busiest hour. */ readonly busiest: number;
};

/**
 * How many could take a contact of a queue as its clock goes on, counted with settings not yet kept: at the start, at
 * every stage, and whenever somebody's delay passes. `busy` are the people planned for the busiest hour.
 */
export function clockCounts(
  floor: Pick<Floor, 'people' | 'groups'>,
  queue: Pick<QueueSettings, 'id' | 'needs' | 'clocks'>,
  channel: Channel,
  handOver: readonly Need[],
  busy: ReadonlySet<string>,
  now: number,
): ClockCount[] {
  const stages = queue.clocks[channel] ?? [];
  const merged = mergeNeeds(queue.needs, handOver).needs;
  const key = rowKey(queue.id, channel);
  const everAdded = groupsOf(floor, addedBy(stages, stages.length, 'add-group'));
  // Of all people only those who are ever asked are looked at, and what they hold only where they are on duty.
  const asked = new Set<FloorPerson>();
  const delays = new Set<number>();
  for (const person of floor.people.values()) {
    const row = person.rows.get(key);
    if (row) delays.add(row.delaySeconds);
    if ((row || everAdded.some((g) => g.members.has(person.id))) && person.load[channel].most > 0) asked.add(person);
  }
  const moments = [...new Set([0, ...stages.map((s) => s.atSeconds), ...delays])].sort((a, b) => a - b);
  const fits = new Map<FloorPerson, boolean>();
  const fitsNow = (person: FloorPerson): boolean => {
    let fit = fits.get(person);
    if (fit === undefined) fits.set(person, (fit = (settle(person, now) & channelMask(channel)) === 0));
    return fit;
  };
  return moments.map((atSeconds) => {
    const count = stages.filter((s) => s.atSeconds <= atSeconds).length;
    const groups = groupsOf(floor, addedBy(stages, count, 'add-group'));
    const needs = needsAfter(merged, loweredBy(stages, count));
    const counts = { atSeconds, asked: 0, skilled: 0, onDuty: 0, able: 0, busiest: 0 };
    for (const person of asked) {
      const how = askedBy(person, queue.id, channel, groups, atSeconds * 1000);
      if ('why' in how) continue;
      counts.asked++;
      if (unmetNeed(needs, person.levels)) continue;
      counts.skilled++;
      if (busy.has(person.id)) counts.busiest++;
      if (person.duty !== 'ready') continue;
      counts.onDuty++;
      if (fitsNow(person) && (how.group === null || how.group.reached.length === 0)) counts.able++;
    }
    return counts;
  });
}
