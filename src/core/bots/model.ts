import type { CallbackSentence } from '../callbacks/sentences';
import type { Channel } from '../channels';
import type { Localised } from '../localised';
import type { OfferedBy } from '../messages/options';
import type { Need } from '../routing/needs';
import type { Condition } from './conditions';
import type { Into } from './value';

/** Where a conversation goes after a line. A shared scene comes back to the line after. */
export type Cue =
  | { readonly to: 'next' }
  | { readonly to: 'line'; readonly lineId: string }
  | { readonly to: 'scene'; readonly sceneId: string }
  | { readonly to: 'shared'; readonly sharedId: string }
  | { readonly to: 'end' };

/**
 * What customers read or hear: text per language, with other text on channels that need it. By voice it may carry the
 * SSML subset.
 */
export type Wording = { readonly text: Localised; readonly on?: Readonly<Partial<Record<Channel, Localised>>> };

export const NO_WORDING: Wording = { text: {} };

/**
 * The text per language that counts on a channel: its own variant where it has one for a language, else the common
 * one.
 */
export const wordingOn = (wording: Wording, channel: Channel): Localised => {
  const own = wording.on?.[channel];
  return own
    ? { ...wording.text, ...Object.fromEntries(Object.entries(own).filter(([, text]) => text !== '')) }
    : wording.text;
};

/**
 * One thing a Listen for line can hear: by telephone key, button or numbered text, label, synonym, or what it means
 * by the phrasebook.
 */
export type Choice = {
  readonly id: string;
  readonly label: Localised;
  /** One of 0–9, * and #; also the number shown on text channels. Empty means no key. */
  readonly key: string;
  /** Other words for it, per language. */
  readonly synonyms: Readonly<Record<string, readonly string[]>>;
  /** The intent of the phrasebook that means it as well. */
  readonly intentId?: string;
  readonly cue: Cue;
  /** Choosing it makes the conversation go on in this language. */
  readonly setsLanguage?: string;
  /** Choosing it adds these to what a person must know. */
  readonly needs?: readonly Need[];
};

/**
 * The type of an answer that is remembered. A pattern is an RE2 expression that the whole answer must match, shown by
 * an example.
 */
export type Asked =
  | { readonly type: 'text' | 'date' | 'time' | 'yes-no' | 'telephone' | 'email' }
  | { readonly type: 'whole'; readonly least: number | null; readonly most: number | null }
  | { readonly type: 'pattern'; readonly pattern: string; readonly example: string }
  | { readonly type: 'listed'; readonly listId: string };

type Line<V extends string, Rest> = { readonly id: string; readonly verb: V } & Rest;

export type Say = Line<
  'say',
  {
    readonly wording: Wording;
    /** Whether speaking or a key may cut it short. */ readonly mayInterrupt: boolean;
    /** A link sent with it on text channels. */ readonly link: {
      readonly url: string;
      readonly label: Localised;
    } | null;
    /** A picture shown with it in chat and messaging, and what it shows in words. */ readonly image?: {
      readonly imageId: string;
      readonly alt: Localised;
    };
  }
>;

export type Listen = Line<
  'listen',
  {
    readonly wording: Wording;
    readonly hears:
      | {
          readonly kind: 'choices';
          readonly choices: readonly Choice[];
          /** How a call is told of them; by their keys where nothing is said. */
          readonly offeredBy?: OfferedBy;
        }
      | { readonly kind: 'value'; readonly asked: Asked };
    /** Where the answer is remembered; null means not at all. */
    readonly into: Into | null;
    /** Things of the phrasebook that are remembered when they are named in the answer. */
    readonly notices: readonly { readonly listId: string; readonly into: Into }[];
    /** How often it asks before it gives up on an answer it understands. */
    readonly tries: number;
    /** Seconds of silence by voice that count as a try. */
    readonly silenceSeconds: number;
    /** Said when the answer was not understood; empty repeats the question. */
    readonly again: Wording;
    /** Said after silence; empty is worded like an answer not understood. */
    readonly silent: Wording;
    /** The catch-all, after the last try; null is a fault that the checks name, and takes the fallback. */
    readonly otherwise: Cue | null;
  }
>;

export type Branch = Line<
  'branch',
  { readonly ways: readonly { readonly when: Condition; readonly cue: Cue }[]; readonly otherwise: Cue }
