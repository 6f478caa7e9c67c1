import { defineConfig } from 'vitest/config';

/** The fast tests alone, of what a mutation run looks at. */
export default defineConfig({
  test: {
    include: ['packages/{core,contract,web}/src/**/*.test.ts'],
    exclude: ['**/*.opencv.test.ts', '**/selection.test.ts', '**/trackMotion.test.ts'],
    testTimeout: 60_000,
  },
});
