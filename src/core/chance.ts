/** A source of chance that gives the same numbers for the same seed. */
export type Chance = {
  /** The next number in [0, 1). */
  next(): number;
  /** A whole number in [0, n). */
  below(n: number): number;
  /** One of the items; throws on an empty list. */
  pick<T>(items: readonly T[]): T;
  /** Exponentially distributed with this mean (inverse transform: −mean·ln(1−u)). */
  exponential(mean: number): number;
  /** Log-normal with this mean and coefficient of variation. */
  lognormal(mean: number, variation: number): number;
};

/** mulberry32 (Tommy Ettinger, public domain): 32 bits of state, period 2^32, good enough for arrivals and choices. */
export function seeded(seed: number): Chance {
  let state = seed >>> 0;
  return chanceFrom(() => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  });
}

/**
 * sfc32 (Chris Doty-Humphrey, public domain): 128 bits of state, so that the streams of many runs do not overlap.
 * Each seed and stream number gives numbers of its own.
 */
export function stream(seed: number, number: number): Chance {
  let [a, b, c, counter] = [seed >>> 0, (seed / 4294967296) >>> 0, Math.imul(number + 1, 0x9e3779b1) >>> 0, 1];
  const next = () => {
    const t = (a + b + counter) >>> 0;
    counter = (counter + 1) >>> 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) >>> 0;
    c = ((c << 21) | (c >>> 11)) >>> 0;
    c = (c + t) >>> 0;
    return t / 4294967296;
  };
  for (let i = 0; i < 20; i++) next();
  return chanceFrom(next);
}

function chanceFrom(next: () => number): Chance {
  const normal = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  return {
    next,
    below: (n) => Math.floor(next() * n),
    pick: (items) => {
      const item = items[Math.floor(next() * items.length)];
      if (item === undefined) throw new RangeError('pick needs at least one item');
      return item;
    },
    exponential: (mean) => -mean * Math.log(1 - next()),
    lognormal: (mean, variation) => {
      const s2 = Math.log(1 + variation * variation);
      return Math.exp(Math.log(mean) - s2 / 2 + Math.sqrt(s2) * normal());
    },
  };
}

/** FNV-1a, 32 bits: a stable hash for ties, so that a tie falls the same way every time. */
export function hash32(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  return h >>> 0;
}
