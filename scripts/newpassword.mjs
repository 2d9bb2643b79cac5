// `npm run new-password -- ADDRESS`: prints a link by which somebody who is locked out chooses another password.
import { become, run } from './ground.mjs';
import { installPackages } from './packages.mjs';

await installPackages();
await run(process.execPath, ['scripts/bundle.mjs']);
become(['dist/newpassword.mjs', ...process.argv.slice(2)]);
