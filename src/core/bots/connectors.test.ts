import { describe, expect, it } from 'vitest';
import { type Connector, replyOf, replyOfTable, requestOf, valueAt } from './connectors';
import { filled, placesIn, templateValue } from './value';

describe('values in wording', () => {
  it.each([
    ['{n as digits}', '2 0 4 8'],
    ['{d as date}', 'Thursday 24 December'],
    ['{m as money}', '€12.50'],
    ['{t as time}', '16:30'],
    ['{yes}', 'yes'],
    ['{gone}!', '!'],
    ['a {gone} b', 'a b'],
  ])('%s', (text, said) =>
    expect(
      filled(text, { n: '2048', d: '2026-12-24', m: 12.5, t: '16:30', yes: true }, 'en', true).replace(',', ''),
    ).toBe(said),
  );
  it('a template of one place keeps its type', () => {
    expect(templateValue('{n}', { n: 7 })).toBe(7);
    expect(templateValue('{n} of {n}', { n: 7 })).toBe('7 of 7');
  });
  it('places are found, each once', () => expect(placesIn('{a} {b as date} {a}')).toEqual(['a', 'b']));
});

describe('connectors', () => {
  const get: Connector = {
    id: 'c',
    name: 'Hire',
    does: 'look-up',
    host: '',
    method: 'GET',
    path: '/hires/{number}',
    headers: [],
    body: null,
    signIn: { by: 'bearer' },
    inputs: ['number', 'more'],
    outputs: [
      { name: 'day', from: 'hire.delivery.day' },
      { name: 'first', from: 'items.0' },
    ],
    timeoutSeconds: 4,
  };
  const post: Connector = { ...get, does: 'do', method: 'POST', path: '/repairs' };
  it('inputs go into the path, the query or the body, escaped', () => {
    expect(requestOf(get, { number: 'a/../b?x', more: 'é&', other: 'no' }, 'k')).toMatchObject({
      path: '/hires/a%2F..%2Fb%3Fx?more=%C3%A9%26',
      body: null,
      key: null,
    });
    expect(requestOf(post, { number: 'BH', more: '' }, 'k-1')).toMatchObject({
      path: '/repairs',
      body: '{"number":"BH"}',
      key: 'k-1',
    });
  });
  it.each([
    [
      { status: 200, body: { hire: { delivery: { day: '2026-12-01' } }, items: [3] } },
      'found',
      { day: '2026-12-01', first: 3 },
    ],
    [{ status: 404, body: null }, 'not-found', {}],
    [{ status: 500, body: null }, 'failed', {}],
    [{ status: 403, body: null }, 'failed', {}],
    [{ fault: 'no answer came in time' }, 'failed', {}],
  ])('a look-up answered %j is %s', (answer, outcome, outputs) =>
    expect(replyOf(get, answer)).toEqual({ to: 'look-up', outcome, outputs }),
  );
  it.each([
    [{ status: 201, body: null }, 'done'],
    [{ status: 409, body: null }, 'refused'],
    [{ status: 404, body: null }, 'refused'],
    [{ status: 429, body: null }, 'unsure'],
    [{ status: 503, body: null }, 'unsure'],
    [{ fault: 'x' }, 'unsure'],
  ])('a change answered %j is %s', (answer, outcome) => expect(replyOf(post, answer)).toMatchObject({ outcome }));
  it('only plain values are taken, and nothing of the machinery', () => {
    expect(valueAt({ a: { b: [] } }, 'a.b')).toBeUndefined();
    expect(valueAt({}, '__proto__.toString')).toBeUndefined();
    expect(valueAt({ a: 'x'.repeat(900) }, 'a')).toHaveLength(500);
  });
  it('a table is found by its first column, or the column named like the input', () => {
    const table = {
      columns: ['Site', 'Hours'],
      rows: [
        ['Dublin', '8 to 20'],
        ['Lisbon', '9 to 17'],
      ],
    };
    expect(replyOfTable(table, { x: 'lisbon ' })).toMatchObject({ outcome: 'found', outputs: { Hours: '9 to 17' } });
    expect(replyOfTable(table, { hours: '8 to 20' })).toMatchObject({ outputs: { Site: 'Dublin' } });
    expect(replyOfTable(table, { x: 'Paris' })).toMatchObject({ outcome: 'not-found' });
    expect(replyOfTable(table, {})).toMatchObject({ outcome: 'not-found' });
  });
});
