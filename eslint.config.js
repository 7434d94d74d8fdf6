import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import ts from 'typescript-eslint';

const core = 'packages/core/src';
const noDeepImports = { group: ['@abyssal/*/*'], message: 'Each package has one public index.' };

/** What ships: the sources, without their tests. */
const SHIPPED = {
  files: ['packages/*/src/**/*.ts', 'apps/*/src/**/*.{ts,tsx}'],
  ignores: ['**/*.test.ts', '**/testing/**'],
};

export default ts.config(
  { ignores: ['**/dist/', '**/node_modules/', 'test-results/', 'data/', '.state/', '**/*.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  // Rules that know the types, for what ships.
  ...ts.configs.recommendedTypeCheckedOnly.map((config) => ({ ...config, ...SHIPPED })),
  {
    ...SHIPPED,
    languageOptions: {
      parserOptions: {
        project: ['packages/*/tsconfig.json', 'apps/*/tsconfig.json'],
        tsconfigRootDir: import.meta.dirname,
      },
    },
  },
  { files: ['**/*.js', '**/*.mjs'], languageOptions: { globals: globals.node } },
  {
    files: ['**/*.cjs'],
    languageOptions: { globals: globals.node, sourceType: 'commonjs' },
    rules: { '@typescript-eslint/no-require-imports': 'off' },
  },
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': [
        'error',
        { fixStyle: 'inline-type-imports', disallowTypeAnnotations: false },
      ],
      'no-restricted-imports': ['error', { patterns: [noDeepImports] }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  // Nest reads the types of constructor parameters at run time, so they may not be imported as types.
  { files: ['apps/server/**/*.ts'], rules: { '@typescript-eslint/consistent-type-imports': 'off' } },
  {
    files: ['apps/web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    languageOptions: { globals: globals.browser },
    rules: {
      ...hooks.configs.recommended.rules,
      'react-hooks/refs': 'off',
      'react-hooks/set-state-in-effect': 'off',
    },
  },
  {
    files: ['**/*.test.ts', 'e2e/**/*.ts'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  {
    files: [`${core}/**/*.ts`],
    ignores: ['**/*.test.ts', '**/testing/**'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'performance',
        'fetch',
        'Buffer',
      ].concat([{ name: 'Math.random', message: 'use Random' }]),
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Randomness is seeded: use Random.' },
        { object: 'Date', property: 'now' },
      ],
    },
  },
);
