import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { SETTINGS_ACTS } from '../../src/services/settingsacts';
import { VIEWS } from '../../src/services/views';
import { expect, test, window } from './lane';

/** Every route of the server as its files have them, sent nonsense of every kind: refused, never broken, nothing changed. */
type Route = { readonly path: string; readonly method: string };
const ROUTES: readonly Route[] = filesOfRoutes().flatMap((file) => {
  const path = file
    .replaceAll('\\', '/')
    .replace(/^src\/app/, '')
    .replace(/\/route\.ts$/, '');
  const methods = [...readFileSync(file, 'utf8').matchAll(/export (?:const|async function|function) ([A-Z]+)\b/g)];
  return methods.map(([, method = '']) => ({ path, method }));
});
function filesOfRoutes(): string[] {
  return readdirSync('src/app/api', { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('route.ts'))
    .map((file) => join('src/app/api', file));
}

const deep = '['.repeat(30_000) + ']'.repeat(30_000);
const BODIES: readonly (readonly [string, string | Uint8Array<ArrayBuffer>])[] = [
  ['nothing', ''],
  ['half an object', '{"id":'],
  ['null', 'null'],
  ['a number', '7'],
  ['a list', '[[],{}]'],
  ['names of an object’s parent', '{"__proto__":{"id":"x"},"constructor":{"name":"x"},"then":1}'],
  ['halves of characters', '{"id":"\\ud800","text":"\\udfff\\u0000","door":"\\ud800","email":"\\udc00"}'],
  ['wrong types', '{"id":{},"text":[],"door":7,"from":false,"email":null,"token":{},"act":"constructor"}'],
  ['lists within lists', deep],
  ['many members', JSON.stringify({ changes: Array.from({ length: 9_000 }, () => ({})) })],
  ['bytes', new Uint8Array([0xff, 0xfe, 0x00, 0xc3, 0x28, 0x7b])],
  ['64 KB and more', JSON.stringify({ text: 'x'.repeat(70_000) })],
  ['1 MB and more', JSON.stringify({ text: 'x'.repeat(1_100_000) })],
];
const IDS = ['nobody', '__proto__', 'constructor', '%00', '%F0%9F', 'x'.repeat(500)];
const QUERIES = ['', '?id=__proto__&after=-1&page=9e9', `?before=x&text=${'%25'.repeat(99)}&from=2026-13-45&team=%00`];

/** Everything that is kept, but for what time alone moves. */
function kept(folder: string): Readonly<Record<string, string>> {
  const db = new Database(join(folder, 'lane.db'), { readonly: true });
  const tables = db
    .prepare(
      "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' AND name <> 'floor_clock'",
    )
    .all() as { name: string }[];
  const found = tables.map(({ name }) => {
    const hash = createHash('sha256');
    // When a session was seen last is noted once a minute, however slow the machine.
    for (const row of db.prepare(`SELECT * FROM ${name}`).iterate() as Iterable<object>)
      hash.update(JSON.stringify(name === 'sessions' ? { ...row, seen_at: null } : row));
    return [name, hash.digest('hex')] as const;
  });
  db.close();
  return Object.fromEntries(found);
}

test('every route, act and view refuses nonsense in a sentence, breaks nothing and changes nothing', async ({
  browser,
  lane,
}) => {
  test.setTimeout(300_000);
  expect(ROUTES.length).toBeGreaterThan(20);
  const page = await window(browser, lane, 'Noor Amsel', '/people');
  const cookie = (await page.context().cookies()).map((c) => `${c.name}=${c.value}`).join('; ');
  await page.close();
  const before = kept(lane.folder);
  const broken: unknown[] = [];
  const ask = async ({ method }: Route, path: string, says: string, body?: string | Uint8Array<ArrayBuffer>) => {
    const stop = new AbortController();
    const answer = await fetch(`${lane.url}${path}`, {
      method,
      headers: { cookie, 'content-type': 'application/json', authorization: 'Bearer nonsense' },
      signal: stop.signal,
      ...(body === undefined || body.length === 0 ? {} : { body }),
    });
    if (answer.status >= 500) broken.push([method, path.slice(0, 80), says, answer.status]);
    // A stream goes on for as long as it is listened to; a refusal says why.
    if (answer.status >= 400 && answer.headers.get('content-type')?.includes('json')) {
      const { error } = (await answer.json()) as { error?: { code?: string; message?: string } };
      if (!error?.code || !error.message) broken.push([method, path.slice(0, 80), says, 'no sentence']);
    }
    stop.abort();
  };
  for (const route of ROUTES) {
    if (route.method === 'DELETE') continue;
    const paths = route.path.includes('[act]')
      ? [...Object.keys(SETTINGS_ACTS), ...IDS].map((act) => route.path.replace('[act]', act))
      : route.path.includes('[view]')
        ? [...Object.keys(VIEWS), ...IDS].map((view) => route.path.replace('[view]', view))
        : route.path.includes('[')
          ? IDS.map((id) => route.path.replace(/\[\w+\]/, id))
          : [route.path];
    const many = paths.length > 20;
    for (const [i, path] of paths.entries())
      if (route.method === 'GET') for (const query of QUERIES) await ask(route, `${path}${query}`, query);
      // Of many acts each gets some of the bodies in turn, so that all meet all kinds.
      else
        for (const [n, [says, body]] of BODIES.entries())
          if (!many || (n + i) % 4 === 0) await ask(route, path, says, body);
  }
  expect(broken).toEqual([]);
  const after = kept(lane.folder);
  expect(Object.keys(after).filter((table) => after[table] !== before[table])).toEqual([]);
});
