import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { handlerOf } from '../../src/server/front';
import { plainPath } from '../../src/server/guard';
import { loadGuest } from '../../src/server/guest';
import { HERE } from '../helpers/reached';
import { bind } from '../../src/services/ground/bind';

describe('what every request passes', () => {
  let server: Server;
  let at: string;
  let lines: Record<string, unknown>[];
  beforeEach(async () => {
    lines = [];
    const sink = new Writable({
      write: (chunk, _encoding, done) => {
        lines.push(JSON.parse(String(chunk)) as Record<string, unknown>);
        done();
      },
    });
    const handle = handlerOf(
      (req, res) => {
        if (req.url === '/broken') throw new Error('a page broke');
        res.end('fine');
        return Promise.resolve();
      },
      { log: pino({ level: 'info' }, sink), dev: false, reached: HERE },
    );
    server = createServer(handle).listen(0, '127.0.0.1');
    await new Promise((listening) => server.once('listening', listening));
    at = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterEach(() => new Promise((closed) => server.close(closed)));
  const logged = async (count: number) => {
    for (let i = 0; i < 100 && lines.length < count; i++) await new Promise((later) => setTimeout(later, 10));
    return lines;
  };

  it('has an id that stands in the answer and in the log, without what the address asks', async () => {
    const answer = await fetch(`${at}/people?person=secret`);
    expect(await answer.text()).toBe('fine');
    const [line] = await logged(1);
    expect(line).toMatchObject({ id: answer.headers.get('x-request-id'), method: 'GET', path: '/people', status: 200 });
    expect(JSON.stringify(lines)).not.toContain('secret');
    expect(line?.ms).toBeGreaterThanOrEqual(0);
  });
  it('a fault belongs to its request: it is told in a sentence, kept with its id, and the next one is served', async () => {
    const broken = await fetch(`${at}/broken`);
    expect([broken.status, await broken.json()]).toMatchObject([500, { error: { code: 'broken-inside' } }]);
    const kept = (await logged(2)).find((l) => 'err' in l);
    expect(kept).toMatchObject({ id: broken.headers.get('x-request-id'), err: { message: 'a page broke' } });
    expect((await fetch(`${at}/`)).status).toBe(200);
  });
  it('a change from another site is refused, one of our own or of a program is not', async () => {
    const post = (origin?: string) =>
      fetch(at, { method: 'POST', ...(origin ? { headers: { origin } } : {}) }).then((r) => r.status);
    expect(await Promise.all([post('https://elsewhere.example'), post(at), post()])).toEqual([403, 200, 200]);
  });
  it('a path that cannot be read is refused; others are counted as whoever answers them reads them', async () => {
    const broken = await fetch(`${at}/api/v1/contacts/%F0%9F`);
    expect([broken.status, await broken.json()]).toMatchObject([404, { error: { code: 'not-found' } }]);
    const spelt = ['/api/v1/doors', '/api/./v1/doors', '/api/%2e/v1/doors', '//api//v1/doors', '/api/%761/doors?a=b'];
    expect(spelt.map(plainPath)).toEqual(spelt.map(() => '/api/v1/doors'));
  });
  it('shuts other hosts out; only pages that reload as they are written may evaluate', async () => {
    const policy = (await fetch(at)).headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("connect-src 'self';");
    expect(policy).not.toContain('unsafe-eval');
  });
});

describe('a guest', () => {
  it('is the default export of the module that is named; without a name there is none', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'lane-guest-'));
    const file = join(folder, 'guest.mjs');
    writeFileSync(file, "export default { accounts: [], system: { name: 'Till' }, start: null };");
    expect(await loadGuest(file)).toMatchObject({ system: { name: 'Till' }, start: null });
    expect([await loadGuest(undefined), await loadGuest('')]).toEqual([null, null]);
    await expect(loadGuest(join(folder, 'missing.mjs'))).rejects.toThrow();
    rmSync(folder, { recursive: true });
  });
});

describe('bind', () => {
  it('gives functions their first argument, the same one to all, and passes the rest on', () => {
    const deps = { said: [] as string[] };
    const bound = bind(deps, {
      say: (d: typeof deps, who: string, what: string) => d.said.push(`${who}: ${what}`),
      all: (d: typeof deps) => d.said,
    });
    expect(bound.say('Ida', 'hello')).toBe(1);
    expect(bound.all()).toBe(deps.said);
    expect(bound.all()).toEqual(['Ida: hello']);
  });
});
