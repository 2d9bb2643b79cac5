import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { readBook } from '../../../demo/bots';
import { type Aside, EMPTY_BOOK, type Phrasebook } from './book';
import { bookCsv, bookJson, otherWordsCsv, readBookCsv, readBookJson } from './bookfile';
import { createProducts } from './encoder/product';
import { featuresOf, phrasedAs, sparseOf } from './features';
import { clausesOf, isContrast } from './functionwords';
import { inEnglish, NO_GLOSSES, readGlosses } from './glosses';
import { type Judged, thresholdsFor, tradeOf } from './judging';
import { solveRidge, withLesson, withoutLesson } from './kernelridge';
import { likenesses, likenessTo, type Vectored } from './likeness';
import { BY_PIECES, learn } from './learning';
import type { Learnt } from './learnt';
import { judgeAside, matcher } from './matching';
import { rewordingOf } from './otherwords';
import { keepLearnt, LEARNT_BEGINS, learntFrom } from './packed';
import { qualityOf, shareOf } from './quality';
import { oneSlip } from './slips';
import { thingFinder } from './things';
import { folded, wordsOf } from './tokens';

const book = readBook();
const MEANS = { encoder: null, glosses: NO_GLOSSES };
const small: Phrasebook = {
  ...EMPTY_BOOK,
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
/** Reads what was kept back; it was kept by this version. */
function readBack(text: string): Learnt {
  const learnt = learntFrom(text);
  if (!learnt) throw new Error('it cannot be read back');
  return learnt;
}

describe('learning', () => {
  const learnt = learn(small, BY_PIECES);
  const rank = (text: string, language = 'en') => matcher(learnt, MEANS).rank(text, language);
  it('the same book gives the same thing, and what is kept reads back as it was', () => {
    expect(keepLearnt(learn(small, BY_PIECES))).toBe(keepLearnt(learnt));
    const again = matcher(readBack(keepLearnt(learnt)), MEANS);
    for (const phrase of ['open?', 'pay by card', 'xyz']) expect(again.rank(phrase, 'en')).toEqual(rank(phrase));
    expect(learntFrom('{"features":[],"weights":""}')).toBe(null);
  });
  it('words that were taught are understood, and others of the same stem', () => {
    expect(rank('are you opening on sunday').ranked[0]?.intentId).toBe('a');
    expect(rank('paying my bills').ranked[0]?.intentId).toBe('b');
  });
  it('an empty book knows nothing, and a book of one intent does not break', () => {
    expect(matcher(learn(EMPTY_BOOK, BY_PIECES), MEANS).rank('hello', 'en')).toEqual({ ranked: [], verdict: 'none' });
    const one = { ...small, intents: small.intents.slice(0, 1) };
    expect(matcher(learn(one, BY_PIECES), MEANS).rank('opening times', 'en').ranked[0]?.intentId).toBe('a');
  });
  it.each([
    ['our', 'en'],
    ['who is it', 'en'],
    ['what do you have', 'en'],
    ['', 'en'],
    ['…', 'en'],
    ['12', 'en'],
    ['¿y el de la?', 'es'],
    ['que vous êtes', 'fr'],
    ['czy to jest', 'pl'],
  ])('function words alone decide nothing: “%s”', (phrase, language) =>
    expect(rank(phrase, language).verdict).toBe('none'),
  );
  it('another word for one that was taught is understood as that one', () => {
    const more = { ...small, otherWords: [{ word: 'bill', language: 'en', also: ['wee note', 'damages'] }] };
    const with_ = matcher(learn(more, BY_PIECES), MEANS);
    expect(with_.rank('the wee notes', 'en').ranked[0]?.intentId).toBe('b');
    expect(with_.rank('the damages', 'en').ranked[0]).toMatchObject({ intentId: 'b' });
    expect(with_.rank('the damages', 'en').ranked[0]?.confidence).toBeGreaterThan(
      rank('the damages').ranked[0]?.confidence ?? 1,
    );
  });
  it('confidences are a ranking between 0 and 1 for whatever is said', () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), fc.constantFrom('en', 'es', 'pl', 'xx-Latn'), (phrase, language) => {
        const { ranked } = rank(phrase, language);
        for (const [i, r] of ranked.entries()) {
          expect(r.confidence).toBeGreaterThanOrEqual(0);
          expect(r.confidence).toBeLessThanOrEqual(ranked[i - 1]?.confidence ?? 1);
        }
      }),
      { numRuns: 200 },
    ));
  it('a large book goes on from what was learnt: one phrase more is the same as learning it all anew', () => {
    const words = Array.from({ length: 40 }, (_, i) => `w${String.fromCharCode(97 + (i % 26))}${i}xyz`);
    const intents = Array.from({ length: 20 }, (_, i) => ({
      id: `i${i}`,
      label: `Intent ${i}`,
      description: '',
      examples: {
        en: Array.from(
          { length: 45 },
          (_, k) => `${words[i] ?? ''} ${words[(i + 1 + (k % 5)) % 40] ?? ''} ${words[(k * 7 + i) % 40] ?? ''} ${k}`,
        ),
      },
    }));
    const large = { ...small, intents };
    const before = learn(large, BY_PIECES);
    const more = {
      ...large,
      intents: intents.map((x, i) =>
        i ? x : { ...x, examples: { en: [...x.examples.en.slice(1), 'wholly new talk'] } },
      ),
    };
    const after = learn(more, { ...BY_PIECES, last: before });
    expect(after.told).toHaveLength(before.told.length);
    expect(matcher(after, MEANS).rank('wholly new talk', 'en').ranked[0]?.intentId).toBe('i0');
    // Rarity stays as it was; all else is as if it had been learnt together.
    const anew = matcher(learn(more, BY_PIECES), MEANS);
    for (const phrase of [`${words[3] ?? ''} ${words[5] ?? ''}`, `${words[0] ?? ''} x`, 'new talk']) {
      const [a, b] = [matcher(after, MEANS), anew].map((m) => m.rank(phrase, 'en').ranked[0]);
      expect(a?.intentId).toBe(b?.intentId);
      expect(a?.confidence).toBeCloseTo(b?.confidence ?? 0, 1);
    }
  });
  it('phrases that stand twice in a large book are taken out of it together', () => {
    const twice = ['the very same words', 'the very same words'];
    const intents = Array.from({ length: 20 }, (_, i) => ({
      id: `i${i}`,
      label: `Intent ${i}`,
      description: '',
      examples: {
        en: [...Array.from({ length: 45 }, (_p, k) => `w${i}x v${(k * 7) % 40}y ${k}`), ...(i ? [] : twice)],
      },
    }));
    const before = learn({ ...small, intents }, BY_PIECES);
    const fewer = intents.map((x, i) => (i ? x : { ...x, examples: { en: x.examples.en.slice(0, -2) } }));
    const after = learn({ ...small, intents: fewer }, { ...BY_PIECES, last: before });
    expect(after.whole.says).toHaveLength(after.told.length * 21);
    expect(after.told.map((t) => t.text)).not.toContain(twice[0]);
    // They are one example, so that an edit goes on from what was learnt instead of learning all anew.
    expect(before.told.filter((t) => t.text === twice[0])).toHaveLength(1);
    expect(after.features).toBe(before.features);
  });
  it('a region of a language is understood as the language', () =>
    expect(rank('opening times please', 'en-IE')).toEqual(rank('opening times please', 'en')));
  it('what is kept says at its beginning in which form', () =>
    expect(keepLearnt(learnt).startsWith(LEARNT_BEGINS)).toBe(true));
  it('phrases kept aside are judged and never learnt from', () => {
    const aside: Aside[] = [
      { text: 'payment of my bill', language: 'en', intentId: 'b' },
      { text: 'zebra crossing', language: 'en', intentId: null },
    ];
    const apart = learn({ ...small, aside }, BY_PIECES);
    expect(keepLearnt({ ...apart, book: small })).toBe(keepLearnt(learnt));
    const [pay, zebra] = judgeAside(apart, MEANS);
    expect(pay).toMatchObject({ first: 'b', intentId: 'b' });
    expect(zebra?.ours).toBeLessThan(pay?.ours ?? 0);
  });
});

