'use client';

import { createContext, useContext } from 'react';
import { mayset } from '@/core/bots/graph';
import { allSteps, type BotScript, lineNumber } from '@/core/bots/model';
import type { Channel } from '@/core/channels';
import type { Surroundings } from '@/services/bots/botviews';

/**
 * What the pieces of a script's editor stand in: the script, what it can refer to, and the channels its doors are on.
 */
export type Around = {
  readonly script: BotScript;
  readonly view: Surroundings;
  readonly channels: readonly Channel[];
  readonly mayChange: boolean;
  /** The one scene of the script is a shared one, with these inputs. */ readonly inputs?: readonly string[];
};

const AroundContext = createContext<Around | null>(null);
export const AroundScript = AroundContext.Provider;

export function useAround(): Around {
  const around = useContext(AroundContext);
  if (!around) throw new Error('a piece of a script stands outside of one');
  return around;
}

/** The values that a script may know, with the lines that set them. */
export function valuesKnown({
  script,
  view,
  inputs = [],
}: Pick<Around, 'script' | 'view' | 'inputs'>): { readonly name: string; readonly from: string }[] {
  const set = new Map<string, string[]>(inputs.map((name) => [name, ['its inputs']]));
  for (const step of allSteps(script))
    for (const name of mayset(step)) set.set(name, [...(set.get(name) ?? []), lineNumber(script, step.id) ?? '']);
  for (const scene of view.shared)
    for (const step of scene.steps)
      for (const name of mayset(step)) set.set(name, [...(set.get(name) ?? []), scene.name]);
  const fields = view.fields.filter((f) => !set.has(f.name)).map((f) => ({ name: f.name, from: `field ${f.label}` }));
  return [
    ...[...set].map(([name, lines]) => ({ name, from: `set at ${[...new Set(lines)].slice(0, 3).join(', ')}` })),
    ...fields,
  ];
}
