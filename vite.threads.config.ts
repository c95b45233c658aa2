import { defineConfig } from 'vite';

/**
 * The threads of the trace engine: Node.js starts each from a file of its own, so they are bundled
 * apart from the application.
 */
export default defineConfig({
  build: {
    ssr: true,
    outDir: 'build/threads',
    emptyOutDir: true,
    target: 'node20',
    rollupOptions: {
      input: {
        loader: 'src/lib/server/trace/engine/loader-thread.ts',
        reader: 'src/lib/server/trace/engine/reader-thread.ts'
      },
      output: { entryFileNames: '[name].js' }
    }
  }
});
