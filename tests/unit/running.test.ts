import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import fc from 'fast-check';
import { pino } from 'pino';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { floorNow, realUntil, readFloorTime, writeFloorTime } from '../../src/data/floortime';
import { openDatabase } from '../../src/data/databasefile';
import { startTime } from '../../src/server/livetime';
import type { FilePart } from '../../src/services/people/peoplecsv';
import { startHeartbeat } from '../../src/server/heartbeat';
import { Refused } from '../../src/core/heavy';
import { EMPTY_BOOK } from '../../src/core/phrases/book';
import { createHeavyPool } from '../../src/server/heavypool';
import { openWorkspace } from '../../src/server/workspace';
import type { Services } from '../../src/services';
import { makeWorld, MIGRATIONS, MORNING, type World } from '../helpers/world';
import { HERE } from '../helpers/reached';

describe('the floor’s clock', () => {
  it('what it shows after waiting as long as it says is what was asked for', () => {
    const instant = fc.integer({ min: 0, max: 4e12 });
    fc.assert(
      fc.property(instant, instant, fc.constantFrom(1, 2, 10, 60), instant, (realAt, floorAt, rate, later) => {
        const clock = { realAt, floorAt, rate };
        const now = realAt + (later % 1e9);
        const wanted = floorNow(clock, now) + (later % 86_400_000);
        expect(floorNow(clock, now + realUntil(clock, wanted, now))).toBe(wanted);
        expect(floorNow(clock, realAt)).toBe(floorAt);
      }),
    );
  });
  describe('of a workspace', () => {
    let w: World;
    beforeEach(() => {
      w = makeWorld();
      vi.useFakeTimers({ now: MORNING + 3_600_000 });
    });
    afterEach(() => {
      vi.useRealTimers();
      w.close();
    });
    it('of a simulated day goes on where it stood; a real floor’s ran on while nobody served it', () => {
      writeFloorTime(w.db, { realAt: MORNING, floorAt: MORNING - 86_400_000, rate: 1 });
      const real = startTime(w.db, { waitsWhileStopped: false });
      expect(real.floor()).toBe(MORNING - 86_400_000 + 3_600_000);
      writeFloorTime(w.db, { realAt: MORNING, floorAt: MORNING - 86_400_000, rate: 1 });
      const simulated = startTime(w.db, { waitsWhileStopped: true });
      expect(simulated.floor()).toBe(MORNING - 86_400_000);
      vi.advanceTimersByTime(5000);
      expect(simulated.floor()).toBe(MORNING - 86_400_000 + 5000);
    });
    it('never goes back, however it is set', () => {
      const clock = startTime(w.db, { waitsWhileStopped: false });
      const before = clock.floor();
      clock.jumpTo(before - 60_000);
      expect(clock.floor()).toBe(before);
      clock.jumpTo(before + 60_000);
      expect(clock.floor()).toBe(before + 60_000);
      // And a start after that finds it there.
      expect(readFloorTime(w.db)).toEqual({ realAt: Date.now(), floorAt: before + 60_000, rate: 1 });
    });
  });
});

