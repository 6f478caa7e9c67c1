import { defineConfig } from 'vitest/config';

// the part that is mutated is tested by its own package; core by the contract's and web's tests too
const [part] = (process.env.MUTATE ?? '').split('/');
const packages = part === 'web' || part === 'contract' ? part : '{core,contract,web}';

/** The fast tests alone, of what a mutation run looks at. */
export default defineConfig({
  test: {
    include: [`packages/${packages}/src/**/*.test.ts`],
    exclude: ['**/*.opencv.test.ts', '**/selection.test.ts', '**/trackMotion.test.ts', '**/steady.test.ts'],
    testTimeout: 60_000,
  },
});
