import { readFileSync } from 'node:fs';
import { readBook } from '../../demo/bots';
import { readBookJson } from '../../src/core/phrases/bookfile';
import { phrasesOf, type Phrasebook } from '../../src/core/phrases/book';
import { learn, matcher } from '../../src/core/phrases/model';
import { qualityOf } from '../../src/core/phrases/quality';
import { keepLearnt } from '../../src/core/phrases/packed';
import { seeded } from '../../src/core/chance';
import { UNSEEN, UNSEEN_OTHER } from '../helpers/unseenphrases';

/**
 * The shipped phrases judged by cross-validation and by phrases it never learnt from, and how long learning and
 * matching take.
 */
const percent = (share: number) => `${(100 * share).toFixed(1)}%`;
const brought = readBookJson(readFileSync('demo/files/phrasebook-source.json', 'utf8'));
if ('faults' in brought) throw new Error(brought.faults[0]?.what);
const book = readBook();
for (const [name, judged] of [
  ['as brought in', brought.book],
  ['as taught since', book],
] as const) {
  const quality = qualityOf(judged, 8);
  const byLanguage = quality.byLanguage.map((l) => `${l.language} ${percent(l.accuracy)} of ${l.phrases}`).join(', ');
  console.log(
    `${name}, cross-validated over ${quality.phrases} phrases in 8 parts: ` +
      `${percent(quality.accuracy)} have the right first intent (${byLanguage}); ` +
      `of phrases about something else ${percent(quality.wronglyTaken)} are wrongly taken for an ` +
      `intent; ${percent(quality.sure)} of phrases are sure, of which ` +
      `${percent(quality.accuracyWhenSure)} are right`,
  );
  const recogniser = matcher(learn(judged));
  const unseen = Object.entries(UNSEEN).flatMap(([intentId, by]) =>
    Object.entries(by).flatMap(([language, texts]) =>
      texts.map((text) => ({ intentId, ...recogniser.rank(text, language) })),
    ),
  );
  const right = unseen.filter((j) => j.ranked[0]?.intentId === j.intentId);
  const sure = unseen.filter((j) => !j.none);
  const taken = UNSEEN_OTHER.filter(({ text, language }) => !recogniser.rank(text, language).none);
  console.log(
    `${name}, of ${unseen.length} phrases it never learnt from ` +
      `${percent(right.length / unseen.length)} have the right first intent; it is sure of ` +
      `${percent(sure.length / unseen.length)}, of which ` +
      `${percent(sure.filter((j) => right.includes(j)).length / sure.length)} are right; ` +
      `${taken.length} of ${UNSEEN_OTHER.length} about something else are wrongly taken`,
  );
}

const ms = (begun: bigint) => Number(process.hrtime.bigint() - begun) / 1e6;
let begun = process.hrtime.bigint();
const learnt = learn(book);
console.log(
  `learning the shipped book (${book.intents.length} intents, ${phrasesOf(book).length} phrases): ` +
    `${ms(begun).toFixed(0)} ms; kept in ${(keepLearnt(learnt).length / 1e6).toFixed(1)} MB`,
);

// A large book: 60 intents of 40 phrases each, made of the shipped phrases with other words put in.
const chance = seeded(5);
const words = Array.from(
  { length: 900 },
  (_, i) =>
    `${chance.pick(['bal', 'tor', 'min', 'sel', 'dru', 'cav', 'pel', 'ron'])}${chance.pick(['in', 'er', 'os', 'ad'])}${i}`,
);
const large: Phrasebook = {
  languages: ['en'],
  recognised: book.recognised,
  intents: Array.from({ length: 60 }, (_, i) => ({
    id: `i${i}`,
    label: `Intent ${i}`,
    description: '',
    examples: {
      en: Array.from({ length: 40 }, () => {
        const phrase = chance.pick(chance.pick(book.intents).examples.en ?? []).split(' ');
        return [...phrase.slice(0, 5), words[i * 15 + chance.below(15)], words[i * 15 + chance.below(15)]].join(' ');
      }),
    },
  })),
};
begun = process.hrtime.bigint();
learn(large);
console.log(`learning 60 intents with 40 phrases each: ${ms(begun).toFixed(0)} ms`);

const recogniser = matcher(learnt);
const times: number[] = [];
for (let round = 0; round < 10; round++)
  for (const { text, language } of phrasesOf(book)) {
    begun = process.hrtime.bigint();
    recogniser.rank(`${text} ${round}`, language);
    times.push(ms(begun));
  }
times.sort((a, b) => a - b);
console.log(
  `matching a phrase: median ${(times[times.length >> 1] ?? 0).toFixed(3)} ms, 99th percentile ` +
    `${(times[Math.floor(times.length * 0.99)] ?? 0).toFixed(3)} ms`,
);
