/** Lengths as how many there are of about each size, so that those of many days can be added up. */

/** Sizes grow by 2% from one step to the next, so that the middle of a step is within 1% of what stands in it. */
const GROWTH = 1.02;
/** Below this each ms is a step of its own. */
const FINE = 50;
const PER_LOG = 1 / Math.log(GROWTH);
const FIRST_WIDE = Math.log(FINE);
/** 32 bits of ms: seven weeks. */
const STEPS = FINE + Math.ceil((Math.log(0xffff_ffff) - FIRST_WIDE) * PER_LOG) + 1;

const stepOf = (ms: number): number =>
  ms < FINE ? Math.floor(ms) : FINE + Math.floor((Math.log(ms) - FIRST_WIDE) * PER_LOG);
/** What stands for the lengths of a step: no more than 1% from any of them. */
const middleOf = (step: number): number =>
  step < FINE ? step : (FINE * GROWTH ** (step - FINE) * (2 * GROWTH)) / (1 + GROWTH);

/** Lengths (ms) of which quantiles can be told within 1%. Two can be added. */
export class Lengths {
  #steps: Uint32Array | null = null;
  #count = 0;

  add(ms: number): void {
    this.addAt(stepOf(ms), 1);
  }
  /** Adds so many of the size of a step. */
  addAt(step: number, many: number): void {
    const steps = (this.#steps ??= new Uint32Array(STEPS));
    steps[step] = (steps[step] as number) + many;
    this.#count += many;
  }
  /** Adds all of another. */
  merge(other: Lengths): void {
    const theirs = other.#steps;
    if (theirs === null) return;
    const mine = (this.#steps ??= new Uint32Array(STEPS));
    for (let step = 0; step < STEPS; step++) mine[step] = (mine[step] as number) + (theirs[step] as number);
    this.#count += other.#count;
  }
  /** Steps of which there are some, with how many. */
  pairs(): readonly (readonly [step: number, many: number])[] {
    return [...(this.#steps ?? [])].flatMap((many, step) => (many > 0 ? [[step, many] as const] : []));
  }
  /** The length below which a share of them is, ms, between two where it falls between them; null for none. */
  quantile(share: number): number | null {
    if (this.#steps === null) return null;
    const place = (this.#count - 1) * share;
    const [low, high] = [this.#at(Math.floor(place)), this.#at(Math.ceil(place))];
    return low + (high - low) * (place - Math.floor(place));
  }
  /** What stands at a place when all are in order. */
  #at(place: number): number {
    const steps = this.#steps ?? [];
    let before = 0;
    for (let step = 0; step < steps.length; step++) {
      before += steps[step] as number;
      if (before > place) return middleOf(step);
    }
    return 0;
  }
}
