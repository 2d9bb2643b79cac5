/**
 * Things due at instants (ms), earliest first; equal instants in the order they were added. A binary heap over flat
 * arrays.
 */
export type Agenda<T> = {
  readonly add: (at: number, item: T) => void;
  readonly nextAt: () => number | null;
  readonly takeNext: () => T | undefined;
  readonly size: () => number;
};

export function createAgenda<T>(): Agenda<T> {
  const ats: number[] = [];
  const orders: number[] = [];
  const items: T[] = [];
  let order = 0;
  /** Puts an entry where it belongs on the way up from place `i`. */
  const rise = (from: number, at: number, mine: number, item: T): void => {
    let i = from;
    while (i > 0) {
      const parent = (i - 1) >> 1;
      const above = ats[parent] as number;
      if (above < at || (above === at && (orders[parent] as number) < mine)) break;
      ats[i] = above;
      orders[i] = orders[parent] as number;
      items[i] = items[parent] as T;
      i = parent;
    }
    ats[i] = at;
    orders[i] = mine;
    items[i] = item;
  };
  return {
    add(at, item) {
      const mine = order++;
      ats.push(at);
      orders.push(mine);
      items.push(item);
      rise(ats.length - 1, at, mine, item);
    },
    nextAt: () => ats[0] ?? null,
    size: () => ats.length,
    takeNext() {
      const first = items[0];
      const at = ats.pop();
      const mine = orders.pop();
      const item = items.pop();
      if (at === undefined || mine === undefined) return undefined;
      const n = ats.length;
      if (n === 0) return first;
      // The hole goes down to a leaf along the earlier children, then the last entry rises from there: about half the
      // comparisons.
      let i = 0;
      for (let child = 1; child < n; child = 2 * i + 1) {
        const other = child + 1;
        if (other < n) {
          const [a, b] = [ats[child] as number, ats[other] as number];
          if (b < a || (b === a && (orders[other] as number) < (orders[child] as number))) child = other;
        }
        ats[i] = ats[child] as number;
        orders[i] = orders[child] as number;
        items[i] = items[child] as T;
        i = child;
      }
      rise(i, at, mine, item as T);
      return first;
    },
  };
}
