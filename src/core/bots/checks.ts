import type { Channel } from '../channels';
import { languageName, localised, missingLanguages } from '../localised';
import { smsSegments } from '../messages/segments';
import { speechSeconds, ssmlFault } from '../messages/ssml';
import type { Need } from '../routing/needs';
import { patternFrom } from './pattern';
import { rowsFrom, subjectName, subjectThing } from './conditions';
import { plainWords } from './heard';
import { withoutImage } from './edit';
import { endlessLines, graphOf, loopsWithoutInput, mayset, reachable, readBy, setOnEveryWay, setsOnReturn, type Graph } from './graph';
import { allSteps, lineNumber, offered, sentencesOf, waysOf, withSentence, wordingOn, type BotScript, type HandOver, type Scene, type SharedScene, type Step } from './model';
import { KIND_WORDS, referencesOf, withReferences, type ReferenceKind } from './references';

export const CHECKS = [
  'empty', 'unreached', 'endless', 'loop', 'wording', 'unset', 'set-twice', 'left-over', 'gone', 'choices', 'no-catch-all', 'too-many-choices', 'no-failed-cue', 'on-duty-for-free', 'field-unshown', 'field-unset', 'long-text', 'long-speech', 'hand-over', 'tags',
] as const;
export type Check = (typeof CHECKS)[number];

/** What mends a fault: lines put in the place of others, or lines taken out. */
export type Fix = { readonly label: string; readonly put: readonly Step[]; readonly remove: readonly string[] };
/** A fault in a script, of a line or of the whole. Those that stop contacts bar publishing. */
export type BotFault = { readonly check: Check; readonly lineId: string | null; readonly weight: 'stops' | 'advice'; readonly sentence: string; readonly fix: Fix | null };

/** What a script refers to outside itself, as it is now. */
export type CheckWorld = {
  readonly queues: ReadonlyMap<string, { readonly name: string; readonly channels: readonly Channel[]; /** Whether somebody could take a contact of the channel at some stage, with what the line needs besides; `groupId` is asked from the start. */ readonly able: (channel: Channel, needs: readonly Need[], groupId: string | null) => boolean; /** Door names during whose hours it is never open, if any. */ readonly closedWhile: readonly string[] }>;
  /** Channels of the doors that use the bot. */
  readonly channels: readonly Channel[];
  /** Names of everything else that can be referred to, by `KIND ID`. */
  readonly names: ReadonlyMap<string, string>;
  readonly shared: ReadonlyMap<string, SharedScene>;
  readonly fields: readonly { readonly name: string; readonly label: string; /** Some Desk profile or queue shows it. */ readonly shown: boolean; /** A look-up, an agent or another bot may set it. */ readonly setElsewhere: boolean }[];
};

type Found = Omit<BotFault, 'lineId'>;
const stops = (check: Check, sentence: string, fix: Fix | null = null): Found => ({ check, weight: 'stops', sentence, fix });
const advice = (check: Check, sentence: string, fix: Fix | null = null): Found => ({ check, weight: 'advice', sentence, fix });
const put = (label: string, ...steps: Step[]): Fix => ({ label, put: steps, remove: [] });

/** All faults of a script, those of the whole first, then in the order of its lines. */
export function checkBot(script: BotScript, world: CheckWorld): BotFault[] {
  const graph = graphOf(script);
  const whole = wholeFaults(script, world).map((f): BotFault => ({ lineId: null, ...f }));
  const ways = wayFaults(script, graph, world);
  const lines = script.scenes.flatMap((scene) => scene.steps.flatMap((step) => {
    const at = lineNumber(script, step.id) ?? '?';
    return [...referenceFaults(step, script, world), ...wordingFaults(step, script, world), ...stepFaults(step, world), ...sceneFaults(step, scene, world), ...(ways.get(step.id) ?? [])]
      .map((f): BotFault => ({ ...f, lineId: step.id, sentence: `${at} ${f.sentence}` }));
  }));
  return [...whole, ...lines];
}

/** Faults of a shared scene by itself. */
export function checkShared(scene: SharedScene, world: CheckWorld, languages: readonly string[]): BotFault[] {
  const script: BotScript = { shownName: '', picture: '', languages, fallbackQueueId: '', fallbackWording: { text: {} }, scenes: [scene], afterSceneId: null, quiet: { remindSeconds: 1, wording: { text: {} }, closeSeconds: 1 } };
  const graph = graphOf(script, true);
  const ways = wayFaults(script, graph, world, scene.inputs);
  return scene.steps.flatMap((step, i) => [...referenceFaults(step, script, world), ...wordingFaults(step, script, world), ...stepFaults(step, world), ...(ways.get(step.id) ?? [])].map((f): BotFault => ({ ...f, lineId: step.id, sentence: `line ${i + 1} ${f.sentence}` })));
}

