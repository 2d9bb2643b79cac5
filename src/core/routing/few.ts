/**
 * A set that mostly holds one or two things and is emptied all the time: a list, with a lookup beside it only once it
 * has grown.
 */
export class Few<T> implements Iterable<T> {
  private items: T[] = [];
  private lookup: Set<T> | null = null;
  get size(): number {
    return this.items.length;
  }
  has(item: T): boolean {
    return this.lookup ? this.lookup.has(item) : this.items.includes(item);
  }
  add(item: T): void {
    if (this.has(item)) return;
    this.items.push(item);
    if (this.lookup) this.lookup.add(item);
    else if (this.items.length > 16) this.lookup = new Set(this.items);
  }
  delete(item: T): void {
    const at = this.items.indexOf(item);
    if (at < 0) return;
    this.items.splice(at, 1);
    this.lookup?.delete(item);
  }
  clear(): void {
    if (this.items.length === 0) return;
    this.items = [];
    this.lookup = null;
  }
  /** What was added while going through is gone through as well. */
  [Symbol.iterator](): Iterator<T> {
    return this.items[Symbol.iterator]();
  }
}
