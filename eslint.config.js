import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

/** The core knows the trade and nothing of machines: it may import only itself and small pure packages. */
const coreImportsOnlyItself = {
  files: ['src/lib/core/**/*.ts'],
  ignores: ['src/lib/core/**/*.test.ts', 'src/lib/core/**/testing/**'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            regex: '^(?!(\\.{1,2}/|decimal\\.js$|date-fns$|d3-shape$))',
            message: 'The core imports only itself and small pure packages.'
          },
          {
            regex: '(server|ui|routes)/',
            message: 'Arrows point one way: routes → ui, server → core.'
          }
        ]
      }
    ],
    'no-restricted-globals': ['error', 'process', 'fetch', 'window', 'document', 'setTimeout'],
    'no-restricted-syntax': [
      'error',
      {
        selector: "NewExpression[callee.name='Date'][arguments.length=0]",
        message: 'The core has no clock: take the instant as an argument.'
      },
      {
        selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']",
        message: 'The core has no clock: take the instant as an argument.'
      }
    ]
  }
};
const uiKnowsNoServer = {
  files: ['src/lib/ui/**/*.{ts,svelte}'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { regex: '\\$lib/server|/server/', message: 'The interface never imports the server.' }
        ]
      }
    ]
  }
};
const serverKnowsNoScreens = {
  files: ['src/lib/server/**/*.ts'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { regex: '/ui/|\\$lib/ui|/routes/', message: 'The server never imports the interface.' }
        ]
      }
    ]
  }
};

export default ts.config(
  { ignores: ['build/', '.svelte-kit/', 'node_modules/', '.data/', 'test-results/'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  { languageOptions: { globals: { ...globals.browser, ...globals.node } } },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: {
      parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'], svelteConfig }
    },
    // The application is always served from the root of its host.
    // Maps and Sets here are made anew inside a derivation and never changed after it.
    rules: {
      'svelte/no-navigation-without-resolve': 'off',
      'svelte/prefer-svelte-reactivity': 'off'
    }
  },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }
      ],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-undef': 'off'
    }
  },
  coreImportsOnlyItself,
  uiKnowsNoServer,
  serverKnowsNoScreens
);
