import { describe, expect, it } from 'vitest';
import { EMPTY_BOOK, type Phrasebook } from './book';
import { NO_GLOSSES } from './glosses';
import { BY_PIECES, learn } from './learning';
import { type Missed, suggestOtherWords } from './suggesting';

const MEANS = { encoder: null, glosses: NO_GLOSSES };
const book: Phrasebook = {
  ...EMPTY_BOOK,
  intents: [
    {
      id: 'order',
      label: 'Order',
      description: '',
      examples: {
        en: [
          'I would like to order a cake for Saturday',
          'can I order a loaf for tomorrow',
          'please order a cake with my name on it',
          'I want to order twelve rolls',
          'may we order a cake for a birthday',
        ],
      },
    },
    {
      id: 'delivery',
      label: 'Delivery',
      description: '',
      examples: {
        en: [
          'when does your driver arrive',
          'your driver has not come to my door',
          'the driver left it with a neighbour',
          'is the driver on the way',
          'where is your driver now',
        ],
      },
    },
  ],
};
const missed = (...texts: string[]): Missed[] => texts.map((text, id) => ({ id, text, language: 'en', times: id + 1 }));
const suggest = (of: Phrasebook, ...texts: string[]) =>
  suggestOtherWords(learn(of, BY_PIECES), MEANS, missed(...texts));

describe('other words that are suggested', () => {
  const SAID = [
    'when does your bikey arrive',
    'is the bikey on the way',
    'nothing of the kind',
    'where is your bikey now',
  ];
  it('put a word of the book in the place of one that several phrases have and none of the book', () => {
    const [first] = suggest(book, ...SAID);
    expect(first).toMatchObject({
      also: 'bikey',
      word: 'driver',
      intentId: 'delivery',
      language: 'en',
      times: 1 + 2 + 4,
    });
    expect(first?.phrases.map((p) => p.id)).toEqual([0, 1, 3]);
    expect((first?.after ?? 0) - (first?.before ?? 1)).toBeGreaterThan(0.15);
  });
  it('say several words together where the same phrases have them together', () =>
    expect(suggest(book, 'when does your pedal bikey arrive', 'is the pedal bikey on the way')[0]).toMatchObject({
      also: 'pedal bikey',
      word: 'driver',
    }));
  it.each<readonly [string, Phrasebook, readonly string[]]>([
    ['what one phrase alone has', book, ['when does your bikey arrive']],
    ['words that the book has', book, ['the driver and a cake', 'a driver with cake']],
    [
      'what is other words already',
      { ...book, otherWords: [{ word: 'driver', language: 'en', also: ['bikey'] }] },
      SAID,
    ],
    [
      'things that are recognised',
      { ...book, recognised: [{ id: 'r', label: 'R', kind: 'list', things: [{ id: 't', words: { en: ['bikey'] } }] }] },
      SAID,
    ],
    ['what no word of the book makes understood', book, ['zyx wvu', 'zyx tsr']],
    ['a language that the book does not have', book, []],
    ['a book without phrases', EMPTY_BOOK, SAID],
  ])('are none for %s', (_, of, texts) => expect(suggest(of, ...texts)).toEqual([]));
  it('are the same for the same phrases', () => expect(suggest(book, ...SAID)).toEqual(suggest(book, ...SAID)));
});
