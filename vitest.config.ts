import { defineConfig } from 'vitest/config';

// Limits of time tell what hangs, not what is slow: a busy machine is several times slower. The same for what is done
// before a test as for the test.
const SHARED = {
  setupFiles: ['packages/core/src/testing/typedArrays.ts'],
  testTimeout: 240_000,
  hookTimeout: 240_000,
};

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        // Functions without a state of their own: a file need not load anew what the one before has loaded.
        test: {
          name: 'core',
          isolate: false,
          ...SHARED,
          include: ['packages/core/src/**/*.test.ts', 'packages/contract/src/**/*.test.ts', 'scripts/**/*.test.ts'],
        },
      },
      {
        // Real PostgreSQL and real ffmpeg; each file has a database and a media folder of its own, and closes what it
        // has opened, so that the next need not load anew what it has loaded.
        test: {
          name: 'server',
          isolate: false,
          include: ['packages/server/src/**/*.test.ts', 'demo/**/*.test.ts'],
          globalSetup: ['packages/server/src/testing/globalSetup.ts'],
          ...SHARED,
        },
      },
      { test: { name: 'web', isolate: false, ...SHARED, include: ['packages/web/src/**/*.test.ts'] } },
    ],
  },
});
