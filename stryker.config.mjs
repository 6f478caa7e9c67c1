// Mutation runs: how much of what could break unnoticed the fast tests notice. `npm run mutate` for all of it (hours);
// MUTATE=web, contract or core, or a folder of core such as MUTATE=core/colour, for a part; SAMPLE=4 for a quarter of
// all blocks of ten lines, told by a hash of their place, and SAMPLE=4/1, 4/2, 4/3 for the other quarters.
// Slow tests on rendered sequences and photographs are left out: what they alone would notice counts as survived.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';

const WEB = ['commands', 'editing', 'data', 'inhand', 'view', 'keyframing'].map((room) => `packages/web/src/${room}`);
const SCOPES = { core: ['packages/core/src'], contract: ['packages/contract/src'], web: WEB };
/** Tests, what they share, and plain types. */
const NOT_MUTATED = /\.test\.ts$|\/testing(\.ts$|\/)|^packages\/core\/src\/document\//;
const BLOCK = 10;

const [part, room] = (process.env.MUTATE ?? '').split('/');
const folders = room ? [`packages/core/src/${room}`] : (SCOPES[part] ?? Object.values(SCOPES).flat());
const files = folders
  .flatMap((folder) => readdirSync(folder, { recursive: true }).map((file) => `${folder}/${file}`))
  .filter((file) => file.endsWith('.ts') && !NOT_MUTATED.test(file));

const [sample, turn = 0] = (process.env.SAMPLE ?? '1').split('/').map(Number);
/** The blocks of a file that belong to the sample, in Stryker's notation of line ranges. */
function sampled(file) {
  const lines = readFileSync(file, 'utf8').split('\n').length;
  const blocks = [];
  for (let first = 1; first <= lines; first += BLOCK)
    if (createHash('sha256').update(`${file}:${first}`).digest().readUInt32BE() % sample === turn)
      blocks.push(`${file}:${first}-${Math.min(first + BLOCK - 1, lines)}`);
  return blocks;
}

/** @type {import('@stryker-mutator/api/core').PartialStrykerOptions} */
export default {
  testRunner: 'vitest',
  vitest: { configFile: 'vitest.mutation.config.ts', related: false },
  plugins: ['@stryker-mutator/vitest-runner'],
  mutate: sample === 1 ? files : files.flatMap(sampled),
  coverageAnalysis: 'perTest',
  // what runs once at import cannot be told apart by test
  ignoreStatic: true,
  concurrency: 2,
  reporters: ['clear-text', 'json', 'progress-append-only'],
  jsonReporter: { fileName: `reports/mutation-${process.env.MUTATE?.replace('/', '-') ?? 'all'}.json` },
  clearTextReporter: { logTests: false, reportTests: false, allowColor: false, reportMutants: false },
  tempDirName: '.stryker-tmp',
};
