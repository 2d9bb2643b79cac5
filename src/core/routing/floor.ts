import { hash32 } from '../chance';
import type { Channel } from '../channels';
import type { WeekPattern } from '../hours/weekly';
import type { DutyProfile, DutyRow, DutyState } from '../people/duty';
import { FULL, type Held, type LoadRules } from '../people/load';
import type { StageAct } from './clock';
import { LIMIT_KINDS, NO_USES, reached, type Limited, type LimitKind, type Limits, type Uses } from './limits';
import type { MergedNeed, Need } from './needs';
import type { QueueSettings } from './queue';

/** An open leg: talking or wrapping up, both hold load; `groupId` is the group it is charged to. */
export type OpenLeg = Held & {
  readonly kind: VisitKind;
  readonly visitId: string;
  readonly queueId: string;
  readonly groupId: string | null;
  readonly acceptedAt: number;
};
export type PendingOffer = Held & {
  readonly offerId: string;
  readonly visitId: string;
  readonly groupId: string | null;
  readonly madeAt: number;
};

/**
 * What is known of a person from settings; the rest of a floor person is what they are doing. `levels` are effective
 * levels by skill id.
 */
export type PersonFacts = {
  readonly id: string;
  readonly profile: Pick<DutyProfile, 'rows'>;
  readonly load: LoadRules;
  readonly levels: ReadonlyMap<string, number>;
  /** Limits of their own; null for none. */
  readonly limited: Limited | null;
};

/** A person as the router sees them. Instants are floor ms. */
export type FloorPerson = PersonFacts & {
  /** Place in the floor's list, kept for life. */
  readonly index: number;
  readonly hash: number;
  readonly rows: ReadonlyMap<string, DutyRow>;
  duty: DutyState;
  reachable: boolean;
  readonly open: Map<string, OpenLeg>;
  pending: PendingOffer | null;
  /** When their last contact came to them, or when they came on duty; null means never. */
  lastContactAt: number | null;
  /** Contacts accepted on the floor's present day. */
  today: number;
  uses: Uses;
  /** When own limits may change by time alone, and the timer last asked for. */
  changesAt: number | null;
  timerAt: number | null;
  /** Load used and contacts counted, offers included and resting ones not; kept by `settle`. */
  used: number;
  count: number;
};

/** People asked together. `members` has each one's weight. */
export type GroupFacts = Limited & {
  readonly id: string;
  readonly members: ReadonlyMap<string, number>;
  /** Limits that stand in place of the members' own. */ readonly instead: readonly LimitKind[];
};
/**
 * What a driver keeps of anything limited: its uses, the limits reached now, when that may change by time alone, and
 * the timer last asked for.
 */
type LimitUse = { uses: Uses; reached: readonly LimitKind[]; changesAt: number | null; timerAt: number | null };
export type FloorGroup = GroupFacts & LimitUse & { readonly members: Map<string, number> };

/** One outside number of a partner desk; rank and weight per queue that uses it. */
export type NumberFacts = Limited & {
  readonly id: string;
  readonly address: string;
  readonly perQueue: ReadonlyMap<string, { readonly rank: number; readonly weight: number }>;
};
/** An outside desk: its own hours and limits count for all of its numbers together, a contact once. */
export type PartnerFacts = Limited & {
  readonly id: string;
  readonly way: 'one-by-one' | 'all-at-once';
  readonly ringSeconds: number;
  readonly countsFromSeconds: number;
  readonly numbers: readonly NumberFacts[];
};
export type FloorNumber = NumberFacts & LimitUse & { /** Stride of the share by weight. */ share: number };
export type FloorPartner = Omit<PartnerFacts, 'numbers'> & LimitUse & { readonly numbers: readonly FloorNumber[] };
export type Dial = {
  readonly callId: string;
  readonly partnerId: string;
  readonly numberId: string;
  readonly startedAt: number;
};

/** An outside call that was answered and goes on. */
export type PartnerCallNow = Dial & {
  readonly answeredAt: number;
  readonly queueId: string;
  readonly visitId: string;
  readonly contactId: string;
};

export type MadeOffer = { readonly offerId: string; readonly personId: string };

