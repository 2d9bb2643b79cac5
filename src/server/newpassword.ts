import { randomInt } from 'node:crypto';
import { join, resolve } from 'node:path';
import { idsFrom } from '../core/ids';
import { DatabaseRefused, openDatabase } from '../data/databasefile';
import { readPersonByEmail } from '../data/people';
import { createHost } from '../services/ground/host';
import { passwordLink } from '../services/workspace/newpassword';

/**
 * `npm run new-password -- ADDRESS`: for somebody who is locked out and cannot read the mailbox either. Makes a link that
 * works for an hour once the server runs again, and prints it. The server must be stopped meanwhile.
 */
const email = process.argv[2]?.trim().toLowerCase();
const port = Number(process.env.PORT ?? 3000);

function run(): number {
  if (!email) {
    console.error('Say whose: npm run new-password -- name@company.example');
    return 1;
  }
  const folder = resolve(process.env.LANE_DATA ?? join(process.cwd(), 'data'));
  const { db, close } = openDatabase(folder, join(process.cwd(), 'src/data/migrations'));
  try {
    const person = readPersonByEmail(db, email);
    if (!person?.active) {
      console.error(
        person ? `The account of ${person.name} is switched off.` : `Nobody here has the address ${email}.`,
      );
      return 1;
    }
    const host = createHost(
      db,
      idsFrom(() => randomInt(2 ** 32) / 2 ** 32),
      { real: Date.now, floor: Date.now },
    );
    const path = host.transact((tx) => passwordLink(tx, person));
    console.log(new URL(path, process.env.LANE_URL ?? `http://localhost:${port}`).href);
    return 0;
  } finally {
    close();
  }
}

try {
  process.exit(run());
} catch (error) {
  console.error(error instanceof DatabaseRefused ? error.message : error);
  process.exit(1);
}
