import cluster from 'node:cluster';
import { AggregatorRegistry, type Registry } from 'prom-client';

/** The first process answers within this time, or this one says what it knows itself. */
const PATIENCE_MS = 3_000;

/** Beside those of the library, which go the same way. */
interface Answer {
  metricsOfAll?: { id: number; text: string | null };
}

let asked = 0;
const waiting = new Map<number, (text: string | null) => void>();

/**
 * Has what a registry holds put together with that of the other processes that serve
 * (scripts/serve-many.mjs asks each of them).
 */
export function shareRegistry(registry: Registry): void {
  if (!cluster.isWorker) return;
  new AggregatorRegistry();
  AggregatorRegistry.setRegistries([registry]);
  process.on('message', ({ metricsOfAll: of }: Answer) => {
    if (of) waiting.get(of.id)?.(of.text);
  });
}

/** What all processes that serve have counted, as text; of this one where it is the only one. */
export async function metricsOfAll(registry: Registry): Promise<string> {
  const ofAll = cluster.isWorker ? await askFirst() : null;
  return ofAll ?? (await registry.metrics());
}

async function askFirst(): Promise<string | null> {
  const id = ++asked;
  const answer = new Promise<string | null>((done) => {
    waiting.set(id, done);
    setTimeout(() => done(null), PATIENCE_MS).unref();
  });
  process.send!({ metricsOfAll: { id } });
  return answer.finally(() => waiting.delete(id));
}
