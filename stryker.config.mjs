// Mutation runs: how much of what could break unnoticed the tests notice. `npm run mutate -- --mutate <files>` for a part.
// Slow tests on rendered sequences are left out: what they alone would notice counts as survived.
/** @type {import('@stryker-mutator/api/core').PartialStrykerOptions} */
export default {
  testRunner: 'vitest',
  vitest: { configFile: 'vitest.mutation.config.ts' },
  plugins: ['@stryker-mutator/vitest-runner'],
  mutate: [
    'packages/core/src/**/*.ts',
    'packages/contract/src/**/*.ts',
    'packages/web/src/{commands,editing,data,inhand,view,keyframing}/**/*.ts',
    '!**/*.test.ts',
    '!**/testing.ts',
    '!**/testing/**',
    '!packages/core/src/document/**',
  ],
  coverageAnalysis: 'perTest',
  concurrency: 2,
  reporters: ['clear-text', 'json'],
  jsonReporter: { fileName: 'reports/mutation.json' },
  clearTextReporter: { logTests: false, reportTests: false, allowColor: false, reportMutants: false },
  tempDirName: '.stryker-tmp',
};
