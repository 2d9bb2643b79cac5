import { spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/**
 * Bundles the server that tests share, and fills one small workspace (the demo company without history); every test
 * starts on a copy of it.
 */
export default function setup(): void {
  run(['scripts/bundle.mjs', 'manylanes=tests/e2e/manylanes.ts'], {});
  const folder = mkdtempSync(join(tmpdir(), 'lane-e2e-'));
  run(['dist/fill.mjs', 'fill'], { LANE_DATA: folder, LANE_DEMO_DAYS: '0' });
  process.env.LANE_TEMPLATE = folder;
}

function run(args: readonly string[], env: Readonly<Record<string, string>>): void {
  const { status, stderr } = spawnSync(process.execPath, args, { env: { ...process.env, ...env }, encoding: 'utf8' });
  if (status !== 0) throw new Error(`${args.join(' ')} failed: ${stderr}`);
}
