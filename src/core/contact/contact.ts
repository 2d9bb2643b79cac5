import type { Connector } from '../bots/connectors';
import type { BotState, Reply, Request } from '../bots/conversation';
import type { Program } from '../bots/program';
import type { Values } from '../bots/value';
import type { CallbackTalk } from '../callbacks/dialogue';
import type { CallWindow } from '../callbacks/windows';
import type { Channel } from '../channels';
import type { Speech } from '../messages/ssml';
import type { VisitKind, WaitingVisit } from '../routing/floor';
import type { Need } from '../routing/needs';
import type { QueueSettings } from '../routing/queue';

/** What is awaited of a contact beside its bot: about a call back, a message, or its first words. Kept until it is over. */
export type Asking =
  | {
      readonly kind: 'callback';
      readonly talk: CallbackTalk;
      readonly placedAt: number;
      readonly queueId: string;
      /** What the hand-over asked for, so that the call asks for it too; absent in what earlier code kept. */
      readonly needs?: readonly Need[];
      readonly priority?: number;
    }
  /** Nobody has met them yet: their first words say which bot does. */
  | { readonly kind: 'first-words'; readonly doorId: string }
  /** For a queue; absent in what earlier code kept. */
  | { readonly kind: 'message'; readonly queueId?: string; readonly needs?: readonly Need[] };

/** For which queue a message was left, and what a person must know besides. */
export type LeftFor = { readonly queueId: string; readonly needs: readonly Need[] };

export type CallbackState =
  'planned' | 'waiting' | 'dialling' | 'talking' | 'reached' | 'expired' | 'given-up' | 'cancelled';

/**
 * A call promised to a customer. `fromAt` to `untilAt` is the window they chose (null: as soon as possible); instants
 * of the floor. `callId` is the leg of whoever is dialling. `needs` and `priority` are what the hand-over asked for;
 * `most` is how often it is tried (null: as the queue says).
 */
export type Callback = {
  readonly id: string;
  readonly contactId: string;
  readonly queueId: string;
  readonly number: string;
  readonly placedAt: number;
  readonly askedAt: number;
  readonly fromAt: number;
  readonly untilAt: number | null;
  readonly expiresAt: number;
  readonly attempts: number;
  readonly nextAt: number | null;
  readonly state: CallbackState;
  readonly callId: string | null;
  readonly reachedAt: number | null;
  readonly endedAt: number | null;
  readonly outcome: string | null;
  readonly needs: readonly Need[];
  readonly priority: number;
  readonly most: number | null;
};

/**
 * A person's end of a call: open; muted, so that the customer is heard and does not hear; or held, so that neither hears
 * the other and music plays to the customer.
 */
export const LINES = ['open', 'muted', 'held'] as const;
export type Line = (typeof LINES)[number];

/** One person's turn with the contact. Instants are floor ms. */
export type LegNow = {
  readonly id: string;
  readonly personId: string;
  readonly visitId: string;
  readonly acceptedAt: number;
  readonly talkEndedAt: number | null;
  readonly outcome: string | null;
  /** Of a call. */ readonly line: Line;
};

/**
 * A contact with everything its next step depends on. A step changes it in place, so that what follows within the step
 * sees what has been decided so far.
 */
export type ContactNow = {
  readonly id: string;
  readonly doorId: string;
  readonly channel: Channel;
  /** `vouched`: the channel stands in for the address being theirs. */
  readonly customer: { readonly address: string; readonly name: string | null; readonly vouched: boolean };
  language: string;
  bot: { readonly id: string; readonly version: number } | null;
  endedAt: number | null;
  /** Where it stands in its bot's script; null when no bot has it. */
  place: BotState | null;
  asking: Asking | null;
  /** Its place in line, when it waits. */
  visit: WaitingVisit | null;
  /** Turns that are not over, wrap-up included. */
  legs: readonly LegNow[];
  /** The last call promised to its customer. */
  callback: Callback | null;
  /** A message that was left and that nobody has dealt with: the queue whose work it is. It stands in line when the contact would end. */
  leftFor: LeftFor | null;
  /** The call to a partner's number that is talked on, if one is. */
  readonly outsideCallId: string | null;
};

/** A bot that can run, with the connectors it asks. */
export type ReadyBot = { readonly program: Program; readonly connectors: ReadonlyMap<string, Connector> };

/** What a contact's step may look at beside the contact itself. Nothing here changes anything. */
export type ContactWorld = {
  /** Floor ms. */
  readonly now: number;
  /** The workspace's date and time, `YYYY-MM-DDTHH:MM`, its zone, languages and country. */
  readonly local: string;
  readonly zone: string;
  readonly languages: readonly string[];
  readonly country: string;
  readonly newId: (prefix: string) => string;
  readonly queues: () => readonly QueueSettings[];
  /** The queue through which somebody came to have the contact. */
  readonly queueOfVisit: (visitId: string) => QueueSettings | null;
  /** When a visit began and what it was asked for, to put it back where it was. */
  readonly pastVisit: (visitId: string) => PastVisit | null;
  /** How long somebody at this place would wait, seconds; null when not known. And the place, from 1. */
  readonly ahead: (visit: WaitingVisit) => { readonly place: number; readonly seconds: number | null };
  /** A published version of a bot; null when it is not there. */
  readonly bot: (id: string, version: number) => ReadyBot | null;
  /** The last version that mends words of this one, with the same lines; itself where there is none. */
  readonly mended: (botId: string, version: number) => number;
  /** The version of a bot that is live; null for none. */
  readonly liveVersion: (botId: string) => number | null;
  /** How long words take on a call, seconds: as they were recorded, else as they are spoken. */
  readonly saying: (words: Speech, language: string) => number;
  readonly isOnDuty: (personId: string) => boolean;
  /** The bot that first words ask for at a door, or the door's own (null: nothing was written); of which language they are. */
  readonly botAskedFor: (doorId: string, text: string | null) => BotAskedFor;
  /** What a bot is told at once; null for what has to be asked outside. */
  readonly answer: (request: Request) => Reply | null;
  /** Values that the contact already has, by field. */
  readonly valuesKnown: () => Values;
  readonly isField: (name: string) => boolean;
  readonly isPrivate: (name: string) => boolean;
  /** Whether they have shown that a number is theirs, and whether a code is the one that was sent to it. */
  readonly isProven: (number: string) => boolean;
  readonly isCode: (number: string, code: string) => boolean;
  /** When the customer could be called back. */
  readonly callWindows: (queue: Pick<QueueSettings, 'hoursId'>, count: number) => readonly CallWindow[];
  /** The number at which the contact came in, by which the country of typed numbers is known. */
  readonly doorAddress: () => string;
  readonly shownName: (personId: string) => string;
  /** When words were said, floor ms: what a text contact's handling time is made of. */
  readonly signs: () => readonly number[];
  /** How long a person's turn has been in front of them so far, seconds; null where their Desk has not said. */
  readonly inFront: (leg: { readonly id: string; readonly personId: string }) => number | null;
  /** Takes what broke and was made up for. */
  readonly report: (error: unknown) => void;
};
/** `bot` is null where none was published: then the contact goes to the queue `elsewhere`. */
export type BotAskedFor = {
  readonly bot: { readonly id: string; readonly version: number } | null;
  readonly language: string | null;
  readonly elsewhere: string | null;
};
export type PastVisit = {
  readonly queueId: string;
  readonly kind: VisitKind;
  readonly placedAt: number;
  readonly handOver: WaitingVisit['handOver'];
  readonly priority: number;
};
