import { fallsThrough, withCues } from './lineways';
import {
  allSteps,
  type BotScript,
  type Choice,
  type Cue,
  NO_WORDING,
  type Say,
  type Scene,
  type Step,
  type Verb,
} from './model';
import { withReferences } from './references';

/** Edits of a script: each gives a new script and leaves the old as it was, so that undo is keeping the old one. */

const mapScenes = (script: BotScript, change: (scene: Scene) => Scene): BotScript => ({
  ...script,
  scenes: script.scenes.map(change),
});

export const replaceStep = (script: BotScript, step: Step): BotScript =>
  mapScenes(script, (scene) => ({ ...scene, steps: scene.steps.map((s) => (s.id === step.id ? step : s)) }));
export const removeSteps = (script: BotScript, lineIds: readonly string[]): BotScript =>
  mapScenes(script, (scene) => ({ ...scene, steps: scene.steps.filter((s) => !lineIds.includes(s.id)) }));
export const addSteps = (
  script: BotScript,
  sceneId: string,
  steps: readonly Step[],
  at = Number.MAX_SAFE_INTEGER,
): BotScript =>
  mapScenes(script, (scene) =>
    scene.id === sceneId
      ? { ...scene, steps: scene.steps.toSpliced(Math.min(at, scene.steps.length), 0, ...steps) }
      : scene,
  );

/** Moves lines of one scene one place up or down together; at the edge nothing changes. */
export const moveSteps = (script: BotScript, lineIds: readonly string[], by: -1 | 1): BotScript =>
  mapScenes(script, (scene) => {
    const places = scene.steps.flatMap((s, i) => (lineIds.includes(s.id) ? [i] : []));
    const [first, last] = [places[0], places.at(-1)];
    if (first === undefined || last === undefined || first + by < 0 || last + by >= scene.steps.length) return scene;
    const moved = scene.steps.filter((s) => lineIds.includes(s.id));
    const rest = scene.steps.filter((s) => !lineIds.includes(s.id));
    return { ...scene, steps: rest.toSpliced(Math.min(Math.max(0, first + by), rest.length), 0, ...moved) };
  });

/** Puts a copy of each line below the last of them, with ids of its own; ways among the copies stay among them. */
export function duplicateSteps(
  script: BotScript,
  lineIds: readonly string[],
  newId: () => string,
): { script: BotScript; copies: Step[] } {
  const originals = allSteps(script).filter((s) => lineIds.includes(s.id));
  const ids = new Map(originals.map((s) => [s.id, newId()]));
  const copies = originals.map((s) => ({
    ...withReferences(s, (r) => (r.kind === 'line' ? (ids.get(r.id) ?? r.id) : r.id)),
    id: ids.get(s.id) ?? s.id,
  }));
  const last = originals.at(-1)?.id;
  const scene = script.scenes.find((s) => s.steps.some((step) => step.id === last));
  const at = scene?.steps.findIndex((s) => s.id === last) ?? -1;
  return { copies, script: scene ? addSteps(script, scene.id, copies, at + 1) : script };
}

export const addScene = (script: BotScript, id: string, name: string, at = Number.MAX_SAFE_INTEGER): BotScript => ({
  ...script,
  scenes: script.scenes.toSpliced(Math.min(at, script.scenes.length), 0, { id, name, steps: [] }),
});
export const renameScene = (script: BotScript, sceneId: string, name: string): BotScript =>
  mapScenes(script, (scene) => (scene.id === sceneId ? { ...scene, name } : scene));
export const removeScene = (script: BotScript, sceneId: string): BotScript => ({
  ...script,
  scenes: script.scenes.filter((scene) => scene.id !== sceneId),
  afterSceneId: script.afterSceneId === sceneId ? null : script.afterSceneId,
});
export function moveScene(script: BotScript, sceneId: string, by: -1 | 1): BotScript {
  const at = script.scenes.findIndex((s) => s.id === sceneId);
  const scene = script.scenes[at];
  return !scene || at + by < 0 || at + by >= script.scenes.length
    ? script
    : { ...script, scenes: script.scenes.toSpliced(at, 1).toSpliced(at + by, 0, scene) };
}

/** A Say without its picture. */
export const withoutImage = ({ image: _image, ...step }: Say): Say => step;

/** Points one way of a line somewhere else. */
export const relink = (script: BotScript, lineId: string, way: string, to: Cue): BotScript =>
  mapScenes(script, (scene) => ({
    ...scene,
    steps: scene.steps.map((s) => (s.id === lineId ? withCues(s, (cue, key) => (key === way ? to : cue)) : s)),
  }));

