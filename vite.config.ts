import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

/** The package opens its files only to Node: the page takes them as assets. */
const dictionary = dirname(fileURLToPath(import.meta.resolve('dictionary-en')));

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  resolve: { alias: { $dictionary: dictionary } },
  build: { chunkSizeWarningLimit: 900 },
});
