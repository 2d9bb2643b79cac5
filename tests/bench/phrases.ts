import { phrasesOf, type Phrasebook, EMPTY_BOOK } from '../../src/core/phrases/book';
import { type Judged, thresholdsIn, tradeOf } from '../../src/core/phrases/judging';
import { learn } from '../../src/core/phrases/learning';
import type { Learnt } from '../../src/core/phrases/learnt';
import { judgeAside, matcher } from '../../src/core/phrases/matching';
import { keepLearnt } from '../../src/core/phrases/packed';
import { type Share, shareOf } from '../../src/core/phrases/quality';
import { seeded } from '../../src/core/chance';
import { UNDERSTANDING } from '../../src/data/meaning';
import { businesses } from '../helpers/businesses';

/**
 * Two businesses judged by phrases left out exactly, and by phrases written apart, in each language and without other
 * words; and how long learning and matching take.
 */
const percent = (share: number | null | undefined): string =>
  share === null || share === undefined ? '–' : `${(100 * share).toFixed(0)}%`;
const ranged = (s: Share): string =>
  s ? `${percent(s.share)} (${percent(s.low)}–${percent(s.high)} of ${s.of})` : '–';

/** How often something of ours looks more like ours than something that is not (area under the ROC curve). */
function auroc(judged: readonly Judged[]): number {
  const [own, others] = [judged.filter((j) => j.intentId !== null), judged.filter((j) => j.intentId === null)];
  let sum = 0;
  for (const a of own) for (const b of others) sum += a.ours > b.ours ? 1 : a.ours === b.ours ? 0.5 : 0;
  return sum / (own.length * others.length);
}

/** The share of what is nobody's that is taken where a share of ours is kept. */
function takenAt(judged: readonly Judged[], keep: number): number {
  const own = judged.filter((j) => j.intentId !== null).map((j) => j.ours);
  const least = own.sort((a, b) => a - b)[Math.floor(own.length * (1 - keep))] ?? 0;
  const others = judged.filter((j) => j.intentId === null);
  return others.filter((j) => j.ours >= least).length / others.length;
}

function told(what: string, judged: readonly Judged[], learnt: Learnt, language: string): void {
  const own = judged.filter((j) => j.intentId !== null);
  const right = own.filter((j) => j.first === j.intentId).length;
  const inTwo = own.filter((j) => j.intentId === j.first || j.intentId === j.second).length;
  const trade = tradeOf(judged, thresholdsIn(learnt.whole.thresholds, language));
  console.log(
    `  ${language} ${what}: first right ${ranged(shareOf(right, own.length))}, in two ${ranged(shareOf(inTwo, own.length))}; ` +
      `off topic AUROC ${auroc(judged).toFixed(2)}, taken at 85% kept ${percent(takenAt(judged, 0.85))}; ` +
      `acts on ${percent(trade.acts)}, right in ${percent(trade.rightWhenActing)}, asks on ${percent(trade.asks)}, ` +
      `offers the right one in ${percent(trade.offeredWhenAsking)}, takes ${percent(trade.taken)} of what is nobody's`,
  );
  // Risk by coverage: how much is wrong of what is acted on, when so much is acted on.
  const sorted = [...own].sort((a, b) => b.sure - a.sure);
  console.log(
    `     wrong of the surest: ${[0.25, 0.5, 0.75, 1]
      .map((c) => {
        const part = sorted.slice(0, Math.round(sorted.length * c));
        return `${percent(c)} ${percent(part.filter((j) => j.first !== j.intentId).length / Math.max(1, part.length))}`;
      })
      .join(', ')}`,
  );
}

const means = { encoder: UNDERSTANDING.encoder(), glosses: UNDERSTANDING.glosses() };
const matching = { encoder: UNDERSTANDING.encoder, glosses: means.glosses };
for (const { name, book, aside } of businesses()) {
  const learnt = learn({ ...book, aside }, means);
  const apart = judgeAside(learnt, matching);
  console.log(`${name}: ${book.intents.length} intents, ${phrasesOf(book).length} phrases`);
  for (const language of book.languages) {
    const of = (all: readonly Judged[]): readonly Judged[] => all.filter((j) => j.language === language);
    told('left out', of(learnt.whole.judged), learnt, language);
    told('kept aside', of(apart), learnt, language);
    told('left out, words and pieces alone', of(learnt.pieces.judged), learnt, language);
  }
}

// A large book: 60 intents of 40 phrases each, made of the phrases of both with other words put in.
const chance = seeded(5);
const from = businesses().flatMap((b) => b.book.intents.flatMap((i) => i.examples.en ?? []));
const words = Array.from(
  { length: 900 },
  (_, i) =>
    `${chance.pick(['bal', 'tor', 'min', 'sel', 'dru', 'cav', 'pel', 'ron'])}${chance.pick(['in', 'er', 'os', 'ad'])}${i}`,
);
const large: Phrasebook = {
  ...EMPTY_BOOK,
  intents: Array.from({ length: 60 }, (_, i) => ({
    id: `i${i}`,
    label: `Intent ${i}`,
    description: '',
    examples: {
      en: Array.from({ length: 40 }, () =>
        [
          ...chance.pick(from).split(' ').slice(0, 5),
          words[i * 15 + chance.below(15)],
          words[i * 15 + chance.below(15)],
        ].join(' '),
      ),
    },
  })),
};
const ms = (begun: bigint): number => Number(process.hrtime.bigint() - begun) / 1e6;
let begun = process.hrtime.bigint();
const cold = learn(large, means);
const coldMs = ms(begun);
begun = process.hrtime.bigint();
const edited = large.intents.map((x, i) =>
  i > 0 ? x : { ...x, examples: { en: [...(x.examples.en ?? []).slice(1), 'where has my parcel got to'] } },
);
learn({ ...large, intents: edited }, { ...means, last: cold });
const editMs = ms(begun);
console.log(
  `60 intents of 40 phrases: learnt cold in ${(coldMs / 1000).toFixed(1)} s, an edit in ${(editMs / 1000).toFixed(2)} s ` +
    `(${(coldMs / editMs).toFixed(0)} times as fast); kept in ${(keepLearnt(cold).length / 1e6).toFixed(1)} MB`,
);
const ready = matcher(cold, matching);
for (const quick of [false, true]) {
  const times: number[] = [];
  for (const text of from.slice(0, 250)) {
    begun = process.hrtime.bigint();
    ready.rank(text.padEnd(50, ' please').slice(0, 50), 'en', quick);
    times.push(ms(begun));
  }
  times.sort((a, b) => a - b);
  console.log(
    `matching 50 characters in it${quick ? ', words and pieces alone' : ''}: median ${(times[times.length >> 1] ?? 0).toFixed(1)} ms, ` +
      `95th percentile ${(times[Math.floor(times.length * 0.95)] ?? 0).toFixed(1)} ms`,
  );
}
console.log(`memory in use: ${(process.memoryUsage().rss / 1e6).toFixed(0)} MB`);
