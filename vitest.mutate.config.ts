import { svelte } from '@sveltejs/vite-plugin-svelte';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

// The tests of one room, for `npm run mutate`: told by the environment, since Stryker starts the runner.
export default defineConfig({
  // Neighbours' tests go through routes and stores too: names of folders as in vitest.config.ts.
  plugins: [svelte()],
  resolve: { alias: { $core: at('src/core'), $elements: at('src/elements'), $lib: at('src/lib'), $server: at('src/server/index.server.ts') } },
  test: {
    include: (process.env['MUTATE_TESTS'] ?? 'src/core/**/*.test.ts').split(','),
    testTimeout: 180_000,
    hookTimeout: 180_000,
    maxWorkers: 1,
  },
});
