import type { RouterEvent } from '../../core/routing/acts';
import type { Host } from '../ground/host';
import { groupFacts, partnerFacts, queueFacts } from './floorsettings';
import type { RouterHere } from './routerhere';

/**
 * Queues, hours, groups or partners changed: they count from the next decision on, queues from the next visit on.
 */
export function refreshQueues(host: Host, here: RouterHere, advance: (event: RouterEvent) => unknown): void {
  advance({ type: 'queues', queues: queueFacts(host, here.router.floor.queues) });
  refreshGroups(host, here, advance);
  advance({ type: 'partners', partners: partnerFacts(host) });
}

/** Who is in which group is read anew; the router hears of it only where something changed. */
export function refreshGroups(host: Host, here: RouterHere, advance: (event: RouterEvent) => unknown): void {
  const { floor } = here.router;
  const groups = groupFacts(host, floor.people);
  const now = groups.map((g) => JSON.stringify([g.id, g.zone, g.hours, g.limits, g.instead, [...g.members]]));
  const before = [...floor.groups.values()].map((g) =>
    JSON.stringify([g.id, g.zone, g.hours, g.limits, g.instead, [...g.members]]),
  );
  if (now.join() !== before.join()) advance({ type: 'groups', groups });
}
