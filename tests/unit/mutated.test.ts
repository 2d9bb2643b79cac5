import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ERRORS } from '../../src/core/errors';
import { sized } from '../helpers/size';
import { ASKED, CHANGES, doer } from '../helpers/validacts';
import { makeWorld, type World } from '../helpers/world';

/**
 * Every act is given what it takes with one thing in it replaced by something else, wherever that thing stands. It may
 * take it or refuse it in a sentence; nothing else may come out of it.
 */
let w: World;
beforeAll(() => {
  w = makeWorld();
});
afterAll(() => w.close());

const deep = (levels: number): unknown => {
  let nested: unknown = [];
  for (let i = 0; i < levels; i++) nested = [nested];
  return nested;
};
const LEFT_OUT = Symbol('left out');
const REPLACEMENTS: readonly (readonly [string, unknown])[] = [
  ['left out', LEFT_OUT],
  ['nothing', null],
  ['no text', ''],
  ['half a character', '\ud800'],
  ['the name of every object’s parent', '__proto__'],
  ['a text of 70,000', 'x'.repeat(70_000)],
  ['below nought', -1],
  ['not a number', NaN],
  ['without end', Infinity],
  ['a yes', true],
  ['an object', {}],
  ['an object with a method’s name', { toString: 1, then: 2 }],
  ['a list', []],
  ['a list of nothing', [null]],
  ['30,000 lists within each other', deep(30_000)],
  ['a list of 30,000 empty objects', Array.from({ length: 30_000 }, () => ({}))],
  ['a list of 30,000 numbers', Array.from({ length: 30_000 }, (_, i) => i)],
];

type Path = readonly (string | number)[];
/** Every place of a value, itself left out; of long lists the first and the last. */
function placesOf(value: unknown, path: Path = []): Path[] {
  if (typeof value !== 'object' || value === null) return path.length === 0 ? [] : [path];
  const entries = Array.isArray(value)
    ? value.flatMap((v, i): [number, unknown][] => (i === 0 || i === value.length - 1 ? [[i, v]] : []))
    : Object.entries(value);
  const inner = entries.flatMap(([name, v]) => placesOf(v, [...path, name]));
  return path.length === 0 ? inner : [path, ...inner];
}
function replaced(value: unknown, [name, ...rest]: Path, by: unknown): unknown {
  if (name === undefined) return by;
  if (by === LEFT_OUT && rest.length === 0)
    return Array.isArray(value)
      ? value.filter((_, i) => i !== name)
      : Object.fromEntries(Object.entries(value as object).filter(([key]) => key !== name));
  if (Array.isArray(value)) return value.map((v, i) => (i === name ? replaced(v, rest, by) : (v as unknown)));
  return { ...(value as object), [name]: replaced((value as Record<string, unknown>)[name], rest, by) };
}

describe('one wrong thing in what an act takes', () => {
  const MOST = sized({ quick: 2, usual: 4, long: 400 });
  const EACH = sized({ quick: 6, usual: 1, long: 1 });
  it.each([...CHANGES, ...ASKED].filter((_, i) => i % EACH === 0).map((a) => [`${a.act}: ${a.says}`, a] as const))(
    '%s is refused in a sentence or taken, wherever it stands',
    async (_, act) => {
      const input = act.input(w);
      const who = doer(w, act);
      const places = placesOf(input);
      // Spread over the whole, so that the deep ones of a long script come too.
      const broken: unknown[] = [];
      const step = Math.max(1, Math.ceil(places.length / (act.slow || act.heavy ? Math.ceil(MOST / 7) : MOST)));
      for (const place of places.filter((_p, i) => i % step === 0))
        for (const [words, by] of REPLACEMENTS) {
          w.db.exec('SAVEPOINT tried');
          let code = 'taken';
          try {
            await w.services.act(act.act, who, replaced(input, place, by));
          } catch (error) {
            code = (error as { code?: string }).code ?? String(error);
          }
          w.db.exec('ROLLBACK TO tried; RELEASE tried');
          if (code !== 'taken' && !(code in ERRORS)) broken.push([place.join('.'), words, code]);
        }
      expect(broken).toEqual([]);
      // Nobody meets what was tried and taken back here.
      w.services.floor.resume();
    },
  );
});
