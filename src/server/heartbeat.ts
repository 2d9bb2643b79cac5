import type { Services } from '../services';

const HOUR = 3_600_000;
/** How long timers may hold this thread in one go, real ms. */
const TURN_MS = 8;
/** How often it is written what was in front of people, real ms. */
const FRONTS_MS = 1000;

/** Runs timers when they are due and looks after presence. Gives a function that stops it. */
export function startHeartbeat(
  services: Services,
  untilFloor: (floorAt: number) => number,
  onFault: (error: unknown) => void,
): () => void {
  let timer: NodeJS.Timeout | undefined;
  const arm = () => {
    clearTimeout(timer);
    const next = services.timers.next();
    const waits = [
      next.real === null ? HOUR : next.real - Date.now(),
      next.floor === null ? HOUR : untilFloor(next.floor),
      HOUR,
    ];
    timer = setTimeout(tick, Math.max(0, Math.min(...waits)));
  };
  const tick = () => {
    let more = false;
    try {
      more = services.timers.runDue(TURN_MS);
    } catch (error) {
      onFault(error);
    }
    // What is left comes after whoever else waits for this thread.
    if (more) timer = setTimeout(tick);
    else arm();
  };
  const stopListening = services.host.listen(arm);
  const presence = setInterval(() => {
    try {
      services.floor.checkPresence(services.reach.needsBeat);
    } catch (error) {
      onFault(error);
    }
  }, 5000);
  const fronts = setInterval(() => {
    try {
      services.inFront.tick();
    } catch (error) {
      onFault(error);
    }
  }, FRONTS_MS);
  tick();
  return () => {
    clearTimeout(timer);
    clearInterval(presence);
    clearInterval(fronts);
    stopListening();
  };
}
