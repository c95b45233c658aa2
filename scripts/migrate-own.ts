import { fileURLToPath } from 'node:url';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';
import { migrate, migrationsIn } from '../src/lib/server/kernel/db/migrate.ts';

const MIGRATIONS = fileURLToPath(
  new URL('../src/lib/server/kernel/db/migrations/', import.meta.url)
);

/** Brings a database up to this Earmark. @returns what was applied */
export const migrateOwn = (sql: Sql): Promise<string[]> => migrate(sql, migrationsIn(MIGRATIONS));
