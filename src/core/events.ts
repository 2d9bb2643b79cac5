import type { Channel } from './channels';
import type { Line } from './contact/contact';
import type { TiedHow } from './customers/joining';
import type { ContactEnd, VisitEnd } from './measures/facts';
import type { Mood } from './mood/mood';
import type { DutyState } from './people/duty';
import type { MergedNeed, Need } from './routing/needs';

/**
 * What happened, as it is kept for good. Tables of contacts, visits and legs are made from these and can be made anew.
 * No event carries a customer's words, address or private values: those stand apart and can be erased.
 */
export type EventBody =
  | {
      readonly type: 'contact.started';
      readonly contactId: string;
      readonly doorId: string;
      readonly channel: Channel;
      readonly customerId: string;
      readonly language: string;
      readonly botId: string | null;
      readonly botVersion: number | null;
      /** Whether its door was open then, by its hours. */ readonly open?: boolean;
    }
  | {
      readonly type: 'message.written';
      readonly contactId: string;
      readonly from: 'customer' | 'bot' | 'person';
      readonly personId: string | null;
      readonly lineId: string | null;
    }
  | {
      readonly type: 'bot.heard';
      readonly contactId: string;
      readonly lineId: string;
      readonly choiceId: string | null;
      readonly understood: boolean;
      /** How sure the phrasebook was, when it decided. */ readonly intent?: {
        readonly id: string;
        readonly confidence: number;
      } | null;
    }
  /**
   * Something was asked outside; a text was to be sent now or after the contact; the conversation goes on in another
   * language.
   */
  | { readonly type: 'bot.asked'; readonly contactId: string; readonly number: number; readonly connectorId: string }
  | {
      readonly type: 'bot.texted';
      readonly contactId: string;
      readonly lineId: string;
      readonly when: 'now' | 'after';
      readonly sent: boolean;
    }
  | { readonly type: 'contact.language'; readonly contactId: string; readonly language: string }
  /** Somebody says how a customer felt who was judged wrongly (null: as it was judged); also long after the contact. */
  | {
      readonly type: 'mood.said';
      readonly ofContactId: string;
      readonly says: Mood | null;
      readonly personId: string;
    }
  | { readonly type: 'value.set'; readonly contactId: string; readonly name: string }
  | { readonly type: 'bot.started'; readonly contactId: string; readonly botId: string; readonly botVersion: number }
  /** It goes on with a version that mends words of the one it was with. */
  | { readonly type: 'bot.mended'; readonly contactId: string; readonly botVersion: number }
  | {
      readonly type: 'bot.finished';
      readonly contactId: string;
      readonly lineId: string | null;
      readonly how: 'handed-over' | 'ended' | 'failed' | 'left' | 'went-quiet';
      readonly because: string | null;
      /** The ways taken, `LINE>WAY`. */ readonly path?: readonly string[];
    }
  | {
      readonly type: 'visit.began';
      readonly contactId: string;
      readonly visitId: string;
      readonly queueId: string;
      readonly channel: Channel;
      readonly settingsVersion: number;
      readonly placedAt: number;
      readonly needs: readonly MergedNeed[];
      readonly priority: number;
      readonly goalSeconds: number;
      readonly because: string;
      readonly entry?: number;
      readonly handOver?: readonly Need[];
      readonly passed?: readonly string[];
      readonly familiarId?: string | null;
      readonly callback?: boolean;
      readonly message?: boolean;
    }
  /** A message was left, which is work for a queue; null once it stands in line or somebody has the contact. */
  | {
      readonly type: 'message.left';
      readonly contactId: string;
      readonly queueId: string | null;
      readonly needs: readonly Need[];
    }
  /**
   * A stage of the wait clock happened; a group or partner desk was asked as well from the start; the customer is
   * asked what they want until an instant (null: no longer).
   */
  | {
      readonly type: 'visit.staged';
      readonly contactId: string;
      readonly visitId: string;
      readonly stage: number;
      readonly early: boolean;
    }
  /** The customer was told how long it would still be, as it was spoken. */
  | {
      readonly type: 'visit.told';
      readonly contactId: string;
      readonly visitId: string;
      readonly seconds: number;
    }
  | {
      readonly type: 'visit.opened';
      readonly contactId: string;
      readonly visitId: string;
      readonly to: 'group' | 'partner';
      readonly id: string;
    }
  | {
      readonly type: 'visit.asked';
      readonly contactId: string;
      readonly visitId: string;
      readonly until: number | null;
    }
  | {
      readonly type: 'partner.dialled';
      readonly contactId: string;
      readonly visitId: string;
      readonly callId: string;
      readonly partnerId: string;
      readonly numberId: string;
    }
  | { readonly type: 'partner.answered'; readonly contactId: string; readonly visitId: string; readonly callId: string }
  | {
      readonly type: 'partner.ended';
      readonly contactId: string;
      readonly visitId: string;
      readonly callId: string;
      readonly how: 'done' | 'no-answer' | 'busy' | 'not-needed';
      readonly counted: boolean;
    }
  | {
      readonly type: 'callback.changed';
      readonly contactId: string;
      readonly callbackId: string;
      readonly state: string;
    }
  | { readonly type: 'visit.ended'; readonly contactId: string; readonly visitId: string; readonly how: VisitEnd }
  | {
      readonly type: 'offer.made';
      readonly contactId: string;
      readonly visitId: string;
      readonly offerId: string;
      readonly personId: string;
      readonly acceptBy: number;
      readonly groupId?: string | null;
    }
  | {
      readonly type: 'offer.ended';
      readonly contactId: string;
      readonly visitId: string;
      readonly offerId: string;
      readonly personId: string;
      readonly how: 'accepted' | 'declined' | 'missed' | 'withdrawn' | 'taken';
    }
  | {
      readonly type: 'leg.began';
      readonly contactId: string;
      readonly visitId: string;
      readonly legId: string;
      readonly personId: string;
      readonly groupId?: string | null;
      readonly byHand?: boolean;
      /** It happened before, or elsewhere, and says nothing of how anybody is now. */
      readonly broughtIn?: boolean;
    }
  | {
      readonly type: 'leg.wrapping';
      readonly contactId: string;
      readonly legId: string;
      readonly personId: string;
      readonly passedOn: boolean;
    }
  /** An outcome is filed while wrap-up goes on. */
  /** A call was held or muted, or its line opened again. */
  | {
      readonly type: 'leg.line';
      readonly contactId: string;
      readonly legId: string;
      readonly personId: string;
      readonly line: Line;
    }
  | {
      readonly type: 'leg.filed';
      readonly contactId: string;
      readonly legId: string;
      readonly personId: string;
      readonly outcome: string;
    }
  | {
      readonly type: 'leg.ended';
      readonly contactId: string;
      readonly legId: string;
      readonly personId: string;
      readonly outcome: string | null;
      readonly handleSeconds: number;
      /** Whether that is the time it was in front of them, as their Desk said. */
      readonly inFront?: boolean;
    }
  /** It was in front of its person for a while: floor ms, and real ms beside them. */
  | {
      readonly type: 'leg.front';
      readonly contactId: string;
      readonly legId: string;
      readonly personId: string;
      readonly from: number;
      readonly to: number;
      readonly realFrom: number;
      readonly realTo: number;
    }
  | {
      readonly type: 'contact.ended';
      readonly contactId: string;
      readonly how: ContactEnd;
      /** How its customer seemed to feel, by their own words; absent where these say nothing of it. */ readonly mood?: Mood;
    }
  | {
      readonly type: 'person.duty';
      readonly personId: string;
      readonly duty: DutyState;
      readonly reason: string | null;
    }
  /** Two customers are one, however they come; the tie that says so is taken back. */
  | {
      readonly type: 'customer.joined';
      readonly tieId: string;
      readonly customerId: string;
      readonly otherId: string;
      readonly how: TiedHow;
      readonly byPersonId: string | null;
      readonly inContactId: string | null;
    }
  | { readonly type: 'customer.parted'; readonly tieId: string; readonly byPersonId: string | null }
  | { readonly type: 'person.reach'; readonly personId: string; readonly reachable: boolean }
  | { readonly type: 'settings.changed'; readonly version: number; readonly kind: string; readonly id: string };

export type EventType = EventBody['type'];

/**
 * An event in the log: `seq` rises by one and is its id on the stream; `v` is the version of its shape; both clocks
 * in UTC ms.
 */
export type LaneEvent = EventBody & {
  readonly seq: number;
  readonly v: number;
  readonly floorAt: number;
  readonly realAt: number;
};

/** The person an event is about, if it is about one. */
export const personOf = (event: EventBody): string | null => ('personId' in event ? event.personId : null);
export const contactOf = (event: EventBody): string | null => ('contactId' in event ? event.contactId : null);