const NEXT: Cue = { to: 'next' };
export const newChoice = (id: string, key: string): Choice => ({ id, key, label: {}, synonyms: {}, cue: NEXT });

/** What a fresh line can refer to at first. */
export type Defaults = {
  readonly queueId: string;
  readonly connectorId: string;
  readonly doId: string;
  readonly sharedId: string;
};

/** A fresh line of a verb, with nothing worded yet. */
export function newStep(verb: Verb, id: string, { queueId, connectorId, doId, sharedId }: Defaults): Step {
  const wording = NO_WORDING;
  switch (verb) {
    case 'say':
      return { id, verb, wording, mayInterrupt: true, link: null };
    case 'listen':
      return {
        id,
        verb,
        wording,
        hears: { kind: 'choices', choices: [newChoice(`${id}-1`, '1')] },
        into: null,
        notices: [],
        tries: 2,
        silenceSeconds: 8,
        again: wording,
        silent: wording,
        otherwise: NEXT,
      };
    case 'branch':
      return { id, verb, ways: [{ when: { '==': [{ var: 'channel' }, 'voice'] }, cue: NEXT }], otherwise: NEXT };
    case 'look-up':
      return {
        id,
        verb,
        source: { from: 'connector', connectorId },
        inputs: [],
        outputs: [],
        tries: 1,
        slowAfterSeconds: 1,
        slow: wording,
        found: NEXT,
        notFound: NEXT,
        failed: NEXT,
      };
    case 'do':
      return {
        id,
        verb,
        connectorId: doId,
        inputs: [],
        outputs: [],
        slowAfterSeconds: 1,
        slow: wording,
        done: NEXT,
        refused: NEXT,
        unsure: NEXT,
      };
    case 'count':
      return {
        id,
        verb,
        queue: { by: 'name', queueId },
        figure: 'free',
        into: { name: 'free people', scope: 'conversation' },
      };
    case 'remember':
      return { id, verb, into: { name: 'note', scope: 'conversation' }, value: '' };
    case 'identify':
      return { id, verb, by: null, known: NEXT, unknown: NEXT };
    case 'hours':
      return { id, verb, hoursId: null, open: NEXT, closed: NEXT };
    case 'text-them':
      return { id, verb, when: 'now', to: null, wording };
    case 'hand-over':
      return { id, verb, target: { to: 'queue', queueId }, needs: [], priority: 0, fields: [], wording };
    case 'call-back':
      return {
        id,
        verb,
        queueId,
        number: null,
        soon: true,
        windows: 3,
        attempts: null,
        fields: [],
        sentences: {},
        otherwise: NEXT,
      };
    case 'take-message':
      return { id, verb, wording, queueId };
    case 'articles':
      return { id, verb, wording, tries: 2, silenceSeconds: 8, done: NEXT, nothing: NEXT };
    case 'play':
      return { id, verb, sharedId, inputs: [] };
    case 'go-to':
      return { id, verb, cue: NEXT };
    case 'end':
      return { id, verb, wording };
  }
}

/**
 * How a cue reads: `next line`, `3.7`, `4 Advice`, `Call me back and back`, `end`; null when what it points at is
 * gone.
 */
export function cueWords(
  script: Pick<BotScript, 'scenes'>,
  cue: Cue,
  sharedName: (id: string) => string | null = () => null,
): string | null {
  if (cue.to === 'next') return 'next line';
  if (cue.to === 'end') return 'end';
  if (cue.to === 'shared') {
    const name = sharedName(cue.sharedId);
    return name === null ? null : `${name} and back`;
  }
  for (const [s, scene] of script.scenes.entries()) {
    if (cue.to === 'scene' && scene.id === cue.sceneId) return `${s + 1} ${scene.name}`;
    const line = cue.to === 'line' ? scene.steps.findIndex((step) => step.id === cue.lineId) : -1;
    if (line >= 0) return `${s + 1}.${line + 1}`;
  }
  return null;
}

/** The lines that lead to a line: by a cue, or by falling through from the line above. */
export function usersOf(script: BotScript, lineId: string): string[] {
  const scene = script.scenes.find((s) => s.steps.some((step) => step.id === lineId));
  const at = scene?.steps.findIndex((s) => s.id === lineId) ?? -1;
  const above = scene?.steps[at - 1];
  const found = allSteps(script).filter((s) => {
    let leads = false;
    withCues(s, (cue) => {
      leads ||=
        (cue.to === 'line' && cue.lineId === lineId) ||
        (cue.to === 'scene' && at === 0 && cue.sceneId === scene?.id) ||
        (cue.to === 'next' && s.id === above?.id);
      return cue;
    });
    return leads || (s.id === above?.id && fallsThrough(s));
  });
  return found.map((s) => s.id);
}
