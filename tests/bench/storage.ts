import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { row, rows, type Db } from '../../src/data/database';
import { openDatabase } from '../../src/data/databasefile';
import { replayAll } from '../../src/data/events';
import { packContact } from '../../src/data/packed';
import { numberedTrail, storedTrail } from '../../src/data/trails';
import { readPeople, setSimulated } from '../../src/data/people';
import { fillHistory, fillSettings } from '../../demo/fill';

/** What a contact costs on the disk, at once and packed, by table; and what writing, packing and replaying one takes. */
const DAY = 86_400_000;
const BEGAN = Date.parse('2026-11-17T06:00:00Z');
/** What settings cost is not a contact's. */
const SETTINGS =
  /phrasebook|bots?$|bot_versions|documents|queue|people|skill|team|image|article|history|schema|doors|hours/;

const folder = mkdtempSync(join(tmpdir(), 'lane-storage-'));
const { db, close } = openDatabase(folder, 'src/data/migrations', { synchronous: 'OFF' });
fillSettings(db, BEGAN - DAY);
for (const p of readPeople(db)) setSimulated(db, p.id, true);

const contacts = (d: Db): number => row<{ n: number }>(d, 'SELECT count(*) AS n FROM contacts')?.n ?? 0;
const sizes = (d: Db): Map<string, number> =>
  new Map(
    rows<{ name: string; bytes: number }>(
      d,
      `SELECT coalesce(m.tbl_name, s.name) AS name, sum(s.pgsize) AS bytes FROM dbstat s
        LEFT JOIN sqlite_schema m ON m.name = s.name GROUP BY 1`,
    )
      .filter((t) => !SETTINGS.test(t.name))
      .map((t) => [t.name, t.bytes]),
  );
const total = (all: ReadonlyMap<string, number>): number => [...all.values()].reduce((n, b) => n + b, 0);

let at = performance.now();
fillHistory(db, BEGAN, BEGAN + DAY, 5, 1, () => undefined);
const n = contacts(db);
const writing = (performance.now() - at) / n;
const before = sizes(db);

at = performance.now();
db.transaction(() => {
  for (const { no } of rows<{ no: number }>(db, 'SELECT no FROM contacts WHERE ended_at IS NOT NULL'))
    packContact(db, no, (kept) => numberedTrail(db, storedTrail(db, kept)));
})();
const packing = (performance.now() - at) / n;
db.exec('VACUUM');
const after = sizes(db);
at = performance.now();
replayAll(db);
const replaying = (performance.now() - at) / n;

console.log(`storage: ${n} contacts of one made-up day`);
console.log(
  `  ${'table with its indexes'.padEnd(24)}${'at once'.padStart(9)}${'packed'.padStart(9)}   bytes a contact`,
);
for (const [name, bytes] of [...before].sort((a, b) => b[1] - a[1]))
  if (bytes / n >= 1)
    console.log(
      `  ${name.padEnd(24)}${String(Math.round(bytes / n)).padStart(9)}${String(Math.round((after.get(name) ?? 0) / n)).padStart(9)}`,
    );
const [once, packed] = [total(before) / n, total(after) / n];
console.log(`  ${'all'.padEnd(24)}${String(Math.round(once)).padStart(9)}${String(Math.round(packed)).padStart(9)}`);
console.log(`  a year of 2,000 a day: ${((packed * 2000 * 351 + once * 2000 * 14) / 1e9).toFixed(2)} GB`);
console.log(
  `  a contact is written in ${writing.toFixed(2)} ms, packed in ${packing.toFixed(2)}, replayed in ${replaying.toFixed(2)}`,
);
close();
rmSync(folder, { recursive: true, force: true });