describe('the heartbeat', () => {
  beforeEach(() => vi.useFakeTimers({ now: MORNING }));
  afterEach(() => vi.useRealTimers());
  const stand = (next: () => { real: number | null; floor: number | null }, due: () => void) => {
    const listeners = new Set<() => void>();
    const checked = vi.fn();
    const services = {
      timers: { next, runDue: due },
      host: { listen: (heard: () => void) => (listeners.add(heard), () => listeners.delete(heard)) },
      floor: { checkPresence: checked },
      reach: { needsBeat: () => true },
    } as unknown as Services;
    return { services, checked, somethingHappens: () => listeners.forEach((heard) => heard()), listeners };
  };
  it('runs what is due at its time and no earlier, on either clock', () => {
    const due = vi.fn();
    let [real, floor]: (number | null)[] = [MORNING + 4000, null];
    const { services, somethingHappens } = stand(() => ({ real: real ?? null, floor: floor ?? null }), due);
    const stop = startHeartbeat(services, (at) => (at - MORNING) / 10, vi.fn());
    due.mockClear();
    vi.advanceTimersByTime(3999);
    expect(due).not.toHaveBeenCalled();
    vi.advanceTimersByTime(1);
    expect(due).toHaveBeenCalledTimes(1);
    // A floor ten times as fast: what is due there in 5 s comes in half a second.
    [real, floor] = [null, MORNING + 5000];
    somethingHappens();
    vi.advanceTimersByTime(499);
    const before = due.mock.calls.length;
    vi.advanceTimersByTime(1);
    expect(due.mock.calls.length).toBe(before + 1);
    stop();
  });
  it('one that throws is told and does not stop those after it', () => {
    const faults: unknown[] = [];
    let beats = 0;
    const { services, checked } = stand(
      () => ({ real: Date.now() + 1000, floor: null }),
      () => {
        beats++;
        throw new Error('a timer broke');
      },
    );
    checked.mockImplementation(() => {
      throw new Error('presence broke');
    });
    const stop = startHeartbeat(
      services,
      () => 0,
      (error) => faults.push(error),
    );
    vi.advanceTimersByTime(10_000);
    expect(beats).toBeGreaterThanOrEqual(10);
    expect(faults.filter((f) => (f as Error).message === 'presence broke')).toHaveLength(2);
    stop();
  });
  it('nothing beats once it is stopped', () => {
    const due = vi.fn();
    const { services, checked, listeners } = stand(() => ({ real: Date.now() + 1000, floor: null }), due);
    startHeartbeat(services, () => 0, vi.fn())();
    due.mockClear();
    vi.advanceTimersByTime(60_000);
    expect([due.mock.calls.length, checked.mock.calls.length, listeners.size]).toEqual([0, 0, 0]);
  });
});

