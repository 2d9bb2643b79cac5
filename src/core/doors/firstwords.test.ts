import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plainWords } from '../bots/heard';
import type { FirstWords } from './doorway';
import { askedFor } from './firstwords';

const RULES: readonly FirstWords[] = [
  { botId: 'hire', words: { en: ['hire', 'school hire'], es: ['alquiler'] } },
  { botId: 'repair', words: { en: ['repair', 'school'], es: ['reparación', 'hotel'] } },
  { botId: 'billing', words: { en: ['hotel'], es: [] } },
];

describe('first words', () => {
  it.each([
    ['HIRE please', 'hire', 'en'],
    ['Necesito una reparacion', 'repair', 'es'],
    // Whole words only, and the longest of those that stand there.
    ['rehire', null, null],
    ['A school hire, please', 'hire', 'en'],
    ['', null, null],
    ['?!', null, null],
  ])('“%s” asks for %s', (text, botId, language) =>
    expect(askedFor(RULES, text, 'en')).toEqual(botId && { botId, language }),
  );
  it('words of two bots that are as long go by the language that they are spoken to in, else by the order', () => {
    expect(askedFor(RULES, 'hotel', 'es')?.botId).toBe('repair');
    expect(askedFor(RULES, 'hotel', 'en')?.botId).toBe('billing');
    expect(askedFor(RULES, 'hotel', 'pl')?.botId).toBe('repair');
  });
  it('whatever is written: what is found stands in it, and nothing longer of any rule does', () => {
    const word = fc.constantFrom('a', 'b', 'a b', 'ab', 'Á', 'b a b');
    const rule = fc.record({
      botId: fc.constantFrom('x', 'y', 'z'),
      words: fc.dictionary(fc.constantFrom('en', 'es'), fc.array(word, { maxLength: 3 })),
    });
    fc.assert(
      fc.property(
        fc.array(rule, { maxLength: 4 }),
        fc.array(word).map((w) => w.join(', ')),
        (rules, text) => {
          const plain = ` ${plainWords(text)} `;
          const standing = rules.flatMap((r) =>
            Object.values(r.words).flatMap((words) =>
              words
                .filter((w) => plain.includes(` ${plainWords(w)} `))
                .map((w) => ({ botId: r.botId, length: w.length })),
            ),
          );
          const found = askedFor(rules, text, 'en');
          const longest = Math.max(0, ...standing.map((s) => s.length));
          expect(found === null).toBe(standing.length === 0);
          if (found) expect(standing).toContainEqual({ botId: found.botId, length: longest });
        },
      ),
    );
  });
});
