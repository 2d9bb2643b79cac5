import fc from 'fast-check';
import { boolean, number, object, string } from 'yup';
import { describe, expect, it } from 'vitest';
import { LaneError } from '../../src/core/errors';
import {
  day,
  differ,
  each,
  exactly,
  isDay,
  localisedSchema,
  needsSchema,
  requiredText,
  timeOfDay,
  whole,
} from '../../src/services/ground/schemas';
import { allOrAbsent, orAbsent, orNull, perChannel, shaped } from '../../src/services/ground/shaped';
import { parse } from '../../src/services/ground/validate';
import { whoSchema } from '../../src/services/ground/whoschema';

/** What is wrong with an input, by place; empty when it is taken. */
const faults = (schema: Parameters<typeof parse>[0], input: unknown): Record<string, string> => {
  try {
    parse(schema, input);
    return {};
  } catch (error) {
    if (!(error instanceof LaneError)) throw error;
    return Object.fromEntries(error.faults.map((f) => [f.where, f.what]));
  }
};

type Shape =
  | { readonly kind: 'circle'; readonly id: string; readonly radius: number }
  | { readonly kind: 'point'; readonly id: string }
  | { readonly kind: 'box'; readonly id: string; readonly within: Shape | null };
const shape = shaped<Shape, 'kind', 'id'>(
  'kind',
  {
    circle: { radius: whole(1, 9, 'The radius') },
    point: {},
    box: {
      within: orNull(
        shaped<Extract<Shape, { kind: 'point' }>, 'kind', 'id'>('kind', { point: {} }, 'What is within', {
          id: requiredText(9, 'The inner id'),
        }),
      ),
    },
  },
  'The kind of a shape',
  { id: requiredText(9, 'The id') },
);

describe('one of several shapes', () => {
  it.each([
    { kind: 'circle', id: 'a', radius: 3 },
    { kind: 'point', id: 'a' },
    { kind: 'box', id: 'a', within: null },
    { kind: 'box', id: 'a', within: { kind: 'point', id: 'b' } },
  ])('%j is taken as it is', (given) => expect(parse(shape, given)).toEqual(given));
  it.each([
    [{ kind: 'circle', id: 'a', radius: 12 }, { radius: 'The radius must be at most 9' }],
    [{ kind: 'circle', id: 'a' }, { radius: 'The radius is missing' }],
    [{ kind: 'point' }, { id: 'The id is missing' }],
    [{ kind: 'point', id: 'a', radius: 3 }, { 'the whole': 'Unknown name: radius' }],
    [{ kind: 'box', id: 'a', within: { kind: 'circle', id: 'b' } }, { within: 'What is within must be one of point' }],
    [{ kind: 'box', id: 'a', within: { kind: 'point' } }, { 'within.id': 'The inner id is missing' }],
  ])('%j is refused at its place', (given, wrong) => expect(faults(shape, given)).toEqual(wrong));
  it.each([{ kind: 'star', id: 'a' }, { kind: '__proto__' }, { kind: 'constructor' }, { kind: 7 }, {}, 'point', []])(
    '%j is no kind that is known',
    (given) =>
      expect(Object.values(faults(shape, given))).toContain('The kind of a shape must be one of circle, point, box'),
  );
  it('whom a rule is about is one of four, each with what it needs', () => {
    for (const who of [{ by: 'everyone' }, { by: 'team', id: 't' }, { by: 'skill', id: 's', atLeast: 3 }])
      expect(parse(whoSchema, who)).toEqual(who);
    expect(faults(whoSchema, { by: 'skill', id: 's', atLeast: 6 })).toHaveProperty('atLeast');
    expect(faults(whoSchema, { by: 'everyone', id: 't' })).toEqual({ 'the whole': 'Unknown name: id' });
    expect(faults(whoSchema, { by: 'moon' })).toEqual({
      'the whole': 'Whom a rule is for must be one of everyone, team, role, skill',
    });
  });
});