describe('kernel ridge regression', () => {
  const vector = fc.record({
    at: fc.uniqueArray(fc.nat(30), { minLength: 1, maxLength: 6 }),
    dense: fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 8, maxLength: 8 }),
  });
  const phrases = fc
    .array(fc.record({ x: vector, y: fc.nat(2), light: fc.boolean() }), { minLength: 2, maxLength: 40 })
    .map((all) =>
      all.map(({ x, y, light }) => {
        const length = Math.hypot(...x.dense) || 1;
        const phrase: Vectored = {
          dense: Float32Array.from(x.dense, (d) => d / length),
          sparse: { at: Int32Array.from(x.at), weight: new Float32Array(x.at.length).fill(0.3) },
        };
        return { phrase, lesson: { y, weight: light ? 0.3 : 1 } };
      }),
    );
  const solved = (all: readonly { phrase: Vectored; lesson: { y: number; weight: number } }[]) => {
    const products = createProducts();
    const like = likenesses(
      all.map((x) => x.phrase),
      products,
    );
    return solveRidge(
      like,
      all.map((x) => x.lesson),
      3,
      products,
    );
  };
  it('solves (K + λ/w) A = Y', () =>
    fc.assert(
      fc.property(phrases, (all) => {
        const { says } = solved(all);
        const like = likenessTo(
          all.map((x) => x.phrase),
          createProducts(),
        );
        all.forEach(({ phrase, lesson }, i) => {
          const k = like(phrase);
          for (let c = 0; c < 3; c++) {
            let sum = (0.7 / lesson.weight) * (says[i * 3 + c] ?? 0);
            k.forEach((v, j) => (sum += v * (says[j * 3 + c] ?? 0)));
            expect(sum).toBeCloseTo(c === lesson.y ? 1 : 0, 3);
          }
        });
      }),
      { numRuns: 60 },
    ));
  it('what a phrase would score without itself is what it scores when it is not learnt', () =>
    fc.assert(
      fc.property(phrases, fc.nat(), (all, n) => {
        const at = n % all.length;
        const { without } = solved(all);
        const rest = all.filter((_, i) => i !== at);
        const { says } = solved(rest);
        const phrase = all[at]?.phrase;
        if (!phrase) return;
        const k = likenessTo(
          rest.map((x) => x.phrase),
          createProducts(),
        )(phrase);
        for (let c = 0; c < 3; c++) {
          let sum = 0;
          k.forEach((v, j) => (sum += v * (says[j * 3 + c] ?? 0)));
          expect(without[at * 3 + c]).toBeCloseTo(sum, 3);
        }
      }),
      { numRuns: 60 },
    ));
  it('a lesson more and one fewer are as if all had been learnt together', () =>
    fc.assert(
      fc.property(phrases, fc.nat(), (all, n) => {
        const at = n % all.length;
        const whole = { phrases: all.map((x) => x.phrase), lessons: all.map((x) => x.lesson), says: solved(all).says };
        const fewer = withoutLesson(whole, at, 3, 31);
        const rest = all.filter((_, i) => i !== at);
        solved(rest).says.forEach((v, i) => expect(fewer.says[i]).toBeCloseTo(v, 2));
        const one = all[at];
        if (!one) return;
        const back = withLesson(fewer, one.phrase, one.lesson, 3, 31);
        solved([...rest, one]).says.forEach((v, i) => expect(back.says[i]).toBeCloseTo(v, 2));
      }),
      { numRuns: 40 },
    ));
});

