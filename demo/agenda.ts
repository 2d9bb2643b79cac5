/** Things to do at floor instants (whole ms), earliest first; equal instants in the order they were added. A binary heap. */
export type Agenda = { add: (at: number, act: () => void) => void; nextAt: () => number | null; takeNext: () => (() => void) | null };

export function createAgenda(): Agenda {
  type Entry = { at: number; order: number; act: () => void };
  const heap: Entry[] = [];
  let order = 0;
  const before = (a: Entry | undefined, b: Entry | undefined): boolean => a !== undefined && (b === undefined || a.at < b.at || (a.at === b.at && a.order < b.order));
  const swap = (i: number, j: number) => {
    const [a, b] = [heap[i], heap[j]];
    if (a && b) [heap[i], heap[j]] = [b, a];
  };
  return {
    add(at, act) {
      heap.push({ at: Math.ceil(at), order: order++, act });
      for (let i = heap.length - 1; i > 0;) {
        const parent = (i - 1) >> 1;
        if (!before(heap[i], heap[parent])) break;
        swap(i, parent);
        i = parent;
      }
    },
    nextAt: () => heap[0]?.at ?? null,
    takeNext() {
      const first = heap[0];
      const last = heap.pop();
      if (!first || !last) return null;
      if (heap.length > 0) {
        heap[0] = last;
        for (let i = 0; ;) {
          const [l, r] = [2 * i + 1, 2 * i + 2];
          const child = before(heap[r], heap[l]) ? r : l;
          if (!before(heap[child], heap[i])) break;
          swap(i, child);
          i = child;
        }
      }
      return first.act;
    },
  };
}
