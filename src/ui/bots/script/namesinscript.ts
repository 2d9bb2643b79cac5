import { allSteps, type BotScript, lineNumber } from '@/core/bots/model';
import { languageName } from '@/core/localised';
import type { Surroundings } from '@/services/bots/botviews';

/** What the parts of a script are called: scenes by their names, lines by their numbers, all else by its own name. */
export function namesInScript(script: BotScript, things: Surroundings): (id: string) => string {
  const names = new Map([
    ...[...things.queues, ...things.connectors, ...things.shared].map((t) => [t.id, t.name] as const),
    ...script.scenes.map((s) => [s.id, s.name] as const),
    ...allSteps(script).map((s) => [s.id, `line ${lineNumber(script, s.id)}`] as const),
    ...things.languages.map((l) => [l, languageName(l)] as const),
  ]);
  return (id) => names.get(id) ?? id;
}
