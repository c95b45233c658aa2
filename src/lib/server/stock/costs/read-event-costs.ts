import type { EventCost } from '../../../core/stock/costs/told.ts';
import type { Sql } from '../../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../../kernel/db/listed.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { carryCosts } from './carry-costs.ts';

/** Most marks an event's page lists. */
const MOST = 300;

/** What an event changed of costs by correcting them: the largest first. */
export async function readEventCosts(sql: Sql, event: number): Promise<Listed<EventCost>> {
  await carryCosts(sql);
  const rows = await sql<(EventCost & { total: number })[]>`
    SELECT m.id AS mark, m.number, p.code AS product, p.name, p.unit, n.lying,
      n.cost_before AS before, n.cost_after AS after, n.here, n.gone,
      count(*) OVER ()::int AS total
    FROM cost_entry n
      JOIN mark m ON m.id = n.mark_id
      JOIN product p ON p.id = m.product_id
    WHERE n.event_id = ${event}
    ORDER BY abs(coalesce(n.here, 0)) + abs(coalesce(n.gone, 0)) DESC, p.code, m.number_key
    LIMIT ${MOST}
  `;
  const plain = (text: string | null) => text && trimZeros(text);
  return mapListed(listed(rows), (row) => ({
    ...row,
    lying: trimZeros(row.lying),
    before: plain(row.before),
    after: plain(row.after),
    here: plain(row.here),
    gone: plain(row.gone)
  }));
}
