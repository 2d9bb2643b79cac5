import type { Localised } from '../localised';
import type { Need } from '../routing/needs';
import type { Condition } from './conditions';

/** Where a conversation goes after a line. */
export type Cue =
  | { readonly to: 'next' }
  | { readonly to: 'line'; readonly lineId: string }
  | { readonly to: 'scene'; readonly sceneId: string }
  | { readonly to: 'end' };

/** One thing a Listen for line can hear: by telephone key, button or numbered text, label or synonym. */
export type Choice = {
  readonly id: string;
  readonly label: Localised;
  /** One of 0–9, * and #; also the number shown on text channels. Empty means no key. */
  readonly key: string;
  /** Other words for it, per language. */
  readonly synonyms: Readonly<Record<string, readonly string[]>>;
  readonly cue: Cue;
  /** Choosing it makes the conversation go on in this language. */
  readonly setsLanguage?: string;
};

export type Say = { readonly id: string; readonly verb: 'say'; readonly wording: Localised };
export type Listen = {
  readonly id: string;
  readonly verb: 'listen';
  readonly wording: Localised;
  /** Either one of several choices, or whatever the customer writes or says. */
  readonly hears: { readonly kind: 'choices'; readonly choices: readonly Choice[] } | { readonly kind: 'text' };
  /** Name of the value or field in which the answer is remembered; empty means not at all. */
  readonly remember: string;
  /** How often it asks before it gives up on an answer it understands. */
  readonly tries: number;
  /** Said when the answer was not understood; empty repeats the question. */
  readonly again: Localised;
  /** The catch-all, after the last try. */
  readonly otherwise: Cue;
};
export type Branch = {
  readonly id: string;
  readonly verb: 'branch';
  readonly ways: readonly { readonly when: Condition; readonly cue: Cue }[];
  readonly otherwise: Cue;
};
export type HandOver = {
  readonly id: string;
  readonly verb: 'hand-over';
  readonly queueId: string;
  readonly needs: readonly Need[];
  /** 0 is usual; higher goes first within a band. */
  readonly priority: number;
  readonly wording: Localised;
};
export type End = { readonly id: string; readonly verb: 'end'; readonly wording: Localised };

export type Step = Say | Listen | Branch | HandOver | End;
export type Verb = Step['verb'];
export const VERB_NAMES: Readonly<Record<Verb, string>> = { say: 'Say', listen: 'Listen for', branch: 'Branch', 'hand-over': 'Hand over', end: 'End' };

export type Scene = { readonly id: string; readonly name: string; readonly steps: readonly Step[] };

/** A scripted conversation. The first scene is where everybody starts. */
export type BotScript = {
  /** The name customers see. */
  readonly shownName: string;
  readonly languages: readonly string[];
  /** Where contacts go when the script fails, and what is said then. */
  readonly fallbackQueueId: string;
  readonly scenes: readonly Scene[];
};

/** A line's place as people read it: scene 3, line 4 is `3.4`. Null when the line is not there. */
export function lineNumber(script: BotScript, lineId: string): string | null {
  for (const [s, scene] of script.scenes.entries()) {
    const i = scene.steps.findIndex((step) => step.id === lineId);
    if (i >= 0) return `${s + 1}.${i + 1}`;
  }
  return null;
}

export const allSteps = (script: BotScript): Step[] => script.scenes.flatMap((scene) => scene.steps);

/** Every cue of a step, with how it reads. */
export function cuesOf(step: Step): { readonly label: string; readonly cue: Cue }[] {
  if (step.verb === 'listen') {
    const choices = step.hears.kind === 'choices' ? step.hears.choices.map((c) => ({ label: c.label.en ?? Object.values(c.label)[0] ?? c.id, cue: c.cue })) : [];
    return [...choices, { label: 'anything else', cue: step.otherwise }];
  }
  if (step.verb === 'branch') return [...step.ways.map((way, i) => ({ label: `way ${i + 1}`, cue: way.cue })), { label: 'otherwise', cue: step.otherwise }];
  return [];
}

/** The wordings a step carries, by what they are for. */
export function wordingsOf(step: Step): { readonly part: string; readonly wording: Localised; readonly needed: boolean }[] {
  switch (step.verb) {
    case 'say':
      return [{ part: 'wording', wording: step.wording, needed: true }];
    case 'listen': {
      const labels = step.hears.kind === 'choices' ? step.hears.choices.map((c) => ({ part: `choice ${c.key || c.id}`, wording: c.label, needed: true })) : [];
      return [{ part: 'question', wording: step.wording, needed: true }, ...labels, { part: 'wording when not understood', wording: step.again, needed: false }];
    }
    case 'hand-over':
    case 'end':
      return [{ part: 'wording', wording: step.wording, needed: false }];
    case 'branch':
      return [];
  }
}
