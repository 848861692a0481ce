/** Two projects: everything without a screen runs in bare Node, which keeps the core honest; screens run under jest-expo. */
module.exports = {
  testTimeout: 60_000,
  maxWorkers: 2,
  testSequencer: '<rootDir>/scripts/slowTestsFirst.cjs',
  projects: [
    {
      displayName: 'node',
      testEnvironment: '<rootDir>/scripts/fastNodeEnvironment.cjs',
      testMatch: [
        '<rootDir>/{core,contract,platform,server,cli,demo,bench,scripts}/**/*.test.ts',
        '<rootDir>/src/{data,jobs,engine}/**/*.test.ts',
      ],
      setupFiles: ['reflect-metadata'],
      setupFilesAfterEnv: ['<rootDir>/scripts/sameBytes.cjs'],
      transform: {
        '^.+\\.[tj]s$': [
          '@swc/jest',
          {
            jsc: {
              parser: { syntax: 'typescript', decorators: true },
              transform: { legacyDecorator: true },
              target: 'es2022',
            },
            module: { type: 'commonjs' },
          },
        ],
      },
      transformIgnorePatterns: [
        'node_modules/(?!(nanoid|fast-check|pure-rand|image-size|@noble|@scure|idb|p-queue|p-timeout|eventemitter3)/)',
      ],
    },
    {
      displayName: 'app',
      preset: 'jest-expo/web',
      moduleNameMapper: {
        '^lucide-react-native/icons/(.*)$': '<rootDir>/node_modules/lucide-react-native/dist/cjs/icons/$1.js',
      },
      testMatch: ['<rootDir>/src/**/*.test.{ts,tsx}'],
      // what has no screen runs in bare Node
      testPathIgnorePatterns: ['/node_modules/', '<rootDir>/src/(data|jobs|engine)/'],
      setupFiles: ['<rootDir>/scripts/jestBrowser.js'],
      transformIgnorePatterns: [
        'node_modules/(?!((jest-)?react-native[^/]*|@react-native(-community)?|expo(nent)?|@expo(nent)?/.*|@expo-google-fonts/.*|nativewind|react-native-css-interop|lucide-react-native|nanoid|idb|@noble|date-fns|p-queue|p-timeout|eventemitter3)/)',
      ],
    },
  ],
};
