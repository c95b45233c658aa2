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
            regex:
              '^(?!(\\.{1,2}/|decimal\\.js$|date-fns$|d3-array$|d3-shape$|devalue$|@noble/(hashes|curves)/))',
            message: 'The core imports only itself and small pure packages.'
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
/**
 * Code is read more than written. What was longer before these rules came stands counted in
 * eslint-suppressions.json: nothing is added to it, and `npm run format` takes out what was mended.
 */
const manner = {
  files: ['{src,demo,bench,scripts,e2e}/**/*.{ts,mjs,svelte}'],
  rules: {
    'no-nested-ternary': 'error',
    'max-statements-per-line': ['error', { max: 1 }],
    'max-lines': ['error', { max: 300, skipBlankLines: true, skipComments: true }]
  }
};
/** Docks reach Earmark over plain http too, where a browser keeps this back. */
const plainHttp = {
  files: ['src/lib/ui/**/*.{ts,svelte}', 'src/routes/**/*.svelte'],
  rules: {
    'no-restricted-properties': [
      'error',
      {
        object: 'crypto',
        property: 'randomUUID',
        message: 'Missing on plain http beyond localhost: take newKey.'
      }
    ]
  }
};
/** Reading anew while somebody is on the way to another screen drops their click. */
const readAnew = {
  files: ['src/lib/ui/**/*.{ts,svelte}', 'src/routes/**/*.svelte'],
  ignores: ['src/lib/ui/frame/refresh.ts', 'src/lib/ui/testing/**'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        name: '$app/navigation',
        importNames: ['invalidate', 'invalidateAll'],
        message: 'It drops a click that is on its way: take refresh.'
      }
    ]
  }
};
const shortFunctions = {
  files: ['{src,demo,bench,scripts}/**/*.{ts,mjs}'],
  ignores: ['**/*.test.ts', '**/testing/**'],
  rules: {
    'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }]
  }
};
/** A component's styles and markup stand in the same file: its script is short instead. */
const shortComponents = {
  files: ['**/*.svelte'],
  rules: { 'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }] }
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
  { files: ['src/lib/ui/**/*.ts'], rules: { 'svelte/no-navigation-without-resolve': 'off' } },
  coreImportsOnlyItself,
  manner,
  plainHttp,
  readAnew,
  shortFunctions,
  shortComponents
);
