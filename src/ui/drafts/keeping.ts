import { merged } from '@/core/drafts/merging';
import { partsOf } from '@/core/drafts/parts';
import type { DraftKind } from '@/core/drafts/kinds';
import type { DraftsView } from '@/services/drafts/drafts';
import { call, Refused, setting } from '../kit/call';

/** What is gathered of one thing: the version it was begun from, how it is to be, and how often it was kept. */
export type Gathering = {
  readonly label: string;
  readonly revision: number;
  readonly base: object;
  readonly mine: object;
};

/** How long typing rests before it is kept, and until what could not be kept is tried again. */
const REST_MS = 500;
const AGAIN_MS = 3000;

/**
 * Keeps one's unfinished changes of a kind on the server, one after the other for each thing, a moment after each change.
 * What another window of the same person kept meanwhile is put together with it.
 */
export class Keeping {
  readonly #waiting = new Map<string, ReturnType<typeof setTimeout>>();
  readonly #latest = new Map<string, Gathering | null>();
  readonly #turns = new Map<string, number>();
  readonly #busy = new Set<string>();

  constructor(
    private readonly kind: DraftKind,
    private readonly onTrouble: (error: unknown) => void,
    /** Another window had changed it as well: what was `sent` from here is `both` now. */
    private readonly onJoined: (id: string, sent: object, both: object) => void,
  ) {}

  /** All that was kept, by the thing's id ('' for a new one). */
  async read(): Promise<ReadonlyMap<string, Gathering>> {
    const { drafts } = await call<DraftsView>(`/api/read/drafts?kind=${this.kind}`);
    for (const d of drafts) this.#turns.set(d.thingId, d.turn);
    return new Map(
      drafts.map((d) => [
        d.thingId,
        { label: d.label, revision: d.revision, base: d.base as object, mine: d.mine as object },
      ]),
    );
  }
  /** Keeps it soon; null forgets it. */
  later(id: string, gathering: Gathering | null): void {
    this.#latest.set(id, gathering);
    clearTimeout(this.#waiting.get(id));
    this.#waiting.set(
      id,
      setTimeout(() => void this.#keep(id), REST_MS),
    );
  }
  /** Keeps at once what still waits: somebody leaves. */
  flush(): void {
    for (const [id, timer] of this.#waiting) {
      clearTimeout(timer);
      void this.#keep(id);
    }
  }
  /** It is applied, or forgotten already: nothing of it is kept any more. */
  settle(id: string): void {
    clearTimeout(this.#waiting.get(id));
    this.#waiting.delete(id);
    this.#latest.set(id, null);
    void this.#keep(id);
  }

  async #keep(id: string): Promise<void> {
    this.#waiting.delete(id);
    const wanted = this.#latest.get(id);
    if (wanted === undefined || this.#busy.has(id)) return;
    this.#busy.add(id);
    this.#latest.delete(id);
    try {
      if (wanted === null) {
        if ((this.#turns.get(id) ?? 0) > 0) await setting('drop-draft', { kind: this.kind, id: id || null });
        this.#turns.delete(id);
      } else await this.#write(id, wanted);
    } catch (error) {
      this.onTrouble(error);
      // A newer change goes before it. What was refused would be refused again.
      if (!this.#latest.has(id) && error instanceof Refused && error.code === 'unreachable') {
        this.#latest.set(id, wanted);
        this.#waiting.set(
          id,
          setTimeout(() => void this.#keep(id), AGAIN_MS),
        );
      }
    } finally {
      this.#busy.delete(id);
      if (this.#latest.has(id) && !this.#waiting.has(id)) void this.#keep(id);
    }
  }
  async #write(id: string, wanted: Gathering): Promise<void> {
    const keep = async ({ label, ...g }: Gathering, turn: number) => {
      const body = { kind: this.kind, id: id || null, label: label.trim().slice(0, 200), ...g, turn };
      const done = await call<{ turn: number }>('/api/settings/keep-draft', { body, last: true });
      this.#turns.set(id, done.turn);
    };
    try {
      await keep(wanted, this.#turns.get(id) ?? 0);
    } catch (error) {
      if (!(error instanceof Refused) || error.code !== 'changed-meanwhile') throw error;
      const other = (await this.read()).get(id);
      const both = other ? merged(wanted.base, wanted.mine, other.mine, () => 'mine') : wanted.mine;
      await keep({ ...wanted, mine: both }, other ? (this.#turns.get(id) ?? 0) : 0);
      this.onJoined(id, wanted.mine, both);
    }
  }
}

/** Nothing is gathered where nothing differs. */
export const isGathered = ({ base, mine }: Pick<Gathering, 'base' | 'mine'>): boolean => partsOf(base, mine).length > 0;
