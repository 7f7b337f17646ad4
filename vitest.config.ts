import { svelte } from '@sveltejs/vite-plugin-svelte';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
  // Stores of the interface are modules with runes; names of folders as in svelte.config.js.
  plugins: [svelte()],
  resolve: { alias: { $core: at('src/core'), $elements: at('src/elements'), $lib: at('src/lib'), $server: at('src/server/index.server.ts') } },
  test: {
    include: ['src/**/*.test.ts', 'scripts/**/*.test.ts'],
    testTimeout: 180_000,
    hookTimeout: 180_000,
    // Two cores: the kernel takes a gigabyte and a core for itself.
    maxWorkers: 2,
    reporters: ['default', ['json', { outputFile: 'test-results/unit.json' }]],
  },
});
