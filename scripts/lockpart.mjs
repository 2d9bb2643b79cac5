// A part of a lock file that can be installed by itself.

/**
 * Some packages of a lock file (version 2 or 3) and all that they need, each as the lock file has it and where it has
 * it.
 *
 * @param lock  what `package-lock.json` holds
 * @param names  packages that the project itself depends on
 * @returns `manifest` for a `package.json`, and the `lock` that goes with it
 */
export function partOfLock(lock, names) {
  const { name, version, dependencies } = lock.packages[''];
  const kept = {};
  const keep = (from, wanted) => {
    const place = placeOf(lock.packages, from, wanted);
    if (!place || kept[place]) return;
    const entry = (kept[place] = lock.packages[place]);
    for (const needed of Object.keys({
      ...entry.dependencies,
      ...entry.optionalDependencies,
      ...entry.peerDependencies,
    }))
      keep(place, needed);
  };
  for (const wanted of names) {
    if (!dependencies[wanted]) throw new Error(`the project does not depend on ${wanted}`);
    keep('', wanted);
  }
  const manifest = { name, version, dependencies: Object.fromEntries(names.map((n) => [n, dependencies[n]])) };
  return { manifest, lock: { ...lock, packages: { '': manifest, ...kept } } };
}

/** Where a package that is asked for at a place is found: in its own folder first, then in each above. */
function placeOf(packages, from, name) {
  for (let at = from; ; at = at.slice(0, Math.max(0, at.lastIndexOf('node_modules/') - 1))) {
    const place = `${at ? `${at}/` : ''}node_modules/${name}`;
    if (packages[place]) return place;
    if (!at) return null;
  }
}
