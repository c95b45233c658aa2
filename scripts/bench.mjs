// `npm run bench`: bundles the benchmarks as the application is bundled, so that what is measured
// is what runs, and runs them.
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { build } from 'vite';

process.chdir(join(dirname(fileURLToPath(import.meta.url)), '..'));
await build({ configFile: 'vite.threads.config.ts', logLevel: 'warn' });
await build({
  configFile: false,
  logLevel: 'warn',
  build: {
    ssr: 'bench/run.ts',
    outDir: 'build/bench',
    emptyOutDir: true,
    target: 'node20',
    rollupOptions: { output: { entryFileNames: 'run.js' } }
  }
});
process.env.EARMARK_THREADS = resolve('build/threads');
await import(pathToFileURL(resolve('build/bench/run.js')).href);
