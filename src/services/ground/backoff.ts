const WAITS_MS = [1000, 10_000, 60_000, 600_000, 3_600_000] as const;

/** How long to wait before something that has failed so often is tried again, real ms: from a second to an hour. */
export const backOffMs = (attempts: number): number =>
  WAITS_MS[Math.min(Math.max(attempts, 1), WAITS_MS.length) - 1] ?? 3_600_000;
