/** `product.wat` assembled, in base64: the test of this folder assembles it again and compares. */
export const PRODUCT_WASM = [
  'AGFzbQEAAAABFgJgBn9/f39/fwBgCX9/f39/f39/fwADBAMAAQEFBgEBAYCAAQckBAZtZW1vcnkCAAdwcm9kdWN0AAAFYWxpa2UAAQVtaXhlZA',
  'ACCskGA+EDAgx/C3sDQEEAIQcDQCAAIAcgBGxBAnRqIQkgCSAEQQJ0aiEKIAogBEECdGohCyALIARBAnRqIQwgASAGIARsQQJ0aiENIAIgByAF',
  'bCAGakECdGohDiAOIAVBAnRqIQ8gDyAFQQJ0aiEQIBAgBUECdGohESAO/QAEACEVIA79AAQQIRYgD/0ABAAhFyAP/QAEECEYIBD9AAQAIRkgEP',
  '0ABBAhGiAR/QAEACEbIBH9AAQQIRwgBCEIA0AgDf0ABAAhEiAN/QAEECETIAn9CQIAIRQgFSAUIBL95gH95AEhFSAWIBQgE/3mAf3kASEWIAr9',
  'CQIAIRQgFyAUIBL95gH95AEhFyAYIBQgE/3mAf3kASEYIAv9CQIAIRQgGSAUIBL95gH95AEhGSAaIBQgE/3mAf3kASEaIAz9CQIAIRQgGyAUIB',
  'L95gH95AEhGyAcIBQgE/3mAf3kASEcIAlBBGohCSAKQQRqIQogC0EEaiELIAxBBGohDCANQSBqIQ0gCEEBayIIDQALIA4gFf0LBAAgDiAW/QsE',
  'ECAPIBf9CwQAIA8gGP0LBBAgECAZ/QsEACAQIBr9CwQQIBEgG/0LBAAgESAc/QsEECAHQQRqIgcgA0kNAAsgBkEIaiIGIAVJDQALC70BAgV/AX',
  'sDQEEAIQkgBCENA0AgACEKIAIgCSADbEECdGohCyAKIAhBAnRqIQz9DAAAAAAAAAAAAAAAAAAAAAAhDgNAIA4gCv0ABAAgC/0ABAD95gH95AEh',
  'DiAKQRBqIQogC0EQaiELIAogDEkNAAsgDSAO/R8AIA79HwGSIA79HwIgDv0fA5KSOAIAIA1BBGohDSAJQQFqIgkgB0kNAAsgACABQQJ0aiEAIA',
  'QgBUECdGohBCAGQQFrIgYNAAsLpAECBH8BewNAQQAhCQNAIAAhCiAAIAdBAnRqIQsgAiAJQQJ0aiEM/QwAAAAAAAAAAAAAAAAAAAAAIQ0DQCAN',
  'IAr9CQIAIAz9AAQA/eYB/eQBIQ0gDCADQQJ0aiEMIApBBGohCiAKIAtJDQALIAQgCUECdGogDf0LBAAgCUEEaiIJIAhJDQALIAAgAUECdGohAC',
  'AEIAVBAnRqIQQgBkEBayIGDQALCw==',
].join('');

/** A matrix that stays in the memory of the products: rows × columns, laid out in panels of 8 columns. */
export type Laid = { readonly at: number; readonly rows: number; readonly columns: number };

/** Products of matrices of 32-bit floats by SIMD; one memory, whose laid matrices stay. Not for two threads at once. */
export type Products = {
  /** Lays out a matrix (rows × columns, one row after the other); its columns are a multiple of 8. */
  readonly lay: (values: Float32Array, rows: number, columns: number) => Laid;
  /** `x` (rows × laid.rows) times a laid matrix, plus `bias` (laid.columns) on each row where there is one. */
  readonly times: (x: Float32Array, rows: number, laid: Laid, bias: Float32Array | null) => Float32Array;
  /** `x` (rows × inner) times `y` (inner × columns), which is forgotten again. */
  readonly product: (x: Float32Array, rows: number, y: Float32Array, columns: number) => Float32Array;
  /** Keeps rows of a width that is a multiple of 4, for being compared with and mixed. */
  readonly keep: (values: Float32Array, width: number) => Rows;
  /** The product of `x` with each kept row. */
  readonly alike: (x: Float32Array, rows: Rows) => Float32Array;
  /** The sum of all kept rows, each times its weight. */
  readonly mixed: (weights: Float32Array, rows: Rows) => Float32Array;
  /**
   * Scaled dot-product attention (Vaswani et al., 2017) of so many heads within each text: `given` has what each row asks
   * for, what it is found by and what it gives, `width` numbers each (a multiple of 4 × heads).
   */
  readonly attend: (given: Float32Array, width: number, heads: number, spans: readonly Span[]) => Float32Array;
};

/** Rows that stay in the memory of the products. */
export type Rows = { readonly at: number; readonly count: number; readonly width: number };
/** The first row of a text, and the one after its last. */
export type Span = readonly [from: number, to: number];

