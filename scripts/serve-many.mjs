// Several processes that serve on one port and one database; one that dies is replaced, and all of
// them are, one after the other, where that is asked for.
import cluster from 'node:cluster';
import { resolve } from 'node:path';
import { AggregatorRegistry } from 'prom-client';

/** What was asked before is answered, then the process goes. */
const PATIENCE_MS = 5_000;
/** While others serve there is time for whoever keeps a connection open: longer than it is kept. */
const GENTLE_PATIENCE_MS = 35_000;
/** So many that die so soon after they began mean that none will ever live. */
const MOST_DEATHS = 5;
const SOON_MS = 10_000;

/** @returns {Promise<import('node:cluster').Worker>} once it serves */
function oneMore() {
  const worker = cluster.fork();
  return new Promise((done, fail) => {
    worker.once('exit', () => fail(new Error('A process that serves did not come up.')));
    worker.on('message', ({ serving }) => {
      if (serving) done(worker);
    });
  });
}

const ended = (worker) => new Promise((done) => worker.once('exit', done));

/** Ends a process, and waits until it is gone. */
async function endOne(worker, how) {
  if (worker.isDead()) return;
  worker.isMeantToEnd = true;
  worker.send({ end: how }, () => {});
  await ended(worker);
}

/** Asks all processes for what they count. */
const registry = new AggregatorRegistry();

/** What is measured, of all processes together, for one that is asked for it. */
async function answerMetrics(worker, id) {
  const text = await registry.clusterMetrics().catch((error) => {
    console.error('The figures of all processes could not be put together.', error);
    return null;
  });
  if (!worker.isDead()) worker.send({ metricsOfAll: { id, text } }, () => {});
}
/**
 * Serves by several processes, which take their settings from the environment.
 * @param {{ processes: number, port: number, host: string, gaveUp: () => void }} options `gaveUp` is
 * called where they die as soon as they begin
 * @returns {Promise<{ end: () => Promise<void>, replace: () => void }>} `replace` has them replaced
 * one after the other
 */
export async function serveMany({ processes, port, host, gaveUp }) {
  Object.assign(process.env, { PORT: String(port), HOST: host });
  cluster.setupPrimary({ exec: resolve('scripts/worker.mjs') });
  let isEnding = false;
  let deaths = 0;
  const living = () => Object.values(cluster.workers);

  cluster.on('message', (worker, { metricsOfAll }) => {
    if (metricsOfAll) void answerMetrics(worker, metricsOfAll.id);
  });
  cluster.on('exit', (worker) => {
    if (isEnding || worker.isMeantToEnd) return;
    console.error('A process that served is gone; another takes its place.');
    deaths += 1;
    setTimeout(() => {
      deaths -= 1;
    }, SOON_MS).unref();
    if (deaths >= MOST_DEATHS) return gaveUp();
    oneMore().catch(() => {});
  });

  let replacing = Promise.resolve();
  const replaceAll = async () => {
    for (const old of living()) {
      if (isEnding) return;
      await oneMore();
      await endOne(old, { patienceMs: GENTLE_PATIENCE_MS, gently: true });
    }
    console.log('All processes were replaced.');
  };

  await Promise.all(Array.from({ length: processes }, oneMore));
  return {
    replace() {
      replacing = replacing.then(replaceAll).catch((error) => console.error(error.message));
    },
    async end() {
      isEnding = true;
      await Promise.all(living().map((worker) => endOne(worker, { patienceMs: PATIENCE_MS })));
    }
  };
}
