import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { fillSettings } from '../../demo/fill';
import { openDatabase } from '../../src/data/databasefile';
import { MIGRATIONS, MORNING } from './morning';

declare module 'vitest' {
  export interface ProvidedContext {
    /** A database with the demo company as it is set up; every world begins as a copy of it. */
    template: string;
  }
}

/** Sets the demo company up once for all tests: doing so takes longer than most of them. */
export default function setup(project: TestProject): () => void {
  const folder = mkdtempSync(join(tmpdir(), 'lane-template-'));
  const { db, close } = openDatabase(folder, MIGRATIONS, { synchronous: 'OFF' });
  db.transaction(() => fillSettings(db, MORNING))();
  close();
  project.provide('template', join(folder, 'lane.db'));
  return () => rmSync(folder, { recursive: true, force: true });
}
