import { type BotAct, type BotState, type BotWorld, valuesAt } from './conversation';
import type { Need } from '../routing/needs';
import type { Given, Taken } from './model';
import type { Place, Program } from './program';
import { templateValue, valueIn, type Into, type Value, type Values } from './value';

/** A conversation while an input is being dealt with: what it goes by, where it stands, and what is to be done. */
export type Run = { readonly program: Program; readonly world: BotWorld; state: BotState; readonly acts: BotAct[] };
/** Where a line leads: another line of this space, back or to the end, or that the run is over for now. */
export type Lead = { readonly line: string } | 'back' | 'end' | 'gone' | 'stop';

export const frameOf = (run: Run) =>
  run.state.frames.at(-1) ?? { sharedId: null, sceneId: null, values: {}, back: null };
export const placeOf = (run: Run, lineId: string): Place | undefined =>
  run.program.spaces.get(frameOf(run).sharedId)?.places.get(lineId);
export const below = (place: Place): Lead => (place.below === null ? 'back' : { line: place.below });

export function remember(run: Run, into: Into, value: Value): void {
  const { state } = run;
  if (into.scope === 'conversation') run.state = { ...state, values: { ...state.values, [into.name]: value } };
  else
    run.state = {
      ...state,
      frames: [
        ...state.frames.slice(0, -1),
        { ...frameOf(run), values: { ...frameOf(run).values, [into.name]: value } },
      ],
    };
  run.acts.push({ type: 'remember', name: into.name, value, scope: into.scope });
}

/** A figure that is not known leaves nothing behind of an earlier one. */
export function forget(run: Run, { name }: Into): void {
  const without = (values: Values): Values => Object.fromEntries(Object.entries(values).filter(([n]) => n !== name));
  run.state = {
    ...run.state,
    values: without(run.state.values),
    frames: run.state.frames.map((f) => ({ ...f, values: without(f.values) })),
  };
}

/** What choices have added to what a person must know, the last word on each skill. */
export const needsOf = ({ state }: Run): Need[] => [...new Map(state.needs.map((n) => [n.skillId, n])).values()];

/** A remembered value as text; empty when it is not known. */
export const textOf = (run: Run, name: string): string => String(valueIn(valuesAt(run.state), name) ?? '');
export const given = (run: Run, inputs: readonly Given[]): Values =>
  Object.fromEntries(inputs.map(({ name, value }) => [name, templateValue(value, valuesAt(run.state))]));
export function taken(run: Run, outputs: readonly Taken[], got: Values): void {
  for (const { name, into } of outputs) {
    const value = valueIn(got, name);
    if (value !== undefined) remember(run, into, value);
  }
}
