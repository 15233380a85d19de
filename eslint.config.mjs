import boundaries from 'eslint-plugin-boundaries';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** What each layer may import: see docs/architecture.md. Nothing points up or sideways. */
const layers = {
  app: ['ui', 'server', 'core', 'wire'],
  ui: ['player', 'core', 'wire'],
  player: ['core'],
  cli: ['server', 'core'],
  server: ['core', 'wire'],
  wire: ['core'],
  core: [],
};
const elements = Object.keys(layers).map((layer) => ({ type: layer, pattern: `src/${layer}` }));

export default tseslint.config(
  {
    ignores: [
      'node_modules',
      '.next',
      'dist',
      'data',
      'public/workers',
      'next-env.d.ts',
      'test-results',
      'playwright-report',
    ],
  },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      'max-lines': ['error', { max: 300, skipBlankLines: true, skipComments: true }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-console': ['error', { allow: ['error'] }],
    },
  },
  { files: ['scripts/**', 'tools/**'], rules: { 'no-console': 'off' } },
  {
    files: ['src/ui/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { boundaries },
    settings: {
      'import/resolver': { typescript: { project: './tsconfig.json' } },
      'boundaries/elements': elements,
      'boundaries/include': ['src/**/*'],
      // Next wants these two beside the folders; they belong to the pages.
      'boundaries/ignore': ['src/proxy.ts', 'src/instrumentation.ts'],
    },
    rules: {
      'boundaries/no-unknown-files': 'error',
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: Object.entries(layers).map(([layer, below]) => ({
            from: { element: { type: layer } },
            allow: [layer, ...below].map((type) => ({ to: { element: { type } } })),
          })),
        },
      ],
    },
  },
  {
    // The core runs the same in Node and in a web worker: nothing of either, no screens, no SQL.
    files: ['src/core/**/*.ts'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'require'],
      'no-restricted-imports': [
        'error',
        {
          patterns: ['node:*', 'react', 'react-dom', 'next', 'next/*', 'better-sqlite3', 'piscina'],
        },
      ],
    },
  },
  {
    files: ['src/server/**/*.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: ['react', 'react-dom', 'next', 'next/*'] }],
    },
  },
);
