import { defineConfig } from 'vitest/config';

// the part that is mutated is tested by its own package; a room of core by its own tests and those of whole frames;
// core as a whole by the contract's and web's tests too
const [part, room] = (process.env.MUTATE ?? '').split('/');
const packages = part === 'web' || part === 'contract' ? part : '{core,contract,web}';
const tested = room ? `core/src/{${room},pipeline}` : `${packages}/src`;

const SLOW = ['**/*.opencv.test.ts', '**/selection.test.ts', '**/planeTracker.test.ts', '**/steady.test.ts'];

/** The tests of what a mutation run looks at; of more than a room, the fast ones alone. */
export default defineConfig({
  test: {
    include: [`packages/${tested}/**/*.test.ts`],
    exclude: room ? [] : SLOW,
    // a mutant that lets a test wait for ever is found out soon; core's tests compute, and some of them long
    testTimeout: packages === part ? 2_000 : 60_000,
  },
});
