import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inject } from 'vitest';
import { seeded } from '../../src/core/chance';
import type { ErrorCode } from '../../src/core/errors';
import { type Heavy, heavyHere } from '../../src/core/heavy';
import { seededIds } from '../../src/core/ids';
import { type Db } from '../../src/data/database';
import { openDatabase } from '../../src/data/databasefile';
import { UNDERSTANDING } from '../../src/data/meaning';
import { readPersonByEmail, setSimulated } from '../../src/data/people';
import { createServices, type Services } from '../../src/services';
import { actorOf, type Actor } from '../../src/services/ground/actor';
import { createHost } from '../../src/services/ground/host';
import { sealWith } from '../../src/services/ground/tokens';
import type { ServiceOptions } from '../../src/services/parts';
import { createHireDesk } from '../../demo/hiredesk';
import type { StandInSystem } from '../../src/standins/system';
import { emailOf } from '../../demo/company';
import { MIGRATIONS, MORNING } from './morning';

export { MIGRATIONS, MORNING };

export type World = {
  readonly db: Db;
  readonly services: Services;
  readonly folder: string;
  at: (ms: number) => void;
  now: () => number;
  pass: (seconds: number) => void;
  readonly actor: (name: string) => Actor;
  restart: (more?: Partial<ServiceOptions>) => Services;
  /** What went wrong where nobody waited for an answer; whoever expects something takes it out before the end. */
  readonly faults: unknown[];
  close: () => void;
};

/** The hire desk, answering at once while it is in its usual mood: most tests are about something else. */
const atOnce: StandInSystem = {
  ...createHireDesk(),
  answer: (request, mood, now) => ({
    ...createHireDesk().answer(request, mood, now),
    ...(mood === 'usual' ? { seconds: 0 } : {}),
  }),
};

/** What is learnt of one book is the same each time, and takes longer than most tests. */
const learnt = new Map<string, unknown>();
const here = heavyHere(UNDERSTANDING);
const heavy: Heavy = async (task, given, more) => {
  if (task !== 'phrasebook') return here(task, given, more);
  const key = JSON.stringify(given);
  if (!learnt.has(key)) {
    if (learnt.size >= 8) learnt.clear();
    learnt.set(key, await here(task, given, more));
  }
  return learnt.get(key) as Awaited<ReturnType<typeof here<typeof task>>>;
};

/** The server's key stays the same when it is started anew. */
const SEAL = sealWith(Buffer.alloc(32, 7));

/** The demo company without its history, on a clock that stands still unless told. Nobody simulated is on duty. */
export function makeWorld(options: Partial<ServiceOptions> = {}): World {
  const folder = mkdtempSync(join(tmpdir(), 'lane-'));
  copyFileSync(inject('template'), join(folder, 'lane.db'));
  const { db, close } = openDatabase(folder, MIGRATIONS, { synchronous: 'OFF' });
  let now = MORNING;
  const clocks = { real: () => now, floor: () => now };
  // Ids go on where they were when the server is started anew, so that what happens then can be compared.
  const ids = seededIds(seeded(1));
  const faults: unknown[] = [];
  const build = (more: Partial<ServiceOptions> = {}) =>
    createServices(createHost(db, ids, clocks, { onFault: (error) => void faults.push(error) }), {
      system: atOnce,
      seal: SEAL,
      heavy,
      ...options,
      ...more,
    });
  const services = build();
  return {
    db,
    services,
    folder,
    restart: build,
    faults,
    close: () => {
      close();
      rmSync(folder, { recursive: true, force: true });
      if (faults.length > 0) throw new Error(`${faults.length} faults that no test expected`, { cause: faults[0] });
    },
    at: (ms) => {
      now = ms;
    },
    now: () => now,
    pass: (seconds) => {
      now += seconds * 1000;
      services.timers.runDue();
    },
    actor: (name) => {
      const p = readPersonByEmail(db, emailOf(name));
      if (!p) throw new Error(`nobody called ${name}`);
      setSimulated(db, p.id, false);
      const actor = actorOf(db, p.id);
      if (!actor) throw new Error(`${name} is switched off`);
      return actor;
    },
  };
}

/** The code a call throws, or null. */
export function codeOf(work: () => unknown): ErrorCode | 'none' | 'other' {
  try {
    work();
    return 'none';
  } catch (error) {
    return error instanceof Error && 'code' in error ? (error.code as ErrorCode) : 'other';
  }
}

/** The code a call throws or rejects with, or null. */
export const codeIn = (work: () => unknown): Promise<string> =>
  Promise.resolve()
    .then(work)
    .then(
      () => 'none',
      (error: { code?: string }) => error.code ?? 'other',
    );