describe('what may be left out', () => {
  const inner = exactly(object({ n: whole(0, 9, 'The number') }));
  it('an object must be there unless it is said otherwise', () => {
    expect(faults(exactly(object({ inner })), {})).toEqual({ inner: 'inner is missing' });
    expect(faults(exactly(object({ inner })), { inner: null })).toHaveProperty('inner');
    expect(parse(exactly(object({ inner: inner.optional() })), {})).toEqual({});
    expect(faults(inner, undefined)).toEqual({ 'the whole': 'The whole is missing' });
  });
  it('or nothing, or null: each only where it is said', () => {
    const of = exactly(object({ a: orNull(inner), b: orAbsent(inner) }));
    expect(parse(of, { a: null })).toEqual({ a: null });
    expect(parse(of, { a: { n: 1 }, b: { n: 2 } })).toEqual({ a: { n: 1 }, b: { n: 2 } });
    expect(faults(of, { a: { n: 99 } })).toEqual({ 'a.n': 'The number must be at most 9' });
    expect(faults(of, { b: { n: 1 } })).toHaveProperty('a');
  });
  it('a whole shape whose names may all be left out still checks those that are there', () => {
    const part = exactly(object(allOrAbsent({ n: number().max(3, 'too many'), on: boolean(), inner })));
    expect(parse(part, {})).toEqual({});
    expect(faults(part, { n: 9, inner: { n: -1 } })).toEqual({
      n: 'too many',
      'inner.n': 'The number must be at least 0',
    });
    expect(faults(part, { other: 1 })).toEqual({ 'the whole': 'Unknown name: other' });
  });
  it('per channel takes some of the channels and nothing else', () => {
    const by = perChannel(inner, 'The goal');
    expect(parse(by, { voice: { n: 1 }, sms: { n: 2 } })).toEqual({ voice: { n: 1 }, sms: { n: 2 } });
    expect(faults(by, { fax: { n: 1 } })).toEqual({ 'the whole': 'Unknown name: fax' });
    expect(faults(by, 'voice')).toEqual({ 'the whole': 'The goal must be given per channel' });
    expect(faults(by, { voice: { n: 10 } })).toEqual({ 'voice.n': 'The number must be at most 9' });
  });
});

describe('days, times, lists and wording', () => {
  it('a day is one of the calendar', () => {
    fc.assert(
      fc.property(fc.date({ min: new Date('1970-01-01'), max: new Date('2999-12-31'), noInvalidDate: true }), (at) => {
        expect(isDay(at.toISOString().slice(0, 10))).toBe(true);
      }),
    );
    fc.assert(fc.property(fc.string(), (text) => isDay(text) === (/^\d{4}-/.test(text) && isDay(text))));
    for (const none of [
      '2026-02-29',
      '2026-13-01',
      '2026-00-10',
      '2026-1-1',
      '20261224',
      '',
      'today',
      '2026-12-24T00:00',
    ])
      expect([none, isDay(none)]).toEqual([none, false]);
    expect(faults(exactly(object({ day: day.required() })), { day: '2026-02-30' })).toHaveProperty('day');
  });
  it.each(['24:00', '9:30', '09:60', '09:30:00', ''])('%j is no time of day', (time) =>
    expect(faults(exactly(object({ time: timeOfDay })), { time })).toHaveProperty('time'),
  );
  it('what items have under a name is read whatever they are', () => {
    expect(each([{ a: 1 }, null, 'x', { b: 2 }, [3]], 'a')).toEqual([1, undefined, undefined, undefined, undefined]);
    for (const nothing of [null, undefined, 7, 'ab', {}]) expect(each(nothing, 'a')).toEqual([]);
    expect([differ([{ a: 1 }, { a: 2 }], 'a'), differ([{ a: 1 }, { a: 1 }], 'a'), differ(null, 'a')]).toEqual([
      true,
      false,
      true,
    ]);
  });
  it('a skill is needed once, at a level there is', () => {
    const of = (...needs: object[]) => faults(exactly(object({ needs: needsSchema })), { needs });
    expect(of({ skillId: 's', atLeast: 2 }, { skillId: 't', atLeast: 5, atMost: 5, firm: true })).toEqual({});
    expect(of({ skillId: 's', atLeast: 2 }, { skillId: 's', atLeast: 3 })).toEqual({
      needs: 'A skill can be needed only once',
    });
    expect(of({ skillId: 's', atLeast: 6 })).toHaveProperty(['needs[0].atLeast']);
    expect(Object.keys(of({ skillId: 's' }, { atLeast: 1 }))).toEqual(
      expect.arrayContaining(['needs[0].atLeast', 'needs[1].skillId']),
    );
  });
  it('wording is texts by language tag, none too long', () => {
    const wording = exactly(object({ text: localisedSchema(5, 'The wording') }));
    expect(parse(wording, { text: { en: 'Hi', 'es-MX': '', zh: '12345' } })).toBeTruthy();
    for (const text of [{ EN: 'x' }, { en: 7 }, { en: '123456' }, { english: 'x' }, null, 'Hi', { en: null }])
      expect([text, Object.keys(faults(wording, { text }))]).toEqual([text, ['text']]);
  });
  it('every fault is told, each with its place, and none twice', () => {
    const person = exactly(object({ name: requiredText(3, 'The name'), age: whole(0, 99, 'The age'), note: string() }));
    expect(faults(person, { name: 'Annabel', age: 1.5, note: 7, x: 1 })).toEqual({
      name: 'The name may have at most 3 characters',
      age: 'The age must be a whole number',
      note: expect.stringContaining('string') as unknown,
      'the whole': 'Unknown name: x',
    });
  });
});
