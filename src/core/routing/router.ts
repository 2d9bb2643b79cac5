import type { Channel } from '../channels';
import type { Act } from './acts';
import { Few } from './few';
import { emptyFloor, type Floor, type FloorPerson, type WaitingVisit } from './floor';
import type { LaneFigures } from './lanefigures';
import type { Cohort } from './members';
import type { QueueSettings } from './queue';

/**
 * What an event touched: everything that may be able now has one of these visits or people in it; `all` is every
 * visit looked at.
 */
export type Touched = {
  readonly visits: Few<WaitingVisit>;
  readonly people: Few<FloorPerson>;
  readonly all: Few<WaitingVisit>;
  readonly trails: Map<WaitingVisit, 'entry' | 'stage'>;
};

/** People in the order in which they changed. A version is a place in all that ever changed; older ones are gone. */
type PeopleChanges = { people: FloorPerson[]; from: number };

/**
 * The floor with the indexes that keep a decision's cost to what it touches. Everything beside `floor` can be made
 * from it.
 */
export type Router = {
  readonly floor: Floor;
  readonly options: RouterOptions;
  /** Bits per person, by index: why they cannot take more (see `floor.ts`). */
  bits: Uint32Array;
  /** A copy of `bits` kept by trails, while it is still true. */
  snapshot: Uint32Array | null;
  /** Who changed in skills, profile or groups, so that rosters follow (see `peoplechanges.ts`). */
  readonly changes: PeopleChanges;
  /** Rises when somebody comes or goes. */
  dutyVersion: number;
  readonly cohorts: WeakMap<QueueSettings, Map<string, Cohort>>;
  /** Cohorts with somebody waiting. */
  readonly busy: Set<Cohort>;
  readonly lineOf: Map<WaitingVisit, Cohort>;
  readonly delays: Map<string, readonly number[]>;
  /** How many people have which rows of a profile: their delays are few, however many people there are. */
  readonly rowsHeld: Map<FloorPerson['rows'], number>;
  /** Visits that stand in line, as the expected wait counts them. */
  readonly standing: Set<WaitingVisit>;
  /** Visits waiting by their familiar person. */
  readonly heldFor: Map<string, Set<WaitingVisit>>;
  /** Visits being rung at several people at once. */
  readonly ringing: Set<WaitingVisit>;
  /** People with limits of their own. */
  readonly limited: Set<FloorPerson>;
  readonly lanes: Map<string, LaneFigures>;
  /** Lanes and shares that changed since the driver last asked (see `memory.ts`). */
  readonly learned: Set<string>;
  readonly widest: WeakMap<QueueSettings, Map<Channel, Cohort>>;
  /** Emptied and used anew by every step. */
  readonly touched: Touched;
  /** What the step in progress asks of the driver so far, in order; a new list for every step. */
  acts: Act[];
  nextEntry: number;
  /** The next instant at which a limit or opening hours change by time alone. */
  limitsDue: number;
  /** The floor's present day: contacts accepted in it count as today's. */
  dayEnds: number;
};

export type RouterOptions = {
  readonly newId: (prefix: string) => string;
  /** The zone in which days begin for "fewest today". */
  readonly zone: string;
  /** Whether decisions are explained; a rehearsal that only counts does without. */
  readonly trails: boolean;
  /** Decides who is asked after an event; another may stand in to be compared with. */
  readonly decide: Decide;
};
/** Makes the offers that an event calls for, looking at what it touched. */
export type Decide = (router: Router, now: number) => void;

export function createRouter(options: RouterOptions): Router {
  return {
    floor: emptyFloor(),
    options,
    bits: new Uint32Array(64),
    snapshot: null,
    changes: { people: [], from: 0 },
    dutyVersion: 0,
    cohorts: new WeakMap(),
    busy: new Set(),
    lineOf: new Map(),
    delays: new Map(),
    rowsHeld: new Map(),
    standing: new Set(),
    heldFor: new Map(),
    ringing: new Set(),
    limited: new Set(),
    lanes: new Map(),
    learned: new Set(),
    widest: new WeakMap(),
    touched: { visits: new Few(), people: new Few(), all: new Few(), trails: new Map() },
    acts: [],
    nextEntry: 1,
    limitsDue: Infinity,
    dayEnds: -Infinity,
  };
}
