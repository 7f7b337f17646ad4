import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['build/', '.svelte-kit/', 'data/', 'out/', 'node_modules/', 'static/'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  { languageOptions: { globals: { ...globals.node } } },
  {
    files: ['**/*.svelte', '**/*.svelte.ts', 'src/lib/**', 'src/elements/*/face/**', 'scripts/bench-sheet.mjs'],
    languageOptions: { globals: { ...globals.browser } },
  },
  { files: ['**/*.svelte', '**/*.svelte.ts'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      'svelte/no-navigation-without-resolve': 'off',
      // Local maps and sets that nobody watches.
      'svelte/prefer-svelte-reactivity': 'off',
      'svelte/prefer-writable-derived': 'off',
      'no-control-regex': 'off',
      eqeqeq: 'error',
      'no-console': 'off',
    },
  },
  {
    files: ['src/core/**/*.ts', 'src/elements/**/*.ts'],
    ignores: ['**/*.test.ts', 'src/elements/*/face/**', 'src/elements/faces.ts'],
    rules: { 'no-console': 'error', 'no-restricted-globals': ['error', 'Date', 'performance', 'process', 'fetch'] },
  },
);
