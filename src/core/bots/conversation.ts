import type { CallbackTalk, Offered, TalkAct, TalkInput } from '../callbacks/dialogue';
import type { CallWindow } from '../callbacks/windows';
import type { Channel } from '../channels';
import type { Horizon } from '../routing/horizon';
import type { Need } from '../routing/needs';
import type { Figure, LookUp, Target } from './model';
import type { Meaning } from './program';
import type { Value, Values } from './value';

/**
 * Where a conversation stands within the bot (null) or a shared scene that it plays; `back` is the line below to go
 * on with.
 */
export type Frame = {
  readonly sharedId: string | null;
  readonly sceneId: string | null;
  readonly values: Values;
  readonly back: string | null;
};

/** A conversation's place in a script. Plain data: it is stored between inputs. */
export type BotState = {
  readonly lineId: string | null;
  readonly language: string;
  readonly frames: readonly Frame[];
  /** Values that live for the whole conversation. */
  readonly values: Values;
  /** What choices have added to what a person must know. */
  readonly needs: readonly Need[];
  /** Tries used up at the line that listens now, and silences in a row. */
  readonly tries: number;
  readonly silences: number;
  /** Telephone keys gathered so far for an answer that is not a choice; `#` sends it. */
  readonly keyed: string;
  /** The two choices between which it asks back. */
  readonly doubt: readonly [string, string] | null;
  /** The article that is being read, in parts. */
  readonly reading: {
    readonly title: string;
    readonly parts: readonly string[];
    readonly at: number;
    readonly seen: readonly string[];
  } | null;
  /** The number whose code is asked for. */
  readonly proving: string | null;
  /** Where the talk about a call back stands. */
  readonly talk: CallbackTalk | null;
  /** What the driver has been asked and not answered yet. */
  readonly asked: Request | null;
  /** What the customer said while the meaning of their words before was asked: it is heard next. */
  readonly waiting?: readonly string[];
  /** Requests so far: each gets its own number. */
  readonly requests: number;
  /** Lines run since the customer last said something. */
  readonly ran: number;
  /** The ways taken so far, `LINE>WAY`, at most 300. */
  readonly path: readonly string[];
  readonly status: 'running' | 'listening' | 'asking' | 'handed-over' | 'promised' | 'ended';
};

export type BotInput =
  | { readonly type: 'start' }
  | { readonly type: 'text'; readonly text: string }
  | { readonly type: 'key'; readonly key: string }
  /** Nothing came for as long as the last `wait` said. */
  | { readonly type: 'silence' }
  /**
   * Begins at a scene other than the first: a queue sent the contact back to it, or it is the one after the contact.
   */
  | { readonly type: 'scene'; readonly sceneId: string }
  /** What was asked for takes longer than the line says is usual. */
  | { readonly type: 'slow'; readonly number: number }
  | { readonly type: 'reply'; readonly number: number; readonly reply: Reply };

/**
 * What an interpreter wants to know or have done. `number` rises within a conversation and makes the idempotency key
 * of a Do.
 */
export type Request = { readonly number: number } & (
  | {
      readonly ask: 'facts';
      readonly subjects: readonly string[];
      /** What the contact is known to need, for figures of queues. */
      readonly needs: readonly Need[];
    }
  | {
      readonly ask: 'look-up';
      readonly source: LookUp['source'];
      readonly inputs: Values;
      readonly attempt: number;
      readonly slowAfterSeconds: number | null;
    }
  | {
      readonly ask: 'do';
      readonly connectorId: string;
      readonly inputs: Values;
      readonly slowAfterSeconds: number | null;
    }
  | { readonly ask: 'identify'; readonly address: string | null }
  | {
      readonly ask: 'figure';
      readonly queue: { readonly id: string } | { readonly name: string };
      readonly figure: Figure;
      readonly within: Horizon;
      readonly needs: readonly Need[];
    }
  | { readonly ask: 'queue'; readonly name: string }
  | {
      readonly ask: 'person';
      readonly person: { readonly id: string } | { readonly name: string } | { readonly last: true };
    }
  /** The talk about a call back: its beginning (`input` null), or what the customer said in it. */
  | {
      readonly ask: 'callback';
      readonly queueId: string;
      /** A number to offer first, as it was given; null for the one they are on. */
      readonly given: string | null;
      readonly offered: Offered;
      readonly windows: number;
      readonly talk: CallbackTalk | null;
      readonly input: TalkInput | null;
    }
  /** Whose number it is; null for the one they are on. */
  | { readonly ask: 'number'; readonly given: string | null }
  /** Whether a code is the one that was sent to a number. */
  | { readonly ask: 'code'; readonly telephone: string; readonly code: string }
  | { readonly ask: 'article'; readonly query: string; readonly language: string; readonly seen: readonly string[] }
  /** What words may mean by a version of the phrasebook. */
  | { readonly ask: 'meaning'; readonly book: number; readonly text: string; readonly language: string }
);
type Asked<A extends Request['ask']> = { readonly to: A };
export type Reply =
  | (Asked<'facts'> & { readonly facts: Readonly<Record<string, Value | null>> })
  | (Asked<'look-up'> & { readonly outcome: 'found' | 'not-found' | 'failed'; readonly outputs: Values })
  | (Asked<'do'> & { readonly outcome: 'done' | 'refused' | 'unsure'; readonly outputs: Values })
  /** `customerId` is whom they are known as, where that is somebody of the workspace's. */
  | (Asked<'identify'> & { readonly known: boolean; readonly values: Values; readonly customerId?: string })
  | (Asked<'figure'> & { /** Null when it is not known. */ readonly figure: number | null })
  | (Asked<'queue'> & { readonly queueId: string | null })
  | (Asked<'person'> & { readonly personId: string | null; readonly onDuty: boolean })
  | (Asked<'callback'> & { readonly talk: CallbackTalk | null; readonly acts: readonly TalkAct[] })
  /** The number as it is dialled, null where there is none; `proven` when it is known to be the customer's. */
  | (Asked<'number'> & { readonly number: string | null; readonly proven: boolean })
  | (Asked<'code'> & { readonly right: boolean })
  | (Asked<'article'> & {
      readonly article: { readonly id: string; readonly title: string; readonly text: string } | null;
    })
  | (Asked<'meaning'> & { readonly meaning: Meaning });

