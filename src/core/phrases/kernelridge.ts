import { addTimes, dot } from './encoder/floats';
import { createProducts, type Products } from './encoder/product';
import { BLOCK, inBlocks, likenessTo, tableOf, type Vectored } from './likeness';

/** How much is held against following every phrase. By cross-validation; a phrase's likeness to itself is 1.8. */
const PENALTY = 0.7;

/** A phrase that is learnt from: whose it is, and how much it counts (above 0). */
export type Lesson = { readonly y: number; readonly weight: number };
const held = ({ weight }: Lesson): number => PENALTY / weight;

/**
 * What was learnt: for each lesson how much it speaks for each class (lessons × classes). What somebody says scores, for
 * a class, the sum over all lessons of how like them it is times that.
 */
export type Says = Float32Array;

/** What each class scores by how like each lesson something is. */
export function scores(says: Says, like: Float64Array, classes: number): Float64Array {
  const out = new Float64Array(classes);
  for (let i = 0; i < like.length; i++) addTimes(out, 0, like[i] ?? 0, says, i * classes, classes);
  return out;
}

/**
 * Kernel ridge regression to one target a class (Saunders, Gammerman and Vovk, 1998): solves (K + λ/w) A = Y by
 * Cholesky's method in blocks, where K (lower half, `inBlocks(lessons.length)` wide) is how like the lessons are. Also
 * gives what every lesson would score had it not been learnt from, exactly: y − a / (K + λ/w)⁻¹ᵢᵢ (Cawley and Talbot,
 * 2003). Takes about n³/2 products. `like` is used up.
 */
export function solveRidge(
  like: Float32Array,
  lessons: readonly Lesson[],
  classes: number,
  products: Products,
): { readonly says: Says; readonly without: Float32Array } {
  const n = lessons.length;
  const width = inBlocks(n);
  for (let i = 0; i < width; i++) {
    const lesson = lessons[i];
    like[i * width + i] = lesson ? (like[i * width + i] ?? 0) + held(lesson) : 1;
  }
  factor(like, width, products);
  const inverse = inverted(like, width, products);
  // A = M ᵀ(M Y), where M is the inverse of the factor.
  const columns = Math.ceil(classes / 8) * 8;
  const half = new Float32Array(width * columns);
  lessons.forEach(({ y }, i) => {
    for (let row = i; row < width; row++)
      half[row * columns + y] = (half[row * columns + y] ?? 0) + (inverse[row * width + i] ?? 0);
  });
  const says = new Float32Array(n * classes);
  const without = new Float32Array(n * classes);
  const own = new Float64Array(width);
  for (let row = 0; row < width; row++)
    for (let i = 0; i <= row; i++) own[i] = (own[i] ?? 0) + (inverse[row * width + i] ?? 0) ** 2;
  for (let from = 0; from < width; from += BLOCK) {
    const rows = width - from;
    const turned = new Float32Array(BLOCK * rows);
    for (let r = 0; r < rows; r++)
      for (let c = 0; c < BLOCK; c++) turned[c * rows + r] = inverse[(from + r) * width + from + c] ?? 0;
    const block = products.product(turned, BLOCK, half.subarray(from * columns), columns);
    for (let i = from; i < Math.min(n, from + BLOCK); i++)
      for (let c = 0; c < classes; c++) {
        const a = block[(i - from) * columns + c] ?? 0;
        says[i * classes + c] = a;
        without[i * classes + c] = (c === lessons[i]?.y ? 1 : 0) - a / (own[i] ?? 1);
      }
  }
  return { says, without };
}

/** A part of a table, as a table of its own. */
function part(table: Float32Array, width: number, [row, rows]: [number, number], [column, columns]: [number, number]) {
  const out = new Float32Array(rows * columns);
  for (let r = 0; r < rows; r++)
    out.set(table.subarray((row + r) * width + column, (row + r) * width + column + columns), r * columns);
  return out;
}

/** Cholesky's factor in the lower half of a table, in place, a column of blocks at a time. */
function factor(table: Float32Array, width: number, products: Products): void {
  for (let at = 0; at < width; at += BLOCK) {
    const rows = width - at;
    if (at > 0) {
      const left = part(table, width, [at, rows], [0, at]);
      const turned = new Float32Array(at * BLOCK);
      for (let c = 0; c < BLOCK; c++) for (let k = 0; k < at; k++) turned[k * BLOCK + c] = left[c * at + k] ?? 0;
      const known = products.product(left, rows, turned, BLOCK);
      for (let r = 0; r < rows; r++)
        for (let c = 0; c < BLOCK; c++) {
          const cell = (at + r) * width + at + c;
          table[cell] = (table[cell] ?? 0) - (known[r * BLOCK + c] ?? 0);
        }
    }
    for (let c = 0; c < BLOCK; c++) {
      const column = at + c;
      for (let row = column; row < width; row++) {
        const sum = (table[row * width + column] ?? 0) - dot(table, row * width + at, table, column * width + at, c);
        table[row * width + column] =
          row === column ? Math.sqrt(Math.max(sum, 1e-6)) : sum / (table[column * width + column] ?? 1);
      }
    }
  }
}

