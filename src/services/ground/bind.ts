import { timed } from './holds';

/** Functions with their first argument given. */
export type Bound<D, F> = {
  readonly [K in keyof F]: F[K] extends (deps: D, ...rest: infer A) => infer R ? (...rest: A) => R : never;
};

/**
 * Gives functions what they stand on, so that whoever calls them need not carry it: `bind({ host }, { save })` has a
 * `save` that takes what follows the first argument. How long each holds the thread is noted under its name.
 */
export function bind<D, F extends Readonly<Record<string, (deps: D, ...rest: never[]) => unknown>>>(
  deps: D,
  functions: F,
): Bound<D, F> {
  return Object.fromEntries(
    Object.entries(functions).map(([name, work]) => [
      name,
      (...rest: never[]) => timed(work.name || name, () => work(deps, ...rest)),
    ]),
  ) as Bound<D, F>;
}
