import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

/** The core must load on its own: only relative imports, and none that leaves it. */
const coreOnly = {
  'no-restricted-imports': [
    'error',
    {
      patterns: [
        { regex: '^[^.]', message: 'core imports only relative files: no package, no Node, no alias.' },
        {
          regex: '(^|/)\\.\\./.*(server|ui|workers|routes|standins|demo)/',
          message: 'core imports nothing above it.'
        }
      ]
    }
  ],
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
      'svelte/prefer-svelte-reactivity': 'off'
    }
  },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { extraFileExtensions: ['.svelte'], parser: ts.parser, svelteConfig } }
  },
  { files: ['src/lib/core/**/*.ts'], ignores: ['**/*.test.ts'], rules: coreOnly },
  {
    files: ['src/lib/ui/**/*.{ts,svelte}', 'src/lib/workers/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ regex: '(^|/|\\$)server(/|$)', message: 'ui never imports server.' }] }
      ]
    }
  }
);
