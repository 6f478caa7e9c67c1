import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** Who may import whom: web → contract, core; server → contract, core; contract → zod; core → nothing, and no Node or DOM API. */
const only = (files, message, patterns) => ({
  files,
  ignores: ['**/*.test.ts'],
  rules: {
    'no-restricted-imports': ['error', { patterns: patterns.map((group) => ({ group: [group].flat(), message })) }],
  },
});

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.data/**', 'test-results/**', 'playwright-report/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: { process: 'readonly', console: 'readonly', setTimeout: 'readonly', clearTimeout: 'readonly' },
    },
  },
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
    },
  },
  {
    files: ['packages/web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'off' },
  },
  only(['packages/core/src/**'], 'core is pure: it imports nothing of ours, no Node, no DOM, no React.', [
    ['@mellow/*', 'node:*', 'react', 'react-*', 'zod', 'express', 'pg'],
  ]),
  {
    files: ['packages/core/src/**'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'fetch', 'performance', 'Date'],
    },
  },
  only(['packages/contract/src/**'], 'contract imports only zod.', [['@mellow/*', 'node:*', 'react', 'express', 'pg']]),
  only(['packages/server/src/**'], 'server imports contract and core.', [
    ['@mellow/web', '@mellow/web/*', 'react', 'react-*'],
  ]),
  only(['packages/web/src/**'], 'web imports contract and core.', [
    ['@mellow/server', '@mellow/server/*', 'node:*', 'pg', 'express'],
  ]),
);
