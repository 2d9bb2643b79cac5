import { join } from 'node:path';

export const MIGRATIONS = join(import.meta.dirname, '../../src/data/migrations');
/** A Tuesday, 10:20 in the demo company's zone: when worlds of tests begin. */
export const MORNING = Date.parse('2026-11-17T10:20:00Z');
