// What the first packages are: enough for bundling and the demo's history, and each as the lock file has it.
import { readFileSync } from 'node:fs';
import { build } from 'esbuild';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { bundleOptions } from '../../scripts/bundle.mjs';
import { partOfLock } from '../../scripts/lockpart.mjs';
import { FIRST_PACKAGES } from '../../scripts/packages.mjs';

const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'));
const nameOf = (path: string) =>
  path
    .split('/')
    .slice(0, path.startsWith('@') ? 2 : 1)
    .join('/');

describe('the first packages', () => {
  test('are all that the demo’s history imports', async () => {
    const { metafile } = await build({
      ...bundleOptions,
      entryPoints: ['demo/fill.ts'],
      write: false,
      metafile: true,
    });
    // What is only found by its name, to read its files, is needed as well.
    const found = Object.keys(metafile!.inputs).flatMap((file) =>
      [...readFileSync(file, 'utf8').matchAll(/require\.resolve\('([^']+)'\)/g)].map(([, name = '']) => name),
    );
    const imported = Object.values(metafile!.outputs)
      .flatMap((o) => o.imports)
      .map((i) => i.path)
      .concat(found)
      .filter((path) => !path.startsWith('node:'));
    expect(found).not.toEqual([]);
    expect(imported).toContain('better-sqlite3');
    expect(imported.filter((path) => !FIRST_PACKAGES.includes(nameOf(path)))).toEqual([]);
  });

  test('are a small part of all', () => {
    const all = Object.keys(lock.packages).length;
    expect(Object.keys(partOfLock(lock, FIRST_PACKAGES).lock.packages).length).toBeLessThan(all / 4);
  });
});

describe('a part of a lock file', () => {
  const packages = {
    '': { name: 'p', version: '1.0.0', dependencies: { a: '^1', c: '^1' } },
    'node_modules/a': { version: '1.0.0', dependencies: { b: '^2', '@s/d': '*' } },
    'node_modules/a/node_modules/b': { version: '2.0.0', optionalDependencies: { e: '*' } },
    'node_modules/b': { version: '1.0.0' },
    'node_modules/c': { version: '1.0.0', dependencies: { b: '^1' } },
    'node_modules/@s/d': { version: '1.0.0', dependencies: { a: '^1' } },
    'node_modules/e': { version: '1.0.0', peerDependencies: { f: '*' } },
    'node_modules/f': { version: '1.0.0' },
  };
  const small = { name: 'p', lockfileVersion: 3, packages };
  const placesOf = (names: string[]) =>
    Object.keys(partOfLock(small, names).lock.packages)
      .filter((place) => place !== '')
      .sort();

  test('takes what is nearest, and goes in circles once', () => {
    expect(placesOf(['a'])).toEqual([
      'node_modules/@s/d',
      'node_modules/a',
      'node_modules/a/node_modules/b',
      'node_modules/e',
      'node_modules/f',
    ]);
    expect(placesOf(['c'])).toEqual(['node_modules/b', 'node_modules/c']);
  });

  test('refuses what the project does not depend on', () => {
    expect(() => partOfLock(small, ['b'])).toThrow('the project does not depend on b');
  });

  test('any part of ours is closed, and says what the whole says', () => {
    const names = Object.keys(lock.packages[''].dependencies);
    fc.assert(
      fc.property(fc.subarray(names), (wanted) => {
        const { manifest, lock: part } = partOfLock(lock, wanted);
        expect(Object.keys(manifest.dependencies)).toEqual(wanted);
        for (const [place, entry] of Object.entries<{ dependencies?: Record<string, string> }>(part.packages)) {
          if (place === '') continue;
          expect(entry).toEqual(lock.packages[place]);
          for (const needed of Object.keys(entry.dependencies ?? {}))
            expect(Object.keys(part.packages).some((other) => other.endsWith(`node_modules/${needed}`))).toBe(true);
        }
      }),
      { numRuns: 30 },
    );
  });
});
