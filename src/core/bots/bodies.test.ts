import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bodyOf, type BodyPart, inputsIn, sizeOf } from './bodies';
import { type Connector, found, requestOf } from './connectors';

const name = fc.constantFrom('number', 'name', 'day');
const { part } = fc.letrec<{ part: BodyPart }>((tie) => ({
  part: fc.oneof(
    { maxDepth: 4 },
    fc.record({ is: fc.constant('input' as const), name }),
    fc.record({ is: fc.constant('text' as const), text: fc.constantFrom('', 'a', 'for {name}', '{number}') }),
    fc.record({ is: fc.constant('number' as const), number: fc.integer() }),
    fc.record({ is: fc.constant('yes-no' as const), yes: fc.boolean() }),
    fc.record({
      is: fc.constant('object' as const),
      fields: fc.array(fc.record({ name: fc.string(), value: tie('part') }), { maxLength: 3 }),
    }),
    fc.record({ is: fc.constant('list' as const), items: fc.array(tie('part'), { maxLength: 3 }) }),
  ),
}));
const values = fc.dictionary(name, fc.oneof(fc.string(), fc.integer(), fc.boolean()), { noNullPrototype: true });

const search: BodyPart = {
  is: 'object',
  fields: [
    { name: 'hire', value: { is: 'object', fields: [{ name: 'number', value: { is: 'input', name: 'number' } }] } },
    {
      name: 'parts',
      value: {
        is: 'list',
        items: [
          { is: 'text', text: 'for {name}' },
          { is: 'input', name: 'day' },
        ],
      },
    },
    { name: 'first', value: { is: 'number', number: 1 } },
    { name: 'all', value: { is: 'yes-no', yes: false } },
  ],
};
const connector: Connector = {
  id: 'c',
  name: 'Search',
  does: 'look-up',
  host: '',
  method: 'POST',
  path: '/searches/{day}',
  headers: [{ name: 'X-Customer', value: 'of {name}' }],
  body: search,
  signIn: { by: 'bearer' },
  inputs: ['number', 'name', 'day'],
  outputs: [
    { name: 'first', from: 'found.0.day' },
    { name: 'none', from: 'found.1' },
  ],
  timeoutSeconds: 4,
};

describe('the body of a request', () => {
  it('is built of objects and lists; inputs keep their type, and those not given are left out', () => {
    expect(bodyOf(search, { number: 7, name: 'Ida', day: '' })).toEqual({
      hire: { number: 7 },
      parts: ['for Ida'],
      first: 1,
      all: false,
    });
    expect(sizeOf(search)).toEqual({ depth: 3, parts: 8 });
    expect(inputsIn(search)).toEqual(['number', 'name', 'day']);
  });
  it('whatever it is built of, it is JSON that says the same when it is read, and takes no input it does not name', () => {
    fc.assert(
      fc.property(part, values, (any, inputs) => {
        const body = bodyOf(any, inputs);
        if (body === undefined) return;
        expect(JSON.parse(JSON.stringify(body))).toEqual(JSON.parse(JSON.stringify(body)));
        const named = Object.fromEntries(Object.entries(inputs).filter(([n]) => inputsIn(any).includes(n)));
        expect(bodyOf(any, named)).toEqual(body);
      }),
    );
  });
  it('goes with the path and the headers; what somebody said begins no other header', () => {
    expect(requestOf(connector, { number: 'BH', name: 'Ida\r\nHost: x', day: '2 3' }, 'k')).toMatchObject({
      path: '/searches/2%203',
      headers: [{ name: 'X-Customer', value: 'of Ida  Host: x' }],
      body: JSON.stringify({ hire: { number: 'BH' }, parts: ['for Ida\r\nHost: x', '2 3'], first: 1, all: false }),
    });
    expect(requestOf({ ...connector, method: 'GET' }, { number: 'BH' }, 'k')).toMatchObject({
      path: '/searches/?number=BH',
      body: null,
    });
  });
  it('what each output found is told one by one', () =>
    expect(found(connector, { found: [{ day: 'Monday' }] })).toEqual([
      { name: 'first', from: 'found.0.day', value: 'Monday' },
      { name: 'none', from: 'found.1', value: undefined },
    ]));
});
