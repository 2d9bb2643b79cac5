import { CHANNELS } from '../channels';
import { languageName } from '../localised';
import { conditionSentence, figureWords } from './conditions';
import { cueWords } from './edit';
import { sentencesOf } from './linesentences';
import { waysOf } from './lineways';
import { allSteps, type BotScript, lineNumber, type Step, VERB_NAMES, wordingOn } from './model';

/**
 * One thing that is otherwise between two versions, in a sentence, with the line in the newer one (null when it is
 * gone).
 */
export type Difference = { readonly lineId: string | null; readonly sentence: string };

const quote = (text: string): string => (text.length > 70 ? `“${text.slice(0, 67)}…”` : `“${text}”`);

/** What is otherwise in `after`, in readable sentences, in the order of its lines; what is gone comes last. */
export function differences(
  before: BotScript,
  after: BotScript,
  nameOf: (id: string) => string = (id) => id,
): Difference[] {
  const found: Difference[] = [];
  const add = (lineId: string | null, sentence: string): void => void found.push({ lineId, sentence });
  if (before.shownName !== after.shownName)
    add(null, `Customers see the name ${after.shownName} instead of ${before.shownName}.`);
  if (before.languages.join() !== after.languages.join())
    add(
      null,
      `It speaks ${after.languages.map(languageName).join(', ')} instead of ${before.languages.map(languageName).join(', ')}.`,
    );
  if (before.fallbackQueueId !== after.fallbackQueueId)
    add(
      null,
      `When something fails it goes to ${nameOf(after.fallbackQueueId)} instead of ${nameOf(before.fallbackQueueId)}.`,
    );
  if (
    before.quiet.remindSeconds !== after.quiet.remindSeconds ||
    before.quiet.closeSeconds !== after.quiet.closeSeconds
  )
    add(
      null,
      `Who goes quiet is reminded after ${after.quiet.remindSeconds} s and closed ${after.quiet.closeSeconds} s later.`,
    );
  if (before.afterSceneId !== after.afterSceneId)
    add(
      null,
      after.afterSceneId === null
        ? 'No scene runs after the contact any more.'
        : `After the contact the scene ${after.scenes.find((s) => s.id === after.afterSceneId)?.name ?? ''} runs.`,
    );
  const scenesBefore = new Map(before.scenes.map((s) => [s.id, s]));
  for (const scene of after.scenes) {
    const was = scenesBefore.get(scene.id);
    if (!was)
      add(
        scene.steps[0]?.id ?? null,
        `The scene ${scene.name} is new, with ${scene.steps.length} ${scene.steps.length === 1 ? 'line' : 'lines'}.`,
      );
    else if (was.name !== scene.name) add(scene.steps[0]?.id ?? null, `The scene ${was.name} is called ${scene.name}.`);
  }
  const old = new Map(allSteps(before).map((s) => [s.id, s]));
  for (const scene of after.scenes) {
    for (const step of scene.steps) {
      const at = lineNumber(after, step.id) ?? '?';
      const was = old.get(step.id);
      if (!was) {
        if (scenesBefore.has(scene.id)) add(step.id, `${at} ${VERB_NAMES[step.verb]} is new${worded(step)}.`);
        continue;
      }
      const said = stepDifferences(was, step, before, after, nameOf);
      for (const sentence of said) add(step.id, `${at} ${sentence}`);
      if (JSON.stringify(was) !== JSON.stringify(step) && said.length === 0)
        add(step.id, `${at} ${VERB_NAMES[step.verb]} is set otherwise.`);
    }
  }
  const now = new Set(allSteps(after).map((s) => s.id));
  for (const scene of before.scenes) {
    if (!after.scenes.some((s) => s.id === scene.id)) {
      add(null, `The scene ${scene.name} is gone.`);
      continue;
    }
    for (const step of scene.steps)
      if (!now.has(step.id))
        add(null, `${lineNumber(before, step.id) ?? '?'} ${VERB_NAMES[step.verb]} is gone${worded(step)}.`);
  }
  const moved = before.scenes.some((s) => {
    const n = after.scenes.find((x) => x.id === s.id);
    const kept = s.steps.filter((x) => now.has(x.id)).map((x) => x.id);
    return (
      n &&
      n.steps
        .filter((x) => old.has(x.id))
        .map((x) => x.id)
        .join() !== kept.join()
    );
  });
  if (
    moved ||
    before.scenes
      .filter((s) => after.scenes.some((a) => a.id === s.id))
      .map((s) => s.id)
      .join() !==
      after.scenes
        .filter((s) => scenesBefore.has(s.id))
        .map((s) => s.id)
        .join()
  )
    add(null, 'Lines or scenes stand in another order.');
  return found;
}

