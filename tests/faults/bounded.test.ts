import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sized } from '../helpers/size';
import { ASKED, CHANGES, doer } from '../helpers/validacts';
import { codeIn, makeWorld, type World } from '../helpers/world';

/**
 * What is sent too large costs no more than reading it a few times over: the members that are looked at and the rows that
 * are read are counted, so that a slow machine says the same as a fast one.
 */
let w: World;
beforeAll(() => {
  w = makeWorld();
});
afterAll(() => w.close());

/** How often each member may be looked at, for depth, for lengths and by its schema; and what an act may read. */
const LOOKS = 12;
const MOST_ROWS = 30_000;
const LONG = 20_000;

/** The value as it is, counting every member that somebody looks at. */
function counted(value: unknown): { readonly value: unknown; readonly looks: () => number } {
  let looks = 0;
  const known = new WeakMap<object, object>();
  const watch = (of: unknown): unknown => {
    if (typeof of !== 'object' || of === null) return of;
    let seen = known.get(of);
    if (!seen)
      known.set(
        of,
        (seen = new Proxy(of, {
          get: (target, name, receiver) => {
            looks++;
            return watch(Reflect.get(target, name, receiver));
          },
        })),
      );
    return seen;
  };
  return { value: watch(value), looks: () => looks };
}
const membersOf = (value: unknown): number =>
  typeof value === 'object' && value !== null
    ? Object.values(value).reduce<number>((n, v) => n + 1 + membersOf(v), 0)
    : 0;

type Reader = { all: (...params: unknown[]) => unknown[]; get: (...params: unknown[]) => unknown };
/** Rows that came out of the database while something was done. */
async function rowsRead(work: () => Promise<unknown>): Promise<number> {
  const statements = Object.getPrototypeOf(w.db.prepare('SELECT 1')) as Reader;
  const { all, get } = statements;
  let read = 0;
  statements.all = function (...params) {
    const found = all.apply(this, params);
    read += found.length;
    return found;
  };
  statements.get = function (...params) {
    read++;
    return get.apply(this, params);
  };
  try {
    await work();
  } finally {
    Object.assign(statements, { all, get });
  }
  return read;
}

/** The value with each list in it made long, one after the other. */
function* lengthened(value: unknown): Generator<unknown> {
  if (Array.isArray(value)) {
    const like: unknown = value[0] ?? {};
    yield Array.from({ length: LONG }, () => like);
    for (const inner of lengthened(value[0])) yield [inner];
  } else if (typeof value === 'object' && value !== null)
    for (const [name, member] of Object.entries(value))
      for (const inner of lengthened(member)) yield { ...value, [name]: inner };
}

describe('what is sent far too long', () => {
  const EACH = sized({ quick: 8, usual: 4, long: 1 });
  it.each([...CHANGES, ...ASKED].filter((_, i) => i % EACH === 0).map((a) => [`${a.act}: ${a.says}`, a] as const))(
    '%s',
    async (_, act) => {
      const who = doer(w, act);
      let tried = 0;
      for (const input of lengthened(act.input(w))) {
        if (++tried > (act.slow || act.heavy ? 3 : 12)) break;
        const { value, looks } = counted(input);
        w.db.exec('SAVEPOINT tried');
        let code = '';
        const read = await rowsRead(async () => (code = await codeIn(() => w.services.act(act.act, who, value))));
        w.db.exec('ROLLBACK TO tried; RELEASE tried');
        expect(code).not.toBe('other');
        if (code === 'none') continue;
        expect(looks() / membersOf(input)).toBeLessThan(LOOKS);
        expect(read).toBeLessThan(MOST_ROWS);
      }
      w.services.floor.resume();
    },
  );
  it('the counting itself notices what looks at everything for each', () => {
    const list = Array.from({ length: 200 }, (_, i) => ({ i }));
    const { value, looks } = counted(list);
    const all = value as typeof list;
    all.forEach((one) => all.indexOf(one));
    expect(looks() / membersOf(list)).toBeGreaterThan(LOOKS);
  });
});

describe('years of changes in History', () => {
  const lead = () => w.actor('Noor Amsel');
  const view = (asked: Record<string, string>) => w.services.history.view(lead(), asked);
  beforeAll(() => {
    w.db.exec(
      `WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 60000)
       INSERT INTO history (real_at, person_id, kind, thing_id, label, before, after)
       SELECT i, 'writer' || (i % 9), CASE i % 500 WHEN 0 THEN 'rare' ELSE 'usual' END, 'thing' || (i % 700), 'Thing ' || i,
         NULL, json_object('name', 'Thing ' || i) FROM n`,
    );
  });
  it('a page reads little, however many there are', async () => {
    expect(await rowsRead(async () => void view({}))).toBeLessThan(600);
    expect(await rowsRead(async () => void view({ kind: 'rare' }))).toBeLessThan(600);
  });
  it('pages give everything that fits once, newest first, however far apart it stands', () => {
    const found: number[] = [];
    for (let before = ''; ;) {
      const { lines, next } = view({ kind: 'rare', ...(before ? { before } : {}) });
      found.push(...lines.map((l) => l.id));
      if (next === null) break;
      before = String(next);
    }
    expect(found).toHaveLength(120);
    expect(found).toEqual([...new Set(found)].sort((a, b) => b - a));
    expect(view({ text: 'Thing 4242"' }).lines.map((l) => l.thing)).toEqual(['Thing 4242']);
    expect(view({ text: 'nothing is called this' }).lines).toEqual([]);
    expect(view({}).kinds.map((k) => k.id)).toEqual(expect.arrayContaining(['rare', 'usual']));
  });
});
