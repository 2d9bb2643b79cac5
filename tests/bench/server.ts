import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync } from 'node:fs';
import { Agent, createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';

/**
 * 200 conversations open at once that send 50 messages a second in all, through the real server; beside it the same
 * load on a handler that does nothing.
 */
const CONVERSATIONS = 200;
const PER_SECOND = 50;
const SECONDS = 20;
const STREAMS = 100;
const PEOPLE = 10_000;
const PHRASES = 3_600;
const quantile = (times: number[], share: number) =>
  times.sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * share))] ?? 0;

/** Sends evenly spaced, whether or not earlier ones were answered; gives milliseconds to the answer. */
async function load(send: (i: number) => Promise<void>): Promise<number[]> {
  const times: number[] = [];
  const pending: Promise<void>[] = [];
  const begun = performance.now();
  for (let i = 0; i < PER_SECOND * SECONDS; i++) {
    const due = begun + (i * 1000) / PER_SECOND;
    const wait = due - performance.now();
    if (wait > 0) await new Promise((done) => setTimeout(done, wait));
    const at = performance.now();
    pending.push(send(i).then(() => void times.push(performance.now() - at)));
  }
  await Promise.all(pending);
  return times;
}
const show = (what: string, times: number[]) =>
  console.log(
    `${what.padEnd(44)} median ${quantile(times, 0.5).toFixed(1).padStart(6)} ms   95th percentile ` +
      `${quantile(times, 0.95).toFixed(1).padStart(6)} ms   most ${quantile(times, 1).toFixed(1)} ms`,
  );

