/** Nanoseconds a call, after a warm-up. */
export function time(calls: number, work: () => void): number {
  for (let i = 0; i < Math.ceil(calls / 10); i++) work();
  const begun = process.hrtime.bigint();
  for (let i = 0; i < calls; i++) work();
  return Number(process.hrtime.bigint() - begun) / calls;
}