function wholeFaults(script: BotScript, world: CheckWorld): Found[] {
  const found: Found[] = [];
  if (allSteps(script).length === 0) found.push(stops('empty', 'The script has no line yet.'));
  if (script.languages.length === 0) found.push(stops('empty', 'The bot speaks no language.'));
  if (!world.queues.has(script.fallbackQueueId)) found.push(stops('gone', 'The fallback queue is not there any more.'));
  if (script.afterSceneId !== null && !script.scenes.some((s) => s.id === script.afterSceneId && s.steps.length > 0)) found.push(stops('gone', 'The scene after the contact is not there or has no line.'));
  const set = new Set(allSteps(script).flatMap(mayset));
  for (const field of world.fields) {
    const reads = allSteps(script).some((s) => readBy(s).includes(field.name) || (s.verb === 'hand-over' && s.fields.includes(field.name)));
    if (reads && !set.has(field.name) && !field.setElsewhere) found.push(advice('field-unset', `The field ${field.label} is shown or passed, but nothing sets it.`));
  }
  return found;
}

/** What can be seen only by going along the ways: lines nothing reaches, circles, values read too early, things set twice. */
function wayFaults(script: BotScript, graph: Graph, world: CheckWorld, given: readonly string[] = []): Map<string, Found[]> {
  const found = new Map<string, Found[]>();
  const add = (id: string, fault: Found): void => void found.set(id, [...(found.get(id) ?? []), fault]);
  const reached = reachable(graph);
  const endless = endlessLines(graph);
  const loops = loopsWithoutInput(graph);
  // Names that are fields of the workspace may be known before the bot begins.
  const always = [...given, ...world.fields.filter((f) => f.setElsewhere).map((f) => f.name), 'customer name', 'page address', 'page language'];
  const sharedSets = (id: string): string[] => { const scene = world.shared.get(id); return scene ? setsOnReturn(scene, world.shared) : []; };
  const scoped = new Map<string, Set<string>>();
  for (const step of graph.steps.values()) for (const name of sceneScoped(step)) scoped.set(name, new Set([...(scoped.get(name) ?? []), graph.sceneOf.get(step.id) ?? '']));
  const known = setOnEveryWay(graph, always, sharedSets, (name, sceneId) => scoped.get(name)?.has(sceneId) ?? false);
  const setSomewhere = new Set([...always, ...[...graph.steps.values()].flatMap(mayset), ...[...world.shared.values()].flatMap((scene) => scene.steps.flatMap(mayset))]);
  for (const [id, step] of graph.steps) {
    if (!reached.has(id)) {
      add(id, advice('unreached', 'is reached by no way through the script.', { label: 'Take the line out', put: [], remove: [id] }));
      continue;
    }
    if (endless.has(id)) add(id, stops('endless', 'is on a way that never ends: it goes round without anybody being able to leave.'));
    else if (loops.has(id)) add(id, stops('loop', 'is in a circle on which the customer is never waited for.'));
    for (const name of readBy(step)) {
      if (known.get(id)?.has(name)) continue;
      const elsewhere = scoped.get(name);
      if (elsewhere && !elsewhere.has(graph.sceneOf.get(id) ?? '')) add(id, stops('unset', `reads ${name}, which lives only in another scene.`, keepForAll(graph, name)));
      // A condition may well ask whether something is known, and a notice may be missing from an answer.
      else if (!setSomewhere.has(name)) add(id, stops('unset', `reads ${name}, which nothing sets.`));
      else if (step.verb !== 'branch' && !noticed(graph, name)) add(id, advice('unset', `reads ${name}, which is not set on every way here.`));
    }
    const twice = setTwice(graph, id, step);
    if (twice) add(id, advice('set-twice', twice));
  }
  return found;
}

const sceneScoped = (step: Step): string[] => {
  const intos = step.verb === 'listen' ? [...(step.into ? [step.into] : []), ...step.notices.map((n) => n.into)] : step.verb === 'look-up' || step.verb === 'do' ? step.outputs.map((o) => o.into) : step.verb === 'count' || step.verb === 'remember' ? [step.into] : [];
  return intos.filter((i) => i.scope === 'scene').map((i) => i.name);
};
const noticed = (graph: Graph, name: string): boolean => [...graph.steps.values()].some((s) => s.verb === 'listen' && s.notices.some((n) => n.into.name === name));

