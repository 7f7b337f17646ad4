import { svelte } from '@sveltejs/vite-plugin-svelte';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** Tests that keep nothing of their own in their process: files that go through one worker share what was loaded, read and drafted. */
const SHARING = ['src/core/**/*.test.ts', 'src/elements/*.test.ts', 'src/elements/*/*.test.ts', 'src/formats/**/*.test.ts'];
/** They need the kernel, whose start takes seconds: one for each worker. */
const KERNEL = ['src/cli/**/*.test.ts', 'src/kernel/**/*.test.ts'];

export default defineConfig({
  // Stores of the interface are modules with runes; names of folders as in svelte.config.js.
  plugins: [svelte()],
  resolve: { alias: { $core: at('src/core'), $elements: at('src/elements'), $lib: at('src/lib'), $server: at('src/server/index.server.ts') } },
  test: {
    testTimeout: 180_000,
    hookTimeout: 180_000,
    // Two cores: the kernel takes a gigabyte and a core for itself.
    maxWorkers: 2,
    reporters: ['default', ['json', { outputFile: 'test-results/unit.json' }]],
    projects: [
      { extends: true, test: { name: 'kernel and command line', include: KERNEL, isolate: false, sequence: { groupOrder: 0 } } },
      { extends: true, test: { name: 'core', include: SHARING, isolate: false, sequence: { groupOrder: 1 } } },
      {
        extends: true,
        test: {
          name: 'interface, server and running',
          include: ['src/**/*.test.ts', 'scripts/**/*.test.ts'],
          exclude: [...SHARING, ...KERNEL],
          sequence: { groupOrder: 2 },
        },
      },
    ],
  },
});
