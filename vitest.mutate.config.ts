import { defineConfig } from 'vitest/config';

// The tests of one room, for `npm run mutate`: told by the environment, since Stryker starts the runner.
export default defineConfig({
  test: {
    include: (process.env['MUTATE_TESTS'] ?? 'src/core/**/*.test.ts').split(','),
    testTimeout: 180_000,
    hookTimeout: 180_000,
    maxWorkers: 1,
  },
});
