import { CALLBACK_PLACES } from '../callbacks/sentences';
import { subjectsOf } from './conditions';
import { sentencesOf } from './linesentences';
import { fallsThrough, waysOf } from './lineways';
import { allSteps, type BotScript, type Cue, type SharedScene, type Step } from './model';
import { placesIn } from './value';

/**
 * Where an arrow of the script leads: a line, the end, back from a shared scene, a person, or nowhere that is there.
 */
export type Lead = { readonly line: string } | 'end' | 'back' | 'person' | 'gone';
/**
 * One way from a line to the next, with the values it sets on the way. `input` is set where the customer is waited
 * for.
 */
export type Arrow = {
  readonly from: string;
  readonly way: string;
  readonly label: string;
  readonly to: Lead;
  readonly sets: readonly string[];
  readonly plays: string | null;
  readonly input: boolean;
};
export type Graph = {
  readonly arrows: readonly Arrow[];
  readonly out: ReadonlyMap<string, readonly Arrow[]>;
  readonly into: ReadonlyMap<string, readonly Arrow[]>;
  readonly steps: ReadonlyMap<string, Step>;
  readonly sceneOf: ReadonlyMap<string, string>;
  readonly entries: readonly string[];
};

const LISTENS: readonly Step['verb'][] = ['listen', 'call-back', 'take-message', 'articles'];

/** The values a line sets when it goes a way. */
export function setBy(step: Step, way: string): string[] {
  switch (step.verb) {
    case 'listen':
      return way === 'otherwise' || !step.into ? [] : [step.into.name];
    case 'look-up':
      return way === 'found' ? step.outputs.map((o) => o.into.name) : [];
    case 'do':
      return way === 'done' ? step.outputs.map((o) => o.into.name) : [];
    case 'count':
      return way === 'unknown' ? [] : [step.into.name];
    case 'remember':
      return [step.into.name];
    case 'identify':
      return way === 'known' ? ['customer name'] : [];
    default:
      return [];
  }
}

/** The values a line may set on some way, also those only noticed in an answer. */
export const mayset = (step: Step): string[] => [
  ...new Set([
    ...['next', ...waysOf(step).map((w) => w.key)].flatMap((way) => setBy(step, way)),
    ...(step.verb === 'listen' ? step.notices.map((n) => n.into.name) : []),
  ]),
];

/** The values a line reads. */
export function readBy(step: Step): string[] {
  const wordings = sentencesOf(step).flatMap(({ wording }) => [
    ...Object.values(wording.text),
    ...Object.values(wording.on ?? {}).flatMap((own) => Object.values(own)),
  ]);
  const given =
    'inputs' in step
      ? step.inputs.map((i) => i.value)
      : step.verb === 'remember'
        ? [step.value]
        : step.verb === 'say' && step.link
          ? Object.values(step.link.label)
          : [];
  // What the talk about a call back fills in by itself is no value.
  const own: readonly string[] = step.verb === 'call-back' ? CALLBACK_PLACES : [];
  const shown = placesIn([...wordings, ...given].join(' ')).filter((name) => !own.includes(name));
  const more: (string | null)[] = [];
  if (step.verb === 'branch')
    more.push(
      ...step.ways
        .flatMap((w) => subjectsOf(w.when))
        .filter((s) => s.startsWith('values.'))
        .map((s) => s.slice('values.'.length)),
    );
  if (step.verb === 'count' && step.queue.by === 'value') more.push(step.queue.name);
  if (step.verb === 'identify') more.push(step.by);
  if (step.verb === 'text-them') more.push(step.to);
  if (step.verb === 'call-back') more.push(step.number);
  if (step.verb === 'hand-over') {
    if (step.target.to === 'queue-value') more.push(step.target.name);
    if (step.target.to === 'person' && step.target.person.by === 'value') more.push(step.target.person.name);
  }
  return [...new Set([...shown, ...more.filter((n) => n !== null)])];
}

/** The script as arrows between its lines. `extra` are scenes that something else leads to. */
export function graphOf(
  script: Pick<BotScript, 'scenes'> & { readonly afterSceneId?: string | null },
  shared = false,
  extra: readonly string[] = [],
): Graph {
  const steps = new Map(allSteps(script).map((s) => [s.id, s]));
  const sceneOf = new Map(script.scenes.flatMap((scene) => scene.steps.map((s) => [s.id, scene.id] as const)));
  const first = new Map(script.scenes.map((scene) => [scene.id, scene.steps[0]?.id]));
  const arrows: Arrow[] = [];
  for (const scene of script.scenes) {
    scene.steps.forEach((step, i) => {
      const below: Lead = scene.steps[i + 1] ? { line: scene.steps[i + 1]?.id ?? '' } : shared ? 'back' : 'end';
      const lead = (cue: Cue): { to: Lead; plays: string | null } => {
        switch (cue.to) {
          case 'next':
            return { to: below, plays: null };
          case 'end':
            return { to: 'end', plays: null };
          case 'line':
            return { to: steps.has(cue.lineId) ? { line: cue.lineId } : 'gone', plays: null };
          case 'shared':
            return { to: below, plays: cue.sharedId };
          case 'scene': {
            const line = first.get(cue.sceneId);
            return { to: line === undefined ? 'gone' : { line }, plays: null };
          }
        }
      };
      const input = LISTENS.includes(step.verb);
      for (const way of waysOf(step))
        arrows.push({
          from: step.id,
          way: way.key,
          label: way.label,
          sets: setBy(step, way.key),
          input,
          ...lead(way.cue),
        });
      if (fallsThrough(step))
        arrows.push({
          from: step.id,
          way: 'next',
          label: '',
          to: below,
          sets: setBy(step, 'next'),
          plays: step.verb === 'play' ? step.sharedId : null,
          input,
        });
      if (step.verb === 'hand-over' || step.verb === 'call-back')
        arrows.push({ from: step.id, way: 'person', label: '', to: 'person', sets: [], plays: null, input: false });
      if (step.verb === 'end')
        arrows.push({ from: step.id, way: 'end', label: '', to: 'end', sets: [], plays: null, input: false });
    });
  }
  const [out, into] = [new Map<string, Arrow[]>(), new Map<string, Arrow[]>()];
  for (const arrow of arrows) {
    out.set(arrow.from, [...(out.get(arrow.from) ?? []), arrow]);
    if (typeof arrow.to === 'object') into.set(arrow.to.line, [...(into.get(arrow.to.line) ?? []), arrow]);
  }
  const starts = [
    script.scenes.flatMap((s) => s.steps)[0]?.id,
    ...[script.afterSceneId, ...extra].map((id) => (id ? first.get(id) : undefined)),
  ];
  return { arrows, out, into, steps, sceneOf, entries: [...new Set(starts.filter((id) => id !== undefined))] };
}

