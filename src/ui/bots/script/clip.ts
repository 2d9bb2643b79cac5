import { type BotScript, lineNumber, type Step, VERBS } from '@/core/bots/model';
import { type Clip, type Reference, referencesOf } from '@/core/bots/references';
import type { Surroundings } from '@/services/bots/botviews';

/** Lines that were copied stay in this browser, so that they can be put into another bot on another page. */
const KEY = 'lane-clip';

/** Names of everything that a view's scripts can refer to, by kind. */
export function thingsOf(
  view: Surroundings,
  script: BotScript,
): Readonly<Record<Reference['kind'], readonly { readonly id: string; readonly name: string }[]>> {
  return {
    queue: view.queues,
    skill: view.skills,
    group: view.groups,
    partner: view.partners,
    person: view.people,
    team: view.teams,
    connector: view.connectors,
    table: view.tables,
    hours: view.hours,
    shared: view.shared,
    list: view.lists.map((l) => ({ id: l.id, name: l.label })),
    intent: view.intents.map((i) => ({ id: i.id, name: i.label })),
    scene: script.scenes.map((s, i) => ({ id: s.id, name: `${i + 1} ${s.name}` })),
    line: script.scenes.flatMap((s) => s.steps).map((s) => ({ id: s.id, name: lineNumber(script, s.id) ?? '' })),
    value: [],
  };
}
export function keepClip(view: Surroundings, script: BotScript, steps: readonly Step[]): void {
  const things = thingsOf(view, script);
  const names = Object.fromEntries(
    steps.flatMap(referencesOf).flatMap((r) => {
      const found = things[r.kind].find((t) => t.id === r.id);
      return found ? [[`${r.kind} ${r.id}`, found.name]] : [];
    }),
  );
  localStorage.setItem(KEY, JSON.stringify({ format: 'usher-lane-lines', steps, names } satisfies Clip));
}
export function heldClip(): Clip | null {
  try {
    const clip = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Clip | null;
    const whole =
      clip?.format === 'usher-lane-lines' &&
      Array.isArray(clip.steps) &&
      clip.steps.every((s) => typeof s.id === 'string' && VERBS.includes(s.verb));
    return whole ? clip : null;
  } catch {
    return null;
  }
}
