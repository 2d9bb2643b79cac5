// `npm start`: what is built, for real use. On an empty folder it prints a one-time address where the first owner
// begins.
//   PORT=3000, HOST=127.0.0.1, LANE_DATA=data (folder), LANE_URL=https://… (how it is reached from outside),
// LANE_LOG=info
import { buildAll, liveWith, say, startServer } from './ground.mjs';
import { installPackages } from './packages.mjs';

try {
  await installPackages();
  await buildAll();
  const { child, printed } = await startServer({ LANE_DATA: process.env.LANE_DATA ?? 'data' });
  console.log(printed.trim());
  child.stdout.pipe(process.stdout);
  liveWith(child);
} catch (error) {
  say(error.message);
  process.exit(1);
}
