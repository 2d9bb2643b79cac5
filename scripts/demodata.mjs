// The demo's data: where it stands, and how it is made.
import { run } from './ground.mjs';

/** Where the demo keeps its data, apart from what a real workspace has. */
export const DEMO_FOLDER = 'var';
/** What makes a server the demo's: the company it brings along, and its simulated customers and people. */
export const DEMO = { LANE_GUEST: 'dist/demo.mjs', LANE_CROWD: '1' };

/**
 * Fills a folder anew, moving aside what an earlier demo made; `onShare` hears how much of the history has
 * been made (0 to 1). What it runs has been bundled.
 */
export async function fillDemo(folder, onShare = () => undefined) {
  // Most of what it makes is short-lived: room for it saves sweeping.
  await run(process.execPath, ['--enable-source-maps', '--max-semi-space-size=64', 'dist/fill.mjs', 'fill'], {
    quiet: true,
    env: { LANE_DATA: folder },
    onLine: (line) => {
      const found = /^history (\d+) of (\d+)/.exec(line);
      if (found) onShare(Number(found[1]) / Number(found[2]));
    },
  });
}
