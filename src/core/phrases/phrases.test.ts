import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { phrasebookLearnt } from '../../../demo/bots';
import { UNSEEN, UNSEEN_OTHER } from '../../../tests/helpers/unseenphrases';
import { seeded } from '../chance';
import type { Phrasebook } from './book';
import { bookCsv, bookJson, readBookCsv, readBookJson } from './bookfile';
import { conceptsOf } from './concepts';
import { familiesOf, weighed } from './features';
import { keepLearnt, learntFrom } from './packed';
import { learn, matcher } from './model';
import { qualityOf } from './quality';
import { oneSlip } from './slips';
import { fitSoftmax, probabilities, type Linear } from './softmax';
import { thingFinder } from './things';
import { folded, stemOf, wordsOf } from './tokens';

const { book, text } = phrasebookLearnt();
const recogniser = matcher(learntFrom(text));
const small: Phrasebook = {
  languages: ['en'],
  recognised: [],
  intents: [
    {
      id: 'a',
      label: 'Open',
      description: '',
      examples: { en: ['when are you open', 'opening times', 'are you open on sunday', 'what time do you close'] },
    },
    {
      id: 'b',
      label: 'Pay',
      description: '',
      examples: { en: ['I want to pay my bill', 'how do I pay', 'payment by card', 'settle the invoice'] },
    },
  ],
};

describe('the shipped phrasebook', () => {
  it('is understood without the phrase itself, in both languages, with little taken wrongly', () => {
    const quality = qualityOf(book, 5);
    expect(quality.accuracy).toBeGreaterThan(0.85);
    for (const l of quality.byLanguage) expect(l.accuracy).toBeGreaterThan(0.82);
    expect(quality.wronglyTaken).toBeLessThan(0.25);
    // Being sure means something: of what it is sure of more is right than of all.
    expect(quality.accuracyWhenSure).toBeGreaterThan(quality.accuracy);
    expect(quality.byIntent.reduce((n, i) => n + i.phrases, 0)).toBe(quality.phrases);
    expect(quality.confused.reduce((n, c) => n + c.times, 0)).toBe(
      Math.round((1 - quality.accuracy) * quality.phrases),
    );
  }, 60_000);
  it('is understood in words that were never taught', () => {
    const judged = Object.entries(UNSEEN).flatMap(([intentId, by]) =>
      Object.entries(by).flatMap(([language, texts]) =>
        texts.map((said) => ({ intentId, ...recogniser.rank(said, language) })),
      ),
    );
    const right = (of: typeof judged) => of.filter((j) => j.ranked[0]?.intentId === j.intentId).length / of.length;
    expect(judged.length).toBeGreaterThan(120);
    expect(right(judged)).toBeGreaterThan(0.88);
    expect(right(judged.filter((j) => !j.none))).toBeGreaterThan(0.9);
    expect(
      UNSEEN_OTHER.filter(({ text: said, language }) => !recogniser.rank(said, language).none).length /
        UNSEEN_OTHER.length,
    ).toBeLessThan(0.25);
  });
  it.each([
    ['a string has snapped on my guitar', 'report_damage'],
    ['who can I speak to, a human please', 'speak_to_person'],
    ['are you open on Saturday', 'opening_hours'],
    ['¿a qué hora abren el sábado?', 'opening_hours'],
    ['my daughter needs a bigger violin', 'swap_size'],
    ['quiero hablar con una persona', 'speak_to_person'],
  ])('“%s” is %s', (phrase, intent) => {
    const { ranked, none } = recogniser.rank(phrase, /[¿áéíóú]|quiero/.test(phrase) ? 'es' : 'en');
    expect([ranked[0]?.intentId, none]).toEqual([intent, false]);
  });
  it.each(['what is the capital of Norway', 'asdfgh', 'sing me a song', ''])('“%s” is none of these', (phrase) =>
    expect(recogniser.rank(phrase, 'en').none).toBe(true),
  );
  it('confidences are a ranking between 0 and 1 for whatever is said', () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), fc.constantFrom('en', 'es', 'pl', 'xx-Latn'), (phrase, language) => {
        const { ranked } = recogniser.rank(phrase, language);
        for (const [i, r] of ranked.entries()) {
          expect(r.confidence).toBeGreaterThanOrEqual(0);
          expect(r.confidence).toBeLessThanOrEqual(ranked[i - 1]?.confidence ?? 1);
        }
      }),
      { numRuns: 300 },
    ));
});

