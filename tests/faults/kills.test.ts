import { spawn } from 'node:child_process';
import { build } from 'esbuild';
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { emailOf } from '../../demo/company';
import { seeded } from '../../src/core/chance';
import { rows } from '../../src/data/database';
import { openDatabase } from '../../src/data/databasefile';
import { readAllHours, writeHours } from '../../src/data/hours';
import { unsentItems } from '../../src/data/outbox';
import { openWorkspace } from '../../src/server/workspace';
import { MIGRATIONS } from '../helpers/morning';
import { sized } from '../helpers/size';
import { HERE } from '../helpers/reached';
import { STAND_IN } from '../../src/services/contacts/speaker';

/** A server that is killed at any moment has lost nothing that it acknowledged, and done nothing twice. */
let bundled: string;
let folder: string;
const KILLS = sized({ quick: 1, usual: 4, long: 30 });
const chance = seeded(20);
const seen = new Set<string>();

beforeAll(async () => {
  bundled = mkdtempSync(join(process.cwd(), 'node_modules/.lane-child-'));
  await build({
    entryPoints: ['tests/faults/trafficchild.ts'],
    outdir: bundled,
    outExtension: { '.js': '.mjs' },
    entryNames: '[name]',
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
  });
  folder = mkdtempSync(join(tmpdir(), 'lane-kills-'));
  copyFileSync(inject('template'), join(folder, 'lane.db'));
  const { db, close } = openDatabase(folder, MIGRATIONS);
  // Open at any hour, since it runs by the real clock.
  const always = [1, 2, 3, 4, 5, 6, 7].map((day) => ({ day, from: '00:00', to: '00:00' }));
  for (const hours of readAllHours(db)) writeHours(db, { ...hours, weekly: always, exceptions: [] });
  close();
});
afterAll(() => {
  for (const path of [bundled, folder]) rmSync(path, { recursive: true, force: true });
});

/** Runs the traffic until it is killed, so many ms after it first acknowledged something of a kind; gives all it did. */
function untilKilled(run: number, kind: string, afterMs: number): Promise<string[][]> {
  const child = spawn(
    process.execPath,
    [join(bundled, 'trafficchild.mjs'), folder, String(run), emailOf('Noor Amsel')],
    {
      stdio: ['ignore', 'pipe', 'inherit'],
    },
  );
  let heard = '';
  let counted = false;
  return new Promise((resolve, reject) => {
    child.once('error', reject);
    child.stdout.on('data', (data: Buffer) => {
      heard += data.toString();
      if (counted || !`\n${heard}`.includes(`\n${kind} `)) return;
      counted = true;
      setTimeout(() => child.kill('SIGKILL'), afterMs);
    });
    child.once('close', (code, signal) =>
      signal === 'SIGKILL'
        ? resolve(
            heard
              .split('\n')
              .slice(0, -1)
              .map((line) => line.split(' ')),
          )
        : reject(new Error(`it ended by itself with ${code}`)),
    );
  });
}

describe('killed at any moment', () => {
  it.each(Array.from({ length: KILLS }, (_, i) => [i]))('kill %i', async (run) => {
    const acknowledged = await untilKilled(
      run,
      // However slow the machine, one falls after a file was taken back.
      run === KILLS - 1 ? 'undo' : 'start',
      150 + chance.next() * 3000,
    );
    for (const [kind = ''] of acknowledged) seen.add(kind);
    const { services, close } = openWorkspace(folder, {
      root: process.cwd(),
      guest: null,
      reached: HERE,
      log: pino({ level: 'silent' }),
    });
    const { db } = services.host;
    expect(db.pragma('integrity_check', { simple: true })).toBe('ok');
    expect(db.pragma('foreign_key_check')).toEqual([]);
    const started = acknowledged.filter(([kind]) => kind === 'start');
    for (const [, i, contact = '', token = ''] of started) {
      // There once, whoever asks again.
      const again = services.channel.start(
        STAND_IN,
        { door: 'door_web', from: `guest-${run}-${i}` },
        `start-${run}-${i}`,
      );
      expect(again.contact).toBe(contact);
      const words = acknowledged.filter(([kind, of]) => kind === 'say' && of === i).map(([, , n]) => `word ${n}`);
      const kept = services.channel
        .read(contact, token, 0)
        .messages.filter((m) => m.from === 'customer')
        .map((m) => m.text);
      // In order, none lost, at most one more than was acknowledged.
      expect(kept.slice(0, words.length)).toEqual(words);
      expect(kept.length - words.length).toBeLessThanOrEqual(1);
      expect(new Set(kept).size).toBe(kept.length);
      for (const n of words.map((w) => w.slice(5)))
        services.channel.say(contact, token, { text: `word ${n}` }, `say-${run}-${i}-${n}`);
      expect(services.channel.read(contact, token, 0).messages.filter((m) => m.from === 'customer')).toHaveLength(
        kept.length,
      );
      if (acknowledged.some(([kind, of]) => kind === 'leave' && of === i))
        expect(services.channel.read(contact, token, 0).state).toBe('ended');
    }
    // A file is in whole, or not at all: what was being kept or taken back when it was killed goes on.
    await services.presses.settled();
    const brought = rows<{ file: string; n: number }>(
      db,
      "SELECT substr(email, instr(email, '-')) AS file, count(*) AS n FROM people WHERE email LIKE '%@many.example' GROUP BY file",
    );
    for (const { file, n } of brought) expect(file).toMatch(new RegExp(`-${n}@`));
    for (const [, i] of acknowledged.filter(([kind]) => kind === 'undo'))
      expect(brought.filter((b) => b.file.startsWith(`-${i}-${run}-`))).toEqual([]);
    // What was to go out has gone.
    expect(unsentItems(db)).toEqual([]);
    close();
  });
  it.runIf(KILLS >= 4)('the kills fell among everything that the traffic does', () => {
    expect([...seen].sort()).toEqual(['import', 'leave', 'ready', 'say', 'start', 'undo']);
  });
});
