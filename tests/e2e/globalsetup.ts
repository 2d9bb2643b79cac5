import { spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Fills one small workspace (the demo company without history); every test starts on a copy of it. */
export default function setup(): void {
  const folder = mkdtempSync(join(tmpdir(), 'lane-e2e-'));
  const { status, stderr } = spawnSync(process.execPath, ['dist/fill.mjs', 'fill'], {
    env: { ...process.env, LANE_DATA: folder, LANE_DEMO_DAYS: '0' },
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(`filling failed: ${stderr}`);
  process.env.LANE_TEMPLATE = folder;
}