/** Keeps a value for the whole conversation wherever it is set. */
function keepForAll(graph: Graph, name: string): Fix {
  const wide = (step: Step): Step => JSON.parse(JSON.stringify(step), (_key, value: unknown) => (typeof value === 'object' && value !== null && 'scope' in value && 'name' in value && value.name === name ? { ...value, scope: 'conversation' } : value)) as Step;
  return put(`Keep ${name} for the whole conversation`, ...[...graph.steps.values()].filter((s) => sceneScoped(s).includes(name)).map(wide));
}

/** Whether a line sets what a line just before it on the only way here has set, with nobody reading it between; or loses a need. */
function setTwice(graph: Graph, id: string, step: Step): string | null {
  const mine = step.verb === 'remember' || step.verb === 'count' ? [step.into.name] : step.verb === 'listen' && step.into ? [step.into.name] : [];
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
      const choice = before.verb === 'listen' && before.hears.kind === 'choices' ? before.hears.choices.find((c) => c.id === arrow.way) : undefined;
      const earlier = choice?.needs?.find((n) => n.skillId === need.skillId && n.atLeast !== need.atLeast);
      if (earlier) return `needs a skill that a choice on the way here already asks for at level ${earlier.atLeast}; the earlier is lost.`;
    }
    const again = mine.find((name) => arrow.sets.includes(name));
    if (again) return `sets ${again} again before anything has read it; the earlier is lost.`;
    if (mine.some((name) => readBy(before).includes(name))) return null;
  }
}

function referenceFaults(step: Step, script: BotScript, world: CheckWorld): Found[] {
  const found: Found[] = [];
  for (const { kind, id } of referencesOf(step)) {
    if (kind === 'line' || kind === 'scene') {
      const there = kind === 'line' ? allSteps(script).some((s) => s.id === id) : script.scenes.some((s) => s.id === id && s.steps.length > 0);
      if (!there) found.push(stops('gone', `goes to a ${kind} that is not there${kind === 'scene' ? ' or has no line' : ''} (${waysOf(step).find((w) => (w.cue.to === 'line' && w.cue.lineId === id) || (w.cue.to === 'scene' && w.cue.sceneId === id))?.label ?? ''}).`, put('Go to the next line instead', withoutLead(step, kind, id))));
    } else if (kind === 'shared' ? !world.shared.has(id) : kind === 'queue' ? !world.queues.has(id) : !world.names.has(`${kind} ${id}`)) found.push(stops('gone', `uses ${KIND_WORDS[kind]} that is not there any more.`));
  }
  return found;
}
const withoutLead = (step: Step, kind: ReferenceKind, id: string): Step => {
  const text = JSON.stringify(step).replaceAll(JSON.stringify(kind === 'line' ? { to: 'line', lineId: id } : { to: 'scene', sceneId: id }), '{"to":"next"}');
  return JSON.parse(text) as Step;
};

function wordingFaults(step: Step, script: BotScript, world: CheckWorld): Found[] {
  const found: Found[] = [];
  const channels = world.channels.length > 0 ? world.channels : (['chat'] as const);
  for (const { part, wording, needed, key } of sentencesOf(step)) {
    const missing = script.languages.filter((language) => channels.some((channel) => missingLanguages(wordingOn(wording, channel), [language]).length > 0));
    const anything = Object.values(wording.text).some((t) => t !== '');
    // What may be left out has to be worded in every language once it is in one.
    if ((needed || anything) && missing.length > 0) {
      const none = missing.length === script.languages.length;
      found.push((none && needed ? stops : advice)('wording', `has no ${part} in ${missing.map(languageName).join(' or ')}.`, none ? null : put(`Use the ${languageName(script.languages.find((l) => !missing.includes(l)) ?? '')} wording for now`, withSentence(step, key, { ...wording, text: { ...Object.fromEntries(missing.map((l) => [l, localised(wording.text, l, script.languages)])), ...wording.text } }))));
    }
    for (const language of script.languages) {
      const voice = wordingOn(wording, 'voice')[language] ?? '';
      const sms = wordingOn(wording, 'sms')[language] ?? '';
      const fault = ssmlFault(voice);
      if (fault) found.push(advice('tags', `${part} in ${languageName(language)}: ${fault}`));
      if (world.channels.includes('voice') && step.verb !== 'text-them' && speechSeconds(voice) > 20) found.push(advice('long-speech', `takes ${Math.round(speechSeconds(voice))} s to say in ${languageName(language)}; over 20 s nobody remembers how it began.`));
      if ((world.channels.includes('sms') || step.verb === 'text-them') && smsSegments(sms).segments > 3) found.push(advice('long-text', `is ${smsSegments(sms).segments} SMS segments long in ${languageName(language)}; keep to 3.`));
    }
  }
  return found;
}

