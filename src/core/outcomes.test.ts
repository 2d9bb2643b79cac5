import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cannotFile, gapsIn, OUTCOME_CODE, OUTCOME_DEFAULTS } from './outcomes';

const code = (shortest: number | null, longest: number | null, change: object = {}) => ({
  ...OUTCOME_DEFAULTS,
  shortest,
  longest,
  ...change,
});

describe('outcome codes', () => {
  it.each([
    ['AB', true],
    ['HIRE2026', true],
    ['A', false],
    ['TOOLONG99', false],
    ['hire', false],
    ['A-B', false],
  ])('%s is a code: %s', (text, good) => expect(OUTCOME_CODE.test(text)).toBe(good));
  it.each([
    [code(null, null), 0, null],
    [code(10, null), 9, 'the contact must last at least 10 s'],
    [code(10, null), 10, null],
    [code(null, 10), 11, 'the contact must last at most 10 s'],
    [code(null, null, { who: 'system' }), 5, 'only the system files it'],
    [code(null, null, { retired: true }), 5, 'it is retired'],
  ])('%j at %i s: %s', (outcome, seconds, why) => expect(cannotFile(outcome, seconds)).toBe(why));
  it('finds lengths that leave no code', () => {
    expect(gapsIn([code(null, 9), code(20, null)])).toEqual([{ from: 10, to: 19 }]);
    expect(gapsIn([code(null, null)])).toEqual([]);
    expect(gapsIn([code(5, null, { who: 'system' })])).toEqual([{ from: 0, to: null }]);
  });
  it('a length has a code exactly when it is in no gap', () => {
    const span = fc.record({ shortest: fc.option(fc.nat(40)), longest: fc.option(fc.nat(60)), retired: fc.boolean() });
    fc.assert(
      fc.property(fc.array(span, { maxLength: 6 }), fc.nat(80), (spans, seconds) => {
        const outcomes = spans
          .filter((s) => s.longest === null || s.shortest === null || s.longest >= s.shortest)
          .map((s) => code(s.shortest, s.longest, { retired: s.retired }));
        const inGap = gapsIn(outcomes).some((g) => seconds >= g.from && (g.to === null || seconds <= g.to));
        expect(outcomes.some((o) => cannotFile(o, seconds) === null)).toBe(!inGap);
      }),
    );
  });
});
