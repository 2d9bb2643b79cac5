import { object } from 'yup';
import { checkShared } from '../../core/bots/checks';
import type { BotFault } from '../../core/bots/faults';
import type { SharedScene } from '../../core/bots/model';
import { readBots, SHARED_SCENES } from '../../data/bots';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { exactly } from '../ground/schemas';
import { recordSitting } from '../ground/sitting';
import { parse } from '../ground/validate';
import { sharedSchema } from './botschema';
import { type BotPartsDeps, head, mayChange, type Named, save, usersOf } from './keepparts';

const sceneSchema = exactly(object({ ...head, ...sharedSchema }));

export type SharedView = {
  readonly scenes: readonly (SharedScene & Named & { readonly faults: readonly BotFault[] })[];
  readonly languages: readonly string[];
  readonly mayChange: boolean;
};

/** The languages in which bots play a scene; the workspace's first where none does. */
function spokenIn(deps: BotPartsDeps, sceneId: string): readonly string[] {
  const users = usersOf(deps, 'shared', sceneId);
  const using = readBots(deps.host.db).filter((b) => users.some((u) => u.startsWith(b.name)));
  return using.length > 0
    ? [...new Set(using.flatMap((b) => b.draft.languages))]
    : (readWorkspace(deps.host.db)?.languages ?? ['en']).slice(0, 1);
}

export function viewShared(deps: BotPartsDeps, actor: Actor): SharedView {
  mustHold(actor, 'settings.view');
  const world = deps.worlds.worldOf(null);
  return {
    languages: readWorkspace(deps.host.db)?.languages ?? ['en'],
    mayChange: mayChange(actor),
    scenes: SHARED_SCENES.all(deps.host.db).map(({ place: _p, ...s }) => ({
      ...s,
      usedBy: usersOf(deps, 'shared', s.id),
      faults: checkShared(s, world, spokenIn(deps, s.id)),
    })),
  };
}

/** Keeps a scene as it is written; bots use it from when they are published next. */
export function saveShared(
  deps: BotPartsDeps,
  actor: Actor,
  input: unknown,
): { id: string; revision: number; faults: readonly BotFault[] } {
  mustHoldEverywhere(actor, 'bots.change');
  const { id: thingId, revision, name, steps, inputs } = parse(sceneSchema, input);
  const body = { steps, inputs };
  const done = save(
    deps,
    actor,
    'shared-scene',
    SHARED_SCENES,
    { id: thingId, revision, name },
    body,
    undefined,
    (...change) => recordSitting(...change),
  );
  const scene = { id: done.id, name, ...body };
  return { ...done, faults: checkShared(scene, deps.worlds.worldOf(null), spokenIn(deps, done.id)) };
}