function stepFaults(step: Step, world: CheckWorld): Found[] {
  switch (step.verb) {
    case 'say': return step.image && !world.names.has(`image ${step.image.imageId}`) ? [stops('gone', 'shows a picture that is not there any more.', put('Leave the picture out', withoutImage(step)))] : [];
    case 'listen': return listenFaults(step, world);
    case 'look-up': return step.failed ? [] : [stops('no-failed-cue', 'says nothing about what follows when the look-up fails.', put('Go on with the next line when it fails', { ...step, failed: { to: 'next' } }))];
    case 'do': return step.unsure ? [] : [stops('no-failed-cue', 'says nothing about what follows when it is unsure whether it was done.', put('Go on with the next line when unsure', { ...step, unsure: { to: 'next' } }))];
    case 'branch': return branchFaults(step);
    case 'hand-over': return handOverFaults(step, world);
    case 'take-message': {
      const queue = world.queues.get(step.queueId);
      return queue && !queue.channels.some((c) => queue.able(c, [], null)) ? [stops('hand-over', `leaves the message with ${queue.name}, where nobody is able at any stage.`)] : [];
    }
    case 'articles': return world.names.has('articles any') ? [] : [advice('gone', 'answers from articles, and there is none yet.')];
    default: return [];
  }
}

function branchFaults(step: Extract<Step, { verb: 'branch' }>): Found[] {
  const rows = step.ways.map((w) => rowsFrom(w.when)?.rows ?? null);
  if (rows.some((r) => r === null || r.some((row) => row.subject === ''))) return [stops('choices', 'has a condition that cannot be read.')];
  const open = rows.flatMap((r) => r ?? []).find((row) => row.value === '' && row.operator !== 'is-set' && row.operator !== 'is-not-set');
  return open ? [advice('choices', `compares ${subjectName(open.subject, () => 'a queue')} with nothing yet.`)] : [];
}

function listenFaults(step: Extract<Step, { verb: 'listen' }>, world: CheckWorld): Found[] {
  const found: Found[] = [];
  if (step.otherwise === null) found.push(stops('no-catch-all', 'has no way for anything else.', put('Go on with the next line for anything else', { ...step, otherwise: { to: 'next' } })));
  if (step.hears.kind === 'value') {
    const { asked } = step.hears;
    if (asked.type === 'pattern' && !patternFrom(asked.pattern)) found.push(stops('choices', 'has a pattern that cannot be read.'));
    else if (asked.type === 'pattern' && asked.example && !patternFrom(asked.pattern)?.matcher(asked.example).find()) found.push(advice('choices', 'has an example that its own pattern does not fit.'));
    return found;
  }
  const { choices } = step.hears;
  if (choices.length === 0) found.push(stops('choices', 'listens for no choice at all.'));
  const read = offered(choices).length;
  if (world.channels.includes('voice') && read > 7) found.push(advice('too-many-choices', `offers ${read} choices by voice; over 7 nobody remembers the first.`));
  const seen = new Set<string>();
  for (const choice of choices) {
    const words = [...new Set([choice.key, ...[...Object.values(choice.label), ...Object.values(choice.synonyms).flat()].map(plainWords)])].filter(Boolean);
    if (words.length === 0 && !choice.intentId) found.push(stops('choices', 'has a cue that no key, word or intent leads to.', put('Take the choice out', { ...step, hears: { kind: 'choices', choices: choices.filter((c) => c.id !== choice.id) } })));
    for (const word of words) {
      if (seen.has(word)) found.push(stops('choices', `has “${word}” for two choices.`, put(`Keep “${word}” for the first only`, { ...step, hears: { kind: 'choices', choices: choices.map((c) => (c.id === choice.id ? withoutWord(c, word) : c)) } })));
      seen.add(word);
    }
    if (choice.intentId) {
      if (seen.has(`intent ${choice.intentId}`)) found.push(stops('choices', 'has one intent for two choices.'));
      seen.add(`intent ${choice.intentId}`);
    }
  }
  return found;
}
const withoutWord = <C extends { readonly key: string; readonly synonyms: Readonly<Record<string, readonly string[]>> }>(choice: C, word: string): C => ({ ...choice, key: choice.key === word ? '' : choice.key, synonyms: Object.fromEntries(Object.entries(choice.synonyms).map(([l, words]) => [l, words.filter((w) => plainWords(w) !== word)])) });

