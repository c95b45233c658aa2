import { join, resolve } from 'node:path';
import { db, type Db, type Sql } from '../../kernel/db/client.ts';
import { TraceEngine, type EngineOptions } from './engine.ts';

const engines = new Map<string, TraceEngine>();

/**
 * A database by address and name: pools of one database share its engine, also when a broken pool
 * was replaced.
 */
function databaseOf(sql: Db): string {
  const { host, port, database } = (sql as Sql).options;
  return `${String(host)}:${String(port)}/${database}`;
}

/** The engine of a database; null where none was started. */
export const engineOf = (sql: Db): TraceEngine | null => engines.get(databaseOf(sql)) ?? null;

/**
 * Starts the engine of a database. It is asked from now on and answers as soon as it is ready:
 * `engine.start` tells when.
 */
export function startEngine(
  sql: Sql,
  options: EngineOptions
): { engine: TraceEngine; ready: Promise<void> } {
  const engine = new TraceEngine(options);
  engines.set(databaseOf(sql), engine);
  return { engine, ready: engine.start(sql) };
}

/** Ends the threads of every engine; at shutdown. */
export const stopEngines = async (): Promise<void> => {
  await Promise.all([...engines.values()].map((engine) => engine.stop()));
  engines.clear();
};
Object.assign(globalThis, { earmarkStopEngines: stopEngines });

export async function stopEngine(sql: Sql): Promise<void> {
  const engine = engineOf(sql);
  engines.delete(databaseOf(sql));
  await engine?.stop();
}

/**
 * The application's own engine, as its settings say: EARMARK_INDEX=off for none, EARMARK_INDEX_MB
 * for the most memory, EARMARK_INDEX_THREADS for its readers. The packed ledger is kept in
 * EARMARK_DATA.
 */
export function startApplicationEngine(): void {
  if (process.env.EARMARK_INDEX === 'off') return;
  const url = process.env.EARMARK_APP_URL ?? process.env.DATABASE_URL;
  if (!url) return;
  const number = (name: string): number | undefined => {
    const value = Number(process.env[name]);
    return Number.isFinite(value) && value > 0 ? value : undefined;
  };
  const megabytes = number('EARMARK_INDEX_MB'),
    threads = number('EARMARK_INDEX_THREADS');
  void startEngine(db(), {
    url,
    file: join(resolve(process.env.EARMARK_DATA ?? '.data'), 'index', 'genealogy.idx'),
    ...(megabytes ? { limit: megabytes * 1_048_576 } : {}),
    ...(threads ? { threads: Math.min(16, Math.ceil(threads)) } : {})
  }).ready;
}
