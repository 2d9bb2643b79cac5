import { monitorEventLoopDelay } from 'node:perf_hooks';
import { takeHolds } from '../services/ground/holds';

/**
 * For the bench (LANE_MEASURE=1): at every SIGUSR2 prints a line of JSON with the longest holds of our own calls and the
 * 99th percentile of the event loop's delay since the last one, ms.
 */
export function startMeasuring(): void {
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  process.on('SIGUSR2', () => {
    console.log(JSON.stringify({ measured: { delayMs: delay.percentile(99) / 1e6, holds: takeHolds(12) } }));
    delay.reset();
  });
}
