import { graphOf } from './graph';
import type { BotScript } from './model';

/** How many customers took each way and where they left, by `LINE>WAY` and line, of how many conversations in all. */
export type Traffic = {
  readonly ways: Readonly<Record<string, number>>;
  readonly left: Readonly<Record<string, number>>;
  readonly of: number;
};

/**
 * How conversations with a bot ended: with a person, by the bot itself, or in that the customer left or went quiet;
 * of how many.
 */
export type BotEndings = {
  readonly of: number;
  readonly person: number;
  readonly finished: number;
  readonly left: number;
};

/** The share of those who came to a line that left there; null when nobody came. */
export function leftShare(traffic: Traffic, lineId: string): number | null {
  const left = traffic.left[lineId] ?? 0;
  const went = Object.entries(traffic.ways).reduce((sum, [way, n]) => sum + (way.startsWith(`${lineId}>`) ? n : 0), 0);
  return left + went === 0 ? null : left / (left + went);
}

/**
 * A scene as customers met it: the lines outside it that lead there, how many came in, and how many of them left
 * within.
 */
export type SceneTraffic = { readonly from: readonly string[]; readonly came: number; readonly left: number };

/**
 * Traffic by scene id. Everybody comes into the first scene; into another comes whoever took a way that leads there
 * from elsewhere, once for each such way.
 */
export function sceneTraffic(
  script: Pick<BotScript, 'scenes' | 'afterSceneId'>,
  traffic: Traffic | null,
): ReadonlyMap<string, SceneTraffic> {
  const graph = graphOf(script);
  return new Map(
    script.scenes.map((scene, i) => {
      const into = graph.arrows.filter(
        (a) =>
          typeof a.to === 'object' &&
          graph.sceneOf.get(a.to.line) === scene.id &&
          graph.sceneOf.get(a.from) !== scene.id,
      );
      const came = into.reduce(
        (sum, a) => sum + (traffic?.ways[`${a.from}>${a.way}`] ?? 0),
        i === 0 ? (traffic?.of ?? 0) : 0,
      );
      return [
        scene.id,
        {
          from: [...new Set(into.map((a) => a.from))],
          came,
          left: scene.steps.reduce((sum, s) => sum + (traffic?.left[s.id] ?? 0), 0),
        },
      ];
    }),
  );
}
