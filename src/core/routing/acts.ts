import type { Channel } from '../channels';
import type { WeekPattern } from '../hours/weekly';
import type { DutyState } from '../people/duty';
import type { StageAct } from './clock';
import type { Decision } from './decision';
import type { FloorPerson, GroupFacts, PartnerFacts, PersonFacts, VisitKind, WaitingVisit } from './floor';
import type { Need } from './needs';
import type { Onward } from './onward';
import type { QueueSettings } from './queue';

/** How a visit ends without a person having taken it. */
export type LeftHow = 'gave-up' | 'closed-by-us' | 'callback-asked' | 'message-left' | 'moved-on';

/** A contact about to enter a queue. */
export type NewVisit = {
  readonly id: string;
  readonly contactId: string;
  readonly queueId: string;
  readonly channel: Channel;
  readonly placedAt: number;
  readonly handOver: readonly Need[];
  readonly priority: number;
  readonly familiarId: string | null;
  readonly kind: VisitKind;
  readonly because: string;
  readonly passed: readonly string[];
  /**
   * Somebody who was asked for by name: preferred and waited for like a familiar person, whatever the queue's own
   * rule.
   */
  readonly personId?: string | null;
  /** A group or partner desk that is asked from the start. */
  readonly opens?:
    { readonly to: 'group'; readonly groupId: string } | { readonly to: 'partner'; readonly partnerId: string } | null;
};

/** What happened to the floor, at an instant. */
export type RouterEvent =
  /**
   * People are new or changed (`duty`, `reachable` and what they did today only count for new ones); `gone` are no
   * longer there.
   */
  | {
      readonly type: 'people';
      readonly people: readonly (PersonFacts & Pick<FloorPerson, 'duty' | 'reachable' | 'lastContactAt' | 'today'>)[];
      readonly gone: readonly string[];
    }
  | { readonly type: 'groups'; readonly groups: readonly GroupFacts[] }
  /** Who is in groups that are there is otherwise; `weight` null takes somebody out. */
  | {
      readonly type: 'members';
      readonly changes: readonly {
        readonly groupId: string;
        readonly personId: string;
        readonly weight: number | null;
      }[];
    }
  | { readonly type: 'partners'; readonly partners: readonly PartnerFacts[] }
  | {
      readonly type: 'queues';
      readonly queues: readonly {
        readonly settings: QueueSettings;
        readonly version: number;
        readonly hours: WeekPattern | null;
      }[];
    }
  | { readonly type: 'duty'; readonly personId: string; readonly duty: DutyState }
  | { readonly type: 'reach'; readonly personId: string; readonly reachable: boolean }
  | { readonly type: 'enter'; readonly visit: NewVisit }
  | { readonly type: 'leave'; readonly visitId: string; readonly how: LeftHow }
  | { readonly type: 'accept'; readonly offerId: string; readonly personId: string; readonly legId: string }
  | {
      readonly type: 'turn-down';
      readonly offerId: string;
      readonly personId: string;
      readonly how: 'declined' | 'missed' | 'withdrawn';
    }
  /** Somebody takes a contact by hand: from a list, or because a supervisor says so. */
  | { readonly type: 'claim'; readonly visitId: string; readonly personId: string; readonly legId: string }
  /** A message is rung back: it holds load as a call from now on. */
  | { readonly type: 'holds-call'; readonly personId: string; readonly legId: string }
  | { readonly type: 'rest'; readonly personId: string; readonly legId: string; readonly resting: boolean }
  | { readonly type: 'leg-ended'; readonly personId: string; readonly legId: string }
  /**
   * The customer who was asked chose to keep waiting, or the time to answer is moved on because they are still
   * choosing.
   */
  | { readonly type: 'chose'; readonly visitId: string }
  | { readonly type: 'still-choosing'; readonly visitId: string; readonly until: number }
  | { readonly type: 'dial-ended'; readonly callId: string; readonly how: 'answered' | 'no-answer' | 'busy' }
  | { readonly type: 'partner-done'; readonly callId: string }
  | { readonly type: 'due'; readonly timer: RouterTimer }
  /** Everything is looked at anew: after a stop. */
  | { readonly type: 'anew' };

/** Something the router wants to be reminded of; one of each kind and thing. */
export type RouterTimer = { readonly kind: 'visit' | 'group' | 'person' | 'partner' | 'number'; readonly id: string };

/** What the driver must carry out, in order. */
export type Act =
  | {
      readonly do: 'began';
      readonly visit: WaitingVisit;
      readonly because: string;
      readonly crossed: readonly string[];
    }
  | {
      readonly do: 'offer';
      readonly offerId: string;
      readonly visit: WaitingVisit;
      readonly person: FloorPerson;
      readonly groupId: string | null;
      readonly decision: Decision | null;
    }
  | {
      readonly do: 'offer-over';
      readonly offerId: string;
      readonly visit: WaitingVisit;
      readonly personId: string;
      readonly how: 'accepted' | 'declined' | 'missed' | 'withdrawn' | 'taken';
    }
  | {
      readonly do: 'took';
      readonly visit: WaitingVisit;
      readonly personId: string;
      readonly legId: string;
      readonly groupId: string | null;
      readonly byHand: boolean;
    }
  | { readonly do: 'trail'; readonly decision: Decision }
  | { readonly do: 'stage'; readonly visit: WaitingVisit; readonly stage: number; readonly early: boolean }
  /** A rule of entry asks a group or a partner desk as well. */
  | { readonly do: 'opened'; readonly visit: WaitingVisit; readonly to: 'group' | 'partner'; readonly id: string }
  /** The customer is being asked what they want, or no longer (null). */
  | { readonly do: 'choosing'; readonly visit: WaitingVisit; readonly until: number | null }
  | { readonly do: 'perform'; readonly visit: WaitingVisit; readonly act: StageAct }
  /** The visit is over; `onward` says what the driver does next with the contact, when anything. */
  | {
      readonly do: 'ended';
      readonly visit: WaitingVisit;
      readonly how: LeftHow | 'accepted';
      readonly onward: Onward | null;
    }
  | {
      readonly do: 'dial';
      readonly visit: WaitingVisit;
      readonly callId: string;
      readonly partnerId: string;
      readonly numberId: string;
      readonly address: string;
      readonly ringUntil: number;
    }
  | { readonly do: 'partner-answered'; readonly visit: WaitingVisit; readonly callId: string }
  /** A dial came to nothing, or an outside call is over; `counted` says whether it counts towards caps and results. */
  | {
      readonly do: 'call-over';
      readonly visitId: string;
      readonly contactId: string;
      readonly callId: string;
      readonly how: 'done' | 'no-answer' | 'busy' | 'not-needed';
      readonly counted: boolean;
    }
  /** Somebody who missed an offer is set away, or off when they were leaving. */
  | { readonly do: 'set-duty'; readonly personId: string; readonly duty: DutyState; readonly missed: boolean }
  | { readonly do: 'timer'; readonly timer: RouterTimer; readonly at: number | null };