function worded(step: Step): string {
  const text = Object.values(sentencesOf(step)[0]?.wording.text ?? {}).find(Boolean);
  return text ? `: ${quote(text)}` : '';
}

function stepDifferences(
  was: Step,
  step: Step,
  before: BotScript,
  after: BotScript,
  nameOf: (id: string) => string,
): string[] {
  const said: string[] = [];
  if (was.verb !== step.verb) return [`is a ${VERB_NAMES[step.verb]} instead of a ${VERB_NAMES[was.verb]}.`];
  const oldWords = new Map(sentencesOf(was).map((s) => [s.key, s]));
  for (const { key, part, wording } of sentencesOf(step)) {
    const old = oldWords.get(key);
    if (!old) continue;
    for (const language of new Set([...Object.keys(old.wording.text), ...Object.keys(wording.text)])) {
      const [a, b] = [old.wording.text[language] ?? '', wording.text[language] ?? ''];
      if (a !== b)
        said.push(
          a === ''
            ? `has a ${part} in ${languageName(language)}: ${quote(b)}.`
            : b === ''
              ? `has no ${part} in ${languageName(language)} any more.`
              : `says ${quote(b)} instead of ${quote(a)} (${part}, ${languageName(language)}).`,
        );
    }
    for (const channel of CHANNELS)
      if (JSON.stringify(wording.on?.[channel]) !== JSON.stringify(old.wording.on?.[channel]))
        said.push(`has its own ${part} on ${channel}: ${quote(Object.values(wordingOn(wording, channel))[0] ?? '')}.`);
  }
  const oldWays = new Map(waysOf(was).map((w) => [w.key, w]));
  for (const way of waysOf(step)) {
    const old = oldWays.get(way.key);
    const words = cueWords(after, way.cue) ?? 'gone';
    if (!old) said.push(`has a new way, ${way.label}, to ${words}.`);
    else if (JSON.stringify(old.cue) !== JSON.stringify(way.cue))
      said.push(`goes to ${words} instead of ${cueWords(before, old.cue) ?? 'gone'} (${way.label}).`);
  }
  for (const [key, old] of oldWays)
    if (!waysOf(step).some((w) => w.key === key)) said.push(`has lost the way ${old.label}.`);
  if (was.verb === 'branch' && step.verb === 'branch')
    step.ways.forEach((w, i) => {
      const o = was.ways[i];
      if (o && JSON.stringify(o.when) !== JSON.stringify(w.when))
        said.push(
          `goes way ${i + 1} if ${conditionSentence(w.when, nameOf)} instead of if ${conditionSentence(o.when, nameOf)}.`,
        );
    });
  if (was.verb === 'hand-over' && step.verb === 'hand-over') {
    if (was.target.queueId !== step.target.queueId || was.target.to !== step.target.to)
      said.push(`hands over to ${nameOf(step.target.queueId)} instead of ${nameOf(was.target.queueId)}.`);
    const list = (s: typeof step) => s.needs.map((n) => `${nameOf(n.skillId)} ${n.atLeast}`).join(', ') || 'nothing';
    if (list(was) !== list(step)) said.push(`needs ${list(step)} instead of ${list(was)}.`);
    if (was.priority !== step.priority) said.push(`has priority ${step.priority} instead of ${was.priority}.`);
  }
  if (was.verb === 'listen' && step.verb === 'listen' && was.tries !== step.tries)
    said.push(`asks ${step.tries} times instead of ${was.tries}.`);
  if ('into' in was && 'into' in step && JSON.stringify(was.into) !== JSON.stringify(step.into))
    said.push(
      step.into
        ? `remembers ${step.into.name} instead of ${was.into?.name ?? 'nothing'}.`
        : 'remembers nothing any more.',
    );
  if (was.verb === 'count' && step.verb === 'count' && JSON.stringify(was.queue) !== JSON.stringify(step.queue))
    said.push(
      `counts in ${step.queue.by === 'name' ? nameOf(step.queue.queueId) : step.queue.name} instead of ` +
        `${was.queue.by === 'name' ? nameOf(was.queue.queueId) : was.queue.name}.`,
    );
  if (was.verb === 'count' && step.verb === 'count' && was.within !== step.within)
    said.push(
      `counts ${figureWords(step.figure, step.within ?? null)} instead of ${figureWords(was.figure, was.within ?? null)}.`,
    );
  return said;
}
