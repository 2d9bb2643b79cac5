// `npm run rehearse -- scenario.json`: a day, or any stretch of time, run through the router; see docs/formats/rehearsal.md.
import { spawnSync } from 'node:child_process';
import { bundle } from './bundle.mjs';
import { installPackages } from './ground.mjs';

installPackages();
await bundle();
const { status } = spawnSync(process.execPath, ['dist/rehearse.mjs', ...process.argv.slice(2)], { stdio: 'inherit' });
process.exit(status ?? 1);
