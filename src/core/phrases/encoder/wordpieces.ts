/** Pieces of words, each with how likely it is (natural logarithm): as a unigram language model cuts text (Kudo, 2018). */
export type Vocabulary = readonly (readonly [piece: string, likelihood: number])[];

/** Where a word begins. */
const WORD = '\u2581';
/** What one character costs that no piece has. */
const UNKNOWN = -20;
/** Pieces before this one stand for no text. */
const FIRST = 6;

/** Cuts a text into the likeliest pieces of a vocabulary, by their numbers; what it does not know is 0. */
export type Cutter = (text: string) => number[];

/** Prepares a vocabulary for cutting; `most` pieces of a text are looked at. */
export function cutterOf(vocabulary: Vocabulary, most: number): Cutter {
  const known = new Map<string, { readonly likelihood: number; readonly id: number }>();
  let longest = 1;
  vocabulary.forEach(([piece, likelihood], id) => {
    if (id < FIRST) return;
    known.set(piece, { likelihood, id });
    longest = Math.max(longest, piece.length);
  });
  return (text) => {
    const said = WORD + text.normalize('NFKC').trim().replace(/\s+/g, WORD);
    if (said === WORD) return [];
    const best = new Float64Array(said.length + 1).fill(-Infinity);
    const from = new Int32Array(said.length + 1);
    const piece = new Int32Array(said.length + 1);
    best[0] = 0;
    for (let at = 0; at < said.length; at++) {
      const so = best[at] ?? -Infinity;
      for (let length = 1; length <= longest && at + length <= said.length; length++) {
        const found = known.get(said.slice(at, at + length));
        const score = found ? so + found.likelihood : length === 1 ? so + UNKNOWN : -Infinity;
        if (score <= (best[at + length] ?? -Infinity)) continue;
        best[at + length] = score;
        from[at + length] = at;
        piece[at + length] = found?.id ?? 0;
      }
    }
    const cut: number[] = [];
    for (let at = said.length; at > 0; at = from[at] ?? 0) {
      const id = piece[at] ?? 0;
      // Unknown characters in a row are one unknown piece.
      if (id !== 0 || cut.at(-1) !== 0) cut.push(id);
    }
    return cut.reverse().slice(0, most);
  };
}
