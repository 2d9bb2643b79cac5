import type { Channel } from '../channels';
import type { DutyProfile, DutyState } from '../people/duty';
import type { Held, LoadRules } from '../people/load';
import type { Need } from './needs';
import type { QueueSettings } from './queue';

/** A person as the router sees them. `levels` are effective levels by skill id. */
export type FloorPerson = {
  readonly id: string;
  duty: DutyState;
  reachable: boolean;
  profile: Pick<DutyProfile, 'rows'>;
  load: LoadRules;
  levels: ReadonlyMap<string, number>;
  /** Open legs by leg id: talking or wrapping up, both hold load. */
  readonly open: Map<string, Held>;
  pending: (Held & { readonly offerId: string; readonly visitId: string }) | null;
  /** When their last contact came to them (floor ms), or when they came on duty; null means never. */
  lastContactAt: number | null;
};

/** A contact waiting in a queue. `placedAt` orders it, `enteredAt` drives delays; both floor ms. */
export type WaitingVisit = {
  readonly id: string;
  readonly contactId: string;
  readonly channel: Channel;
  readonly queue: QueueSettings;
  /** The settings version that applied when the visit began. */
  readonly settingsVersion: number;
  /** The queue's needs merged with the hand-over's. */
  readonly needs: readonly Need[];
  readonly priority: number;
  readonly placedAt: number;
  readonly enteredAt: number;
  /** Entry number: the last word on order among equals. */
  readonly entry: number;
  /** When each person last refused or missed this contact (floor ms). */
  readonly refused: Map<string, number>;
  offeredTo: string | null;
};

/** Everything the router decides from. Owned by one driver and changed in place, in one thread. */
export type Floor = { readonly people: Map<string, FloorPerson>; readonly waiting: Map<string, WaitingVisit> };

export const emptyFloor = (): Floor => ({ people: new Map(), waiting: new Map() });

/** What a person holds now: open contacts and the offer not yet answered. */
export const heldBy = (person: FloorPerson): Held[] => (person.pending ? [...person.open.values(), person.pending] : [...person.open.values()]);
