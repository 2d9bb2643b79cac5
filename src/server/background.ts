/** How often it is looked whether there is something to do, and how soon it goes on while there is more; real ms. */
const EVERY_MS = 600_000;
const GO_ON_MS = 1000;

/**
 * Does work that can wait, a little at a time: `work` does some of it and gives whether there is more now. Gives a
 * function that stops it.
 */
export function inBackground(
  work: (signal: AbortSignal) => Promise<boolean>,
  onFault: (error: unknown) => void,
  goOnMs = GO_ON_MS,
): () => void {
  const stopped = new AbortController();
  let timer = setTimeout(go, goOnMs);
  function go(): void {
    work(stopped.signal)
      .catch((error: unknown) => {
        if (!stopped.signal.aborted) onFault(error);
        return false;
      })
      .then((more) => {
        if (!stopped.signal.aborted) timer = setTimeout(go, more ? goOnMs : EVERY_MS);
      })
      .catch(onFault);
  }
  return () => {
    stopped.abort();
    clearTimeout(timer);
  };
}
