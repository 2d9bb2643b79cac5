import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Gathering, Keeping } from './keeping';

/** One draft as the server keeps it, and whether it can be reached. */
let kept: { turn: number; mine: object } | null;
let reachable: boolean;
const answer = (status: number, body: object) => new Response(JSON.stringify(body), { status });
beforeEach(() => {
  vi.useFakeTimers();
  [kept, reachable] = [null, true];
  vi.stubGlobal('fetch', (path: string, init?: { body?: string }) => {
    if (!reachable) return Promise.reject(new Error('no way'));
    const asked = JSON.parse(init?.body ?? '{}') as { turn: number; mine: object };
    if (path.endsWith('drop-draft')) kept = null;
    if (path.endsWith('keep-draft')) {
      if (asked.turn !== (kept?.turn ?? 0))
        return Promise.resolve(answer(409, { error: { code: 'changed-meanwhile', message: 'Changed.', faults: [] } }));
      kept = { turn: asked.turn + 1, mine: asked.mine };
    }
    const drafts = kept ? [{ thingId: 'q', label: '', revision: 1, base: BASE, ...kept }] : [];
    return Promise.resolve(answer(200, path.includes('/api/read/') ? { drafts } : { turn: kept?.turn ?? 0, id: 'q' }));
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const BASE = { name: 'Repairs', goal: 80 };
const gathering = (mine: object): Gathering => ({ label: 'Repairs', revision: 1, base: BASE, mine });
/** A window, as far as it keeps one draft. */
function windowOf() {
  const troubles: unknown[] = [];
  const joined: object[] = [];
  const keeping = new Keeping(
    'queue',
    (error) => troubles.push(error),
    (_id, _sent, both) => joined.push(both),
  );
  return { keeping, troubles, joined };
}
const rest = (ms = 600) => vi.advanceTimersByTimeAsync(ms);

describe('unfinished changes', () => {
  it('that could not be sent are kept once the server is there again, without another change', async () => {
    const { keeping, troubles } = windowOf();
    reachable = false;
    keeping.later('q', gathering({ ...BASE, goal: 90 }));
    await rest();
    expect([kept, troubles.length]).toEqual([null, 1]);
    reachable = true;
    await rest(3100);
    expect(kept).toEqual({ turn: 1, mine: { ...BASE, goal: 90 } });
  });
  it('of two windows are put together, and the window that was told keeps both from then on', async () => {
    const [a, b] = [windowOf(), windowOf()];
    a.keeping.later('q', gathering({ ...BASE, goal: 90 }));
    await rest();
    b.keeping.later('q', gathering({ ...BASE, name: 'Workshop' }));
    await rest();
    expect(kept?.mine).toEqual({ name: 'Workshop', goal: 90 });
    expect(b.joined).toEqual([{ name: 'Workshop', goal: 90 }]);
    expect(b.troubles).toEqual([]);
  });
  it('are sent at once when the page is left, and forgotten when they are applied', async () => {
    const { keeping } = windowOf();
    keeping.later('q', gathering({ ...BASE, goal: 90 }));
    keeping.flush();
    await rest(0);
    expect(kept?.turn).toBe(1);
    keeping.settle('q');
    await rest(0);
    expect(kept).toBeNull();
  });
});
