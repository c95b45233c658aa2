import { sveltekit } from '@sveltejs/kit/vite';
import { defineConfig, type Plugin } from 'vite';

/**
 * Carbon's sheet names fonts on a CDN; Earmark ships its own, and no request may leave the machine.
 */
function withoutRemoteFonts(): Plugin {
  return {
    name: 'earmark-without-remote-fonts',
    enforce: 'pre',
    transform(code, id) {
      if (!id.includes('carbon-components-svelte') || !id.split('?')[0]!.endsWith('.css')) return;
      return { code: code.replace(/@font-face\s*\{[^}]*\}/g, ''), map: null };
    }
  };
}

export default defineConfig({
  plugins: [withoutRemoteFonts(), sveltekit()],
  build: { chunkSizeWarningLimit: 1500 }
});