/** The lines that a conversation can come to, from any of its beginnings or from some. */
export function reachable(graph: Graph, from: readonly string[] = graph.entries): Set<string> {
  const seen = new Set<string>();
  const open = [...from];
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    if (seen.has(id)) continue;
    seen.add(id);
    for (const { to } of graph.out.get(id) ?? []) if (typeof to === 'object') open.push(to.line);
  }
  return seen;
}

/**
 * Lines from which it goes round without ever waiting for the customer, whichever way is taken: the end is out of
 * reach.
 */
export function endlessLines(graph: Graph): Set<string> {
  const ends = new Set<string>();
  for (let grew = true; grew;) {
    grew = false;
    for (const [id, arrows] of graph.out) {
      if (
        ends.has(id) ||
        !arrows.some(
          (a) =>
            a.to === 'end' ||
            a.to === 'back' ||
            a.to === 'person' ||
            a.input ||
            (typeof a.to === 'object' && ends.has(a.to.line)),
        )
      )
        continue;
      ends.add(id);
      grew = true;
    }
  }
  return new Set(
    [...reachable(graph)].filter(
      (id) => !ends.has(id) && (graph.out.get(id) ?? []).some((a) => typeof a.to === 'object'),
    ),
  );
}

/** Lines in a circle on which nothing is waited for: it may go round for as long as its conditions hold. */
export function loopsWithoutInput(graph: Graph): Set<string> {
  const found = new Set<string>();
  for (const start of reachable(graph)) {
    const seen = new Set<string>();
    const open = [start];
    for (let id = open.pop(); id !== undefined; id = open.pop()) {
      for (const arrow of graph.out.get(id) ?? []) {
        if (arrow.input || typeof arrow.to !== 'object') continue;
        if (arrow.to.line === start) found.add(start);
        if (!seen.has(arrow.to.line)) {
          seen.add(arrow.to.line);
          open.push(arrow.to.line);
        }
      }
    }
  }
  return found;
}

/**
 * The values that are set on every way to a line, by line. `given` are set before the first. Values of a scene end
 * with it.
 */
export function setOnEveryWay(
  graph: Graph,
  given: readonly string[],
  sharedSets: (id: string) => readonly string[],
  isScene: (name: string, sceneId: string) => boolean,
): Map<string, Set<string>> {
  const known = new Map<string, Set<string>>();
  const first = graph.entries[0];
  const everything = new Set([...graph.steps.values()].flatMap(mayset));
  const open: { line: string; has: Set<string> }[] = graph.entries.map((line) => ({
    line,
    has: line === first ? new Set(given) : new Set([...given, ...everything]),
  }));
  for (let at = open.pop(); at; at = open.pop()) {
    const before = known.get(at.line);
    const now = before ? new Set([...before].filter((n) => at?.has.has(n))) : at.has;
    if (before && now.size === before.size) continue;
    known.set(at.line, now);
    for (const arrow of graph.out.get(at.line) ?? []) {
      if (typeof arrow.to !== 'object') continue;
      const scene = graph.sceneOf.get(at.line) ?? '';
      const leaves = graph.sceneOf.get(arrow.to.line) !== scene;
      const all = [...now, ...arrow.sets, ...(arrow.plays ? sharedSets(arrow.plays) : [])];
      open.push({ line: arrow.to.line, has: new Set(leaves ? all.filter((n) => !isScene(n, scene)) : all) });
    }
  }
  return known;
}

/** What a shared scene has set by the time it goes back, on every way. */
export function setsOnReturn(scene: SharedScene, all: ReadonlyMap<string, SharedScene>, depth = 0): string[] {
  if (depth > 8) return [];
  const graph = graphOf({ scenes: [scene] }, true);
  const known = setOnEveryWay(
    graph,
    [],
    (id) => {
      const s = all.get(id);
      return s ? setsOnReturn(s, all, depth + 1) : [];
    },
    () => false,
  );
  const returns = graph.arrows
    .filter((a) => a.to === 'back')
    .map((a) => new Set([...(known.get(a.from) ?? []), ...a.sets]));
  const [one, ...rest] = returns;
  return one ? [...one].filter((n) => rest.every((r) => r.has(n))) : [];
}
