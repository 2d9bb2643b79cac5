import dagre from '@dagrejs/dagre';
import { escapeXml } from '../messages/ssml';
import { figureWords, subjectName, subjectsOf } from './conditions';
import { graphOf } from './graph';
import { sentencesOf } from './linesentences';
import { type BotScript, lineNumber, type Step, VERB_NAMES } from './model';

/** A line in the map, in pixels from the top left of the whole. */
export type MapLine = {
  readonly id: string;
  readonly number: string;
  readonly verb: string;
  readonly words: string;
  readonly x: number;
  readonly y: number;
};
/** A scene as a region. */
export type MapRegion = {
  readonly id: string;
  readonly name: string;
  readonly number: number;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
};
export type Point = { readonly x: number; readonly y: number };
/** A way as an arrow; `to` is a line, or how it ends. */
export type MapArrow = {
  readonly id: string;
  readonly from: string;
  readonly way: string;
  readonly label: string;
  readonly to: string;
  readonly points: readonly Point[];
};
export type BotMap = {
  readonly width: number;
  readonly height: number;
  readonly lines: readonly MapLine[];
  readonly regions: readonly MapRegion[];
  readonly arrows: readonly MapArrow[];
  readonly ends: readonly (Point & { readonly id: string; readonly label: string })[];
};

export const LINE_WIDTH = 190;
export const LINE_HEIGHT = 34;
const HEAD = 26;
const GAP = 10;
const PAD = 10;
export const END_WIDTH = 116;
/** As many signs of a text as there is room for. */
export const shortened = (text: string, most: number): string =>
  text.length > most ? `${text.slice(0, most - 1)}…` : text;

/**
 * Lays a script out: each scene a region of its lines from top to bottom, the regions by how they lead to one another
 * (layers from left to right, as few crossings as can be), ways as arrows. The same script always looks the same.
 */
export function mapOf(script: Pick<BotScript, 'scenes' | 'afterSceneId'>): BotMap {
  const graph = graphOf(script);
  const layers = new dagre.graphlib.Graph({ multigraph: true });
  layers.setGraph({ rankdir: 'LR', nodesep: 26, ranksep: 70, marginx: 16, marginy: 16 });
  layers.setDefaultEdgeLabel(() => ({}));
  const size = new Map(
    script.scenes.map((s) => [
      s.id,
      { width: LINE_WIDTH + 2 * PAD, height: HEAD + PAD + Math.max(1, s.steps.length) * (LINE_HEIGHT + GAP) },
    ]),
  );
  for (const [id, { width, height }] of size) layers.setNode(id, { width, height });
  const endOf = (to: (typeof graph.arrows)[number]['to'], from: string): { id: string; label: string } | null => {
    if (to === 'person') {
      const step = graph.steps.get(from);
      return step?.verb === 'hand-over' ? { id: `person ${step.target.queueId}`, label: step.target.queueId } : null;
    }
    return to === 'end' || to === 'back' ? { id: 'end', label: 'end' } : null;
  };
  const ends = new Map<string, string>();
  for (const arrow of graph.arrows) {
    const scene = graph.sceneOf.get(arrow.from) ?? '';
    const to = typeof arrow.to === 'object' ? graph.sceneOf.get(arrow.to.line) : undefined;
    if (to !== undefined && to !== scene) layers.setEdge(scene, to, {}, `${scene}>${to}`);
    const end = endOf(arrow.to, arrow.from);
    if (!end) continue;
    ends.set(end.id, end.label);
    layers.setNode(end.id, { width: END_WIDTH, height: LINE_HEIGHT });
    layers.setEdge(scene, end.id, {}, `${scene}>${end.id}`);
  }
  dagre.layout(layers);
  const at = (id: string): { x: number; y: number } => {
    const node = layers.node(id) as { x: number; y: number; width: number; height: number };
    return { x: Math.round(node.x - node.width / 2), y: Math.round(node.y - node.height / 2) };
  };
  const regions = script.scenes.map((s, i): MapRegion => ({
    id: s.id,
    name: s.name,
    number: i + 1,
    ...at(s.id),
    ...(size.get(s.id) ?? { width: 0, height: 0 }),
  }));
  const lines = script.scenes.flatMap((s) =>
    s.steps.map((step, i): MapLine => {
      const region = at(s.id);
      return {
        id: step.id,
        number: lineNumber(script, step.id) ?? '',
        verb: VERB_NAMES[step.verb],
        words: wordsOf(step),
        x: region.x + PAD,
        y: region.y + HEAD + i * (LINE_HEIGHT + GAP),
      };
    }),
  );
  const byId = new Map(lines.map((l) => [l.id, l]));
  const endAt = new Map([...ends].map(([id, label]) => [id, { id, label, ...at(id) }]));
  const arrows = fanned(
    graph.arrows.flatMap((arrow): MapArrow[] => {
      const from = byId.get(arrow.from);
      const end = endOf(arrow.to, arrow.from);
      const to = typeof arrow.to === 'object' ? byId.get(arrow.to.line) : end ? endAt.get(end.id) : undefined;
      if (!from || !to) return [];
      const target = typeof arrow.to === 'object' ? arrow.to.line : (end?.id ?? '');
      return [
        {
          id: `${arrow.from}>${arrow.way}`,
          from: arrow.from,
          way: arrow.way,
          label: arrow.label,
          to: target,
          points: route(from, to, graph.sceneOf.get(arrow.from) === graph.sceneOf.get(target)),
        },
      ];
    }),
  );
  const all = [
    ...regions.map((r) => ({ x: r.x + r.width, y: r.y + r.height })),
    ...[...endAt.values()].map((e) => ({ x: e.x + END_WIDTH, y: e.y + LINE_HEIGHT })),
  ];
  return {
    lines,
    regions,
    arrows,
    ends: [...endAt.values()],
    width: Math.max(200, ...all.map((p) => p.x)) + 16,
    height: Math.max(120, ...all.map((p) => p.y)) + 16,
  };
}

