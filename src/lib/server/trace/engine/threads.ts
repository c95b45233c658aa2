import { Worker } from 'node:worker_threads';

/**
 * Starts a thread of the engine. In the built application its file is the one that `npm run build`
 * bundled (EARMARK_THREADS, set by scripts/start.mjs); from sources (tests, bench) tsx reads it.
 */
export function startThread(name: 'loader' | 'reader', data: unknown): Worker {
  const built = process.env.EARMARK_THREADS;
  if (built) return new Worker(`${built}/${name}.js`, { workerData: data });
  const source = new URL(`./${name}-thread.ts`, import.meta.url).href;
  return new Worker(
    `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(source)}); })`,
    { eval: true, workerData: data }
  );
}
