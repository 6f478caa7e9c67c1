// Mutation runs: how much of what could break unnoticed the fast tests notice. `npm run mutate` for all of it (hours);
// MUTATE=web, contract or core, or a folder of core such as MUTATE=core/colour, for a part.
// Slow tests on rendered sequences and photographs are left out: what they alone would notice counts as survived.
const WEB = ['commands', 'editing', 'data', 'inhand', 'view', 'keyframing'];
const SCOPES = {
  core: ['packages/core/src/**/*.ts', '!packages/core/src/document/**'],
  contract: ['packages/contract/src/**/*.ts'],
  web: WEB.map((room) => `packages/web/src/${room}/**/*.ts`),
};
const chosen = process.env.MUTATE ?? '';
const [, room] = chosen.split('/');
const scoped = room ? [`packages/core/src/${room}/**/*.ts`] : SCOPES[chosen];

/** @type {import('@stryker-mutator/api/core').PartialStrykerOptions} */
export default {
  testRunner: 'vitest',
  vitest: { configFile: 'vitest.mutation.config.ts', related: false },
  plugins: ['@stryker-mutator/vitest-runner'],
  mutate: [...(scoped ?? Object.values(SCOPES).flat()), '!**/*.test.ts', '!**/testing.ts', '!**/testing/**'],
  coverageAnalysis: 'perTest',
  // what runs once at import cannot be told apart by test
  ignoreStatic: true,
  concurrency: 2,
  reporters: ['clear-text', 'json'],
  jsonReporter: { fileName: 'reports/mutation.json' },
  clearTextReporter: { logTests: false, reportTests: false, allowColor: false, reportMutants: false },
  tempDirName: '.stryker-tmp',
};