describe('learning', () => {
  it('the same book gives the same thing, and what is kept reads back as it was', () => {
    expect(keepLearnt(learn(small))).toBe(keepLearnt(learn(small)));
    const learnt = learn(small);
    for (const phrase of ['open?', 'pay by card', 'xyz'])
      expect(matcher(learntFrom(keepLearnt(learnt))).rank(phrase, 'en')).toEqual(matcher(learnt).rank(phrase, 'en'));
  });
  it('an empty book knows nothing, and a book of one intent does not break', () => {
    expect(matcher(learn({ languages: ['en'], intents: [], recognised: [] })).rank('hello', 'en')).toEqual({
      ranked: [],
      none: true,
    });
    expect(
      matcher(learn({ ...small, intents: small.intents.slice(0, 1) })).rank('opening times', 'en').ranked[0]?.intentId,
    ).toBe('a');
  });
  it('softmax regression separates what can be separated, and its probabilities sum to one', () => {
    const sparse = (at: number[]) => ({ at: Int32Array.from(at), weight: new Float32Array(at.length).fill(1) });
    const examples = Array.from({ length: 60 }, (_, i) => ({ x: sparse([i % 3, 3 + (i % 5)]), y: i % 3, weight: 1 }));
    const model = fitSoftmax(examples, 3, 8);
    for (const { x, y } of examples) {
      const p = probabilities(model, x);
      expect([...p].reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
      expect(p.indexOf(Math.max(...p))).toBe(y);
    }
  });
});

describe('features of a phrase', () => {
  const find = thingFinder(book);
  it('each family that occurs weighs its share, whatever the phrase', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...book.intents.flatMap((i) => i.examples.en ?? [])),
        fc.integer({ min: 1, max: 9 }),
        (said, rarity) => {
          const families = familiesOf(said, 'en', find);
          const all = weighed(families, (name) => 1 + (name.length % rarity));
          for (const { share, counts } of families)
            if (counts.size > 0)
              expect(Math.hypot(...[...counts.keys()].map((name) => all.get(name) ?? 0))).toBeCloseTo(share, 6);
          expect(all.size).toBe(families.reduce((n, f) => n + f.counts.size, 0));
        },
      ),
    ));
  it('things of a list are alike, whatever they are called', () => {
    const concepts = (said: string) =>
      [...(familiesOf(said, 'en', find)[2]?.counts.keys() ?? [])].filter((c) => c.startsWith('t '));
    expect(concepts('a violin')).toEqual(['t instrument']);
    expect(concepts('a violin')).toEqual(concepts('some oboe'));
  });
  it('a long word one slip off counts as the word it was meant to be, a short one does not', () => {
    const of = (word: string) => conceptsOf(stemOf(word, 'en'), 'en');
    expect(of('delivery')).toContain('deliver');
    expect(of('appointmant')).toEqual(of('appointment'));
    expect(of('appointment')).toContain('appointment');
    expect(of('zill')).toEqual([]);
    expect(conceptsOf(stemOf('entrega', 'es'), 'es-MX')).toContain('deliver');
  });
});

describe('softmax regression', () => {
  const sparse = (at: readonly number[], weight: readonly number[]) => ({
    at: Int32Array.from(at),
    weight: Float32Array.from(weight),
  });
  /**
   * Three classes that overlap: nothing separates them, so that the best weights are finite and known by plain
   * descent.
   */
  const chance = seeded(11);
  const examples = Array.from({ length: 240 }, (_, i) => ({
    x: sparse(
      [0, 1, 2, 3],
      [1, chance.below(100) / 50 - 1 + (i % 3) * 0.5, chance.below(100) / 50 - 1 - (i % 3) * 0.4, chance.below(2)],
    ),
    y: i % 3,
    weight: 1,
  }));
  /** Full gradient descent on the same loss, step by step until it no longer moves: slow, and plainly right. */
  function plainly(): Linear {
    const [classes, features] = [3, 4];
    const linear: Linear = {
      classes,
      features,
      weights: new Float32Array(features * classes),
      bias: new Float32Array(classes),
    };
    for (let round = 0; round < 4000; round++) {
      const g = new Float64Array(features * classes);
      for (const { x, y } of examples) {
        const p = probabilities(linear, x);
        x.at.forEach((f, i) => {
          for (let c = 0; c < classes; c++) {
            const cell = f * classes + c;
            g[cell] = (g[cell] ?? 0) + ((p[c] ?? 0) - (c === y ? 1 : 0)) * (x.weight[i] ?? 0);
          }
        });
      }
      g.forEach((slope, cell) => {
        linear.weights[cell] =
          (linear.weights[cell] ?? 0) - 0.5 * (slope / examples.length + 2e-4 * (linear.weights[cell] ?? 0));
      });
    }
    return linear;
  }
  const loss = (linear: Linear): number =>
    examples.reduce((sum, { x, y }) => sum - Math.log(probabilities(linear, x)[y] ?? 0), 0) / examples.length;
  it('comes as near the least loss as plain descent, within 2%', () => {
    const least = loss(plainly());
    expect(least).toBeGreaterThan(0.5);
    expect(loss(fitSoftmax(examples, 3, 4, { rounds: 60, rate: 0.3 }))).toBeLessThan(least * 1.02);
  });
  it('an example of no weight teaches nothing, and the order of features does not matter', () => {
    const idle = { x: sparse([2], [5]), y: 1, weight: 0 };
    expect([...fitSoftmax([idle], 3, 4).weights]).toEqual(new Array(12).fill(0));
    const turned = examples.map((e) => ({ ...e, x: sparse([...e.x.at].reverse(), [...e.x.weight].reverse()) }));
    const [a, b] = [fitSoftmax(examples, 3, 4), fitSoftmax(turned, 3, 4)];
    a.weights.forEach((w, i) => {
      expect(w).toBeCloseTo(b.weights[i] ?? NaN, 4);
    });
  });
});