/**
 * A contact waiting in a queue. What it is set aside for changes by replacement, so that a trail can keep what was.
 * `placedAt` orders it, `enteredAt` drives the clock and delays; floor ms.
 */
export type WaitingVisit = {
  readonly id: string;
  readonly contactId: string;
  readonly hash: number;
  readonly channel: Channel;
  readonly queue: QueueSettings;
  /** The settings version that applied when the visit began. */
  readonly settingsVersion: number;
  /** What the hand-over asked for on top of the queue's needs; it goes along when the contact moves on. */
  readonly handOver: readonly Need[];
  /** The queue's needs merged with the hand-over's, and as the stages so far have left them. */
  readonly merged: readonly MergedNeed[];
  needs: readonly MergedNeed[];
  readonly basePriority: number;
  priority: number;
  readonly placedAt: number;
  readonly enteredAt: number;
  /** Entry number: the last word on order among equals. */
  readonly entry: number;
  /** Queues left behind with the wait kept, so that overflow never goes in a circle. */
  readonly passed: readonly string[];
  /** Whether the customer is there; where not, nothing is played and nothing offered meanwhile. */
  readonly kind: VisitKind;
  /** The channel by whose rules it holds load. */
  readonly load: Channel;
  /** Who last dealt with this customer, when the queue asks for them first. */
  readonly familiarId: string | null;
  /** Stages that have happened, and when. */
  stage: number;
  stagedAt: readonly number[];
  groups: readonly string[];
  partners: readonly string[];
  /** When each person last refused or missed this contact, and each outside number. */
  refused: ReadonlyMap<string, number>;
  /** Offers not answered yet; several only while it is rung at several people. */
  offers: readonly MadeOffer[];
  dials: ReadonlyMap<string, Dial>;
  /** Until when the customer is being asked what they want; nobody is asked meanwhile. */
  choosingUntil: number | null;
  /** What is said or asked again, and when next. */
  repeats: readonly { readonly act: StageAct; readonly nextAt: number }[];
  /** The timer last asked for. */
  timerAt: number | null;
};

/** A customer who is there; a call to be dialled once somebody has taken it; or a message that was left. */
export type VisitKind = 'live' | 'callback' | 'message';

/** A message takes of a person what a text does, however it came. */
export const loadOf = (kind: VisitKind, channel: Channel): Channel => (kind === 'message' ? 'sms' : channel);

/** A queue as new visits find it, with its hours. */
export type FloorQueue = {
  readonly settings: QueueSettings;
  readonly version: number;
  readonly hours: WeekPattern | null;
};

/** Everything the router decides from. Owned by one driver and changed in place, in one thread. */
export type Floor = {
  readonly people: Map<string, FloorPerson>;
  /** By `index`; people who are gone stay in their place, off duty. */
  readonly list: FloorPerson[];
  readonly waiting: Map<string, WaitingVisit>;
  readonly groups: Map<string, FloorGroup>;
  readonly partners: Map<string, FloorPartner>;
  readonly queues: Map<string, FloorQueue>;
  /** Share of each person by queue, for the orders that share. */
  readonly shares: Map<string, Map<string, number>>;
  /** Outside calls going on, by call id. */
  readonly partnerCalls: Map<string, PartnerCallNow>;
};

export const emptyFloor = (): Floor => ({
  people: new Map(),
  list: [],
  waiting: new Map(),
  groups: new Map(),
  partners: new Map(),
  queues: new Map(),
  shares: new Map(),
  partnerCalls: new Map(),
});

export const rowKey = (queueId: string, channel: Channel): string => `${queueId}|${channel}`;
const rowsBy = new WeakMap<object, ReadonlyMap<string, DutyRow>>();
/** A profile's rows by queue and channel; made once per profile. */
export function rowsOf(profile: Pick<DutyProfile, 'rows'>): ReadonlyMap<string, DutyRow> {
  let rows = rowsBy.get(profile);
  if (!rows)
    rowsBy.set(profile, (rows = new Map([...profile.rows].reverse().map((r) => [rowKey(r.queueId, r.channel), r]))));
  return rows;
}

