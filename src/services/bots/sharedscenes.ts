import { object } from 'yup';
import { checkShared } from '../../core/bots/checks';
import type { BotFault } from '../../core/bots/faults';
import type { SharedScene } from '../../core/bots/model';
import { readBots, SHARED_SCENES } from '../../data/bots';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { exactly } from '../ground/schemas';
import { parse } from '../ground/validate';
import { sharedSchema } from './botschema';
import { type BotPartsDeps, head, mayChange, type Named, save, usersOf } from './keepparts';

const sceneSchema = exactly(object({ ...head, ...sharedSchema }));

export type SharedView = {
  readonly scenes: readonly (SharedScene & Named & { readonly faults: readonly BotFault[] })[];
  readonly languages: readonly string[];
  readonly mayChange: boolean;
};

export function viewShared(deps: BotPartsDeps, actor: Actor): SharedView {
  mustHold(actor, 'settings.view');
  const languages = readWorkspace(deps.host.db)?.languages ?? ['en'];
  const spoken = (sceneId: string): readonly string[] => {
    const using = readBots(deps.host.db).filter((b) =>
      usersOf(deps, 'shared', sceneId).some((u) => u.startsWith(b.name)),
    );
    return using.length > 0 ? [...new Set(using.flatMap((b) => b.draft.languages))] : languages.slice(0, 1);
  };
  const world = deps.worlds.worldOf(null);
  return {
    languages,
    mayChange: mayChange(actor),
    scenes: SHARED_SCENES.all(deps.host.db).map(({ place: _p, ...s }) => ({
      ...s,
      usedBy: usersOf(deps, 'shared', s.id),
      faults: checkShared(s, world, spoken(s.id)),
    })),
  };
}

export function saveShared(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string; revision: number } {
  mustHoldEverywhere(actor, 'bots.change');
  const { id: thingId, revision, name, steps, inputs } = parse(sceneSchema, input);
  return save(deps, actor, 'shared-scene', SHARED_SCENES, { id: thingId, revision, name }, { steps, inputs });
}
