/** The rooms and their doors (docs/architecture.md). */
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-alone',
      comment: 'core imports nothing of ours but core',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { path: '^(app|src|contract|platform|server|cli|demo|bench|scripts)/' },
    },
    {
      name: 'core-without-node',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-without-react',
      severity: 'error',
      from: { path: '^core/' },
      to: { path: 'node_modules/(react|react-native|expo)' },
    },
    {
      name: 'contract-types-of-core-only',
      severity: 'error',
      from: { path: '^contract/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'contract-only-core',
      severity: 'error',
      from: { path: '^contract/' },
      to: { path: '^(app|src|platform|server|cli|demo|bench)/' },
    },
    {
      name: 'src-never-server',
      severity: 'error',
      from: { path: '^(src|app)/' },
      to: { path: '^(server|cli|demo|bench|platform/node)/' },
    },
    {
      name: 'data-below-the-rest-of-src',
      severity: 'error',
      from: { path: '^src/data/' },
      to: { path: '^src/', pathNot: '^src/data/' },
    },
    {
      name: 'jobs-know-data-by-its-types',
      severity: 'error',
      from: { path: '^src/jobs/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/data/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'jobs-below-screens',
      severity: 'error',
      from: { path: '^src/jobs/' },
      to: { path: '^src/', pathNot: '^src/(jobs|data)/' },
    },
    {
      name: 'engine-below-screens',
      severity: 'error',
      from: { path: '^src/engine/' },
      to: { path: '^src/', pathNot: '^src/(engine|jobs|data)/' },
    },
    {
      name: 'engine-without-react',
      severity: 'error',
      from: { path: '^src/(data|jobs)/|^src/engine/createEngine' },
      to: { path: 'node_modules/(react|react-dom|react-native|react-native-web|expo.*)/' },
    },
    {
      name: 'shell-on-top',
      severity: 'error',
      from: { path: '^src/', pathNot: '^src/app-shell/' },
      to: { path: '^src/app-shell/' },
    },
    {
      name: 'app-only-src',
      severity: 'error',
      from: { path: '^app/' },
      to: { path: '^(core|contract|platform|server|cli|demo|bench)/' },
    },
    { name: 'nobody-imports-app', severity: 'error', from: { pathNot: '^app/' }, to: { path: '^app/' } },
    {
      name: 'platform-only-core',
      severity: 'error',
      from: { path: '^platform/' },
      to: { path: '^(app|src|server|cli|demo|bench)/' },
    },
    {
      name: 'no-orphans',
      severity: 'error',
      from: {
        orphan: true,
        pathNot: ['\\.d\\.ts$', '\\.test\\.tsx?$', '^app/', '^contract/views\\.ts$', '\\.as\\.ts$'],
      },
      to: {},
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