/** A person with nothing open; `before` carries over what they are doing. */
export function floorPerson(
  facts: PersonFacts,
  index: number,
  doing: Pick<FloorPerson, 'duty' | 'reachable' | 'lastContactAt' | 'today'>,
  before?: FloorPerson,
): FloorPerson {
  return {
    ...facts,
    ...doing,
    index,
    hash: hash32(facts.id),
    rows: rowsOf(facts.profile),
    open: before?.open ?? new Map(),
    pending: before?.pending ?? null,
    uses: before?.uses ?? NO_USES,
    changesAt: null,
    timerAt: null,
    used: 0,
    count: 0,
  };
}

/** What a person holds now: open contacts and the offer not yet answered. */
export const heldBy = (person: Pick<FloorPerson, 'open' | 'pending'>): Held[] =>
  person.pending ? [...person.open.values(), person.pending] : [...person.open.values()];

/**
 * Why a person cannot take anything, or not on a channel, as bits: so that a pass over many people is one comparison
 * each.
 */
export const BITS = {
  off: 1,
  away: 2,
  unreachable: 4,
  pending: 8,
  /** Own limits, one bit per kind from here on. */
  own: 16,
} as const;
const OWN_BITS = (1 << LIMIT_KINDS.length) - 1;
export const ownBit = (kind: LimitKind): number => BITS.own << LIMIT_KINDS.indexOf(kind);
export const OWN_MASK = BITS.own * OWN_BITS;
const CHANNEL_SHIFT = 4 + LIMIT_KINDS.length;
const shiftOf: Readonly<Record<Channel, number>> = {
  voice: CHANNEL_SHIFT,
  chat: CHANNEL_SHIFT + 2,
  messaging: CHANNEL_SHIFT + 4,
  sms: CHANNEL_SHIFT + 6,
};
const FIT_CODES = [null, 'channel-off', 'channel-most', 'load'] as const;
/** The bits that must all be clear for a person to take a contact on this channel. */
export const channelMask = (channel: Channel): number =>
  BITS.off | BITS.away | BITS.unreachable | BITS.pending | OWN_MASK | (3 << shiftOf[channel]);
export const loadMask = (channel: Channel): number => (3 << shiftOf[channel]) | BITS.pending;
export const misfitIn = (bits: number, channel: Channel): (typeof FIT_CODES)[number] =>
  FIT_CODES[(bits >> shiftOf[channel]) & 3] ?? null;

/**
 * Sums up what a person holds and gives the bits of why they cannot take more, per channel. Changes `used` and
 * `count`.
 */
export function settle(person: FloorPerson, now: number): number {
  let used = 0;
  let count = 0;
  let [voice, chat, messaging, sms] = [0, 0, 0, 0];
  const add = (held: Held): void => {
    if (held.resting) return;
    used += held.cost;
    count++;
    if (held.channel === 'voice') voice++;
    else if (held.channel === 'chat') chat++;
    else if (held.channel === 'messaging') messaging++;
    else sms++;
  };
  if (person.open.size > 0) for (const held of person.open.values()) add(held);
  if (person.pending) add(person.pending);
  person.used = used;
  person.count = count;
  let bits = person.duty === 'ready' ? 0 : person.duty === 'off' ? BITS.off : BITS.away;
  if (!person.reachable) bits |= BITS.unreachable;
  if (person.pending) bits |= BITS.pending;
  if (person.limited) {
    const { kinds, changesAt } = reached(person.limited, person.uses, now);
    for (const kind of kinds) bits |= ownBit(kind);
    person.changesAt = changesAt;
  }
  const { load } = person;
  return (
    bits |
    (fit(load.voice, voice, used) << shiftOf.voice) |
    (fit(load.chat, chat, used) << shiftOf.chat) |
    (fit(load.messaging, messaging, used) << shiftOf.messaging) |
    (fit(load.sms, sms, used) << shiftOf.sms)
  );
}
const fit = ({ cost, most }: { cost: number; most: number }, open: number, used: number): number =>
  most === 0 ? 1 : open >= most ? 2 : used + cost > FULL ? 3 : 0;

export const limitsOrNull = (limits: Limits, zone: string): Limited | null =>
  Object.values(limits).every((l) => l === null) ? null : { zone, hours: null, limits };
