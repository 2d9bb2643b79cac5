import type { Phrasebook } from './book';
import type { Judge, Learnt, Told } from './learnt';
import type { Judged } from './judging';

/** The form of what is kept; what was kept in another is learnt anew. */
const LEARNT_FORM = 3;
/** How what is kept in this form begins. */
export const LEARNT_BEGINS = `{"form":${LEARNT_FORM},`;

/** What was learnt, as text that can be kept: numbers as little-endian 32-bit floats, or bytes, in base64. */
type Packed = {
  readonly form: typeof LEARNT_FORM;
  readonly book: Phrasebook;
  readonly encoder: string | null;
  readonly told: readonly (readonly [text: string, language: string, y: number, weight: number, own: boolean])[];
  readonly features: readonly string[];
  readonly rarity: string;
  readonly mean: string;
  readonly spread: string;
  readonly texts: readonly string[];
  readonly scales: string;
  readonly vectors: string;
  readonly whole: PackedJudge;
  /** Null where it is the same. */ readonly pieces: PackedJudge | null;
};
type PackedJudge = Omit<Judge, 'says' | 'judged'> & {
  readonly says: string;
  readonly judged: readonly (readonly [
    text: string,
    language: string,
    intentId: string | null,
    first: string | null,
    second: string | null,
    sure: number,
    ours: number,
  ])[];
};

function packed(numbers: Float32Array | Int8Array): string {
  let text = '';
  const bytes = new Uint8Array(numbers.buffer, numbers.byteOffset, numbers.byteLength);
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}
const bytesOf = (text: string): ArrayBuffer => Uint8Array.from(atob(text), (c) => c.charCodeAt(0)).buffer;
const floats = (text: string): Float32Array => new Float32Array(bytesOf(text));

const packedJudge = ({ says, judged, ...rest }: Judge): PackedJudge => ({
  ...rest,
  says: packed(says),
  judged: judged.map((j) => [j.text, j.language, j.intentId, j.first, j.second, j.sure, j.ours]),
});
const judgeFrom = ({ says, judged, ...rest }: PackedJudge): Judge => ({
  ...rest,
  says: floats(says),
  judged: judged.map(([text, language, intentId, first, second, sure, ours]): Judged => ({
    text,
    language,
    intentId,
    first,
    second,
    sure,
    ours,
  })),
});

export const keepLearnt = (l: Learnt): string =>
  JSON.stringify({
    form: LEARNT_FORM,
    book: l.book,
    encoder: l.encoder,
    told: l.told.map((t) => [t.text, t.language, t.y, t.weight, t.own]),
    features: [...l.features.numbers.keys()],
    rarity: packed(l.features.rarity),
    mean: packed(l.standard.mean),
    spread: packed(l.standard.spread),
    texts: [...l.vectors.keys()],
    scales: packed(Float32Array.from(l.vectors.values(), (v) => v.scale)),
    vectors: packed(Int8Array.from([...l.vectors.values()].flatMap((v) => [...v.numbers]))),
    whole: packedJudge(l.whole),
    pieces: l.pieces === l.whole ? null : packedJudge(l.pieces),
  } satisfies Packed);

/** Reads back what `keepLearnt` wrote; null for what an earlier version of the product kept. */
export function learntFrom(text: string): Learnt | null {
  const k = JSON.parse(text) as Packed | { readonly form?: undefined };
  if (k.form !== LEARNT_FORM) return null;
  const scales = floats(k.scales);
  const vectors = new Int8Array(bytesOf(k.vectors));
  const size = k.texts.length === 0 ? 0 : vectors.length / k.texts.length;
  const whole = judgeFrom(k.whole);
  return {
    book: k.book,
    encoder: k.encoder,
    told: k.told.map(([text_, language, y, weight, own]): Told => ({ text: text_, language, y, weight, own })),
    features: { numbers: new Map(k.features.map((name, i) => [name, i])), rarity: floats(k.rarity) },
    standard: { mean: floats(k.mean), spread: floats(k.spread) },
    vectors: new Map(
      k.texts.map((t, i) => [t, { numbers: vectors.slice(i * size, (i + 1) * size), scale: scales[i] ?? 1 }]),
    ),
    whole,
    pieces: k.pieces === null ? whole : judgeFrom(k.pieces),
  };
}