describe('reading files beside the floor', () => {
  let folder: string;
  let w: World;
  let pool: ReturnType<typeof createHeavyPool>;
  beforeAll(async () => {
    folder = mkdtempSync(join(process.cwd(), 'node_modules/.lane-worker-'));
    const outfile = join(folder, 'worker.mjs');
    await build({
      entryPoints: ['src/server/heavyworker.ts'],
      outfile,
      bundle: true,
      platform: 'node',
      format: 'esm',
      packages: 'external',
    });
    w = makeWorld();
    pool = createHeavyPool(outfile, join(w.folder, 'lane.db'), { real: w.now, floor: w.now });
  });
  afterAll(() => {
    pool.close();
    w.close();
    rmSync(folder, { recursive: true, force: true });
  });
  const bytes = (text: string) => new TextEncoder().encode(text);
  it('gives the table, and what is no table as a sentence with its row', async () => {
    expect(await pool.heavy('people-table', bytes('a;b\n1;2'))).toMatchObject({ header: ['a', 'b'], separator: ';' });
    await expect(pool.heavy('people-table', bytes(''))).rejects.toThrow('The file has no rows.');
    await expect(pool.heavy('table', 'a,b\n"1,2')).rejects.toMatchObject({ row: 2 });
    await expect(
      pool.heavy('shifts', { text: 'BEGIN:VCALENDAR\r\nnonsense', today: '2026-11-23', zones: new Map(), zone: 'UTC' }),
    ).rejects.toBeInstanceOf(Refused);
  });
  it('says how far it is', async () => {
    const far: number[] = [];
    const { rows } = await pool.heavy('table', `name,e-mail\n${'A,a@b.example\n'.repeat(4000)}`);
    const world = { mayGiveRoles: false, people: [], skills: [], teams: [], sites: [], roles: [], profiles: [] };
    const given = { rows, targets: [{ field: 'name' }, { field: 'email' }] as const, world };
    const plan = await pool.heavy('people-plan', given, { progress: (done) => far.push(done) });
    expect([plan.lines.length, far.length > 1, far.at(-1)]).toEqual([4000, true, 4000]);
  });
  it('reads what services read, by a connection that only reads; what they refuse is refused', async () => {
    const lead = w.actor('Noor Amsel');
    const day = { from: '2026-11-17', to: '2026-11-17' };
    expect(await pool.reading('review', lead, day)).toEqual(w.services.review.view(lead, day));
    expect(await pool.reading('behind', lead, { ...day, measure: 'handled' })).toMatchObject({ total: 0 });
    await expect(pool.reading('review', lead, { from: 'never' })).rejects.toMatchObject({
      code: 'not-valid',
      faults: [{ where: 'from' }],
    });
    const agent = w.actor('Tamsin Orrel');
    await expect(pool.reading('review-csv', agent, day)).rejects.toMatchObject({ code: 'not-allowed' });
    const leaves = new AbortController();
    const left = pool.reading('review', lead, { from: '2026-01-01', to: '2026-11-17' }, leaves.signal);
    leaves.abort();
    await expect(left).rejects.toMatchObject({ code: 'not-now', message: 'It was cancelled.' });
  });
  it('gives a long file in parts that come to the whole, whoever is changed between them', async () => {
    const lead = w.actor('Noor Amsel');
    w.db.exec(
      `WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 1500)
       INSERT INTO people (id, name, shown_name, email, team_id, role_id, duty_profile_id, revision)
       SELECT 'many' || i, 'Same name', 'S', 'many' || i || '@many.example', team_id, 'agent', duty_profile_id, 1
       FROM n, (SELECT team_id, duty_profile_id FROM people LIMIT 1)`,
    );
    const parts: string[] = [];
    for (let after: string | null = ''; after !== null;) {
      const part: FilePart = await pool.reading('people-csv', lead, { team: '', after });
      parts.push(part.text);
      after = part.next;
    }
    expect(parts.length).toBeGreaterThan(1);
    expect(Math.max(...parts.map((p) => p.length))).toBeLessThan(80_000);
    expect(parts.join('')).toBe(w.services.peopleImport.csv(lead, '').text);
    expect(
      parts
        .join('')
        .split('\r\n')
        .filter((line) => line.includes('@many.example')),
    ).toHaveLength(1500);
    expect((await pool.reading('people-csv', lead, { after: 'nonsense' })).text.slice(1, 10)).toBe('Full name');
  });
  it('a cancelled one ends at once, whatever it was doing, and the next has a thread', async () => {
    const control = new AbortController();
    const book = {
      ...EMPTY_BOOK,
      intents: Array.from({ length: 60 }, (_, i) => ({
        id: `i${i}`,
        label: `I ${i}`,
        description: '',
        examples: { en: Array.from({ length: 200 }, (_p, n) => `word${i} and${n} more${(i * n) % 97}`) },
      })),
    };
    const learning = pool.heavy('phrasebook', { book, last: null }, { signal: control.signal });
    setTimeout(() => control.abort(), 50);
    await expect(learning).rejects.toThrow('It was cancelled.');
    await expect(pool.heavy('table', 'a', { signal: control.signal })).rejects.toThrow();
    expect(await pool.heavy('table', 'a\n1')).toMatchObject({ header: ['a'] });
  });
  it('a worker that cannot be started is a fault of this one file', async () => {
    const none = createHeavyPool(join(folder, 'nothing.mjs'), '', { real: w.now, floor: w.now });
    await expect(none.heavy('table', 'a')).rejects.toThrow();
    none.close();
  });
});

describe('opening a workspace', () => {
  it('closes so that the next can be opened in the same process, and nothing of it runs on', () => {
    const folders = [0, 1].map(() => mkdtempSync(join(tmpdir(), 'lane-open-')));
    const log = pino({ level: 'silent' });
    const open = (folder: string) => openWorkspace(folder, { root: process.cwd(), guest: null, reached: HERE, log });
    for (const folder of [...folders, folders[0] ?? '']) {
      const workspace = open(folder);
      // Held: nobody else opens it meanwhile.
      expect(() => openDatabase(folder, MIGRATIONS)).toThrow('Another server is already running');
      expect(workspace.services.firstStart.open()).toMatch(/^\/welcome\//);
      workspace.close();
      expect(workspace.services.host.db.open).toBe(false);
    }
    for (const folder of folders) rmSync(folder, { recursive: true, force: true });
  });
});
