import type { Actor } from '../src/lib/server/kernel/actor.ts';
import { putCompany } from '../src/lib/server/catalogue/company.ts';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';
import { book } from '../src/lib/server/ledger/book.ts';
import { revalue } from '../src/lib/server/stock/kinds.ts';
import { carryCosts } from '../src/lib/server/stock/costs/carry-costs.ts';

/** What one costs by the suppliers’ price lists, in pounds, of the unit it is ordered in. */
export const PRICES: Readonly<Record<string, string>> = {
  'FAB-210': '11.40',
  'WEB-40': '0.85',
  'CYL-33': '2.35',
  'BOB-S': '0.62',
  'BOB-S pack': '58',
  'HEAD-A': '9.80',
  'GLU-2': '31.50',
  BKL: '1.15',
  TUBE: '0.74',
  SEAL: '18.60'
};

/** What making one costs beside its parts: the work at the bench. */
export const ADDED: Readonly<Record<string, string>> = {
  PNL: '4.20',
  BLD: '6.50',
  INF: '3.10',
  TN150: '12.80',
  TN275: '16.40',
  'RK-1': '0.60',
  'RK-6': '2.40',
  PATCH: '0.30'
};

/**
 * Costs in the demo: kept in pounds, and one delivery of heads whose freight was billed after it had
 * come, when some of it had been built in and shipped.
 */
export async function seedCosts(
  sql: Sql,
  actors: ReadonlyMap<string, Actor>,
  now: Date
): Promise<void> {
  const wilf = actors.get('wilf')!;
  const [company] = await sql<{ name: string; gs1Prefix: string; address: string }[]>`
    SELECT name, gs1_prefix AS "gs1Prefix", address FROM company
  `;
  await putCompany(sql, wilf, { ...company!, currency: 'GBP' });
  const [heads] = await sql<{ id: number; document: string }[]>`
    SELECT e.id, e.document
    FROM event e
      JOIN movement v ON v.event_id = e.id AND v.quantity > 0
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id AND p.code = 'HEAD-A'
    WHERE e.kind = 'receive' AND e.happened_at < ${now}::timestamptz - interval '20 days'
    ORDER BY e.happened_at DESC, e.id DESC
    LIMIT 1
  `;
  await book(sql, revalue, wilf, 'demo costs 1', {
    document: heads!.document,
    reason: 'Air freight and duty, billed by the carrier after delivery.',
    receipt: heads!.id,
    lines: [],
    landed: { amount: '86.40', by: 'value' },
    at: now.toISOString()
  });
  await carryCosts(sql);
}
