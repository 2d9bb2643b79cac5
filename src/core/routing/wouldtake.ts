import type { Channel } from '../channels';
import type { DutyProfile } from '../people/duty';
import type { LoadRules } from '../people/load';
import { unable, type Unable } from './able';
import { floorPerson, type WaitingVisit } from './floor';
import { personPrefers } from './order';
import type { QueueSettings } from './queue';
import { newVisit } from './visit';

/** So many contacts of a queue and channel, waiting this long. */
export type SituationLine = {
  readonly queueId: string;
  readonly channel: Channel;
  readonly count: number;
  readonly waitedSeconds: number;
};
export type Taken = {
  readonly queueId: string;
  readonly channel: Channel;
  readonly waitedSeconds: number;
  readonly cost: number;
};
export type LeftWaiting = SituationLine & { readonly why: Unable['why'] };

/**
 * What one person with nothing open would take of a situation, in order, and why the rest is left: the router's own
 * answers, asked again after each contact until nothing more fits. Without `levels` skills are taken as met.
 */
export function wouldTake(
  profile: Pick<DutyProfile, 'rows'> & { readonly load: LoadRules },
  queues: ReadonlyMap<string, QueueSettings>,
  situation: readonly SituationLine[],
  levels: ReadonlyMap<string, number> | null,
): { taken: Taken[]; left: LeftWaiting[] } {
  const person = floorPerson(
    { id: 'somebody', profile, load: profile.load, levels: levels ?? new Map(), limited: null },
    0,
    { duty: 'ready', reachable: true, lastContactAt: null, today: 0 },
  );
  const floor = { groups: new Map() };
  const now = 0;
  const waiting: WaitingVisit[] = situation.flatMap((line, l) => {
    const queue = queues.get(line.queueId);
    if (!queue) return [];
    const at = now - line.waitedSeconds * 1000;
    return Array.from(
      { length: line.count },
      (_, i): WaitingVisit =>
        newVisit(
          levels ? queue : { ...queue, needs: [] },
          0,
          l * 1000 + i,
          {
            id: `${l}.${i}`,
            contactId: `${l}.${i}`,
            queueId: queue.id,
            channel: line.channel,
            placedAt: at,
            handOver: [],
            priority: 0,
            familiarId: null,
            kind: 'live',
            because: '',
            passed: [],
          },
          at,
        ).visit,
    );
  });
  const taken: Taken[] = [];
  for (;;) {
    const next = waiting
      .filter((v) => unable(floor, person, v, now) === null)
      .sort((a, b) => personPrefers(person, a, b))[0];
    if (!next) break;
    waiting.splice(waiting.indexOf(next), 1);
    const { cost } = person.load[next.channel];
    person.open.set(next.id, {
      channel: next.channel,
      kind: 'live',
      cost,
      visitId: next.id,
      queueId: next.queue.id,
      groupId: null,
      acceptedAt: now,
    });
    taken.push({ queueId: next.queue.id, channel: next.channel, waitedSeconds: -next.placedAt / 1000, cost });
  }
  const left = new Map<string, LeftWaiting>();
  for (const visit of waiting) {
    const line = visit.id.split('.')[0] ?? '';
    const why = unable(floor, person, visit, now)?.why ?? 'load';
    left.set(line, {
      queueId: visit.queue.id,
      channel: visit.channel,
      count: (left.get(line)?.count ?? 0) + 1,
      waitedSeconds: -visit.placedAt / 1000,
      why,
    });
  }
  return { taken, left: [...left.values()] };
}
