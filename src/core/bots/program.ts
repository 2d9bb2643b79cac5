import { waysOf } from './lineways';
import { allSteps, type BotScript, type SharedScene, type Step } from './model';

/** What customers' words may mean by the phrasebook that a version was published with. */
export type Meaning = {
  /** The intents it may be, likeliest first, each with how likely it is right, from 0 to 1. */
  readonly ranked: readonly { readonly intentId: string; readonly confidence: number }[];
  /** Whether to go by the first, to ask which of the first two, or to leave it: it is about none of them. */
  readonly verdict: 'act' | 'ask' | 'none';
};

/** Words whose meaning is asked: by which version of the phrasebook, and in which language they were said. */
export type Heard = { readonly book: number; readonly text: string; readonly language: string };

/** What finds things in customers' words. What they mean is asked of the driver: it takes longer. */
export type Recogniser = {
  /** The phrasebook's version. */
  readonly book: number;
  /** The id of the thing of a list that a text names, or null. */
  readonly thing: (listId: string, text: string) => string | null;
  /** A thing's name in a language. */
  readonly thingName: (listId: string, thingId: string, language: string) => string;
};

/** A line with where it stands: its scene, and the line below (null at the scene's end). */
export type Place = { readonly step: Step; readonly sceneId: string; readonly below: string | null };
/** The lines of the bot itself (null) or of a shared scene. */
export type Space = {
  readonly places: ReadonlyMap<string, Place>;
  readonly first: string | null;
  readonly firstOf: ReadonlyMap<string, string>;
};

/** A script with everything it was published with, made ready to run. */
export type Program = {
  readonly script: BotScript;
  readonly shared: ReadonlyMap<string, SharedScene>;
  readonly recogniser: Recogniser | null;
  /** The workspace's country (ISO 3166), by which telephone numbers are read; empty for none. */
  readonly country: string;
  readonly spaces: ReadonlyMap<string | null, Space>;
};

function spaceOf(scenes: BotScript['scenes']): Space {
  const places = new Map<string, Place>();
  const firstOf = new Map<string, string>();
  for (const scene of scenes) {
    scene.steps.forEach((step, i) =>
      places.set(step.id, { step, sceneId: scene.id, below: scene.steps[i + 1]?.id ?? null }),
    );
    if (scene.steps[0]) firstOf.set(scene.id, scene.steps[0].id);
  }
  return { places, firstOf, first: allSteps({ scenes })[0]?.id ?? null };
}

/** Indexes a script and its shared scenes, so that a step costs the same however long they are. */
export function prepare(
  script: BotScript,
  shared: readonly SharedScene[] = [],
  recogniser: Recogniser | null = null,
  country = '',
): Program {
  const spaces = new Map<string | null, Space>([[null, spaceOf(script.scenes)]]);
  for (const scene of shared) spaces.set(scene.id, spaceOf([scene]));
  return { script, shared: new Map(shared.map((s) => [s.id, s])), recogniser, country, spaces };
}

/** Shared scenes that a script uses, directly or through others. */
export function sharedUsed(script: Pick<BotScript, 'scenes'>, all: ReadonlyMap<string, SharedScene>): SharedScene[] {
  const used = new Map<string, SharedScene>();
  const look = (steps: readonly Step[]): void => {
    for (const id of steps.flatMap(sharedIn)) {
      const scene = all.get(id);
      if (!scene || used.has(id)) continue;
      used.set(id, scene);
      look(scene.steps);
    }
  };
  look(allSteps(script));
  return [...used.values()];
}

const sharedIn = (step: Step): string[] => {
  const cues = waysOf(step).flatMap(({ cue }) => (cue.to === 'shared' ? [cue.sharedId] : []));
  return step.verb === 'play' ? [step.sharedId, ...cues] : cues;
};
