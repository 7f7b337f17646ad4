import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['src/**/*.test.ts', 'scripts/**/*.test.ts'],
    testTimeout: 180_000,
    hookTimeout: 180_000,
    // Two cores: the kernel takes a gigabyte and a core for itself.
    maxWorkers: 2,
    reporters: ['default', ['json', { outputFile: 'test-results/unit.json' }]],
  },
});
