import type { BotScript, Choice, Cue, Scene, Step, Verb } from './model';

/** Edits of a script: each gives a new script and leaves the old as it was, so that undo is keeping the old one. */

const mapScenes = (script: BotScript, change: (scene: Scene) => Scene): BotScript => ({ ...script, scenes: script.scenes.map(change) });

export const replaceStep = (script: BotScript, step: Step): BotScript => mapScenes(script, (scene) => ({ ...scene, steps: scene.steps.map((s) => (s.id === step.id ? step : s)) }));
export const removeStep = (script: BotScript, lineId: string): BotScript => mapScenes(script, (scene) => ({ ...scene, steps: scene.steps.filter((s) => s.id !== lineId) }));
export const addStep = (script: BotScript, sceneId: string, step: Step, at = Number.MAX_SAFE_INTEGER): BotScript => mapScenes(script, (scene) => (scene.id === sceneId ? { ...scene, steps: scene.steps.toSpliced(Math.min(at, scene.steps.length), 0, step) } : scene));

/** Moves a line one place up or down within its scene; at the edge nothing changes. */
export const moveStep = (script: BotScript, lineId: string, by: -1 | 1): BotScript => mapScenes(script, (scene) => {
  const from = scene.steps.findIndex((s) => s.id === lineId);
  const step = scene.steps[from];
  if (!step || from + by < 0 || from + by >= scene.steps.length) return scene;
  return { ...scene, steps: scene.steps.toSpliced(from, 1).toSpliced(from + by, 0, step) };
});

export const addScene = (script: BotScript, id: string, name: string): BotScript => ({ ...script, scenes: [...script.scenes, { id, name, steps: [] }] });
export const renameScene = (script: BotScript, sceneId: string, name: string): BotScript => mapScenes(script, (scene) => (scene.id === sceneId ? { ...scene, name } : scene));
export const removeScene = (script: BotScript, sceneId: string): BotScript => ({ ...script, scenes: script.scenes.filter((scene) => scene.id !== sceneId) });

const NEXT: Cue = { to: 'next' };
export const newChoice = (id: string, key: string): Choice => ({ id, key, label: {}, synonyms: {}, cue: NEXT });

/** A fresh line of a verb, with nothing worded yet. */
export function newStep(verb: Verb, id: string, queueId: string): Step {
  switch (verb) {
    case 'say': return { id, verb, wording: {} };
    case 'listen': return { id, verb, wording: {}, hears: { kind: 'choices', choices: [newChoice(`${id}-1`, '1')] }, remember: '', tries: 2, again: {}, otherwise: NEXT };
    case 'branch': return { id, verb, ways: [{ when: { '==': [{ var: 'channel' }, 'voice'] }, cue: NEXT }], otherwise: NEXT };
    case 'hand-over': return { id, verb, queueId, needs: [], priority: 0, wording: {} };
    case 'end': return { id, verb, wording: {} };
  }
}

/** How a cue reads: `next line`, `3.7`, `4 New hire`, `end`; null when what it points at is gone. */
export function cueWords(script: BotScript, cue: Cue): string | null {
  if (cue.to === 'next') return 'next line';
  if (cue.to === 'end') return 'end';
  for (const [s, scene] of script.scenes.entries()) {
    if (cue.to === 'scene' && scene.id === cue.sceneId) return `${s + 1} ${scene.name}`;
    const line = cue.to === 'line' ? scene.steps.findIndex((step) => step.id === cue.lineId) : -1;
    if (line >= 0) return `${s + 1}.${line + 1}`;
  }
  return null;
}