describe('how phrases are read', () => {
  const reading = { reword: rewordingOf([]), glosses: NO_GLOSSES, found: thingFinder(book) };
  it('words and pieces each weigh their share, whatever the phrase', () =>
    fc.assert(
      fc.property(fc.constantFrom(...book.intents.flatMap((i) => i.examples.en ?? [])), (said) => {
        const phrased = phrasedAs(said, 'en', reading);
        const { weight } = sparseOf(phrased, featuresOf([phrased]), 1);
        expect(Math.hypot(...weight) ** 2).toBeCloseTo(0.8, 5);
      }),
    ));
  it('things of a list are alike, whatever they are called', () => {
    const lists = (said: string) => [...phrasedAs(said, 'en', reading).words.keys()].filter((c) => c.startsWith('t '));
    expect(lists('a violin')).toEqual(['t instrument']);
    expect(lists('a violin')).toEqual(lists('some oboe'));
  });
  it('words of another language are read as English, by their stems', () => {
    const glosses = readGlosses({ es: ['# a list\nbook: libro libros\nlose: perder perdido\nbook thing: libro'] });
    expect(inEnglish(wordsOf('He perdido dos LIBROS', 'es'), 'es', glosses)).toBe('he lose dos book');
    expect(inEnglish(['libro'], 'fr', glosses)).toBe('libro');
    expect(phrasedAs('perdido el libro', 'es', { ...reading, glosses }).english).toBe('lose el book');
  });
  it('other words go before anything, the longest first, in their own language only', () => {
    const reword = rewordingOf([
      { word: 'account', language: 'en', also: ['customer file', 'file'] },
      { word: 'tool', language: 'en', also: ['file of iron'] },
      { word: 'cuenta', language: 'es', also: ['ficha'] },
    ]);
    expect(reword(wordsOf('my customer files please', 'en'), 'en')).toEqual(['my', 'account', 'please']);
    expect(reword(wordsOf('a file of iron', 'en-GB'), 'en-GB')).toEqual(['a', 'tool']);
    expect(reword(wordsOf('mi ficha', 'es'), 'es')).toEqual(['mi', 'cuenta']);
    expect(reword(wordsOf('mi ficha', 'en'), 'en')).toEqual(['mi', 'ficha']);
  });
  it.each([
    ['not the rent but the repair', 'en', true],
    ["I don't want to cancel, just pause", 'en', true],
    ['no quiero cancelar sino cambiar', 'es', true],
    ['je ne veux pas annuler mais changer', 'fr', true],
    ['nie chcę anulować, tylko zmienić', 'pl', true],
    ['I do not understand my bill', 'en', false],
    ['no funciona', 'es', false],
  ])('whether it is not one thing but another is noticed: %s', (said, language, is) =>
    expect(isContrast(said, language)).toBe(is),
  );
  it('a phrase is taken apart where one wish may end', () =>
    expect(clausesOf('My invoice is wrong. And also I want to cancel', 'en')).toEqual([
      'My invoice is wrong',
      'I want to cancel',
    ]));
});

