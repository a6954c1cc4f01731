import { join } from 'node:path';
import { defineConfig } from 'vitest/config';

const STORIES = ['scripts/tests/story.test.ts'];

export default defineConfig({
  test: {
    projects: [
      {
        // Pure functions: nothing of one file is left for the next, and the core is loaded once.
        test: {
          name: 'core',
          include: ['core/**/*.test.ts'],
          isolate: false,
          testTimeout: 120_000,
        },
      },
      { test: { name: 'bench', include: ['bench/**/*.test.ts'], testTimeout: 120_000 } },
      {
        resolve: {
          alias: {
            '@': join(import.meta.dirname, 'web'),
            // Marks modules that must not reach a browser; tests run on the server’s side.
            'server-only': join(import.meta.dirname, 'web/tests/server-only.ts'),
          },
        },
        test: {
          name: 'web',
          isolate: false,
          include: ['web/tests/**/*.test.ts'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'lab',
          include: ['store/**/*.test.ts', 'lab/**/*.test.ts', 'scripts/**/*.test.ts'],
          exclude: STORIES,
          globalSetup: ['./lab/testing/global-setup.ts'],
          fileParallelism: false,
          // Every file has databases of its own; the modules keep nothing of them.
          isolate: false,
          testTimeout: 180_000,
          hookTimeout: 240_000,
        },
      },
      {
        // Hours of a bench, told fast: most of it is waiting, beside the other tests.
        test: {
          name: 'story',
          include: STORIES,
          fileParallelism: false,
          testTimeout: 600_000,
          hookTimeout: 240_000,
        },
      },
    ],
  },
});
