/** The arrows of docs/architecture.md: studio → kit, engine, contract; kit → contract; engine → contract; no cycles. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: `^${from}/src` },
  to: { path: '^(packages|apps|demo|e2e)/', pathNot: `^(${[from, ...allowed].join('|')})/` },
});

/** The engine's floors, from the ground up: each stands on those before it, and knows nothing of those after it. */
const FLOORS = [
  'memo',
  'bytes',
  'text',
  'record',
  'sets',
  'geo',
  'columns',
  'segment',
  'score',
  'signals',
  'filter',
  'facets',
  'placements',
  'query/context.ts',
  'query/parse',
  'query/match',
  'query/rank',
  'query/present',
  'query/[^/]+.ts',
];
const engine = (floor) => `^packages/engine/src/${floor}`;
const floors = FLOORS.slice(0, -1).map((floor, i) => ({
  name: `engine-floor-${floor}`,
  severity: 'error',
  from: { path: engine(floor) },
  to: { path: FLOORS.slice(i + 1).map(engine), pathNot: FLOORS.slice(0, i + 1).map(engine) },
}));

module.exports = {
  forbidden: [
    ...floors,
    {
      name: 'no-cycles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    only('contract-stands-alone', 'packages/contract', []),
    only('engine-knows-contract', 'packages/engine', ['packages/contract']),
    only('cli-knows-contract', 'packages/cli', ['packages/contract']),
    only('kit-knows-contract', 'packages/kit', ['packages/contract']),
    only('offline-knows-packages', 'packages/offline', ['packages/contract', 'packages/engine', 'packages/kit']),
    only('studio-knows-packages', 'apps/studio', ['packages/contract', 'packages/engine', 'packages/kit']),
    only('demo-knows-contract', 'demo', ['packages/contract', 'packages/engine/src/bytes']),
    {
      name: 'engine-is-pure',
      comment: 'No Node, no DOM, no package but the stemmer and the reader of dates: the engine runs anywhere.',
      severity: 'error',
      from: { path: '^packages/engine/src' },
      to: { dependencyTypes: ['core', 'npm', 'npm-dev'], pathNot: 'snowball-stemmers|date-fns' },
    },
    {
      name: 'services-know-no-http',
      severity: 'error',
      from: { path: '^apps/studio/src/server' },
      to: { path: '^apps/studio/src/(app|http|features|ui)/' },
    },
    {
      name: 'screens-know-no-server',
      comment: 'Pages hand data to screens; a screen that imports a service would pull it into the browser.',
      severity: 'error',
      from: { path: '^apps/studio/src/(features|ui)' },
      to: { path: '^apps/studio/src/(server|http|app)/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(\\.next|data)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.cruise.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'default'] },
  },
};
