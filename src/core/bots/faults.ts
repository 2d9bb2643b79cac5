import type { Channel } from '../channels';
import type { Need } from '../routing/needs';
import type { FindRecorded } from '../sound/recorded';
import type { SharedScene, Step } from './model';

export const CHECKS = [
  'empty',
  'unreached',
  'endless',
  'loop',
  'silent-end',
  'wording',
  'unset',
  'set-twice',
  'left-over',
  'gone',
  'choices',
  'no-catch-all',
  'too-many-choices',
  'no-failed-cue',
  'on-duty-for-free',
  'field-unshown',
  'field-unset',
  'long-text',
  'long-speech',
  'hand-over',
  'tags',
  'mixed-voices',
] as const;
export type Check = (typeof CHECKS)[number];

/** What mends a fault: lines put in the place of others, lines taken out, or new ones put below another. */
export type Fix = {
  readonly label: string;
  readonly put: readonly Step[];
  readonly remove: readonly string[];
  readonly below?: { readonly lineId: string; readonly steps: readonly Step[] };
};
/** A fault in a script, of a line or of the whole. Those that stop contacts bar publishing. */
export type BotFault = {
  readonly check: Check;
  readonly lineId: string | null;
  readonly weight: 'stops' | 'advice';
  readonly sentence: string;
  readonly fix: Fix | null;
};

/** What a script refers to outside itself, as it is now. */
export type CheckWorld = {
  readonly queues: ReadonlyMap<
    string,
    {
      readonly name: string;
      readonly channels: readonly Channel[];
      /**
       * Whether somebody could take a contact of the channel at some stage, with what the line needs besides;
       * `groupId` is asked from the start.
       */
      readonly able: (channel: Channel, needs: readonly Need[], groupId: string | null) => boolean;
      /** Door names during whose hours it is never open, if any. */ readonly closedWhile: readonly string[];
    }
  >;
  /** Channels of the doors that use the bot. */
  readonly channels: readonly Channel[];
  /** Names of everything else that can be referred to, by `KIND ID`. */
  readonly names: ReadonlyMap<string, string>;
  readonly shared: ReadonlyMap<string, SharedScene>;
  /** Words that callers hear as somebody recorded them. */
  readonly recorded: FindRecorded;
  readonly fields: readonly {
    readonly name: string;
    readonly label: string;
    /** Some Desk profile or queue shows it. */ readonly shown: boolean;
    /** A look-up, an agent or another bot may set it. */ readonly setElsewhere: boolean;
  }[];
};

/** A fault before it is known of which line it is. */
export type Found = Omit<BotFault, 'lineId'>;
/** A fault that stops contacts. */
export const stops = (check: Check, sentence: string, fix: Fix | null = null): Found => ({
  check,
  weight: 'stops',
  sentence,
  fix,
});
/** A fault that is advice. */
export const advice = (check: Check, sentence: string, fix: Fix | null = null): Found => ({
  check,
  weight: 'advice',
  sentence,
  fix,
});
/** A fix that puts lines in the place of those with the same ids. */
export const put = (label: string, ...steps: Step[]): Fix => ({ label, put: steps, remove: [] });
