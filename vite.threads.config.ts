import { defineConfig } from 'vite';

/**
 * Threads, of the trace engine and for what comes in as a file: Node.js starts each from a file of
 * its own, so they are bundled apart from the application.
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
        reader: 'src/lib/server/trace/engine/reader-thread.ts',
        papers: 'src/lib/server/papers-thread.ts',
        files: 'src/lib/server/files-thread.ts',
        lines: 'src/lib/server/kernel/tables/lines-thread.ts'
      },
      output: { entryFileNames: '[name].js' }
    }
  }
});
