import type { LaneFigures } from './lanefigures';
import type { Router } from './router';

/**
 * What the router has learned or counted that settings and open contacts do not say: figures of lines (for the
 * expected wait) and shares. A driver keeps it, so that a stop changes nothing. Keys are `queue|channel`, `share
 * <queue>` and `numbers`.
 */
export type Remembered = { readonly key: string; readonly body: string };

/** What changed since this was last asked. */
export function learnedSince(router: Router): Remembered[] {
  const out: Remembered[] = [];
  for (const key of router.learned) {
    const lane = router.lanes.get(key);
    const shares = key.startsWith('share ') ? router.floor.shares.get(key.slice(6)) : undefined;
    if (lane) out.push({ key, body: JSON.stringify(lane) });
    else if (shares) out.push({ key, body: JSON.stringify([...shares]) });
    else if (key === 'numbers')
      out.push({
        key,
        body: JSON.stringify([...router.floor.partners.values()].flatMap((p) => p.numbers.map((n) => [n.id, n.share]))),
      });
  }
  router.learned.clear();
  return out;
}

/** Takes up again what was remembered; call it once people, queues and partner desks are there. */
export function recall(router: Router, remembered: readonly Remembered[]): void {
  for (const { key, body } of remembered) {
    if (key === 'numbers') {
      const shares = new Map(JSON.parse(body) as [string, number][]);
      for (const partner of router.floor.partners.values())
        for (const number of partner.numbers) number.share = shares.get(number.id) ?? number.share;
    } else if (key.startsWith('share '))
      router.floor.shares.set(key.slice(6), new Map(JSON.parse(body) as [string, number][]));
    // How many wait is counted anew as they are put back in line.
    else router.lanes.set(key, { ...(JSON.parse(body) as LaneFigures), waiting: 0, slotsVersion: -1 });
  }
  router.learned.clear();
}
