/** The rooms and their doors (docs/architecture.md). */

/** The lower storey of core, in the order in which a photo passes: a room imports only those before it. */
const IMAGING = [
  'kernels',
  'raster',
  'geometry',
  'network',
  'detect',
  'flatten',
  'light',
  'motion-blur',
  'photo-reading',
  'quality',
  'mend',
  'finish',
  'upright',
  'fuse',
  'live',
  'jbig2',
  'layers',
];
/** The upper storey: what a hand-in is made of, before what is done with it. */
const WORK = [
  'marks',
  'naming',
  'words',
  'paper',
  'photo',
  'recipe',
  'hand-in',
  'office',
  'order',
  'ready',
  'render',
  'intake',
  'pdf',
  'bundle',
];
/** Tests know everything, and so does the list of what is compiled to WebAssembly. */
const TESTS = '\\.(test|as)\\.ts$';

/** A room imports only rooms named before it, and every room is named. */
const inOrder = (storey, rooms) => [
  {
    name: `${storey}: a room without a place in the order`,
    severity: 'error',
    from: {},
    to: { path: `^${storey}/`, pathNot: `^${storey}/(${rooms.join('|')})/` },
  },
  ...rooms.slice(0, -1).map((room, i) => ({
    name: `${storey}: ${room} before later rooms`,
    severity: 'error',
    from: { path: `^${storey}/${room}/`, pathNot: TESTS },
    to: { path: `^${storey}/(${rooms.slice(i + 1).join('|')})/` },
  })),
];
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
      name: 'imaging-below-work',
      comment: 'pixels know nothing of the job around them',
      severity: 'error',
      from: { path: '^core/imaging/', pathNot: TESTS },
      to: { path: '^core/work/' },
    },
    ...inOrder('core/imaging', IMAGING),
    ...inOrder('core/work', WORK),
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
      name: 'kit-alone',
      comment: 'src/ui knows nothing of hand-ins: only itself and the languages',
      severity: 'error',
      from: { path: '^src/ui/' },
      to: { path: '^(src|core|contract|platform)/', pathNot: '^src/(ui|i18n)/' },
    },
    {
      name: 'features-apart',
      comment: 'a feature imports no other feature; a screen puts features together',
      severity: 'error',
      from: { path: '^src/features/([^/]+)/' },
      to: { path: '^src/features/', pathNot: '^src/features/$1/' },
    },
    {
      name: 'features-below-screens',
      severity: 'error',
      from: { path: '^src/', pathNot: '^src/(screens|app-shell)/' },
      to: { path: '^src/screens/' },
    },
    {
      name: 'shared-below-features',
      comment: 'what several features use stands below them',
      severity: 'error',
      from: { path: '^src/', pathNot: '^src/(features|screens|app-shell)/' },
      to: { path: '^src/features/' },
    },
    {
      name: 'no-folder-circles',
      severity: 'error',
      scope: 'folder',
      from: { path: '^src' },
      to: { circular: true },
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
