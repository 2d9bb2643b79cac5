import { worker, workerEmit } from 'workerpool';
import { type HeavyGiven, type HeavyTask, runHeavy } from '../core/heavy';

/** One of the pool's threads: it knows nothing but the tasks of `core/heavy`. */
worker({
  run: <K extends HeavyTask>(task: K, given: HeavyGiven<K>) => runHeavy(task, given, (done) => workerEmit({ done })),
});
