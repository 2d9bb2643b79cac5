import { randomInt } from 'node:crypto';
import { join } from 'node:path';
import type { Logger } from 'pino';
import { idsFrom } from '../core/ids';
import { databaseFile, openDatabase } from '../data/databasefile';
import { lexiconOf } from '../data/lexicons';
import { readWorkspace } from '../data/workspace';
import { createServices, type Services } from '../services';
import { createHost } from '../services/ground/host';
import { sealWith } from '../services/ground/tokens';
import { startTime } from './livetime';
import type { Guest } from './guest';
import { startCheckpoints } from './checkpoints';
import { startHeartbeat } from './heartbeat';
import { createHeavyPool } from './heavypool';
import { keepMark } from './mark';
import { inBackground } from './background';
import type { Reached } from './reached';
import { GUEST, REACHED, type Registry, SERVICES } from './registry';
import { serverKey } from './serverkey';

/** A workspace that is running: contacts are routed, timers run. */
export type OpenWorkspace = {
  readonly services: Services;
  /** Stops everything that runs in it and closes its database. */
  readonly close: () => void;
};

/**
 * Opens the workspace of a folder and lets it run: its database, its services, left where pages and handlers find them,
 * its timers, and the guest it is opened with. A process has one open at a time. Throws `DatabaseRefused` when the
 * folder's database cannot be used.
 *
 * `root` is the application's folder; `reached` says how it is reached from outside.
 */
export function openWorkspace(
  folder: string,
  {
    root,
    guest,
    reached,
    log,
  }: {
    readonly root: string;
    readonly guest: Guest | null;
    readonly reached: Reached;
    readonly log: Logger;
  },
): OpenWorkspace {
  const { db, close } = openDatabase(folder, join(root, 'src/data/migrations'));
  const seal = sealWith(serverKey(folder));
  const simulated = guest !== null && guest.start !== null;
  const mark = keepMark(folder, db, (error) => log.error(error));
  if (mark.found !== null) log.error(mark.found);
  const checkpoints = startCheckpoints(join(root, 'dist/checkpointworker.mjs'), databaseFile(folder), (error) =>
    log.error(error),
  );
  const clock = startTime(db, { waitsWhileStopped: simulated });
  const fault = (error: unknown) => log.error(error);
  const host = createHost(
    db,
    idsFrom(() => randomInt(2 ** 32) / 2 ** 32),
    clock,
    { onFault: fault },
  );
  const pool = createHeavyPool(join(root, 'dist/heavyworker.mjs'), databaseFile(folder), clock);
  const services = createServices(host, {
    rate: clock.rate,
    linkTo: (path) => new URL(path, reached.origin).href,
    seal,
    heavy: pool.heavy,
    hearing: pool.hearing,
    reading: pool.reading,
    ahead: pool.ahead,
    emptyLog: checkpoints.empty,
    ...(guest ? { system: guest.system } : {}),
  });
  (globalThis as Registry)[SERVICES] = services;
  (globalThis as Registry)[REACHED] = reached;
  (globalThis as Registry)[GUEST] = { accounts: guest?.accounts ?? [], simulated };

  // Reading a lexicon takes longer than routing may wait: it is done before there is anything to route.
  for (const language of readWorkspace(db)?.languages ?? []) lexiconOf(language);

  // What fell due while nobody ran goes first, in its order; then everybody who waits is asked for. Whatever cannot be
  // taken up again costs nothing but itself.
  for (const takeUp of [
    services.floor.resume,
    services.presses.resume,
    services.past.resume,
    services.timers.runDue,
    services.outbox.resumePosts,
    services.review.resumeMails,
    services.review.resumeReports,
    services.asks.resumeAsks,
    services.resumeHearing,
    services.learner.anew,
    services.erasing.resume,
    services.floor.askAnew,
  ])
    try {
      takeUp();
    } catch (error) {
      fault(error);
    }
  const stopHeart = startHeartbeat(services, clock.untilFloor, fault);
  const stopPacking = inBackground(services.packing.pack, fault);
  // Days follow each other as fast as the pool makes them: each holds this thread for some ms.
  const stopKeeping = inBackground(services.dayKeeper.keepOne, fault, 200);
  const stopGuest = guest?.start?.(services, clock, fault);
  return {
    services,
    close: () => {
      stopGuest?.();
      stopHeart();
      try {
        services.inFront.close();
      } catch (error) {
        fault(error);
      }
      stopPacking();
      stopKeeping();
      checkpoints.stop();
      pool.close();
      mark.stop();
      close();
    },
  };
}
