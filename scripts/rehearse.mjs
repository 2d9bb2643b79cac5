// `npm run rehearse -- scenario.json`: a day, or any stretch of time, run through the router; see
// docs/formats/rehearsal.md.
import { become, run } from './ground.mjs';
import { installPackages } from './packages.mjs';

await installPackages();
await run(process.execPath, ['scripts/bundle.mjs']);
become(['dist/rehearse.mjs', ...process.argv.slice(2)]);
