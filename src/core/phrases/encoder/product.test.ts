import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import wabt from 'wabt';
import { createProducts, PRODUCT_WASM } from './product';
import { cutterOf } from './wordpieces';

const floats = (n: number) =>
  fc
    .array(fc.integer({ min: -20, max: 20 }), { minLength: n, maxLength: n })
    .map((x) => Float32Array.from(x, (v) => v / 8));

describe('products of matrices', () => {
  it('are what their source assembles to', async () => {
    const source = readFileSync('src/core/phrases/encoder/product.wat', 'utf8');
    const { buffer } = (await wabt()).parseWat('product.wat', source, { simd: true }).toBinary({});
    expect(Buffer.from(buffer).toString('base64')).toBe(PRODUCT_WASM);
  });
  const shape = fc.record({
    rows: fc.integer({ min: 1, max: 9 }),
    inner: fc.integer({ min: 1, max: 20 }),
    panels: fc.integer({ min: 1, max: 3 }),
  });
  it('are those of the plain sums, whatever the number of rows, and a laid matrix stays', () =>
    fc.assert(
      fc.property(
        shape.chain(({ rows, inner, panels }) =>
          fc.tuple(
            fc.constant({ rows, inner, columns: panels * 8 }),
            floats(rows * inner),
            floats(inner * panels * 8),
            floats(panels * 8),
          ),
        ),
        ([{ rows, inner, columns }, x, y, bias]) => {
          const products = createProducts();
          const laid = products.lay(y, inner, columns);
          const plain = Float32Array.from({ length: rows * columns }, (_, at) => {
            const [row, column] = [Math.floor(at / columns), at % columns];
            let sum = 0;
            for (let k = 0; k < inner; k++) sum += (x[row * inner + k] ?? 0) * (y[k * columns + column] ?? 0);
            return sum;
          });
          expect([...products.times(x, rows, laid, null)]).toEqual([...plain]);
          expect([...products.product(x, rows, y, columns)]).toEqual([...plain]);
          expect([...products.times(x, rows, laid, bias)]).toEqual(
            [...plain].map((v, at) => v + (bias[at % columns] ?? 0)),
          );
        },
      ),
      { numRuns: 100 },
    ));
  it('rows that are kept are compared with and mixed', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 12 }).chain((n) => fc.tuple(fc.constant(n), floats(n * 8), floats(8), floats(n))),
        ([n, table, x, w]) => {
          const products = createProducts();
          const rows = products.keep(table, 8);
          const row = (i: number) => [...table.subarray(i * 8, (i + 1) * 8)];
          expect([...products.alike(x, rows)]).toEqual(
            Array.from({ length: n }, (_, i) => row(i).reduce((sum, v, k) => sum + v * (x[k] ?? 0), 0)),
          );
          expect([...products.mixed(w, rows)]).toEqual(
            Array.from({ length: 8 }, (_, k) =>
              Array.from({ length: n }, (_, i) => (w[i] ?? 0) * (row(i)[k] ?? 0)).reduce((a, b) => a + b, 0),
            ),
          );
        },
      ),
      { numRuns: 100 },
    ));
  it('attention is a mean of what each row of its own text gives, by how well it is found', () => {
    const products = createProducts();
    const width = 8;
    const given = Float32Array.from({ length: 5 * 3 * width }, (_, i) => Math.sin(i * 1.7));
    const spans = [
      [0, 3],
      [3, 3],
      [3, 5],
    ] as const;
    const out = products.attend(given, width, 2, spans);
    for (const [from, to] of spans)
      for (let row = from; row < to; row++)
        for (let head = 0; head < 2; head++) {
          const part = (r: number, which: number) => [
            ...given.subarray(r * 24 + which * 8 + head * 4, r * 24 + which * 8 + head * 4 + 4),
          ];
          const found = Array.from({ length: to - from }, (_, i) =>
            Math.exp(part(row, 0).reduce((s, v, k) => s + v * (part(from + i, 1)[k] ?? 0), 0) / 2),
          );
          const all = found.reduce((a, b) => a + b, 0);
          for (let k = 0; k < 4; k++)
            expect(out[row * width + head * 4 + k]).toBeCloseTo(
              found.reduce((s, f, i) => s + (f / all) * (part(from + i, 2)[k] ?? 0), 0),
              5,
            );
        }
  });
});

describe('cutting a text into pieces', () => {
  const none = ['', 0] as const;
  const cut = cutterOf(
    [none, none, none, none, none, none, ['\u2581new', -3], ['\u2581ne', -2], ['w', -2], ['er', -1], ['\u2581', -4]],
    4,
  );
  it('the likeliest pieces are taken, and what is unknown is one piece', () => {
    expect(cut('new')).toEqual([6]);
    expect(cut('  newer ')).toEqual([6, 9]);
    expect(cut('zzz')).toEqual([10, 0]);
    expect(cut('')).toEqual([]);
    expect(cut('new new new new new')).toEqual([6, 6, 6, 6]);
  });
});
