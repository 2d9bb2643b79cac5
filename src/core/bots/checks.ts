import { languageName, missingLanguages } from '../localised';
import { plainWords } from './heard';
import { cuesOf, lineNumber, wordingsOf, type BotScript, type Step } from './model';

/** A fault in a script. Those that stop contacts bar publishing. */
export type BotFault = { readonly lineId: string | null; readonly weight: 'stops' | 'advice'; readonly sentence: string };

/** What the script refers to outside itself. */
export type CheckWorld = { readonly queues: ReadonlyMap<string, { readonly name: string; readonly channels: readonly string[] }>; readonly channels: readonly string[] };

/** All faults of a script, in the order of its lines; those of the whole script first. */
export function checkBot(script: BotScript, world: CheckWorld): BotFault[] {
  const faults: BotFault[] = [];
  if (script.scenes.flatMap((s) => s.steps).length === 0) faults.push({ lineId: null, weight: 'stops', sentence: 'The script has no line yet.' });
  if (!world.queues.has(script.fallbackQueueId)) faults.push({ lineId: null, weight: 'stops', sentence: 'The fallback queue is not there any more.' });
  if (script.languages.length === 0) faults.push({ lineId: null, weight: 'stops', sentence: 'The bot speaks no language.' });
  const lines = new Set(script.scenes.flatMap((s) => s.steps.map((step) => step.id)));
  const scenes = new Map(script.scenes.map((scene) => [scene.id, scene]));
  for (const step of script.scenes.flatMap((s) => s.steps)) {
    const at = lineNumber(script, step.id) ?? '?';
    const add = (weight: BotFault['weight'], what: string) => faults.push({ lineId: step.id, weight, sentence: `${at} ${what}` });
    for (const { label, cue } of cuesOf(step)) {
      if (cue.to === 'line' && !lines.has(cue.lineId)) add('stops', `goes to a line that is not there (${label}).`);
      if (cue.to === 'scene' && !scenes.get(cue.sceneId)?.steps.length) add('stops', `goes to a scene that is not there or has no line (${label}).`);
    }
    for (const { part, wording, needed } of wordingsOf(step)) {
      const missing = missingLanguages(wording, script.languages);
      if (needed && missing.length > 0) add(missing.length === script.languages.length ? 'stops' : 'advice', `has no ${part} in ${missing.map(languageName).join(' or ')}.`);
    }
    for (const what of stepFaults(step, world)) add(what.weight, what.sentence);
  }
  return faults;
}

function stepFaults(step: Step, world: CheckWorld): Pick<BotFault, 'weight' | 'sentence'>[] {
  if (step.verb === 'hand-over') {
    const queue = world.queues.get(step.queueId);
    if (!queue) return [{ weight: 'stops', sentence: 'hands over to a queue that is not there.' }];
    const lost = world.channels.filter((c) => !queue.channels.includes(c));
    return lost.length > 0 ? [{ weight: 'stops', sentence: `hands over to ${queue.name}, which does not take ${lost.join(' or ')}.` }] : [];
  }
  if (step.verb !== 'listen' || step.hears.kind !== 'choices') return [];
  const found: Pick<BotFault, 'weight' | 'sentence'>[] = [];
  const { choices } = step.hears;
  if (choices.length === 0) found.push({ weight: 'stops', sentence: 'listens for no choice at all.' });
  if (world.channels.includes('voice') && choices.length > 7) found.push({ weight: 'advice', sentence: 'offers more than 7 choices by voice.' });
  const seen = new Set<string>();
  for (const choice of choices) {
    const words = [choice.key, ...new Set([...Object.values(choice.label), ...Object.values(choice.synonyms).flat()].map(plainWords))];
    for (const word of words.filter(Boolean)) {
      if (seen.has(word)) found.push({ weight: 'stops', sentence: `has “${word}” for two choices.` });
      seen.add(word);
    }
  }
  return found;
}
