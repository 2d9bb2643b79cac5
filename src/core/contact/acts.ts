import type { BotState, Request, ShownImage } from '../bots/conversation';
import type { OutsideRequest } from '../bots/connectors';
import type { Heard } from '../bots/program';
import type { ContactEnd } from '../measures/facts';
import type { LeftHow, NewVisit } from '../routing/acts';
import type { VisitKind } from '../routing/floor';
import type { Asking, Callback, LeftFor, Line } from './contact';

/** Reminders of a contact's; one of each kind and thing. */
export type ContactTimer = 'bot-waits' | 'bot-slow' | 'callback-due' | 'dial-ends' | 'wrap-up-ends';

/** Words for the transcript. `options` are what can be answered; `ssml` is how it is spoken. */
export type Words = {
  readonly text: string;
  readonly lineId?: string | null;
  readonly options?: readonly { readonly key: string; readonly label: string }[];
  readonly ssml?: string | null;
  readonly mayInterrupt?: boolean;
  readonly image?: ShownImage | null;
};

/** What the driver must carry out for a contact, in order. */
export type ContactAct =
  | ({ readonly do: 'bot-says' } & Words)
  | { readonly do: 'person-says'; readonly personId: string; readonly text: string }
  /**
   * The customer's own words. `secret` names the private field they answer: they are kept apart and a token stands in
   * the transcript.
   */
  | { readonly do: 'customer-said'; readonly text: string; readonly secret: string | null }
  | { readonly do: 'end'; readonly how: ContactEnd }
  | { readonly do: 'asking'; readonly asking: Asking | null }
  // With the router
  | {
      readonly do: 'enter';
      readonly queueId: string;
      readonly placedAt: number;
      readonly handOver: NewVisit['handOver'];
      readonly priority: number;
      readonly because: string;
      /** Whether the customer is there; they are where nothing is said. */
      readonly kind?: VisitKind;
      readonly personId?: string | null;
      readonly opens?: NewVisit['opens'];
    }
  | { readonly do: 'leave'; readonly visitId: string; readonly how: LeftHow }
  | { readonly do: 'chose'; readonly visitId: string }
  /** They were told how long it would still be. */
  | { readonly do: 'told'; readonly visitId: string; readonly seconds: number }
  | { readonly do: 'still-choosing'; readonly visitId: string; readonly until: number }
  | { readonly do: 'outside-call-over'; readonly callId: string }
  /** The customer of an open text conversation wrote: whoever has it holds its load again. */
  | { readonly do: 'wake' }
  // With people
  | { readonly do: 'line'; readonly legId: string; readonly personId: string; readonly line: Line }
  | {
      readonly do: 'wrap-up';
      readonly legId: string;
      readonly personId: string;
      readonly passedOn: boolean;
    }
  | { readonly do: 'file'; readonly legId: string; readonly personId: string; readonly outcome: string }
  | {
      readonly do: 'leg-over';
      readonly legId: string;
      readonly personId: string;
      readonly outcome: string | null;
      readonly handleSeconds: number;
      /** Whether that is the time it was in front of them. */
      readonly inFront: boolean;
    }
  // Its bot
  | { readonly do: 'bot-begins'; readonly botId: string; readonly version: number }
  /** It goes on with a version that mends words of the one it was with. */
  | { readonly do: 'bot-mended'; readonly version: number }
  | { readonly do: 'place'; readonly place: BotState | null }
  | {
      readonly do: 'heard';
      readonly lineId: string;
      readonly choiceId: string | null;
      readonly understood: boolean;
      readonly intent: { readonly id: string; readonly confidence: number } | null;
    }
  /** Words that were not understood, for whoever teaches the phrasebook. */
  | { readonly do: 'unheard'; readonly lineId: string; readonly language: string; readonly text: string }
  /** A question put to the articles, and the one that answered it; null where none fitted. */
  | {
      readonly do: 'asked-articles';
      readonly lineId: string;
      readonly language: string;
      readonly text: string;
      readonly articleId: string | null;
    }
  | { readonly do: 'remember'; readonly name: string; readonly value: string; readonly secret: boolean }
  /** The fields that go along to a person. */
  | { readonly do: 'pass-fields'; readonly names: readonly string[] }
  | { readonly do: 'language'; readonly language: string }
  /** They are known as a customer, by an address that they gave. */
  | { readonly do: 'identified'; readonly customerId: string; readonly address: string }
  | {
      readonly do: 'bot-over';
      readonly lineId: string | null;
      readonly how: 'handed-over' | 'ended' | 'failed' | 'left' | 'went-quiet';
      readonly because: string | null;
      readonly path: readonly string[];
    }
  /** A code goes to a number that they gave; and one was given for it. */
  | { readonly do: 'send-code'; readonly number: string }
  | { readonly do: 'code-tried'; readonly number: string; readonly right: boolean }
  /** A text to a number, now or when the contact is over; `to` is null when there is none to send it to. */
  | {
      readonly do: 'text';
      readonly lineId: string;
      readonly to: string | null;
      readonly text: string;
      readonly when: 'now' | 'after';
    }
  | {
      readonly do: 'ask-outside';
      readonly number: number;
      readonly ask: Request['ask'];
      readonly connectorId: string;
      readonly request: OutsideRequest;
    }
  /** What words may mean is to be asked of whoever understands. */
  | { readonly do: 'ask-meaning'; readonly number: number; readonly heard: Heard }
  /** A message was left; null once somebody deals with it. */
  | { readonly do: 'message-left'; readonly leftFor: LeftFor | null }
  /** From now on it holds load as a call. */
  | { readonly do: 'hold-as-call'; readonly legId: string; readonly personId: string }
  // Calls promised
  | { readonly do: 'callback'; readonly callback: Callback }
  | { readonly do: 'ring'; readonly callId: string; readonly until: number }
  // Reminders: an instant of the floor's clock, or so many real seconds from now, or none any more
  | { readonly do: 'remind'; readonly timer: ContactTimer; readonly id: string; readonly at: number }
  | { readonly do: 'remind-real'; readonly timer: ContactTimer; readonly id: string; readonly seconds: number }
  | { readonly do: 'forget'; readonly timer: ContactTimer; readonly id: string };