type Instance = {
  readonly memory: WebAssembly.Memory;
  readonly product: (a: number, b: number, c: number, rows: number, inner: number, columns: number) => void;
  readonly alike: RowsFunction;
  readonly mixed: RowsFunction;
};
type RowsFunction = (
  a: number,
  strideA: number,
  b: number,
  strideB: number,
  c: number,
  strideC: number,
  rows: number,
  others: number,
  size: number,
) => void;
const PAGE = 65_536;

/** Makes a memory for products. Throws where the machine has no SIMD for WebAssembly. */
export function createProducts(): Products {
  const code = Uint8Array.from(atob(PRODUCT_WASM), (c) => c.charCodeAt(0));
  const { memory, product, alike, mixed } = new WebAssembly.Instance(new WebAssembly.Module(code)).exports as Instance;
  /** Bytes that laid matrices take; what a product reads and writes lies behind them. */
  let taken = 1024;
  let floats = new Float32Array(memory.buffer);
  function roomFor(bytes: number): void {
    if (bytes > memory.buffer.byteLength) memory.grow(Math.ceil((bytes - memory.buffer.byteLength) / PAGE));
    floats = new Float32Array(memory.buffer);
  }
  function lay(values: Float32Array, rows: number, columns: number): Laid {
    const at = taken;
    taken += rows * columns * 4;
    roomFor(taken);
    let to = at / 4;
    for (let panel = 0; panel < columns; panel += 8)
      for (let row = 0; row < rows; row++, to += 8)
        for (let k = 0, from = row * columns + panel; k < 8; k++) floats[to + k] = values[from + k] ?? 0;
    return { at, rows, columns };
  }
  function times(x: Float32Array, rows: number, laid: Laid, bias: Float32Array | null): Float32Array {
    // Four rows are done at a time; those beyond the last are nobody's.
    const whole = Math.ceil(rows / 4) * 4;
    const from = taken;
    const to = from + whole * laid.rows * 4;
    roomFor(to + whole * laid.columns * 4);
    floats.set(x, from / 4);
    floats.fill(0, from / 4 + x.length, to / 4);
    if (bias) for (let row = 0; row < whole; row++) floats.set(bias, to / 4 + row * laid.columns);
    else floats.fill(0, to / 4, to / 4 + whole * laid.columns);
    if (whole > 0 && laid.rows > 0) product(from, laid.at, to, whole, laid.rows, laid.columns);
    return floats.slice(to / 4, to / 4 + rows * laid.columns);
  }
  function attend(given: Float32Array, width: number, heads: number, spans: readonly Span[]): Float32Array {
    const rows = spans.at(-1)?.[1] ?? 0;
    const longest = Math.max(0, ...spans.map(([from, to]) => to - from));
    const [at, size] = [taken, width / heads];
    const weights = at + given.length * 4;
    const out = weights + longest * longest * 4;
    roomFor(out + rows * width * 4);
    floats.set(given, at / 4);
    const scale = 1 / Math.sqrt(size);
    for (const [from, to] of spans)
      for (let head = 0; head < heads && to > from; head++) {
        const asks = at + (from * 3 * width + head * size) * 4;
        const n = to - from;
        alike(asks, 3 * width, asks + width * 4, 3 * width, weights, n, n, n, size);
        for (let row = weights / 4; row < weights / 4 + n * n; row += n) {
          let [most, all] = [-Infinity, 0];
          for (let i = row; i < row + n; i++) most = Math.max(most, (floats[i] ?? 0) * scale);
          for (let i = row; i < row + n; i++) all += floats[i] = Math.exp((floats[i] ?? 0) * scale - most);
          for (let i = row; i < row + n; i++) floats[i] = (floats[i] ?? 0) / all;
        }
        mixed(weights, n, asks + 2 * width * 4, 3 * width, out + (from * width + head * size) * 4, width, n, n, size);
      }
    return floats.slice(out / 4, out / 4 + rows * width);
  }
  return {
    lay,
    times,
    attend,
    keep(values, width) {
      const rows = { at: taken, count: values.length / width, width };
      taken += values.length * 4;
      roomFor(taken);
      floats.set(values, rows.at / 4);
      return rows;
    },
    alike(x, { at, count, width }) {
      const to = taken + width * 4;
      roomFor(to + count * 4);
      floats.set(x, taken / 4);
      if (count > 0) alike(taken, 0, at, width, to, 0, 1, count, width);
      return floats.slice(to / 4, to / 4 + count);
    },
    mixed(weights, { at, count, width }) {
      const to = taken + Math.ceil(count / 4) * 16;
      roomFor(to + width * 4);
      floats.set(weights, taken / 4);
      if (count === 0) return new Float32Array(width);
      mixed(taken, 0, at, width, to, 0, 1, count, width);
      return floats.slice(to / 4, to / 4 + width);
    },
    product(x, rows, y, columns) {
      const before = taken;
      const out = times(x, rows, lay(y, y.length / columns, columns), null);
      taken = before;
      return out;
    },
  };
}
