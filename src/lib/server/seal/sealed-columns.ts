import { groupBy } from '../../core/group-by.ts';
import type { Db } from '../kernel/db/client.ts';
import { byJsonbOrder, type Column } from './copied-row.ts';
import { SEALED_TABLES } from './sealed-rows.ts';

/** The columns of every sealed table, in the order in which jsonb keeps them. */
export type SealedColumns = ReadonlyMap<string, readonly Column[]>;

export async function readSealedColumns(db: Db): Promise<SealedColumns> {
  const rows = await db<(Column & { table: string })[]>`
    SELECT c.relname AS table, a.attname AS name, coalesce(b.typname, t.typname) AS type
    FROM pg_attribute a
      JOIN pg_class c ON c.oid = a.attrelid
      JOIN pg_type t ON t.oid = a.atttypid
      LEFT JOIN pg_type b ON b.oid = t.typbasetype
    WHERE c.relnamespace = 'public'::regnamespace
      AND c.relname = ANY(${SEALED_TABLES as string[]})
      AND a.attnum > 0
      AND NOT a.attisdropped
  `;
  const byTable = groupBy(rows, ({ table }) => table);
  for (const list of byTable.values()) list.sort((a, b) => byJsonbOrder(a.name, b.name));
  return byTable;
}
