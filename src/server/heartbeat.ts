import type { Services } from '../services';

const HOUR = 3_600_000;

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
    try {
      services.timers.runDue();
    } catch (error) {
      onFault(error);
    }
    arm();
  };
  const stopListening = services.host.listen(arm);
  const presence = setInterval(() => {
    try {
      services.floor.checkPresence(services.reach.needsBeat);
    } catch (error) {
      onFault(error);
    }
  }, 5000);
  tick();
  return () => {
    clearTimeout(timer);
    clearInterval(presence);
    stopListening();
  };
}