/** A lead brings many people in and takes them back, while a large phrasebook is learnt; gives how long each took. */
async function heavyWork(origin: string): Promise<string[]> {
  const took: string[] = [];
  const entered = await fetch(`${origin}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'noor.amsel@brindlewood.example', password: 'brindlewood' }),
  });
  const cookie = (entered.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
  const ask = async <T>(path: string, body?: unknown, type = 'application/json'): Promise<T> => {
    const answer = await fetch(`${origin}${path}`, {
      headers: { cookie, 'content-type': type },
      ...(body === undefined ? {} : { method: 'POST', body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    if (!answer.ok) throw new Error(`${path}: ${answer.status} ${(await answer.text()).slice(0, 200)}`);
    return (type === 'text/csv' && body === undefined ? await answer.text() : await answer.json()) as T;
  };
  const during = async (what: string, work: () => Promise<unknown>) => {
    const begun = performance.now();
    await work();
    took.push(`${what} ${((performance.now() - begun) / 1000).toFixed(1)} s`);
  };
  const learning = during(`learning ${PHRASES} phrases`, async () => {
    const { book, revision } = await ask<{ book: { intents: object[] }; revision: number }>('/api/read/phrasebook');
    const each = Math.ceil(PHRASES / 40);
    const intents = Array.from({ length: 40 }, (_, i) => ({
      id: `bench_${i}`,
      label: `Bench ${i}`,
      description: '',
      examples: { en: Array.from({ length: each }, (_p, n) => `thing${i} about ${n} and part${(i * n) % 97}`) },
    }));
    await ask('/api/settings/save-phrasebook', { revision, book: { ...book, intents: [...book.intents, ...intents] } });
  });
  const [, first = ''] = (await ask<string>('/api/people.csv', undefined, 'text/csv')).split('\r\n');
  const columns = first.split(',');
  const csv = [
    'Full name,E-mail,Team,Duty profile,French',
    ...Array.from({ length: PEOPLE }, (_, i) => `P ${i},p${i}@many.example,${columns[3]},${columns[6]},${(i % 5) + 1}`),
  ].join('\n');
  let id = '';
  await during(`reading ${PEOPLE} people`, async () => {
    ({ id } = await ask<{ id: string }>('/api/people/import?name=many.csv', csv, 'text/csv'));
    while ((await ask<{ state: string }>(`/api/read/import?id=${id}`)).state !== 'planned')
      await new Promise((resume) => setTimeout(resume, 100));
  });
  await during('keeping them', () => ask('/api/settings/import-apply', { id, invite: false }));
  await during('taking them back', async () => {
    const { lines } = await ask<{ lines: { id: number; batch: number }[] }>('/api/read/history');
    await ask('/api/settings/undo', { id: lines.find((line) => line.batch > 1000)?.id });
  });
  await learning;
  return took;
}

if (!existsSync('dist/server.mjs') || !existsSync('.next')) throw new Error('Build first: node scripts/build.mjs');
const folder = mkdtempSync(join(tmpdir(), 'lane-bench-'));
const env = {
  ...process.env,
  NODE_ENV: 'production' as const,
  LANE_DATA: folder,
  LANE_CROWD: '',
  LANE_GUEST: 'dist/demo.mjs',
  LANE_DEMO_DAYS: '0',
};
await new Promise<void>((done, fail) =>
  spawn(process.execPath, ['dist/fill.mjs', 'fill'], { env, stdio: 'inherit' }).once('exit', (code) =>
    code === 0 ? done() : fail(new Error('the demo company could not be made')),
  ),
);
const probe = createServer().listen(0, '127.0.0.1');
const port = await new Promise<number>((done) =>
  probe.once('listening', () => {
    const { port: free } = probe.address() as AddressInfo;
    probe.close(() => done(free));
  }),
);
const server = spawn(process.execPath, ['dist/server.mjs'], {
  env: {
    ...env,
    PORT: String(port),
    LANE_MEASURE: '1',
    LANE_PUBLIC_PER_MINUTE: '100000',
    LANE_NEW_CONTACTS_PER_MINUTE: '100000',
  },
  stdio: ['ignore', 'pipe', 'inherit'],
});
type Measured = { readonly delayMs: number; readonly holds: readonly { readonly what: string; readonly ms: number }[] };
let heard = '';
const waiting: (() => void)[] = [];
server.stdout.on('data', (data: Buffer) => {
  heard += data.toString();
  for (const look of waiting.splice(0)) look();
});
/** The next part of what the server says that matches. */
async function said(pattern: RegExp): Promise<RegExpExecArray> {
  for (;;) {
    const found = pattern.exec(heard);
    if (found) {
      heard = heard.slice(found.index + found[0].length);
      return found;
    }
    await new Promise<void>((look) => waiting.push(look));
  }
}
/** What the server's thread was held by since this was last asked. */
async function measured(): Promise<Measured> {
  server.kill('SIGUSR2');
  const [line] = await said(/\{"measured":.*\}\n/);
  return (JSON.parse(line) as { measured: Measured }).measured;
}
await said(/listening on/);
try {
  const at = `http://127.0.0.1:${port}/api/v1/contacts`;
  // Customers come from addresses of their own, as the server counts requests by address.
  const agents = Array.from(
    { length: CONVERSATIONS },
    (_, i) => new Agent({ keepAlive: true, localAddress: `127.0.0.${2 + (i % 250)}` }),
  );
  const post = (url: string, body: object, who: number, token?: string): Promise<{ contact: string; token: string }> =>
    new Promise<{ contact: string; token: string }>((done, fail) => {
      const asked = request(
        url,
        {
          method: 'POST',
          agent: agents[who] ?? agents[0],
          headers: { 'content-type': 'application/json', ...(token ? { authorization: `Bearer ${token}` } : {}) },
        },
        (response) => {
          const parts: Buffer[] = [];
          response.on('data', (part: Buffer) => parts.push(part));
          response.on('end', () => {
            const text = Buffer.concat(parts).toString('utf8');
            if ((response.statusCode ?? 500) < 300) done(JSON.parse(text) as { contact: string; token: string });
            else fail(new Error(`${response.statusCode ?? 0}: ${text}`));
          });
        },
      );
      asked.on('error', (error: NodeJS.ErrnoException) => {
        // A kept connection that the server has just let go of is no fault: the request goes again on another.
        if (asked.reusedSocket && error.code === 'ECONNRESET') post(url, body, who, token).then(done, fail);
        else fail(error);
      });
      asked.end(JSON.stringify(body));
    });
  const open: { contact: string; token: string }[] = [];
  for (let i = 0; i < CONVERSATIONS; i++) open.push(await post(at, { door: 'door_web', from: `bench-${i}` }, i));
  const words = ['I am not sure', 'a delivery', 'hmm', 'change it, no wait'];
  for (let i = 0; i < STREAMS; i++) {
    const { contact, token } = open[i] ?? { contact: '', token: '' };
    request(`${at}/${contact}/stream?token=${token}`, { agent: new Agent({ localAddress: `127.0.1.${i + 1}` }) })
      .on('response', (response) => response.resume())
      .on('error', () => undefined)
      .end();
  }
  // Conversations that were handed over go on being written to, as customers do while they wait.
  const say = (i: number) => {
    const c = open[i % CONVERSATIONS];
    if (!c) return Promise.resolve();
    const text = words[Math.floor(i / CONVERSATIONS) % words.length] ?? '';
    return post(`${at}/${c.contact}/messages`, { text }, i % CONVERSATIONS, c.token).then(() => undefined);
  };
  await measured();
  const replies = await load(say);
  const quiet = await measured();
  show(`${CONVERSATIONS} conversations, ${PER_SECOND} messages a second`, replies);
  const heavy = heavyWork(`http://127.0.0.1:${port}`);
  // Heard of where it is awaited.
  heavy.catch(() => undefined);
  const beside = await load(say);
  const done = await heavy;
  const busy = await measured();
  show('the same beside heavy work', beside);
  console.log(`heavy work: ${done.join(', ')}`);
  const ratio = quantile(beside, 0.95) / quantile(replies, 0.95);
  console.log(
    `95th percentile beside heavy work ÷ quiet: ${ratio.toFixed(1)}   event-loop delay at the 99th: quiet ` +
      `${quiet.delayMs.toFixed(1)} ms, heavy ${busy.delayMs.toFixed(1)} ms`,
  );
  for (const [when, { holds }] of [
    ['quiet', quiet],
    ['heavy', busy],
  ] as const)
    console.log(
      `longest holds of our own, ${when}: ${holds
        .slice(0, 6)
        .map((h) => `${h.what} ${h.ms.toFixed(1)} ms`)
        .join(' · ')}`,
    );
  const empty = createServer((req, res) => {
    req.resume();
    req.on('end', () => {
      res.setHeader('content-type', 'application/json');
      res.end('{}');
    });
  }).listen(0, '127.0.0.1');
  await new Promise((done) => empty.once('listening', done));
  const emptyAt = `http://127.0.0.1:${(empty.address() as AddressInfo).port}`;
  const nothing = await load(async (i) => {
    await post(emptyAt, { text: 'hmm' }, i % CONVERSATIONS);
  });
  show('the same load on an empty handler', nothing);
  for (const agent of agents) agent.destroy();
  empty.close();
} finally {
  server.kill('SIGTERM');
}
