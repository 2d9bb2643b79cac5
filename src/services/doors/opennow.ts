import { type DoorOpening, doorOpening } from '../../core/doors/doorway';
import { openAt, type Opening } from '../../core/hours/weekly';
import type { Door } from '../../data/doors';
import { readAllHours } from '../../data/hours';
import type { Host } from '../ground/host';

/** Whether a door is open now, by its hours or by hand. */
export function doorOpenNow(host: Host, door: Pick<Door, 'hoursId' | 'byHand'>): DoorOpening {
  const at = host.times.floor();
  if (door.byHand === null || door.byHand.until <= at) return { ...openNow(host, door.hoursId), byHand: null };
  const hours = host.remembered('hours', readAllHours).find((h) => h.id === door.hoursId);
  return doorOpening(hours ?? null, door.byHand, at);
}

/** The zone by whose clock named hours go. */
export const zoneOfHours = (host: Host, hoursId: string): string =>
  host.remembered('hours', readAllHours).find((h) => h.id === hoursId)?.zone ?? 'UTC';

/** Whether named hours are open now. An answer is kept for as long as it holds, since every arrival asks. */
export function openNow(host: Host, hoursId: string): Opening {
  const at = host.times.floor();
  const kept = host.remembered('openings', () => new Map<string, { from: number; to: number; opening: Opening }>());
  const known = kept.get(hoursId);
  if (known && known.from <= at && at < known.to) return known.opening;
  const hours = host.remembered('hours', readAllHours).find((h) => h.id === hoursId);
  const opening: Opening = hours ? openAt(hours, at) : { open: false, opensAt: null };
  const changes = opening.open ? opening.until : opening.opensAt;
  kept.set(hoursId, { from: at, to: changes ?? Infinity, opening });
  return opening;
}