/** A picture as the customer gets it: `alt` says what it shows. */
export type ShownImage = { readonly id: string; readonly alt: string };
/** Where a picture is fetched from. */
export const imagePath = (imageId: string): string => `/api/v1/images/${imageId}`;

/** What the driver must carry out, in order. */
export type BotAct =
  | {
      readonly type: 'say';
      readonly lineId: string | null;
      readonly text: string;
      /** With SSML tags, when the wording has some. */ readonly ssml: string | null;
      readonly options: readonly { readonly key: string; readonly label: string }[];
      readonly mayInterrupt: boolean;
      readonly image: ShownImage | null;
    }
  | {
      readonly type: 'heard';
      readonly lineId: string;
      readonly choiceId: string | null;
      readonly understood: boolean;
      /** How sure the phrasebook was, when it decided. */ readonly intent: {
        readonly id: string;
        readonly confidence: number;
      } | null;
    }
  | {
      readonly type: 'remember';
      readonly name: string;
      readonly value: Value;
      readonly scope: 'scene' | 'conversation';
    }
  | { readonly type: 'language'; readonly language: string }
  /** They are known as a customer, by an address that they gave. */
  | { readonly type: 'identified'; readonly customerId: string; readonly address: string }
  | { readonly type: 'request'; readonly request: Request }
  /** A code goes to a number, by which the customer shows that it is theirs; and they gave one. */
  | { readonly type: 'send-code'; readonly lineId: string; readonly number: string }
  | { readonly type: 'code-tried'; readonly number: string; readonly right: boolean }
  | {
      readonly type: 'text';
      readonly lineId: string;
      readonly when: 'now' | 'after';
      /** Null where there is no number to send it to. */
      readonly to: string | null;
      readonly text: string;
    }
  /** A message was left, which is work for a queue. */
  | {
      readonly type: 'message';
      readonly lineId: string;
      readonly queueId: string;
      readonly text: string;
      readonly needs: readonly Need[];
    }
  | {
      readonly type: 'hand-over';
      readonly lineId: string | null;
      readonly target: Target;
      /** The queue within which it is asked, and the person once known. */ readonly queueId: string;
      readonly personId: string | null;
      readonly needs: readonly Need[];
      readonly priority: number;
      readonly fields: readonly string[];
      readonly because: string | null;
    }
  /** A call is promised, which the queue's people make; the bot's part is over. */
  | {
      readonly type: 'promise';
      readonly lineId: string;
      readonly queueId: string;
      readonly number: string;
      readonly window: CallWindow | null;
      /** How often it is tried; null for as often as the queue says. */ readonly most: number | null;
      readonly needs: readonly Need[];
      readonly fields: readonly string[];
    }
  | { readonly type: 'wait'; readonly seconds: number }
  | { readonly type: 'end'; readonly lineId: string | null; readonly how: 'ended' | 'went-quiet' };

/** What an interpreter is told with each input: the channel, and the date and time at the door, `YYYY-MM-DDTHH:MM`. */
export type BotWorld = { readonly channel: Channel; readonly local: string };

export const beginning = (language: string): BotState => ({
  lineId: null,
  language,
  frames: [{ sharedId: null, sceneId: null, values: {}, back: null }],
  values: {},
  needs: [],
  tries: 0,
  silences: 0,
  keyed: '',
  doubt: null,
  reading: null,
  proving: null,
  talk: null,
  asked: null,
  requests: 0,
  ran: 0,
  path: [],
  status: 'running',
});

/** All values that count at a state: those of the scene before those of the conversation. */
export const valuesAt = (state: BotState): Values => {
  const own = state.frames.at(-1)?.values;
  return own && Object.keys(own).length > 0 ? { ...state.values, ...own } : state.values;
};