/** The inverse of a lower triangle, block by block. */
function inverted(triangle: Float32Array, width: number, products: Products): Float32Array {
  const out = new Float32Array(width * width);
  for (let row = 0; row < width; row += BLOCK)
    for (let column = 0; column <= row; column += BLOCK) {
      const known =
        row === column
          ? null
          : products.product(
              part(triangle, width, [row, BLOCK], [column, row - column]),
              BLOCK,
              part(out, width, [column, row - column], [column, BLOCK]),
              BLOCK,
            );
      // What is left is a triangle of one block: solved a row at a time.
      for (let r = 0; r < BLOCK; r++) {
        const to = (row + r) * width + column;
        if (known) addTimes(out, to, -1, known, r * BLOCK, BLOCK);
        else out[to + r] = 1;
        for (let k = 0; k < r; k++)
          addTimes(out, to, -(triangle[(row + r) * width + row + k] ?? 0), out, (row + k) * width + column, BLOCK);
        const own = triangle[(row + r) * width + row + r] ?? 1;
        for (let c = 0; c < BLOCK; c++) out[to + c] = (out[to + c] ?? 0) / own;
      }
    }
  return out;
}

/** The relative error at which an answer is good enough, and the most rounds it takes. */
const ENOUGH = 1e-3;
const MOST_ROUNDS = 200;

/** Solves (K + λ/w) x = b for one b by conjugate gradients, by products with the phrases themselves. */
function solveOne({ phrases, lessons }: Omit<Taught, 'says'>, b: Float32Array, features: number): Float32Array {
  const n = phrases.length;
  const size = phrases[0]?.dense.length ?? 0;
  const products = createProducts();
  const rows = products.keep(tableOf(phrases, size, n), Math.max(4, size));
  const sparse = new Float32Array(features);
  const none = new Float32Array(n);
  const times = (v: Float32Array): Float32Array => {
    sparse.fill(0);
    phrases.forEach(({ sparse: { at, weight } }, i) => {
      const by = v[i] ?? 0;
      for (let k = 0; k < at.length; k++)
        sparse[at[k] as number] = (sparse[at[k] as number] as number) + by * (weight[k] as number);
    });
    const meant = size > 0 ? products.alike(products.mixed(v, rows), rows) : none;
    return Float32Array.from(phrases, ({ sparse: { at, weight } }, i) => {
      let sum = (meant[i] ?? 0) + (v[i] ?? 0) * held(lessons[i] ?? { y: 0, weight: 1 });
      for (let k = 0; k < at.length; k++) sum += (sparse[at[k] as number] as number) * (weight[k] as number);
      return sum;
    });
  };
  const x = new Float32Array(n);
  const rest = Float32Array.from(b);
  const way = Float32Array.from(b);
  const whole = dot(b, 0, b, 0, n);
  let left = whole;
  for (let round = 0; round < MOST_ROUNDS && left > ENOUGH ** 2 * whole; round++) {
    const along = times(way);
    const step = left / dot(way, 0, along, 0, n);
    addTimes(x, 0, step, way, 0, n);
    addTimes(rest, 0, -step, along, 0, n);
    const now = dot(rest, 0, rest, 0, n);
    for (let i = 0; i < n; i++) way[i] = (rest[i] ?? 0) + (now / left) * (way[i] ?? 0);
    left = now;
  }
  return x;
}

/** Some lessons with their phrases and what was learnt from them. */
export type Taught = {
  readonly phrases: readonly Vectored[];
  readonly lessons: readonly Lesson[];
  readonly says: Says;
};

/** What is learnt once one more lesson stands at the end, as if all had been learnt together. */
export function withLesson(
  taught: Taught,
  phrase: Vectored,
  lesson: Lesson,
  classes: number,
  features: number,
): Taught {
  const { phrases, lessons, says } = taught;
  const like = likenessTo(phrases, createProducts())(phrase);
  const x = solveOne(taught, Float32Array.from(like), features);
  let own = held(lesson) - dot(like, 0, x, 0, x.length);
  for (const v of phrase.dense) own += v * v;
  for (const v of phrase.sparse.weight) own += v * v;
  const so = scores(says, like, classes);
  const step = Float32Array.from({ length: classes }, (_, c) => ((c === lesson.y ? 1 : 0) - (so[c] ?? 0)) / own);
  const out = new Float32Array(says.length + classes);
  out.set(says);
  out.set(step, says.length);
  for (let i = 0; i < phrases.length; i++) addTimes(out, i * classes, -(x[i] ?? 0), step, 0, classes);
  return { phrases: [...phrases, phrase], lessons: [...lessons, lesson], says: out };
}

/** What is learnt without one lesson, as if it had never been there. */
export function withoutLesson(taught: Taught, at: number, classes: number, features: number): Taught {
  const { phrases, lessons, says } = taught;
  const x = solveOne(
    taught,
    Float32Array.from(phrases, (_, i) => (i === at ? 1 : 0)),
    features,
  );
  const out = new Float32Array(says.length - classes);
  for (let i = 0, row = 0; i < phrases.length; i++) {
    if (i === at) continue;
    out.set(says.subarray(i * classes, (i + 1) * classes), row * classes);
    addTimes(out, row * classes, -(x[i] ?? 0) / (x[at] ?? 1), says, at * classes, classes);
    row++;
  }
  const but = <T>(list: readonly T[]): T[] => list.filter((_, i) => i !== at);
  return { phrases: but(phrases), lessons: but(lessons), says: out };
}
