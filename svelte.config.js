import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  compilerOptions: { runes: true },
  kit: {
    adapter: adapter({ out: 'build/app' }),
    alias: { $core: 'src/core', $elements: 'src/elements', $server: 'src/server/index.server.ts' },
    // hooks.server.ts compares Origin with Host: it holds for every address the server is reached at.
    csrf: { trustedOrigins: ['*'] },
    csp: {
      mode: 'auto',
      directives: {
        'default-src': ['self'],
        'img-src': ['self', 'data:', 'blob:'],
        'style-src': ['self', 'unsafe-inline'],
        'script-src': ['self'],
        'connect-src': ['self'],
        'object-src': ['none'],
        'base-uri': ['none'],
        'frame-ancestors': ['none'],
      },
    },
    typescript: {
      config: (c) => ({ ...c, extends: '../tsconfig.base.json', include: [...c.include, '../e2e/**/*.ts', '../*.ts'] }),
    },
  },
};
