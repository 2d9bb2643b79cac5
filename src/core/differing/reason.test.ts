import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { NotChosen, Trail } from '../routing/trail';
import { folded, reasonFor, type Turn, whyTheyDiffer } from './reason';

const trail = (others: Trail['others'], more: Partial<Trail> = {}): Trail => ({
  at: 0,
  settingsVersion: 1,
  waitedSeconds: 0,
  asked: 1,
  able: 1,
  chosen: 'a',
  decidedBy: 'only-one',
  levelSum: null,
  others,
  lacking: {},
  ...more,
});
const turn = (of: Turn['trail'], more: Partial<Turn> = {}): Turn => ({
  legId: 'l',
  contactId: 'c',
  queueId: 'q',
  acceptedAt: 0,
  handleSeconds: 60,
  trail: of,
  rungToo: new Set(),
  ...more,
});

describe('why somebody did not have a contact', () => {
  it('is the first check they failed, with what it was about', () => {
    expect(reasonFor(turn(trail({ 'off-duty': ['b'] })), 'b')).toEqual({ why: 'off-duty', about: null });
    expect(reasonFor(turn(trail({ skill: ['b'] }, { lacking: { b: 'french' } })), 'b')).toEqual({
      why: 'skill',
      about: 'french',
    });
    expect(reasonFor(turn(trail({ 'later-in-order': ['b'] }, { later: { b: 'highest-level' } })), 'b')).toEqual({
      why: 'later-in-order',
      about: 'highest-level',
    });
    expect(reasonFor(turn(trail({ limit: ['b'] }, { limits: { b: 'perDay' } })), 'b').about).toBe('perDay');
  });
  it('where nobody decided, it was taken by hand; who did not exist then was not there; what is not kept is not known', () => {
    expect(reasonFor(turn(null), 'b').why).toBe('by-hand');
    expect(reasonFor(turn(trail({ away: ['x'] })), 'b').why).toBe('not-there');
    expect(reasonFor(turn('unknown'), 'b').why).toBe('not-known');
    expect(reasonFor(turn(trail({ away: ['b'] }), { rungToo: new Set(['b']) }), 'b').why).toBe('rung-too');
  });
});

describe('the reasons of two', () => {
  const WHY: readonly NotChosen[] = ['off-duty', 'away', 'skill', 'limit', 'load', 'later-in-order', 'took-another'];
  const people = ['a', 'b', 'c', 'd'];
  const anyTurn = fc
    .record({
      kind: fc.constantFrom('kept', 'kept', 'kept', 'hand', 'unknown'),
      why: fc.array(fc.option(fc.constantFrom(...WHY), { nil: null }), { minLength: 4, maxLength: 4 }),
      about: fc.constantFrom('s1', 's2'),
      handleSeconds: fc.integer({ min: 0, max: 4000 }),
    })
    .map(({ kind, why, about, handleSeconds }) => {
      const others: Partial<Record<NotChosen, string[]>> = {};
      why.forEach((one, i) => one && (others[one] ??= []).push(people[i] ?? ''));
      const lacking = Object.fromEntries((others.skill ?? []).map((id) => [id, about]));
      return turn(kind === 'hand' ? null : kind === 'unknown' ? 'unknown' : trail(others, { lacking }), {
        handleSeconds,
      });
    });
  const turns = fc.array(anyTurn, { maxLength: 40 });
  const sum = (numbers: readonly number[]) => numbers.reduce((a, b) => a + b, 0);

  it('sum to the difference, to the unit, in contacts and in seconds', () => {
    fc.assert(
      fc.property(turns, turns, (mine, theirs) => {
        const parts = whyTheyDiffer({ id: 'a', turns: mine }, [{ id: 'b', turns: theirs }]);
        expect(sum(parts.map((p) => p.mine.contacts))).toBe(mine.length);
        expect(sum(parts.map((p) => p.theirs.contacts))).toBe(theirs.length);
        expect(sum(parts.map((p) => p.mine.seconds))).toBe(sum(mine.map((t) => t.handleSeconds)));
        expect(sum(parts.map((p) => p.theirs.seconds))).toBe(sum(theirs.map((t) => t.handleSeconds)));
      }),
    );
  });
  it('against several sum to the difference from their mean', () => {
    fc.assert(
      fc.property(turns, turns, turns, turns, (mine, b, c, d) => {
        const others = [b, c, d].map((of, i) => ({ id: people[i + 1] ?? '', turns: of }));
        const parts = whyTheyDiffer({ id: 'a', turns: mine }, others);
        expect(sum(parts.map((p) => p.mine.contacts - p.theirs.contacts))).toBeCloseTo(
          mine.length - (b.length + c.length + d.length) / 3,
          9,
        );
      }),
    );
  });
  it('turn round with the two', () => {
    fc.assert(
      fc.property(turns, turns, (mine, theirs) => {
        const forth = whyTheyDiffer({ id: 'a', turns: mine }, [{ id: 'b', turns: theirs }]);
        const back = whyTheyDiffer({ id: 'b', turns: theirs }, [{ id: 'a', turns: mine }]);
        const plain = (parts: typeof forth, turned: boolean) =>
          new Set(parts.map((p) => JSON.stringify([p.why, p.about, turned ? [p.theirs, p.mine] : [p.mine, p.theirs]])));
        expect(plain(back, true)).toEqual(plain(forth, false));
      }),
    );
  });
  it('those of less than 2% are told together, and none is lost', () => {
    fc.assert(
      fc.property(turns, turns, (mine, theirs) => {
        const parts = whyTheyDiffer({ id: 'a', turns: mine }, [{ id: 'b', turns: theirs }]);
        const { shown, rest } = folded(parts);
        expect(new Set([...shown, ...rest])).toEqual(new Set(parts));
        expect(rest.length).not.toBe(1);
      }),
    );
    const many = Array.from({ length: 98 }, () => turn(trail({ away: ['b'] })));
    const few = [turn(trail({ load: ['b'] })), turn(trail({ skill: ['b'] }))];
    const { shown, rest } = folded(whyTheyDiffer({ id: 'a', turns: [...many, ...few] }, [{ id: 'b', turns: [] }]));
    expect([shown.map((p) => p.why), rest.length]).toEqual([['away'], 2]);
  });
});
