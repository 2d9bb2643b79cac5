import { sameValue } from '../../core/differences';
import type { RouterEvent } from '../../core/routing/acts';
import type { GroupFacts } from '../../core/routing/floor';
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
  const same = groups.length === floor.groups.size && groups.every((g) => sameGroup(g, floor.groups.get(g.id)));
  if (!same) advance({ type: 'groups', groups });
}

/** Whether two groups come to the same, in whatever order their members stand. */
function sameGroup(a: GroupFacts, b: GroupFacts | undefined): boolean {
  if (!b || a.members.size !== b.members.size) return false;
  for (const [id, weight] of a.members) if (b.members.get(id) !== weight) return false;
  const rest = ({ id, zone, hours, limits, instead }: GroupFacts) => ({ id, zone, hours, limits, instead });
  return sameValue(rest(a), rest(b));
}