describe('thresholds', () => {
  const fare = fc.record({
    own: fc.boolean(),
    place: fc.nat(2),
    sure: fc.double({ min: 0, max: 1, noNaN: true }),
    ours: fc.double({ min: -1, max: 3, noNaN: true }),
  });
  const judged = fc.array(fare, { minLength: 1, maxLength: 80 }).map((all) =>
    all.map(({ own, place, sure, ours }, i): Judged => ({
      text: String(i),
      language: 'en',
      intentId: own ? 'a' : null,
      first: place === 0 ? 'a' : 'b',
      second: place === 1 ? 'a' : 'c',
      sure,
      ours,
    })),
  );
  const wish = fc.record({
    right: fc.double({ min: 0.5, max: 1, noNaN: true }),
    keep: fc.double({ min: 0.5, max: 1, noNaN: true }),
  });
  it('keep what is wished, and act only where it is right often enough', () =>
    fc.assert(
      fc.property(judged, wish, (all, w) => {
        const trade = tradeOf(all, thresholdsFor(all, w));
        if (trade.phrases < 20) return;
        expect(trade.leaves).toBeLessThanOrEqual(1 - w.keep + 1e-9);
        if (trade.rightWhenActing !== null && trade.acts * trade.phrases > 1)
          expect(trade.rightWhenActing).toBeGreaterThanOrEqual(w.right - 1e-9);
        expect(trade.acts + trade.asks + trade.leaves).toBeCloseTo(1, 9);
      }),
    ));
  it('a share’s range holds what it must, and narrows with more', () => {
    expect(shareOf(0, 0)).toBe(null);
    const [few, many] = [shareOf(8, 10), shareOf(800, 1000)];
    expect([few?.low, few?.high].map((x) => x?.toFixed(2))).toEqual(['0.49', '0.94']);
    expect([many?.low, many?.high].map((x) => x?.toFixed(3))).toEqual(['0.774', '0.824']);
  });
});

