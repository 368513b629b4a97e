/** Who may open which door: web → service → store; web, service, workers → core; core → nothing but schemas. */
const room = (name) => `^${name}/`;
const only = (from, ...to) => ({
  name: `${from}-imports-only`,
  comment: `${from} may import ${[from, ...to].join(', ')} and nothing else of ours`,
  severity: 'error',
  from: { path: room(from), pathNot: '\\.test\\.tsx?$|/testing/' },
  to: {
    path: '^(core|schemas|store|service|web|workers|standin|ops|demo|e2e|bench)/',
    pathNot: [from, ...to].map(room),
  },
});

module.exports = {
  forbidden: [
    only('core', 'schemas'),
    only('schemas'),
    only('store', 'core', 'schemas'),
    only('service', 'core', 'schemas', 'store'),
    only('web', 'core', 'schemas', 'service'),
    only('demo', 'core', 'schemas', 'store', 'service'),
    only('standin', 'core', 'schemas', 'demo'),
    only('ops', 'core', 'schemas', 'store', 'service', 'demo', 'standin'),
    only('bench', 'core', 'schemas', 'store', 'service', 'demo', 'ops', 'e2e', 'standin'),
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: room('core'), pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core', 'npm', 'npm-dev'] },
    },
    {
      name: 'schemas-are-data',
      severity: 'error',
      from: { path: room('schemas') },
      to: { dependencyTypes: ['core', 'npm', 'npm-dev'], pathNot: 'json-schema-to-ts' },
    },
    {
      name: 'sql-only-in-store',
      severity: 'error',
      from: { pathNot: '^(store|ops)/|\\.test\\.ts$|^(e2e|bench)/' },
      to: { path: 'node_modules/(kysely|pg)/' },
    },
    { name: 'no-circles', severity: 'error', from: { pathNot: 'node_modules' }, to: { circular: true } },
    {
      name: 'no-orphans',
      severity: 'error',
      from: { orphan: true, path: '^(core|service|store|schemas|standin)/', pathNot: '\\.test\\.ts$' },
      to: {},
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: 'web/\\.(next|checks)' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
