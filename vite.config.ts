import { sveltekit } from '@sveltejs/kit/vite';
import { defineConfig, type Plugin } from 'vite';
import { carbonSheet } from './scripts/carbon-sheet.mjs';

/** Carbon's sheet as it is sent: no fonts from elsewhere, and no rule for what is on no screen. */
function leanCarbonSheet(): Plugin {
  return {
    name: 'earmark-lean-carbon-sheet',
    enforce: 'pre',
    async transform(code, id) {
      if (!id.includes('carbon-components-svelte') || !id.split('?')[0]!.endsWith('.css')) return;
      return { code: await carbonSheet(code), map: null };
    }
  };
}

/**
 * What many screens share comes in few files: each is a request of its own, and fifty small ones
 * take longer than what is in them. What is asked for only when it is needed stays apart, and the
 * server's build is SvelteKit's own. `e2e/weight.spec.ts` holds how much a screen comes to.
 */
function fewChunks(): Plugin {
  const tags: ['$initial'] = ['$initial'];
  // What only sheets of the dock need is shared by several, and carried by no other screen.
  const test = /^(?!.*\/ui\/dock\/(DockNotes|LeftApart|dock-sheet)).*$/;
  const groups = [
    { name: 'frame', minShareCount: 20, priority: 2, tags },
    { name: 'shared', test, minShareCount: 4, priority: 1, tags }
  ];
  return {
    name: 'earmark-few-chunks',
    configEnvironment: (name) =>
      name === 'client'
        ? { build: { rolldownOptions: { output: { codeSplitting: { groups } } } } }
        : undefined
  };
}

export default defineConfig({
  plugins: [leanCarbonSheet(), fewChunks(), sveltekit()],
  build: { chunkSizeWarningLimit: 1500 }
});
