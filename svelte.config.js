import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  kit: {
    adapter: adapter({ precompress: true }),
    // SvelteKit adds a nonce for its own inline start-up script; nothing else may run inline.
    csp: {
      mode: 'nonce',
      directives: {
        'default-src': ['self'],
        'script-src': ['self'],
        // Components position windowed rows and drawings with style attributes; scripts stay strict.
        'style-src': ['self', 'unsafe-inline'],
        'img-src': ['self', 'data:'],
        'font-src': ['self'],
        'connect-src': ['self'],
        'worker-src': ['self'],
        'object-src': ['none'],
        'base-uri': ['none'],
        'form-action': ['self'],
        'frame-ancestors': ['none']
      }
    },
    // Only a device of the dock has it: src/lib/ui/dock/worker.ts starts it there.
    serviceWorker: { register: false },
    // SvelteKit's own check looks at forms only, bearer or not; hooks.server.ts checks every changing request that
    // comes with a cookie, whatever its method and content type (see sameOrigin there).
    csrf: { trustedOrigins: ['*'] }
  }
};
