import type { Channel } from '../channels';
import type { DutyProfile } from '../people/duty';
import type { LoadRules } from '../people/load';
import { unable, type Unable } from './able';
import type { FloorPerson, WaitingVisit } from './floor';
import { personPrefers } from './order';
import type { QueueSettings } from './queue';

/** So many contacts of a queue and channel, waiting this long. */
export type SituationLine = { readonly queueId: string; readonly channel: Channel; readonly count: number; readonly waitedSeconds: number };
export type Taken = { readonly queueId: string; readonly channel: Channel; readonly waitedSeconds: number; readonly cost: number };
export type LeftWaiting = SituationLine & { readonly why: Unable['why'] };

/**
 * What one person with nothing open would take of a situation, in order, and why the rest is left: the router's own
 * answers, asked again after each contact until nothing more fits. Without `levels` skills are taken as met.
 */
export function wouldTake(
  profile: Pick<DutyProfile, 'rows'> & { readonly load: LoadRules }, queues: ReadonlyMap<string, QueueSettings>, situation: readonly SituationLine[], levels: ReadonlyMap<string, number> | null,
): { taken: Taken[]; left: LeftWaiting[] } {
  const person: FloorPerson = { id: 'somebody', duty: 'ready', reachable: true, profile, load: profile.load, levels: levels ?? new Map(), open: new Map(), pending: null, lastContactAt: null };
  const now = 0;
  const waiting: WaitingVisit[] = situation.flatMap((line, l) => {
    const queue = queues.get(line.queueId);
    if (!queue) return [];
    const at = now - line.waitedSeconds * 1000;
    return Array.from({ length: line.count }, (_, i): WaitingVisit => ({
      id: `${l}.${i}`, contactId: `${l}.${i}`, channel: line.channel, queue, settingsVersion: 0, needs: levels ? queue.needs : [], priority: 0, placedAt: at, enteredAt: at, entry: l * 1000 + i, refused: new Map(), offeredTo: null,
    }));
  });
  const taken: Taken[] = [];
  for (;;) {
    const next = waiting.filter((v) => unable(person, v, now) === null).sort((a, b) => personPrefers(person, a, b))[0];
    if (!next) break;
    waiting.splice(waiting.indexOf(next), 1);
    const { cost } = person.load[next.channel];
    person.open.set(next.id, { channel: next.channel, cost });
    taken.push({ queueId: next.queue.id, channel: next.channel, waitedSeconds: -next.placedAt / 1000, cost });
  }
  const left = new Map<string, LeftWaiting>();
  for (const visit of waiting) {
    const line = visit.id.split('.')[0] ?? '';
    const why = unable(person, visit, now)?.why ?? 'load';
    left.set(line, { queueId: visit.queue.id, channel: visit.channel, count: (left.get(line)?.count ?? 0) + 1, waitedSeconds: -visit.placedAt / 1000, why });
  }
  return { taken, left: [...left.values()] };
}
