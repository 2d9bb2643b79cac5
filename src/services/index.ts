import { LaneError } from '../core/errors';
import { lookAhead } from './drafts/ahead';
import { type Actor, actorOf } from './ground/actor';
import type { Host } from './ground/host';
import { createParts, type ServiceOptions } from './parts';
import { LOOKING_ACTS, SETTINGS_ACTS } from './settingsacts';
import { VIEWS } from './views';

/** Everything the product does, over one host. */
export function createServices(host: Host, options: ServiceOptions = {}) {
  const parts = createParts(host, {
    ahead: (actor, tried) => Promise.resolve(lookAhead(host.db, host.times, actor, tried)),
    ...options,
  });
  const named = <T>(map: Readonly<Record<string, T>>, name: string, what: string): T => {
    const found = Object.hasOwn(map, name) ? map[name] : undefined;
    if (!found) throw new LaneError('not-found', `There is no ${what} called ${name}.`);
    return found;
  };
  return {
    ...parts,
    /** Carries out a settings act by its name; one that changes settings waits for a large press under way. */
    act: (name: string, actor: Actor, input: unknown): unknown => {
      const act = named(SETTINGS_ACTS, name, 'act');
      if (!parts.presses.busy() || LOOKING_ACTS.has(name)) return act(parts, actor, input);
      return parts.presses.settled().then(() => {
        // The press may have changed what the actor may do.
        const still = actorOf(host.db, actor.personId);
        if (!still) throw new LaneError('sign-in-needed', 'You are not signed in any more.');
        return act(parts, still, input);
      });
    },
    /** Reads a view by its name; an aborted signal stops one that takes long. */
    read: (name: string, actor: Actor, asked: Record<string, string>, signal?: AbortSignal): unknown =>
      named(VIEWS, name, 'view')(parts, actor, asked, signal),
  };
}
export type Services = ReturnType<typeof createServices>;