function handOverFaults(step: HandOver, world: CheckWorld): Found[] {
  const found: Found[] = [];
  const queue = world.queues.get(step.target.queueId);
  if (queue) {
    const lost = world.channels.filter((c) => !queue.channels.includes(c));
    if (lost.length > 0) found.push(stops('hand-over', `hands over to ${queue.name}, which does not take ${lost.join(' or ')}.`));
    const taken = world.channels.filter((c) => queue.channels.includes(c));
    // An outside number takes calls whatever they need.
    const nobody = step.target.to === 'partner' ? [] : taken.filter((c) => !queue.able(c, step.needs, step.target.to === 'group' ? step.target.groupId : null));
    if (nobody.length > 0) {
      const plain = nobody.filter((c) => !queue.able(c, [], step.target.to === 'group' ? step.target.groupId : null));
      const where = `hands over to ${queue.name}, where nobody is able at any stage`;
      found.push(plain.length > 0 ? stops('hand-over', `${where} for ${plain.join(' or ')}.`) : stops('hand-over', `${where} with what this line needs.`, put('Need nothing more than the queue does', { ...step, needs: [] })));
    }
    if (queue.closedWhile.length > 0) found.push(stops('hand-over', `hands over to ${queue.name}, which is closed while ${queue.closedWhile.join(' and ')} is open.`));
  }
  for (const name of step.fields) {
    const field = world.fields.find((f) => f.name === name);
    if (!field) found.push(stops('gone', `passes ${name}, which is not a field any more.`, put(`Leave ${name} out`, { ...step, fields: step.fields.filter((f) => f !== name) })));
    else if (!field.shown) found.push(advice('field-unshown', `passes ${field.label}, which no Desk shows.`));
  }
  return found;
}

/** Faults seen within a scene: what looks left over from a copy, and asking who is on duty where who is free is meant. */
function sceneFaults(step: Step, scene: Scene, world: CheckWorld): Found[] {
  const found: Found[] = [];
  const led = [...new Set(scene.steps.flatMap((s) => (s.verb === 'hand-over' ? [s.target.queueId] : [])))];
  const asked = step.verb === 'count' && step.queue.by === 'name' ? [step.queue.queueId] : step.verb === 'branch' ? [...new Set(step.ways.flatMap((w) => rowsFrom(w.when)?.rows ?? []).flatMap((r) => { const t = subjectThing(r.subject); return t?.kind === 'queue' ? [t.id] : []; }))] : [];
  const own = led[0];
  if (led.length === 1 && own !== undefined && world.queues.has(own)) {
    for (const id of asked.filter((q) => q !== own && world.queues.has(q))) {
      found.push(advice('left-over', `still asks about ${world.queues.get(id)?.name ?? ''}, while this scene hands over to ${world.queues.get(own)?.name ?? ''}: it looks left over from a copy.`,
        put(`Use ${world.queues.get(own)?.name ?? ''}`, withReferences(step, (r) => (r.kind === 'queue' && r.id === id ? own : r.id)))));
    }
  }
  if (step.verb === 'count' && step.figure === 'onDuty' && led.includes(step.queue.by === 'name' ? step.queue.queueId : '')) found.push(advice('on-duty-for-free', 'counts people on duty before handing over; people on duty may all be busy.', put('Count free people', { ...step, figure: 'free' })));
  if (step.verb === 'branch' && JSON.stringify(step.ways).includes('.onDuty"') && led.some((q) => JSON.stringify(step.ways).includes(`queue.${q}.onDuty`))) {
    found.push(advice('on-duty-for-free', 'asks who is on duty before handing over; people on duty may all be busy.', put('Ask who is free', JSON.parse(JSON.stringify(step).replace(/(queue\.[^"]+)\.onDuty/g, '$1.free')) as Step)));
  }
  return found;
}


/** A script with a fault mended. */
export function mended(script: BotScript, fix: Fix): BotScript {
  const put_ = new Map(fix.put.map((s) => [s.id, s]));
  return { ...script, scenes: script.scenes.map((scene) => ({ ...scene, steps: scene.steps.filter((s) => !fix.remove.includes(s.id)).map((s) => put_.get(s.id) ?? s) })) };
}
