/**
 * Arrows between the layers run one way; anything else fails the lint step. Imports of types alone vanish when the code
 * runs, so they may cross layers; they count for circles, since two files that name each other's types are one idea.
 */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  comment: `${from} may lead to ${allowed.join(', ') || 'nothing else'}`,
  from: { path: `^${from}/`, pathNot: '\\.test\\.ts$' },
  to: {
    path: '^(src|demo|tests)/',
    pathNot: [from, ...allowed].map((p) => `^${p}/`),
    dependencyTypesNot: ['type-only'],
  },
});

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    only('core-alone', 'src/core', []),
    only('data-to-core', 'src/data', ['src/core']),
    only('services-down', 'src/services', ['src/core', 'src/data', 'src/standins']),
    only('ui-to-core', 'src/ui', ['src/core']),
    only('app-to-ui-and-services', 'src/app', ['src/ui', 'src/services', 'src/core', 'src/server']),
    only('server-starts-all', 'src/server', ['src/services', 'src/data', 'src/core', 'src/standins']),
    only('demo-through-services', 'demo', ['src/services', 'src/data', 'src/core', 'src/standins']),
    {
      name: 'core-without-machinery',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: { path: 'node_modules/(next|react|better-sqlite3|pino)/|^(fs|path|http|crypto|node:)' },
    },
    {
      name: 'app-registry-only',
      severity: 'error',
      from: { path: '^src/app/' },
      to: { path: '^src/server/', pathNot: '^src/server/registry\\.ts$', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'app-not-data',
      severity: 'error',
      from: { path: '^src/app/' },
      to: { path: '^src/data/', dependencyTypesNot: ['type-only'] },
    },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
