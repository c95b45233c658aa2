import type { Tx } from '../src/lib/server/kernel/db/client.ts';

/** Tables of the ledger that get millions of rows. */
export const LEDGER_TABLES = [
  'mark',
  'movement',
  'transformation',
  'transformation_input',
  'transformation_output',
  'stock',
  'event'
];

/**
 * Runs the work without foreign keys, triggers and the indexes that hold no law on the tables named,
 * and puts all back behind it: what was written is checked by them then.
 */
export async function withoutChecks(
  sql: Tx,
  tables: readonly string[],
  work: () => Promise<void>
): Promise<void> {
  const keys = await sql<{ table: string; name: string; def: string }[]>`
    SELECT conrelid::regclass::text AS table, conname AS name, pg_get_constraintdef(oid) AS def
    FROM pg_constraint
    WHERE contype = 'f' AND conrelid::regclass::text = ANY(${tables as string[]})
  `;
  const indexes = await sql<{ name: string; def: string }[]>`
    SELECT i.indexrelid::regclass::text AS name, pg_get_indexdef(i.indexrelid) AS def
    FROM pg_index i
    WHERE i.indrelid::regclass::text = ANY(${tables as string[]})
      AND NOT EXISTS (SELECT FROM pg_constraint c WHERE c.conindid = i.indexrelid)
  `;
  for (const { table, name } of keys)
    await sql.unsafe(`ALTER TABLE ${table} DROP CONSTRAINT ${name}`);
  for (const { name } of indexes) await sql.unsafe(`DROP INDEX ${name}`);
  for (const table of tables) await sql.unsafe(`ALTER TABLE ${table} DISABLE TRIGGER USER`);
  await work();
  await sql`SET LOCAL maintenance_work_mem = '1GB'`;
  for (const { def } of indexes) await sql.unsafe(def);
  for (const table of tables) await sql.unsafe(`ALTER TABLE ${table} ENABLE TRIGGER USER`);
  for (const { table, name, def } of keys)
    await sql.unsafe(`ALTER TABLE ${table} ADD CONSTRAINT ${name} ${def}`);
}
