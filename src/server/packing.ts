import type { Services } from '../services';

/** How often it is looked whether contacts can be packed, and how soon it goes on while there is more; real ms. */
const EVERY_MS = 600_000;
const GO_ON_MS = 1000;

/** Packs contacts that are long over, a little at a time. Gives a function that stops it. */
export function startPacking({ packing }: Pick<Services, 'packing'>, onFault: (error: unknown) => void): () => void {
  const stopped = new AbortController();
  let timer = setTimeout(go, GO_ON_MS);
  function go(): void {
    packing
      .pack(stopped.signal)
      .catch((error: unknown) => {
        if (!stopped.signal.aborted) onFault(error);
        return false;
      })
      .then((more) => {
        if (!stopped.signal.aborted) timer = setTimeout(go, more ? GO_ON_MS : EVERY_MS);
      })
      .catch(onFault);
  }
  return () => {
    stopped.abort();
    clearTimeout(timer);
  };
}
