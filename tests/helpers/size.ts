/**
 * How large the long tests are: `quick` while writing, `usual` in `npm test`, `long` in `npm run test:long`, which goes
 * through everything. Seeds are fixed, so that a smaller size is a part of the larger one.
 */
const SIZE = process.env.LANE_TESTS ?? 'usual';
export const sized = <T>(sizes: { readonly quick: T; readonly usual: T; readonly long: T }): T =>
  SIZE === 'quick' ? sizes.quick : SIZE === 'long' ? sizes.long : sizes.usual;
