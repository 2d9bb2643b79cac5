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
  env: { ...env, PORT: String(port) },
  stdio: ['ignore', 'pipe', 'inherit'],
});
await new Promise<void>((done) =>
  server.stdout.on('data', (data: Buffer) => {
    if (data.toString().includes('listening on')) done();
  }),
);
try {
  const at = `http://127.0.0.1:${port}/api/v1/contacts`;
  // Customers come from addresses of their own, as the server counts requests by address.
  const agents = Array.from(
    { length: CONVERSATIONS },
    (_, i) => new Agent({ keepAlive: true, localAddress: `127.0.0.${2 + (i % 250)}` }),
  );
  const post = (url: string, body: object, who: number, token?: string) =>
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
      asked.on('error', fail);
      asked.end(JSON.stringify(body));
    });
  const open: { contact: string; token: string }[] = [];
  for (let i = 0; i < CONVERSATIONS; i++) open.push(await post(at, { door: 'door_web', from: `bench-${i}` }, i));
  const words = ['I am not sure', 'a delivery', 'hmm', 'change it, no wait'];
  // Conversations that were handed over go on being written to, as customers do while they wait.
  const replies = await load((i) => {
    const c = open[i % CONVERSATIONS];
    return c
      ? post(
          `${at}/${c.contact}/messages`,
          { text: words[Math.floor(i / CONVERSATIONS) % words.length] ?? '' },
          i % CONVERSATIONS,
          c.token,
        ).then(() => undefined)
      : Promise.resolve();
  });
  show(`${CONVERSATIONS} conversations, ${PER_SECOND} messages a second`, replies);
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
