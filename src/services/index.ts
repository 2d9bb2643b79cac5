import { LaneError } from '../core/errors';
import type { Actor } from './ground/actor';
import type { Host } from './ground/host';
import { createParts, type ServiceOptions } from './parts';
import { SETTINGS_ACTS } from './settingsacts';
import { VIEWS } from './views';

/** Everything the product does, over one host. */
export function createServices(host: Host, options: ServiceOptions = {}) {
  const parts = createParts(host, options);
  const named = <T>(map: Readonly<Record<string, T>>, name: string, what: string): T => {
    const found = Object.hasOwn(map, name) ? map[name] : undefined;
    if (!found) throw new LaneError('not-found', `There is no ${what} called ${name}.`);
    return found;
  };
  return {
    ...parts,
    /** Carries out a settings act by its name. */
    act: (name: string, actor: Actor, input: unknown): unknown =>
      named(SETTINGS_ACTS, name, 'act')(parts, actor, input),
    /** Reads a view by its name. */
    read: (name: string, actor: Actor, asked: Record<string, string>): unknown =>
      named(VIEWS, name, 'view')(parts, actor, asked),
  };
}
export type Services = ReturnType<typeof createServices>;
