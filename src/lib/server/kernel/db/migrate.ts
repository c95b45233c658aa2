import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Sql } from './client.ts';
import { holdRights } from './hold-rights.ts';

/** Any constant will do; it only has to be the same in every Earmark that meets on one database. */
const MIGRATION_LOCK = 7_106_551_932;

export interface Migration {
  name: string;
  text: string;
}

/**
 * Reads the numbered `NNNN-name.sql` files of a folder, in order. Throws where a number is missing
 * or stands twice.
 */
export function migrationsIn(folder: string): Migration[] {
  const names = readdirSync(folder)
    .filter((name) => name.endsWith('.sql'))
    .sort();
  names.forEach((name, index) => {
    if (Number(name.slice(0, 4)) !== index + 1)
      throw new Error(
        `Migration ${name} should have number ${String(index + 1).padStart(4, '0')}.`
      );
  });
  return names.map((name) => ({ name, text: readFileSync(join(folder, name), 'utf8') }));
}

/**
 * Brings a database up to date: forward only, each migration in its own transaction, under an
 * advisory lock so that two servers starting at once do not both do it. Then everything is owned as
 * it should be. Needs the owner's rights.
 * @returns the names applied now, empty when there was nothing to do
 * @throws where the database holds a migration this version does not know (it was written by a
 * newer Earmark)
 */
export async function migrate(sql: Sql, migrations: readonly Migration[]): Promise<string[]> {
  const connection = await sql.reserve();
  try {
    await connection`SELECT pg_advisory_lock(${MIGRATION_LOCK}::bigint)`;
    await connection`
      CREATE TABLE IF NOT EXISTS migration (
        name text PRIMARY KEY, applied_at timestamptz NOT NULL DEFAULT now()
      )
    `;
    const applied = new Set(
      (await connection<{ name: string }[]>`SELECT name FROM migration`).map((row) => row.name)
    );
    const unknown = [...applied].filter(
      (name) => !migrations.some((migration) => migration.name === name)
    );
    if (unknown.length > 0) {
      throw new Error(
        `This database was last used by a newer Earmark (it knows ${unknown.join(', ')}). Start that version, or restore a backup.`
      );
    }
    const fresh = migrations.filter((migration) => !applied.has(migration.name));
    for (const { name, text } of fresh) {
      await connection.unsafe('BEGIN');
      try {
        await connection.unsafe(text);
        await connection`INSERT INTO migration (name) VALUES (${name})`;
        await connection.unsafe('COMMIT');
      } catch (error) {
        await connection.unsafe('ROLLBACK');
        throw new Error(`Migration ${name} failed and was undone: ${(error as Error).message}`, {
          cause: error
        });
      }
    }
    await holdRights(connection);
    return fresh.map((migration) => migration.name);
  } finally {
    await connection`SELECT pg_advisory_unlock(${MIGRATION_LOCK}::bigint)`.catch(() => {});
    connection.release();
  }
}
