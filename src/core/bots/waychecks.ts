import { advice, put, stops, type CheckWorld, type Fix, type Found } from './faults';
import {
  endlessLines,
  loopsWithoutInput,
  mayset,
  reachable,
  readBy,
  setOnEveryWay,
  setsOnReturn,
  type Graph,
} from './graph';
import { withCues } from './lineways';
import type { BotScript, Step } from './model';
import { goodbye } from './sentences';

/**
 * What can be seen only by going along the ways: lines nothing reaches, circles, values read too early, things set
 * twice.
 */
export function wayFaults(
  script: BotScript,
  graph: Graph,
  world: CheckWorld,
  given: readonly string[] = [],
): Map<string, Found[]> {
  const found = new Map<string, Found[]>();
  const add = (id: string, fault: Found): void => void found.set(id, [...(found.get(id) ?? []), fault]);
  const reached = reachable(graph);
  // After the contact nobody is there any more to be left without a word.
  const talks = reachable(graph, script.afterSceneId === null ? graph.entries : graph.entries.slice(0, 1));
  const endless = endlessLines(graph);
  const loops = loopsWithoutInput(graph);
  // Names that are fields of the workspace may be known before the bot begins.
  const always = [
    ...given,
    ...world.fields.filter((f) => f.setElsewhere).map((f) => f.name),
    'customer name',
    'page address',
    'page language',
  ];
  const sharedSets = (id: string): string[] => {
    const scene = world.shared.get(id);
    return scene ? setsOnReturn(scene, world.shared) : [];
  };
  const scoped = new Map<string, Set<string>>();
  for (const step of graph.steps.values())
    for (const name of sceneScoped(step))
      scoped.set(name, new Set([...(scoped.get(name) ?? []), graph.sceneOf.get(step.id) ?? '']));
  const known = setOnEveryWay(graph, always, sharedSets, (name, sceneId) => scoped.get(name)?.has(sceneId) ?? false);
  const setSomewhere = new Set([
    ...always,
    ...[...graph.steps.values()].flatMap(mayset),
    ...[...world.shared.values()].flatMap((scene) => scene.steps.flatMap(mayset)),
  ]);
  for (const [id, step] of graph.steps) {
    if (!reached.has(id)) {
      add(
        id,
        advice('unreached', 'is reached by no way through the script.', {
          label: 'Take the line out',
          put: [],
          remove: [id],
        }),
      );
      continue;
    }
    if (endless.has(id))
      add(id, stops('endless', 'is on a way that never ends: it goes round without anybody being able to leave.'));
    else if (loops.has(id)) add(id, stops('loop', 'is in a circle on which the customer is never waited for.'));
    for (const name of readBy(step)) {
      if (known.get(id)?.has(name)) continue;
      const elsewhere = scoped.get(name);
      if (elsewhere && !elsewhere.has(graph.sceneOf.get(id) ?? ''))
        add(id, stops('unset', `reads ${name}, which lives only in another scene.`, keepForAll(graph, name)));
      // A condition may well ask whether something is known, and a notice may be missing from an answer.
      else if (!setSomewhere.has(name)) add(id, stops('unset', `reads ${name}, which nothing sets.`));
      else if (step.verb !== 'branch' && !noticed(graph, name))
        add(id, advice('unset', `reads ${name}, which is not set on every way here.`));
    }
    const silent = talks.has(id) ? silentEnd(script, graph, step) : null;
    if (silent) add(id, silent);
    const twice = setTwice(graph, id, step);
    if (twice) add(id, advice('set-twice', twice));
  }
  return found;
}

/** Whether the conversation is over after a line, on some way, and no line of its own says so. */
function silentEnd(script: BotScript, graph: Graph, step: Step): Found | null {
  const ways = (graph.out.get(step.id) ?? []).filter((arrow) => arrow.to === 'end');
  const last = script.scenes.find((scene) => scene.id === graph.sceneOf.get(step.id))?.steps.at(-1);
  if (ways.length === 0 || step.verb === 'end' || !last) return null;
  const labels = ways.flatMap((arrow) => arrow.label || []);
  const sentence =
    labels.length > 0
      ? `ends it without a word (${labels.join(', ')}).`
      : 'is the last line, and then it ends: no line says goodbye.';
  if (step.verb === 'say' && !step.link && !step.image)
    return stops(
      'silent-end',
      sentence,
      put('Make it the last sentence', { id: step.id, verb: 'end', wording: step.wording }),
    );
  let lineId = `${step.id}_bye`.slice(-80);
  while (graph.steps.has(lineId)) lineId = `${lineId}_`.slice(-80);
  const text = Object.fromEntries(script.languages.map((language) => [language, goodbye(language)]));
  return stops('silent-end', sentence, {
    label: 'Say goodbye then',
    put: [withCues(step, (cue) => (cue.to === 'end' ? { to: 'line', lineId } : cue))],
    remove: [],
    below: { lineId: last.id, steps: [{ id: lineId, verb: 'end', wording: { text } }] },
  });
}

const sceneScoped = (step: Step): string[] => {
  const intos =
    step.verb === 'listen'
      ? [...(step.into ? [step.into] : []), ...step.notices.map((n) => n.into)]
      : step.verb === 'look-up' || step.verb === 'do'
        ? step.outputs.map((o) => o.into)
        : step.verb === 'count' || step.verb === 'remember'
          ? [step.into]
          : [];
  return intos.filter((i) => i.scope === 'scene').map((i) => i.name);
};
const noticed = (graph: Graph, name: string): boolean =>
  [...graph.steps.values()].some((s) => s.verb === 'listen' && s.notices.some((n) => n.into.name === name));

/** Keeps a value for the whole conversation wherever it is set. */
function keepForAll(graph: Graph, name: string): Fix {
  const wide = (step: Step): Step =>
    JSON.parse(JSON.stringify(step), (_key, value: unknown) =>
      typeof value === 'object' && value !== null && 'scope' in value && 'name' in value && value.name === name
        ? { ...value, scope: 'conversation' }
        : value,
    ) as Step;
  return put(
    `Keep ${name} for the whole conversation`,
    ...[...graph.steps.values()].filter((s) => sceneScoped(s).includes(name)).map(wide),
  );
}

/**
 * Whether a line sets what a line just before it on the only way here has set, with nobody reading it between; or
 * loses a need.
 */
function setTwice(graph: Graph, id: string, step: Step): string | null {
  const mine =
    step.verb === 'remember' || step.verb === 'count'
      ? [step.into.name]
      : step.verb === 'listen' && step.into
        ? [step.into.name]
        : [];
  const needs = step.verb === 'hand-over' ? step.needs : [];
  const seen = new Set<string>([id]);
  for (let at = id; ;) {
    const into = graph.into.get(at) ?? [];
    const [arrow] = into;
    if (!arrow || into.length > 1 || seen.has(arrow.from)) return null;
    seen.add(arrow.from);
    at = arrow.from;
    const before = graph.steps.get(at);
    if (!before) return null;
    for (const need of needs) {
      const choice =
        before.verb === 'listen' && before.hears.kind === 'choices'
          ? before.hears.choices.find((c) => c.id === arrow.way)
          : undefined;
      const earlier = choice?.needs?.find((n) => n.skillId === need.skillId && n.atLeast !== need.atLeast);
      if (earlier)
        return `needs a skill that a choice on the way here already asks for at level ${earlier.atLeast}; the earlier is lost.`;
    }
    const again = mine.find((name) => arrow.sets.includes(name));
    if (again) return `sets ${again} again before anything has read it; the earlier is lost.`;
    if (mine.some((name) => readBy(before).includes(name))) return null;
  }
}