describe('what is said of a book', () => {
  const learnt = learn(
    { ...small, aside: [{ text: 'what time do you close?', language: 'en', intentId: 'a' }] },
    BY_PIECES,
  );
  const quality = qualityOf(learnt.book, learnt.whole.judged, learnt.whole.thresholds, judgeAside(learnt, MEANS));
  it('counts each phrase once, and those kept aside apart', () => {
    expect(quality.byIntent.reduce((n, i) => n + i.phrases, 0)).toBe(8);
    expect(quality.languages[0]).toMatchObject({
      language: 'en',
      phrases: 8,
      right: { of: 8 },
      aside: { right: { of: 1, share: 1 } },
    });
    expect(quality.weakest.every((j) => j.first !== j.intentId)).toBe(true);
  });
  it('a twin of a taught phrase among those kept aside is told', () =>
    expect(quality.twins).toEqual([{ aside: 'what time do you close?', taught: 'what time do you close' }]));
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
    const all: Phrasebook = {
      ...small,
      otherWords: [{ word: 'bill', language: 'en', also: ['wee note'] }],
      wishes: { en: { right: 0.9, keep: 0.8 } },
      aside: [
        { text: 'the tab', language: 'en', intentId: 'b' },
        { text: 'zebra', language: 'en', intentId: null },
      ],
    };
    expect(readBookJson(bookJson(all))).toEqual({ book: all });
    // Other words have a table of their own, which leaves all else as it is.
    const more = [...all.otherWords, { word: 'bill', language: 'es', also: ['la cuenta', 'dolorosa'] }];
    expect(readBookCsv(otherWordsCsv({ ...all, otherWords: more }), all)).toEqual({
      book: { ...all, otherWords: more },
    });
  });
  it.each([
    ['word,also\nbill,note', 1, 'The column language is missing'],
    ['word,language,also\nbill,en,note\n,en,note', 3, 'A word that has others'],
    ['word,language,also\nbill,english words,note', 2, 'language tag'],
    ['word,language,also\nbill,en,one two three four', 2, 'at most 3 words'],
    ['word,language,also\nbill,en,note\nbill,en,note', 3, 'twice'],
    ['word,language,also\n', 1, 'no other words'],
    [`word,language,also\n${Array.from({ length: 41 }, (_, i) => `bill,en,note ${i}`).join('\n')}`, 42, 'At most 40'],
  ])('a broken table of other words names its line: %s', (file, line, what) => {
    const read = readBookCsv(file, small);
    expect('faults' in read ? read.faults[0] : null).toMatchObject({
      line,
      what: expect.stringContaining(what) as string,
    });
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
    [
      '{"intents": [], "otherWords": [\n{"word": "a", "language": "en", "also": ["one two three four"]}]}',
      2,
      'at most 3 words',
    ],
    ['{"intents": [], "wishes": {\n"en": {"right": 2, "keep": 0.9}}}', 2, 'two shares'],
    [
      '{"intents": [], "aside": [\n{"text": "x", "language": "en", "intentId": "gone"}]}',
      2,
      'of an intent of this file',
    ],
    ['{"intents": [], "aside": {}}', 1, 'a list'],
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