>;

/** A value given to something outside: its name there and a text that may show values. */
export type Given = { readonly name: string; readonly value: string };

export type Taken = { readonly name: string; readonly into: Into };

export type LookUp = Line<
  'look-up',
  {
    readonly source:
      | { readonly from: 'connector'; readonly connectorId: string }
      | { readonly from: 'table'; readonly tableId: string };
    readonly inputs: readonly Given[];
    readonly outputs: readonly Taken[];
    /** How often it is tried in all. */
    readonly tries: number;
    /** Said when nothing came back after so many seconds. */
    readonly slowAfterSeconds: number;
    readonly slow: Wording;
    readonly found: Cue;
    readonly notFound: Cue;
    /** Null is a fault that the checks name, and takes the fallback. */
    readonly failed: Cue | null;
  }
>;

export type Do = Line<
  'do',
  {
    readonly connectorId: string;
    readonly inputs: readonly Given[];
    readonly outputs: readonly Taken[];
    readonly slowAfterSeconds: number;
    readonly slow: Wording;
    readonly done: Cue;
    readonly refused: Cue;
    readonly unsure: Cue | null;
  }
>;

export const FIGURES = ['onDuty', 'free', 'able', 'waiting', 'longestWait', 'expectedWait'] as const;
export type Figure = (typeof FIGURES)[number];

export type Count = Line<
  'count',
  {
    readonly queue: { readonly by: 'name'; readonly queueId: string } | { readonly by: 'value'; readonly name: string };
    readonly figure: Figure;
    /** Until when somebody may join who is counted, in seconds of waiting: 0 for now; at any stage where it is absent. */
    readonly within?: number;
    readonly into: Into;
    /** Where it goes when the figure is not known; on with the next line where it is absent. */
    readonly unknown?: Cue;
  }
>;

export type Remember = Line<
  'remember',
  { readonly into: Into; /** A text that may show values; one place alone keeps its type. */ readonly value: string }
>;

export type Identify = Line<
  'identify',
  {
    /** The value that holds an address, or null for the one they come from. */ readonly by: string | null;
    readonly known: Cue;
    readonly unknown: Cue;
  }
>;

export type Hours = Line<
  'hours',
  { /** Null means those of the door. */ readonly hoursId: string | null; readonly open: Cue; readonly closed: Cue }
>;

export type TextThem = Line<
  'text-them',
  {
    readonly when: 'now' | 'after';
    /** The value that holds a number, or null for the one they come from. */ readonly to: string | null;
    readonly wording: Wording;
  }
>;

/**
 * Who is asked after a bot. A group, a person or a partner desk is asked within a queue, whose goal and rules count.
 */
export type Target =
  | { readonly to: 'queue'; readonly queueId: string }
  | {
      readonly to: 'queue-value';
      /** The value that holds a queue's name. */ readonly name: string;
      readonly queueId: string;
    }
  | { readonly to: 'group'; readonly groupId: string; readonly queueId: string }
  | { readonly to: 'partner'; readonly partnerId: string; readonly queueId: string }
  /** A named person, one whose name a value holds, or the last who dealt with this customer (null). */
  | {
      readonly to: 'person';
      readonly person:
        | { readonly by: 'id'; readonly personId: string }
        | { readonly by: 'value'; readonly name: string }
        | { readonly by: 'last' };
      readonly queueId: string;
      /** Where it goes when that person is off duty; null asks the queue. */ readonly off: Cue | null;
    };

export type HandOver = Line<
  'hand-over',
  {
    readonly target: Target;
    readonly needs: readonly Need[];
    /** 0 is usual; higher goes first within a band. */ readonly priority: number;
    /** Fields shown at the Desk. */ readonly fields: readonly string[];
    readonly wording: Wording;
  }
>;

/**
 * A call back is arranged and promised, which ends the bot's part; or nothing comes of it. Its sentences are those of
 * the talk (`callbacks/sentences.ts`); what is not worded is said as the queue says it.
 */