describe('things to recognise', () => {
  const find = thingFinder(book);
  it.each([
    ['my daughter’s cello', 'instrument', 'cello'],
    ['two violins please', 'instrument', 'violin'],
    ['a duble bass', 'instrument', 'double_bass'],
    ['the clarinnet', 'instrument', 'clarinet'],
    ['un violín', 'instrument', 'violin'],
    ['three quarter size', 'size', '3/4'],
    ['it is a 1/2', 'size', '1/2'],
    ['French horn', 'instrument', 'french_horn'],
    ['number bh 204816 thanks', 'hire_number', 'BH 204816'],
  ])('“%s” names %s %s', (phrase, list, thing) => expect(find(phrase, list).map((f) => f.thingId)).toContain(thing));
  it('longer names come before shorter ones within them', () =>
    expect(find('a double bass', 'instrument').map((f) => f.thingId)).toEqual(['double_bass']));
  it('nothing is named in other words', () => expect(find('the bowl of soup')).toEqual([]));
  it('one slip: left out, put in, changed or swapped', () => {
    for (const [a, b, same] of [
      ['cello', 'cllo', true],
      ['cello', 'ceello', true],
      ['cello', 'cewlo', true],
      ['cello', 'ecllo', true],
      ['cello', 'celxy', false],
      ['cello', 'ce', false],
      ['', '', true],
    ] as const)
      expect([a, b, oneSlip(a, b)]).toEqual([a, b, same]);
    fc.assert(
      fc.property(
        fc.string({ maxLength: 12 }),
        fc.string({ maxLength: 12 }),
        (a, b) => oneSlip(a, b) === oneSlip(b, a),
      ),
    );
  });
  it('plain text is split as the full rules split it', () => {
    const plain = fc
      .array(
        fc.constantFrom(
          'a',
          'Be',
          'x9',
          '12',
          ' ',
          ' ',
          '.',
          ',',
          '-',
          '!',
          '/',
          ':',
          '_',
          '’',
          "'",
          '(',
          '#',
          '@',
          ';',
        ),
        { maxLength: 20 },
      )
      .map((parts) => parts.join(''));
    fc.assert(
      fc.property(plain, (said) => {
        const rules = [...new Intl.Segmenter('en', { granularity: 'word' }).segment(said.replace(/[’']/g, ' '))]
          .filter((s) => s.isWordLike)
          .map((s) => folded(s.segment));
        expect(wordsOf(said, 'en')).toEqual(rules);
      }),
      { numRuns: 3000 },
    );
  });
  it('words are folded and split as Unicode says', () => {
    expect(wordsOf('¿Dónde está EL violín?', 'es')).toEqual(['donde', 'esta', 'el', 'violin']);
    expect(folded('Ąé')).toBe('ae');
  });
});

describe('a phrasebook as a file', () => {
  it('goes out and comes in as the same thing', () => {
    expect(readBookJson(bookJson(book))).toEqual({ book });
    expect(readBookCsv(bookCsv(book), book)).toEqual({ book });
  });
  it.each([
    ['{', 1, 'not JSON'],
    ['[]', 1, 'one object'],
    ['{"intents": 7}', 1, 'missing'],
    ['{"intents": [\n{"id": "a b", "examples": {}}]}', 2, 'letters'],
    ['{"intents": [\n{"id": "a", "examples": {}},\n{"id": "a", "examples": {}}]}', 3, 'twice'],
    [
      '{"intents": [], "recognised": [{"id": "r", "label": "R", "kind": "list", "things": ' +
        '[{"id": "t", "words": {}},\n{"id": "t", "words": {}}]}]}',
      2,
      'twice',
    ],
    [
      '{"intents": [], "recognised": [{"id": "r", "label": "R", "kind": "list", "things": [\n{"id": " ", "words": {}}]}]}',
      2,
      'has an id',
    ],
    ['{"intents": [{"id": "a",\n"examples": {"english words": []}}]}', 2, 'language tag'],
    ['{"intents": [], "recognised": [\n{"id": "r", "label": "R", "kind": "pattern",\n"pattern": "(["}]}', 3, 'pattern'],
    ['{"intents": [],}', 1, 'not JSON'],
  ])('a broken file names its line: %s', (file, line, what) => {
    const read = readBookJson(file);
    expect('faults' in read ? read.faults[0] : null).toMatchObject({
      line,
      what: expect.stringContaining(what) as string,
    });
  });
  it('any text is a book or faults, never a crash', () =>
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.json()), (file) => {
        for (const read of [readBookJson(file), readBookCsv(file, small)])
          expect('book' in read || read.faults.length > 0).toBe(true);
      }),
      { numRuns: 500 },
    ));
});
