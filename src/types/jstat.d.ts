/** The few functions of jstat that are used. */
declare module 'jstat' {
  const jStat: { readonly studentt: { cdf(x: number, df: number): number } };
  export default jStat;
}
