import { createServer, type IncomingMessage, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import { brotliCompressSync, brotliDecompressSync, gunzipSync, gzipSync } from 'node:zlib';
import { pino } from 'pino';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { handlerOf } from '../../src/server/front';
import { plainPath, secure } from '../../src/server/guard';
import { withPageFiles } from '../../src/server/pagefiles';
import { loadGuest } from '../../src/server/guest';
import { HERE } from '../helpers/reached';
import { reachedBy } from '../../src/server/reached';
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
  it('answers to its own names only, however a request is addressed', async () => {
    const asked = (host: string | null) =>
      new Promise<number>((resolve, reject) => {
        const call = request(at, { headers: host === null ? {} : { host }, setHost: host !== null }, (answer) => {
          answer.resume();
          resolve(answer.statusCode ?? 0);
        });
        call.on('error', reject);
        call.end();
      });
    const port = new URL(at).port;
    expect(await Promise.all([`localhost:${port}`, `127.0.0.1:${port}`, '[::1]:9', 'LOCALHOST'].map(asked))).toEqual([
      200, 200, 200, 200,
    ]);
    // A page of another site whose name leads here for a moment; and names that only look like ours.
    const others = ['evil.example', 'localhost.evil.example', '127.0.0.1.evil.example', 'evil.example:3000'];
    expect(await Promise.all(others.map(asked))).toEqual(others.map(() => 421));
  });
  it('shuts other hosts out; only pages that reload as they are written may evaluate', async () => {
    const policy = (await fetch(at)).headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("connect-src 'self';");
    expect(policy).not.toContain('unsafe-eval');
  });
});

