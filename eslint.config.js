import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

/** The core is pure: nothing of a browser or of Node, and no hidden time or chance. Who may know whom is in .dependency-cruiser.cjs. */
const coreOnly = {
  'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer'],
  'no-restricted-properties': [
    'error',
    { object: 'Math', property: 'random', message: 'randomness is handed in.' },
    { object: 'Date', property: 'now', message: 'time is handed in.' }
  ]
};

export default ts.config(
  { ignores: ['.svelte-kit/', 'build/', 'node_modules/', '.data/', '.test/'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  prettier,
  ...svelte.configs.prettier,
  {
    languageOptions: { globals: { ...globals.browser, ...globals.node } },
    rules: {
      'no-undef': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'svelte/no-navigation-without-resolve': 'off',
      'no-restricted-imports': [
        'error',
        {
          name: '$app/navigation',
          importNames: ['invalidate', 'invalidateAll'],
          message: 'It gives up a way that somebody is on: use again() of net/going.'
        }
      ],
      'svelte/prefer-svelte-reactivity': 'off',
      'no-restricted-syntax': [
        'error',
        { selector: 'ExportAllDeclaration', message: 'No barrels: import from where it is made.' },
        { selector: 'ExportNamedDeclaration[source]', message: 'No barrels: import from where it is made.' }
      ]
    }
  },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { extraFileExtensions: ['.svelte'], parser: ts.parser, svelteConfig } }
  },
  { files: ['src/lib/ui/net/going.ts'], rules: { 'no-restricted-imports': 'off' } },
  { files: ['src/lib/core/**/*.ts'], ignores: ['**/*.test.ts'], rules: coreOnly }
);
