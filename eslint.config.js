import js from '@eslint/js';
import importX from 'eslint-plugin-import-x';
import a11y from 'eslint-plugin-jsx-a11y';
import reactHooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

const SOURCE = ['**/*.{ts,tsx}'];
const WEB = ['packages/web/src/**/*.{ts,tsx}'];
const TESTS = ['**/*.test.{ts,tsx}', '**/testing/**', 'packages/server/src/test/**', 'e2e/**'];

/**
 * Who may import whom: web → contract, core; server → contract, core; contract → zod; core → nothing, and no Node or
 * DOM API.
 */
const only = (files, message, patterns) => ({
  files,
  ignores: ['**/*.test.ts', '**/testing/**'],
  rules: {
    'no-restricted-imports': ['error', { patterns: patterns.map((group) => ({ group: [group].flat(), message })) }],
  },
});
/** Within a package, rooms that know nothing of others. */
const apart = (...zones) => ({
  rules: {
    'import-x/no-restricted-paths': [
      'error',
      { zones: zones.map(([target, from, message]) => ({ target, from, message })) },
    ],
  },
});

const STAGES = ['deliver', 'isolate', 'lineup', 'projects', 'recolour', 'shots'];
const web = (room) => `./packages/web/src/${room}`;
const core = (room) => `./packages/core/src/${room}`;
const otherStages = STAGES.map((stage) => [
  web(`stages/${stage}`),
  STAGES.filter((other) => other !== stage).map((other) => web(`stages/${other}`)),
  'A stage imports nothing from another stage.',
]);

export default ts.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      '.data/**',
      'test-results/**',
      'playwright-report/**',
      '.stryker-tmp/**',
      '**/vite.config.ts',
      'reports/**',
      // of another language
      'packages/core/assembly/*.ts',
    ],
  },
  js.configs.recommended,
  {
    files: SOURCE,
    extends: [ts.configs.strictTypeChecked],
    languageOptions: { parserOptions: { project: ['./packages/*/tsconfig.json', './tsconfig.tools.json'] } },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: { process: 'readonly', console: 'readonly', setTimeout: 'readonly', clearTimeout: 'readonly' },
    },
  },
  {
    rules: {
      eqeqeq: 'error',
      'no-nested-ternary': 'error',
      'max-len': ['error', { code: 120, ignoreUrls: true, ignoreRegExpLiterals: true }],
    },
  },
  {
    files: SOURCE,
    plugins: { 'import-x': importX },
    settings: {
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts', '.tsx'] },
      'import-x/resolver-next': [importX.createNodeResolver({ extensions: ['.ts', '.tsx', '.js'] })],
    },
    rules: {
      'import-x/no-cycle': ['error', { ignoreExternal: true }],
      // indexed access is checked: where the index is known to be there, `!` says so
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      // numbers and booleans in messages are what is meant
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true, allowBoolean: true }],
      '@typescript-eslint/no-confusing-void-expression': 'off',
      '@typescript-eslint/no-dynamic-delete': 'off',
      // `void` says that a value is not wanted, of whatever type it is
      '@typescript-eslint/no-meaningless-void-operator': 'off',
      // a query that is asked with nothing is written so in Redux Toolkit
      '@typescript-eslint/no-invalid-void-type': 'off',
      // a promise is what the caller waits for, whether or not there is anything to wait for yet
      '@typescript-eslint/require-await': 'off',
    },
  },
  {
    files: TESTS,
    rules: {
      '@typescript-eslint/unbound-method': 'off',
      // what a library's types promise is what some tests try
      '@typescript-eslint/no-unnecessary-condition': 'off',
      '@typescript-eslint/no-empty-function': 'off',
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
    },
  },
  {
    files: WEB,
    plugins: { 'react-hooks': reactHooks, 'jsx-a11y': a11y },
    rules: {
      ...a11y.flatConfigs.recommended.rules,
      // the one field of a dialog that was just asked for
      'jsx-a11y/no-autofocus': 'off',
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      'max-lines-per-function': ['error', { max: 200, skipComments: true }],
    },
  },
  {
    files: ['packages/web/src/**/*.test.ts'],
    rules: { 'max-lines-per-function': 'off' },
  },
  {
    files: SOURCE,
    plugins: { 'import-x': importX },
    ...apart(
      ...otherStages,
      [web('engine'), [web('stages'), web('viewer'), web('view')], 'The engine knows nothing of the screens.'],
      [web('commands'), [web('stages'), web('viewer'), web('app'), web('data')], 'Commands are pure functions.'],
      [web('view'), [web('stages'), web('viewer'), web('data')], 'The view state knows nothing of the screens.'],
      [core('matte/!(*.test).ts'), core('animate'), 'A matte is of one frame: it knows nothing of animation.'],
      [core('document'), ['animate', 'matte', 'pipeline', 'track', 'shape'].map(core), 'The document is plain types.'],
      ['./packages/server/src/db', './packages/server/src/api', 'The database layer knows nothing of HTTP.'],
    ),
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
