import type { Reply } from '../bots/conversation';
import type { Meets } from '../doors/doorway';
import type { Turned } from './closed';
import type { Line } from './contact';
import type { ContactEnd } from '../measures/facts';
import type { StageAct } from '../routing/clock';
import type { WaitingVisit } from '../routing/floor';
import type { Onward } from '../routing/onward';

export type CustomerInput =
  { readonly type: 'text'; readonly text: string } | { readonly type: 'key'; readonly key: string };

/** Who meets a contact: its bot, one that its first words ask for at a door, or people. */
export type Met =
  | { readonly by: 'bot' }
  | { readonly by: 'first-words'; readonly doorId: string }
  | Extract<Meets, { readonly by: 'people' }>;

/** What can happen to a contact. */
export type ContactEvent =
  // From the customer
  /** It has come in at a door. `elsewhere` is the queue it goes to when the bot it meets was never published. */
  | {
      readonly type: 'begins';
      /** Null where the door is open. */
      readonly closed: Turned | null;
      /** Who meets it; its bot, where it has one, is known to the contact. */
      readonly meets: Met;
      readonly elsewhere: string | null;
    }
  | { readonly type: 'customer-says'; readonly input: CustomerInput }
  | { readonly type: 'customer-leaves' }
  /** The telephone that rings is answered, or the call is turned away. */
  | { readonly type: 'customer-picks-up'; readonly answered: boolean }
  // From people
  | { readonly type: 'person-says'; readonly legId: string; readonly text: string }
  /** The person holds or mutes a call, or opens its line again. */
  | { readonly type: 'line'; readonly legId: string; readonly line: Line }
  | { readonly type: 'talk-ends'; readonly legId: string; readonly how: ContactEnd }
  | { readonly type: 'outcome'; readonly legId: string; readonly outcome: string }
  | { readonly type: 'wrap-up-ends'; readonly legId: string }
  /** Its time is over, where the queue says how long it lasts. */
  | { readonly type: 'wrap-up-over'; readonly legId: string }
  /** The person rings the customer who left a message. */
  | { readonly type: 'ring-back'; readonly legId: string }
  /** To a queue: to somebody there first, or to a group as well, where one is named. */
  | {
      readonly type: 'passed-on';
      readonly legId: string;
      readonly queueId: string;
      readonly personId?: string | null;
      readonly groupId?: string | null;
    }
  /** Its person was switched off: it goes back to its queue at the place it had, or is closed. */
  | { readonly type: 'person-gone'; readonly legId: string; readonly how: 'return' | 'end' }
  /** A lead calls the promised call off, or has it dialled as soon as somebody is free. */
  | { readonly type: 'call-off' }
  | { readonly type: 'call-now' }
  // From the router
  | { readonly type: 'stage'; readonly visit: WaitingVisit; readonly act: StageAct }
  | { readonly type: 'sent-on'; readonly visit: WaitingVisit; readonly onward: Onward }
  | { readonly type: 'taken'; readonly visit: WaitingVisit; readonly legId: string; readonly personId: string }
  | { readonly type: 'outside-call-over' }
  // From time, and from outside
  | { readonly type: 'silence' }
  | { readonly type: 'slow' }
  | { readonly type: 'answer'; readonly number: number; readonly reply: Reply }
  /** Its bot cannot go on at all: people do. `because` is told to whoever writes bots. */
  | { readonly type: 'bot-gone'; readonly because: string }
  | { readonly type: 'call-due' }
  | { readonly type: 'rang-out'; readonly callId: string };
