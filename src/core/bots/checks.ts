import { advice, stops, type BotFault, type CheckWorld, type Fix, type Found } from './faults';
import { graphOf, mayset, readBy } from './graph';
import { allSteps, lineNumber, type BotScript, type SharedScene } from './model';
import { languageName } from '../localised';
import { mixedVoices } from '../sound/recorded';
import { saidOnCalls } from './saidoncalls';
import { referenceFaults, sceneFaults, stepFaults, wordingFaults } from './linechecks';
import { wayFaults } from './waychecks';

/** All faults of a script, those of the whole first, then in the order of its lines. */
export function checkBot(script: BotScript, world: CheckWorld): BotFault[] {
  const graph = graphOf(script);
  const whole = wholeFaults(script, world).map((f): BotFault => ({ lineId: null, ...f }));
  const ways = wayFaults(script, graph, world);
  const lines = script.scenes.flatMap((scene) =>
    scene.steps.flatMap((step) => {
      const at = lineNumber(script, step.id) ?? '?';
      return [
        ...referenceFaults(step, script, world),
        ...wordingFaults(step, script, world),
        ...stepFaults(step, world),
        ...sceneFaults(step, scene, world),
        ...(ways.get(step.id) ?? []),
      ].map((f): BotFault => ({ ...f, lineId: step.id, sentence: `${at} ${f.sentence}` }));
    }),
  );
  return [...whole, ...lines];
}

/** Faults of a shared scene by itself. */
export function checkShared(scene: SharedScene, world: CheckWorld, languages: readonly string[]): BotFault[] {
  const script: BotScript = {
    shownName: '',
    picture: '',
    languages,
    fallbackQueueId: '',
    fallbackWording: { text: {} },
    scenes: [scene],
    afterSceneId: null,
    quiet: { remindSeconds: 1, wording: { text: {} }, closeSeconds: 1 },
  };
  const graph = graphOf(script, true);
  const ways = wayFaults(script, graph, world, scene.inputs);
  return scene.steps.flatMap((step, i) =>
    [
      ...referenceFaults(step, script, world),
      ...wordingFaults(step, script, world),
      ...stepFaults(step, world),
      ...(ways.get(step.id) ?? []),
    ].map((f): BotFault => ({ ...f, lineId: step.id, sentence: `line ${i + 1} ${f.sentence}` })),
  );
}

/** Languages in which callers would hear two voices: somebody who was recorded, and the one that speaks the rest. */
const voiceFaults = (script: BotScript, world: CheckWorld): Found[] =>
  world.channels.includes('voice')
    ? mixedVoices(
        script.languages.flatMap((language) => saidOnCalls(script, language).map(({ text }) => ({ language, text }))),
        world.recorded,
      ).map(({ language, recorded, of }) =>
        advice(
          'mixed-voices',
          `In ${languageName(language)} ${recorded} of ${of} sentences are recorded and the others spoken, so that callers hear two voices.`,
        ),
      )
    : [];

function wholeFaults(script: BotScript, world: CheckWorld): Found[] {
  const found: Found[] = voiceFaults(script, world);
  if (allSteps(script).length === 0) found.push(stops('empty', 'The script has no line yet.'));
  if (script.languages.length === 0) found.push(stops('empty', 'The bot speaks no language.'));
  if (!world.queues.has(script.fallbackQueueId)) found.push(stops('gone', 'The fallback queue is not there any more.'));
  if (script.afterSceneId !== null && !script.scenes.some((s) => s.id === script.afterSceneId && s.steps.length > 0))
    found.push(stops('gone', 'The scene after the contact is not there or has no line.'));
  const set = new Set(allSteps(script).flatMap(mayset));
  for (const field of world.fields) {
    const reads = allSteps(script).some(
      (s) => readBy(s).includes(field.name) || (s.verb === 'hand-over' && s.fields.includes(field.name)),
    );
    if (reads && !set.has(field.name) && !field.setElsewhere)
      found.push(advice('field-unset', `The field ${field.label} is shown or passed, but nothing sets it.`));
  }
  return found;
}

/** A script with a fault mended. */
export function mended(script: BotScript, fix: Fix): BotScript {
  const put_ = new Map(fix.put.map((s) => [s.id, s]));
  return {
    ...script,
    scenes: script.scenes.map((scene) => ({
      ...scene,
      steps: scene.steps
        .filter((s) => !fix.remove.includes(s.id))
        .flatMap((s) => [put_.get(s.id) ?? s, ...(fix.below?.lineId === s.id ? fix.below.steps : [])]),
    })),
  };
}
