/**
 * The house's arrows (docs and reasons: CONTRIBUTING.md). Layers: routes → ui | server → core.
 * Within a layer a word may import itself and what stands before it in its list; no file is part of
 * a circle, not even by its types.
 */
const CORE = [
  'group-by.ts',
  'in-turn.ts',
  'is-object.ts',
  'topics.ts',
  'quantity',
  'calendar',
  'gs1',
  'numbers',
  'tables',
  'labels',
  'people',
  'faults',
  'catalogue',
  'ledger',
  'quality',
  'stock',
  'receiving',
  'making',
  'shipping',
  'service',
  'papers',
  'trace',
  'recall',
  'exchange',
  'seal',
  'hooks',
  'operating',
  'finding'
];
const SERVER = [
  'kernel',
  'people',
  'catalogue',
  'ledger',
  'stock',
  'orders',
  'receiving',
  'making',
  'shipping',
  'service',
  'trace',
  'quality',
  'recall',
  'exchange',
  'seal',
  'hooks',
  'operating',
  'frame',
  'kinds.ts',
  'imports.ts',
  'papers-thread.ts',
  'files-thread.ts',
  'files-apart.ts',
  'http'
];
const TESTS = '\\.test\\.ts$|/testing/';

/** One rule for each word but the last: it imports none of those after it. */
const inOrder = (layer, words) =>
  words.slice(0, -1).map((word, at) => ({
    name: `${layer}: ${word} stands below what follows it`,
    severity: 'error',
    from: { path: `^src/lib/${layer}/${word}(/|$)`, pathNot: TESTS },
    to: { path: `^src/lib/${layer}/(${words.slice(at + 1).join('|')})(/|$)` }
  }));

/** A folder that is in no list would be held by no rule. */
const onlyTheseWords = (layer, words) => ({
  name: `${layer}: only the words of the house`,
  severity: 'error',
  from: {
    path: `^src/lib/${layer}/(?!(${words.join('|')})(/|$)|testing/)`,
    pathNot: TESTS
  },
  to: {}
});

export default {
  forbidden: [
    { name: 'no circles', severity: 'error', from: {}, to: { circular: true } },
    ...inOrder('core', CORE),
    ...inOrder('server', SERVER),
    onlyTheseWords('core', CORE),
    onlyTheseWords('server', SERVER),
    {
      name: 'the core imports only itself',
      severity: 'error',
      from: { path: '^src/lib/core/' },
      to: { path: '^src/(lib/(server|ui)|routes)/' }
    },
    {
      name: 'the interface knows no server and no screen',
      severity: 'error',
      from: { path: '^src/lib/ui/' },
      to: { path: '^src/(lib/server|routes)/' }
    },
    {
      name: 'the server knows no interface and no screen',
      severity: 'error',
      from: { path: '^src/lib/server/' },
      to: { path: '^src/(lib/ui|routes)/' }
    },
    {
      name: 'nothing but tests imports what helps tests',
      severity: 'error',
      from: { path: '^src/', pathNot: TESTS },
      to: { path: '/testing/' }
    }
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '^(build|\\.svelte-kit|node_modules)/|\\$types' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.arrows.json' },
    enhancedResolveOptions: { extensions: ['.ts', '.svelte', '.mjs', '.js'] }
  }
};
