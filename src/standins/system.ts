import type { OutsideAnswer, OutsideRequest } from '../core/bots/connectors';

/** How a simulated system answers: as usual, each answer late, or not at all. */
export const SYSTEM_MOODS = ['usual', 'slow', 'fails'] as const;
export type SystemMood = (typeof SYSTEM_MOODS)[number];

/**
 * A company's own system, simulated: whoever brings a made-up company along registers one, and connectors without a
 * host ask it. It says how many seconds its answer takes. The same request must have the same answer, so that what
 * changes something is done once however often its key comes. `now` is floor ms.
 */
export type StandInSystem = {
  readonly name: string;
  /** What it is, in a sentence for whoever sets up connectors. */
  readonly about: string;
  readonly answer: (
    request: OutsideRequest,
    mood: SystemMood,
    now: number,
  ) => { readonly answer: OutsideAnswer; readonly seconds: number };
};

/** Where nobody registered one: it is not there, which a connector meets as failed. */
export const NO_SYSTEM: StandInSystem = {
  name: '',
  about: '',
  answer: () => ({ answer: { fault: 'no system is registered here' }, seconds: 0 }),
};
