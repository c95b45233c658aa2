import type { Sql } from '../../kernel/db/client.ts';
import { readValueChanges } from '../../stock/costs/read-value-changes.ts';
import type { RecordsAsked, RecordsRead } from './asked.ts';

/** Gains, losses, scrap and revaluations mark by mark, the latest first. */
export async function readGains(
  sql: Sql,
  { from, to, q }: RecordsAsked,
  most: number
): Promise<RecordsRead> {
  const { rows, count } = await readValueChanges(sql, { from, to }, most, true);
  const said = rows.map((row) => ({
    ...{ event: String(row.event), mark: String(row.mark), day: row.day, kind: row.kind },
    ...{ document: row.document, product: row.product, number: row.number ?? '', unit: row.unit },
    ...{ quantity: row.quantity, amount: row.amount ?? 'not known', reason: row.reason ?? '' },
    ...{ by: row.by, approvedBy: row.approvedBy ?? '' }
  }));
  if (q === undefined) return { rows: said, total: count };
  const wanted = q.toLowerCase();
  const found = said.filter(({ document, product, number, by }) =>
    [document, product, number, by].some((text) => text.toLowerCase().includes(wanted))
  );
  return { rows: found, total: found.length };
}