/** What a line says, or in short what it is about. */
function wordsOf(step: Step): string {
  const said = Object.values(sentencesOf(step)[0]?.wording.text ?? {}).find(Boolean);
  if (said) return said;
  switch (step.verb) {
    case 'branch':
      return `by ${[...new Set(step.ways.flatMap((w) => subjectsOf(w.when)))].map((s) => subjectName(s, () => 'a queue')).join(', ')}`;
    case 'count':
      return `${figureWords(step.figure, step.within ?? null)} → ${step.into.name}`;
    case 'remember':
      return `${step.value || 'nothing'} → ${step.into.name}`;
    case 'look-up':
    case 'do':
      return step.outputs.map((o) => o.into.name).join(', ');
    case 'identify':
      return 'the customer';
    case 'hours':
      return 'open or closed';
    default:
      return '';
  }
}

/** The middle of an arrow, where what belongs to it can stand. */
export function middleOf(points: readonly Point[]): Point {
  const [a, b, c, d] = points;
  if (!a || !b) return { x: 0, y: 0 };
  return c && d
    ? { x: (a.x + 3 * b.x + 3 * c.x + d.x) / 8, y: (a.y + 3 * b.y + 3 * c.y + d.y) / 8 }
    : { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
}

/** From the right of a line to the left of another; within a scene straight down, or around the right edge. */
function route(from: MapLine, to: Point, sameScene: boolean): Point[] {
  const middle = LINE_HEIGHT / 2;
  if (sameScene && to.y > from.y && to.y - from.y <= LINE_HEIGHT + GAP)
    return [
      { x: from.x + 20, y: from.y + LINE_HEIGHT },
      { x: to.x + 20, y: to.y },
    ];
  const start = { x: from.x + LINE_WIDTH, y: from.y + middle };
  if (sameScene)
    return [
      start,
      { x: start.x + 16, y: start.y },
      { x: start.x + 16, y: to.y + middle },
      { x: to.x + LINE_WIDTH, y: to.y + middle },
    ];
  const end = { x: to.x, y: to.y + middle };
  const bend = end.x > start.x ? (start.x + end.x) / 2 : start.x + 24;
  return end.x > start.x
    ? [start, { x: bend, y: start.y }, { x: bend, y: end.y }, end]
    : [start, { x: bend, y: start.y }, { x: bend, y: end.y }, { x: to.x + LINE_WIDTH, y: end.y }];
}

/** The ways that lead from one line to the same place. */
export const alongside = (arrows: readonly MapArrow[], arrow: MapArrow): readonly MapArrow[] =>
  arrows.filter((a) => a.from === arrow.from && a.to === arrow.to);

/** Ways alongside one another are drawn apart, so that each can be seen and taken hold of. */
function fanned(arrows: readonly MapArrow[]): MapArrow[] {
  return arrows.map((arrow) => {
    const group = alongside(arrows, arrow);
    if (group.length === 1) return arrow;
    const apart = Math.min(7, (LINE_HEIGHT - 10) / (group.length - 1));
    const by = (group.indexOf(arrow) - (group.length - 1) / 2) * apart;
    const down = arrow.points.length === 2;
    return { ...arrow, points: arrow.points.map(({ x, y }) => (down ? { x: x + by, y } : { x, y: y + by })) };
  });
}

/** A smooth path through the points of an arrow, as SVG path data. */
export const pathOf = (points: readonly Point[]): string => {
  const [a, b, c, d] = points;
  if (!a || !b) return '';
  return c && d ? `M${a.x} ${a.y}C${b.x} ${b.y} ${c.x} ${c.y} ${d.x} ${d.y}` : `M${a.x} ${a.y}L${b.x} ${b.y}`;
};

/**
 * The map as a drawing by itself (SVG 1.1), with names of queues in place of ids. Colours are plain, so that it
 * prints.
 */
export function mapSvg(script: BotScript, nameOf: (id: string) => string): string {
  const map = mapOf(script);
  const short = (text: string, most: number): string => escapeXml(shortened(text, most));
  const parts = [
    ...map.regions.map(
      (r) =>
        `<rect x="${r.x}" y="${r.y}" width="${r.width}" height="${r.height}" rx="10" fill="#f1ebe0" ` +
        `stroke="#d9d0c0"/><text x="${r.x + 10}" y="${r.y + 17}" font-weight="600" fill="#3b1f5c">${r.number} ` +
        `${short(r.name, 26)}</text>`,
    ),
    ...map.arrows.map(
      (a) =>
        `<path d="${pathOf(a.points)}" fill="none" stroke="#8a7fa0" stroke-width="1.2" ` +
        `marker-end="url(#tip)"><title>${escapeXml(a.label)}</title></path>`,
    ),
    ...map.lines.map(
      (l) =>
        `<rect x="${l.x}" y="${l.y}" width="${LINE_WIDTH}" height="${LINE_HEIGHT}" rx="6" fill="#fffdf8" ` +
        `stroke="#bdb3c9"/><text x="${l.x + 8}" y="${l.y + 14}" fill="#5a2a82" font-weight="600">${l.number} ` +
        `${escapeXml(l.verb)}</text><text x="${l.x + 8}" y="${l.y + 27}" fill="#4b4458" font-size="10">${short(l.words, 34)}</text>`,
    ),
    ...map.ends.map(
      (e) =>
        `<rect x="${e.x}" y="${e.y}" width="${END_WIDTH}" height="${LINE_HEIGHT}" rx="17" fill="#efe4f6" ` +
        `stroke="#5a2a82"/><text x="${e.x + END_WIDTH / 2}" y="${e.y + 21}" text-anchor="middle" ` +
        `fill="#3b1f5c">${short(e.id === 'end' ? 'end' : nameOf(e.label), 17)}</text>`,
    ),
  ];
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${map.width}" height="${map.height}" viewBox="0 ` +
    `0 ${map.width} ${map.height}" font-family="sans-serif" font-size="12"><title>${escapeXml(script.shownName)}</title><defs><marker ` +
    `id="tip" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" ` +
    `orient="auto"><path d="M0 0L8 4L0 8z" fill="#8a7fa0"/></marker></defs>${parts.join('')}</svg>\n`
  );
}
