import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  {
    ignores: [
      '**/*.as.ts',
      'src/i18n/catalogues/*.ts',
      'node_modules/**',
      'dist/**',
      'data/**',
      '.cache/**',
      'bench/out/**',
      'test-results/**',
      '*.config.js',
      'scripts/jestBrowser.js',
      '.dependency-cruiser.cjs',
      'expo-env.d.ts',
      'nativewind-env.d.ts',
    ],
  },
  ...tseslint.configs.recommendedTypeChecked.map((config) => ({ ...config, files: ['**/*.{ts,tsx}'] })),
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    plugins: { 'react-hooks': reactHooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off', // typed arrays under noUncheckedIndexedAccess need it
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: 'error',
      'no-console': 'off',
    },
  },
  {
    // the core is given its time and its chance by the caller
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'max-params': ['error', 5],
      'max-lines-per-function': ['error', 60],
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'setTimeout', 'fetch'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random' },
        { object: 'Date', property: 'now' },
      ],
      'no-console': 'error',
    },
  },
);
