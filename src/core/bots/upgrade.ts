import { NO_WORDING, QUIET, type BotScript, type Wording } from './model';

type Old = Readonly<Record<string, unknown>>;
const isWording = (x: unknown): x is Wording => typeof x === 'object' && x !== null && 'text' in x;
const wording = (x: unknown): Wording => (isWording(x) ? x : { text: (x ?? {}) as Wording['text'] });

/** What a line of an earlier step of the product remembered under. */
const remembered = (steps: readonly Old[]): string[] => [
  ...new Set(steps.flatMap((s) => (typeof s.remember === 'string' && s.remember !== '' ? [s.remember] : []))),
];

function stepFrom(old: Old, passed: readonly string[]): object {
  const worded = 'wording' in old ? { ...old, wording: wording(old.wording) } : old;
  switch (old.verb) {
    case 'say':
      return { mayInterrupt: true, link: null, ...worded };
    case 'hand-over': {
      const { queueId, ...rest } = worded as Old;
      return { fields: passed, ...rest, target: old.target ?? { to: 'queue', queueId } };
    }
    case 'listen': {
      const { remember, hears, ...rest } = worded as Old;
      const into = 'into' in old ? old.into : remember ? { name: remember, scope: 'conversation' } : null;
      const heard =
        (hears as { kind?: unknown } | undefined)?.kind === 'text' ? { kind: 'value', asked: { type: 'text' } } : hears;
      return {
        notices: [],
        silenceSeconds: 8,
        ...rest,
        hears: heard,
        into,
        again: wording(old.again),
        silent: wording(old.silent),
      };
    }
    default:
      return worded;
  }
}

/**
 * A script as it is now from one kept by an earlier step of the product: what it did not know yet takes its usual
 * value.
 */
export function scriptFrom(kept: unknown): BotScript {
  const old = kept as Old & { readonly scenes?: readonly { readonly steps: readonly Old[] }[] };
  // Hand-overs passed on every value, since fields could not be chosen.
  const passed = remembered((old.scenes ?? []).flatMap((scene) => scene.steps));
  const script: object = {
    picture: '',
    fallbackWording: NO_WORDING,
    afterSceneId: null,
    quiet: QUIET,
    ...old,
    scenes: (old.scenes ?? []).map((scene) => ({ ...scene, steps: scene.steps.map((step) => stepFrom(step, passed)) })),
  };
  // Whatever was kept by any earlier step is whole now.
  return script as BotScript;
}
