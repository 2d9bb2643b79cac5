import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Condition,
  conditionFrom,
  conditionSentence,
  holds,
  OPERATORS,
  peopleAsked,
  peopleSubject,
  rowsFrom,
  subjectsOf,
  type ConditionRow,
  type ConditionRows,
} from './conditions';
import type { Value } from './value';

const SUBJECT_NAMES = ['values.x', 'values.y', 'queue.q.free', 'open', 'people.all.free'];
const value: fc.Arbitrary<Value> = fc.oneof(
  fc.integer({ min: -3, max: 3 }),
  fc.boolean(),
  fc.constantFrom('red', 'RED', 'dark red', 'yes', 'no', '', '2', 'é'),
);
const row: fc.Arbitrary<ConditionRow> = fc
  .record({ subject: fc.constantFrom(...SUBJECT_NAMES), operator: fc.constantFrom(...OPERATORS), value })
  .map((r) => ({
    ...r,
    value:
      r.operator === 'is-set' || r.operator === 'is-not-set'
        ? ''
        : r.operator === 'contains'
          ? String(r.value)
          : r.value,
  }));
const rows: fc.Arbitrary<ConditionRows> = fc.record({
  join: fc.constantFrom('all', 'any'),
  rows: fc.array(row, { minLength: 1, maxLength: 4 }),
});
const known = fc.option(value, { nil: undefined });

/** What a row means, said without JsonLogic. */
function plainly({ operator, value: said }: ConditionRow, given: Value | undefined): boolean {
  const low = (v: Value): Value => (typeof v === 'string' ? v.toLowerCase() : v);
  const there = given === undefined ? undefined : low(given);
  const meant = typeof there === 'boolean' && typeof said === 'string' ? said === 'yes' : low(said);
  // eslint-disable-next-line eqeqeq -- "2" typed by a customer counts as the number 2, as JsonLogic has it
  const same = there !== undefined && there == meant;
  switch (operator) {
    case 'is':
      return same;
    case 'is-not':
      return !same;
    case 'contains':
      return there !== undefined && there !== '' && String(there).includes(String(low(said)));
    case 'is-set':
      return there !== undefined && there !== '' && there !== 0 && there !== false;
    case 'is-not-set':
      return there === undefined || there === '' || there === 0 || there === false;
    default: {
      if (there === undefined || there === '') return false;
      const [a, b] =
        typeof there === 'string' && typeof meant === 'string' ? [there, meant] : [Number(there), Number(meant)];
      return operator === 'more' ? a > b : operator === 'at-least' ? a >= b : operator === 'less' ? a < b : a <= b;
    }
  }
}

describe('conditions', () => {
  it('rows kept as JsonLogic are read back as the same rows', () =>
    fc.assert(
      fc.property(rows, (r) => {
        expect(rowsFrom(JSON.parse(JSON.stringify(conditionFrom(r))))).toEqual(
          r.rows.length === 1 ? { ...r, join: 'all' } : r,
        );
      }),
    ));
  it('hold when what they say is so', () =>
    fc.assert(
      fc.property(rows, known, known, known, fc.boolean(), known, (r, x, y, free, open, anyone) => {
        const at: Readonly<Record<string, Value | undefined>> = {
          'values.x': x,
          'values.y': y,
          'queue.q.free': free,
          open,
          'people.all.free': anyone,
        };
        const own = { ...(x === undefined ? {} : { x }), ...(y === undefined ? {} : { y }) };
        const each = r.rows.map((one) => plainly(one, at[one.subject]));
        expect(
          holds(conditionFrom(r), own, { 'queue.q.free': free ?? null, open, 'people.all.free': anyone ?? null }),
        ).toBe(r.join === 'all' ? each.every(Boolean) : each.some(Boolean));
      }),
      { numRuns: 2000 },
    ));
  it('read as a sentence that names every subject once a row, and ask about each once', () =>
    fc.assert(
      fc.property(rows, (r) => {
        const sentence = conditionSentence(conditionFrom(r), (id) => `Queue ${id}`);
        expect(sentence.split(r.join === 'all' ? ' and ' : ' or ')).toHaveLength(r.rows.length);
        expect(new Set(subjectsOf(conditionFrom(r)))).toEqual(new Set(r.rows.map((one) => one.subject)));
      }),
    ));
  it.each([
    [{ '==': [{ var: 'anyone.free' }, true] }, 'free people anywhere is at least 1'],
    [{ '==': [{ var: 'anyone.onDuty' }, false] }, 'people on duty anywhere is 0'],
    [{ '!': [{ var: 'person.onDuty' }] }, 'their last person is not on duty'],
    [{ '!=': [{ var: 'person.onDuty' }, false] }, 'their last person is on duty'],
  ])('what was asked as a yes or no is how many now: %j', (kept, says) => {
    expect(conditionSentence(kept as Condition)).toBe(says);
    const now = conditionFrom(rowsFrom(kept) ?? { join: 'all', rows: [] });
    expect(conditionSentence(now)).toBe(says);
    for (const n of [0, 1])
      expect(holds(now, {}, { 'people.all.free': n, 'people.all.onDuty': n, 'people.last.onDuty': n })).toBe(
        says.includes('not') || says.endsWith('0') ? n === 0 : n === 1,
      );
  });
  it('a question about people is kept as it was asked, as far as its place can answer it', () => {
    const place = fc.oneof(
      fc.constant(null),
      fc.record({ kind: fc.constantFrom('queue' as const, 'team' as const), id: fc.constantFrom('a', 'b.c') }),
    );
    const asked = fc.record({
      who: fc.constantFrom('all' as const, 'last' as const),
      place,
      are: fc.constantFrom('onDuty' as const, 'free' as const, 'able' as const),
      within: fc.option(fc.integer({ min: 0, max: 90 })),
    });
    fc.assert(
      fc.property(asked, (question) => {
        const inQueue = question.who === 'all' && question.place?.kind === 'queue';
        expect(peopleAsked(peopleSubject(question))).toEqual({
          ...question,
          place: question.who === 'last' ? null : question.place,
          are: question.are === 'able' && !inQueue ? 'free' : question.are,
          within: inQueue ? question.within : null,
        });
      }),
    );
  });
});
