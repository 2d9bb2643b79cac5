/** Something that takes room for a while: `load` of 100, over [from, to). */
export type Taking = { readonly from: number; readonly to: number; readonly load: number };

/**
 * Puts things that take room at once above each other, each as low as there is room when it begins: gives the bottom of
 * each, in the order in which they were given. What does not fit under 100 stands on top of what is there.
 */
export function stacked(things: readonly Taking[]): number[] {
  const bottoms = new Array<number>(things.length).fill(0);
  const order = things.map((_, i) => i).sort((a, b) => (things[a]?.from ?? 0) - (things[b]?.from ?? 0));
  const placed: { readonly to: number; readonly bottom: number; readonly top: number }[] = [];
  for (const i of order) {
    const { from, to, load } = things[i] as Taking;
    const there = placed.filter((p) => p.to > from).sort((a, b) => a.bottom - b.bottom);
    let bottom = 0;
    for (const one of there) {
      if (one.bottom >= bottom + load) break;
      bottom = Math.max(bottom, one.top);
    }
    bottoms[i] = bottom;
    placed.push({ to, bottom, top: bottom + load });
  }
  return bottoms;
}
