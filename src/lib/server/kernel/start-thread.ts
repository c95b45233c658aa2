import { Worker, type ResourceLimits } from 'node:worker_threads';

/**
 * Starts a thread of its own file. In the built application that is the one `npm run build` bundled
 * under its name (EARMARK_THREADS, set by scripts/start.mjs); from sources (tests, bench) tsx reads
 * it.
 * @param source the thread's file, as its URL
 * @param data what it begins with
 */
export function startThread(
  name: string,
  source: URL,
  data: unknown,
  resourceLimits?: ResourceLimits
): Worker {
  const built = process.env.EARMARK_THREADS;
  const options = { workerData: data, ...(resourceLimits ? { resourceLimits } : {}) };
  if (built) return new Worker(`${built}/${name}.js`, options);
  return new Worker(
    `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(source.href)}); })`,
    { eval: true, ...options }
  );
}