export type CallBack = Line<
  'call-back',
  {
    /** The queue whose people call, by whose hours the times go. */ readonly queueId: string;
    /** The value that holds the number offered first, or null for the one they are on. */
    readonly number: string | null;
    /** Whether as soon as possible is offered, and how many windows. */
    readonly soon: boolean;
    readonly windows: number;
    /** How often it is tried; null for as often as the queue says. */ readonly attempts: number | null;
    /** Fields shown at the Desk. */ readonly fields: readonly string[];
    readonly sentences: Readonly<Partial<Record<CallbackSentence, Wording>>>;
    /** Where it goes when nothing comes of it; null is a fault that the checks name, and takes the fallback. */
    readonly otherwise: Cue | null;
  }
>;

export type TakeMessage = Line<'take-message', { readonly wording: Wording; readonly queueId: string }>;

export type Articles = Line<
  'articles',
  {
    readonly wording: Wording;
    readonly tries: number;
    readonly silenceSeconds: number;
    /** Once they have what they wanted. */ readonly done: Cue;
    /** Nothing fitted, as often as it may be tried. */ readonly nothing: Cue;
  }
>;

export type Play = Line<'play', { readonly sharedId: string; readonly inputs: readonly Given[] }>;
export type GoTo = Line<'go-to', { readonly cue: Cue }>;
export type End = Line<'end', { readonly wording: Wording }>;

export type Step =
  | Say
  | Listen
  | Branch
  | LookUp
  | Do
  | Count
  | Remember
  | Identify
  | Hours
  | TextThem
  | HandOver
  | CallBack
  | TakeMessage
  | Articles
  | Play
  | GoTo
  | End;

export type Verb = Step['verb'];

export const VERB_NAMES: Readonly<Record<Verb, string>> = {
  say: 'Say',
  listen: 'Listen for',
  branch: 'Branch',
  'look-up': 'Look up',
  do: 'Do',
  count: 'Count',
  remember: 'Remember',
  identify: 'Identify',
  hours: 'Hours',
  'text-them': 'Text them',
  'hand-over': 'Hand over',
  'call-back': 'Call back',
  'take-message': 'Take a message',
  articles: 'Answer from articles',
  play: 'Play',
  'go-to': 'Go to',
  end: 'End',
};

export const VERBS = Object.keys(VERB_NAMES) as readonly Verb[];
export type Scene = { readonly id: string; readonly name: string; readonly steps: readonly Step[] };

/** A scene kept once and used by several bots; its inputs are values that live while it plays. */
export type SharedScene = Scene & { readonly inputs: readonly string[] };

/** A scripted conversation. The first scene is where everybody starts. */
export type BotScript = {
  /** The name customers see. */
  readonly shownName: string;
  /** A mark of at most two characters beside the name. */
  readonly picture: string;
  readonly languages: readonly string[];
  /** Where contacts go when the script fails. */
  readonly fallbackQueueId: string;
  /** What is said then, before the hand-over; empty is the built-in sentence. */
  readonly fallbackWording: Wording;
  readonly scenes: readonly Scene[];
  /** The scene that runs after a person has ended the contact; null for none. */
  readonly afterSceneId: string | null;
  /** A text customer who goes quiet is reminded, then closed. */
  readonly quiet: { readonly remindSeconds: number; readonly wording: Wording; readonly closeSeconds: number };
};

export const QUIET = { remindSeconds: 240, wording: NO_WORDING, closeSeconds: 600 } as const;

/** A line's place as people read it: scene 3, line 4 is `3.4`. Null when the line is not there. */
export function lineNumber(script: Pick<BotScript, 'scenes'>, lineId: string): string | null {
  for (const [s, scene] of script.scenes.entries()) {
    const i = scene.steps.findIndex((step) => step.id === lineId);
    if (i >= 0) return `${s + 1}.${i + 1}`;
  }
  return null;
}

export const allSteps = (script: Pick<BotScript, 'scenes'>): Step[] => script.scenes.flatMap((scene) => scene.steps);
export const choiceName = (choice: Choice): string =>
  Object.values(choice.label).find((text) => text !== '') ?? choice.id;

/**
 * The choices that are offered: those with a key; when none has one, all. The others are understood, but not read out
 * or shown.
 */
export function offered<C extends Pick<Choice, 'key'>>(choices: readonly C[]): readonly C[] {
  const keyed = choices.filter((c) => c.key !== '');
  return keyed.length > 0 ? keyed : choices;
}