describe('how the server is reached', () => {
  const asking = (remote: string, headers: Record<string, string> = {}) =>
    ({
      socket: { remoteAddress: remote },
      connection: { remoteAddress: remote },
      headers,
    }) as unknown as IncomingMessage;
  const local = { hostname: '127.0.0.1', port: 3000 };
  it('behind a proxy that ends TLS: its name, Secure cookies, strict transport, the address behind it', () => {
    const reached = reachedBy(
      { LANE_URL: 'https://desk.example', LANE_TRUSTED_PROXIES: '10.0.0.0/8', LANE_HOSTS: 'other.example' },
      { hostname: '0.0.0.0', port: 3000 },
    );
    expect([reached.origin, reached.secure, reached.standIns]).toEqual(['https://desk.example', true, false]);
    expect(
      ['desk.example', 'other.example', 'DESK.example', 'evil.example', '0.0.0.0:3000'].map(reached.isOurs),
    ).toEqual([true, true, true, false, false]);
    // Only what a trusted proxy adds counts, and only as far as the first that nobody trusts.
    expect(reached.clientOf(asking('10.1.2.3', { 'x-forwarded-for': '198.51.100.9' }))).toBe('198.51.100.9');
    expect(reached.clientOf(asking('10.1.2.3', { 'x-forwarded-for': '1.1.1.1, 198.51.100.9, 10.9.9.9' }))).toBe(
      '198.51.100.9',
    );
    expect(reached.clientOf(asking('203.0.113.5', { 'x-forwarded-for': '1.1.1.1' }))).toBe('203.0.113.5');
    const [req, headers] = [
      asking('203.0.113.5', { 'x-forwarded-host': 'evil.example', 'x-forwarded-proto': 'http' }),
      new Map(),
    ];
    secure(req, { setHeader: (name: string, value: string) => headers.set(name, value) } as never, reached);
    expect(req.headers).toMatchObject({ 'x-forwarded-for': '203.0.113.5', 'x-forwarded-proto': 'https' });
    expect(req.headers).not.toHaveProperty('x-forwarded-host');
    expect(headers.get('Strict-Transport-Security')).toBe('max-age=31536000');
  });
  it('on its own machine: without TLS, trusting nobody, with stand-ins', () => {
    expect(HERE).toMatchObject({ origin: 'http://localhost:3000', secure: false, standIns: true });
    expect(HERE.clientOf(asking('127.0.0.1', { 'x-forwarded-for': '1.1.1.1' }))).toBe('127.0.0.1');
    expect(reachedBy({}, { hostname: '192.0.2.4', port: 80 })).toMatchObject({ standIns: false });
    expect(reachedBy({}, { hostname: '192.0.2.4', port: 80 }).isOurs('192.0.2.4:80')).toBe(true);
    expect(reachedBy({ LANE_STANDINS: 'off' }, local).standIns).toBe(false);
    expect(reachedBy({ LANE_URL: 'https://desk.example', LANE_STANDINS: 'on' }, local).standIns).toBe(true);
  });
  it.each([
    ['LANE_URL', 'desk.example'],
    ['LANE_URL', 'ftp://desk.example'],
    ['LANE_TRUSTED_PROXIES', 'everybody'],
    ['LANE_STANDINS', 'maybe'],
  ])('%s=%s is told in a sentence', (name, value) => {
    expect(() => reachedBy({ [name]: value }, local)).toThrow(
      new RegExp(`^${name} .*${value}|^${name} cannot be read`),
    );
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

describe('what the pages are made of', () => {
  const root = mkdtempSync(join(tmpdir(), 'lane-pages-'));
  const folder = join(root, '.next/static/chunks');
  mkdirSync(folder, { recursive: true });
  const script = 'x'.repeat(3000);
  for (const [name, body] of [
    ['one.js', script],
    ['one.js.br', brotliCompressSync(script)],
    ['one.js.gz', gzipSync(script)],
    ['plain.woff2', 'a font'],
    ['../../secret.txt', 'nobody asks for it'],
  ] as const)
    writeFileSync(join(folder, name), body);
  const asked: (string | undefined)[] = [];
  const server = createServer((req, res) => {
    const handler = withPageFiles(root, (passed, answer) => {
      asked.push(passed.url);
      answer.writeHead(404).end('not a file of ours');
      return Promise.resolve();
    });
    void handler(req, res);
  });
  beforeAll(() => new Promise<void>((listening) => void server.listen(0, '127.0.0.1', () => listening())));
  afterAll(async () => {
    await new Promise((closed) => server.close(closed));
    rmSync(root, { recursive: true });
  });
  /** As a browser asks: nothing is taken apart on the way. */
  const get = (path: string, encoding: string, method = 'GET') =>
    new Promise<{ status: number | undefined; headers: IncomingMessage['headers']; body: Buffer }>((done, failed) => {
      const { port } = server.address() as AddressInfo;
      const headers = { 'accept-encoding': encoding };
      request({ port, host: '127.0.0.1', path, method, headers, agent: false }, (res) => {
        const parts: Buffer[] = [];
        res.on('data', (part: Buffer) => parts.push(part));
        res.on('end', () => done({ status: res.statusCode, headers: res.headers, body: Buffer.concat(parts) }));
      })
        .on('error', failed)
        .end();
    });

  it('comes as the build compressed it, by what the browser takes, and is kept by it for good', async () => {
    const path = '/_next/static/chunks/one.js';
    const [br, gz, plain] = [await get(path, 'gzip, br'), await get(path, 'gzip'), await get(path, 'identity')];
    expect([br.headers['content-encoding'], brotliDecompressSync(br.body).toString()]).toEqual(['br', script]);
    expect([gz.headers['content-encoding'], gunzipSync(gz.body).toString()]).toEqual(['gzip', script]);
    expect([plain.headers['content-encoding'], plain.body.toString()]).toEqual([undefined, script]);
    expect(br.headers['cache-control']).toContain('immutable');
    expect(br.headers.vary).toBe('Accept-Encoding');
    expect((await get('/_next/static/chunks/plain.woff2', 'br')).body.toString()).toBe('a font');
    expect(asked).toEqual([]);
  });
  it('all else goes on as it was asked, and nothing outside the folder is given', async () => {
    const others = ['/review?from=2026-11-09', '/_next/static/chunks/gone.js', '/_next/static/../secret.txt'];
    for (const path of others) expect((await get(path, 'br')).status).toBe(404);
    expect((await get('/_next/static/chunks/one.js', 'br', 'POST')).status).toBe(404);
    expect(asked).toEqual([...others, '/_next/static/chunks/one.js']);
  });
});
