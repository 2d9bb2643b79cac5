import type { KeptColumn } from '../../core/measures/columns';

/**
 * What a connection has read or made of days, for the next question. A kept day is as the table says; one that was made
 * here holds until something happens.
 */
export class DayCache {
  readonly #days = new Map<number, CachedDay>();
  readonly #most: number;
  #bytes = 0;

  /** `most` bytes of columns are kept; a day that is read just now may go beyond it by itself. */
  constructor(most: number) {
    this.#most = most;
  }
  /** Bytes of columns that are kept. */
  get bytes(): number {
    return this.#bytes;
  }

  /** A day as it is kept now, without asking for it. */
  peek(from: number): CachedDay | undefined {
    return this.#days.get(from);
  }
  /** The day as it is cached at that place in the log; else a new one. */
  day(seq: number, to: number, from: number, kept: boolean): CachedDay {
    let day = this.#days.get(from);
    if (!day || day.seq !== seq || day.to !== to || day.kept !== kept) {
      this.#forget(from);
      day = { from, seq, to, kept, columns: new Map(), made: new Map(), bytes: 0 };
    }
    // The least recently asked for is the first to go.
    this.#days.delete(from);
    this.#days.set(from, day);
    return day;
  }
  add(day: CachedDay, name: string, column: KeptColumn): void {
    const more = column.data.byteLength - (day.columns.get(name)?.data.byteLength ?? 0);
    day.columns.set(name, column);
    // A question may still be reading a day that has gone to make room: it is not cached any more, and takes none.
    if (this.#days.get(day.from) !== day) return;
    day.bytes += more;
    this.#bytes += more;
    for (const [from, oldest] of this.#days) {
      if (this.#bytes <= this.#most || oldest === day) break;
      this.#forget(from);
    }
  }
  #forget(from: number): void {
    this.#bytes -= this.#days.get(from)?.bytes ?? 0;
    this.#days.delete(from);
  }
}
export type CachedDay = {
  readonly from: number;
  readonly seq: number;
  readonly to: number;
  readonly kept: boolean;
  readonly columns: Map<string, KeptColumn>;
  readonly made: Map<string, unknown>;
  bytes: number;
};
