import type { ScopeRow } from '../../core/recall/standing.ts';
import type { Balance } from '../../core/trace/mass-balance.ts';
import type { Db, Tx } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { reachInTime } from '../trace/trace-by-sql.ts';
import { reachedScope } from '../trace/trace.ts';

/** The mass balance of a suspect; decimal strings in its unit. */
export type SuspectBalance = Balance & { mark: number };

/** Where the goods of these marks are now, at customers and here; the marks themselves included. */
export async function liveScope(
  db: Db,
  suspects: readonly number[],
  beyondTime: boolean
): Promise<{
  marks: number[];
  /** What time cleared: marks, and who got of them or before. */
  cleared: { marks: number; customers: number };
  balances: SuspectBalance[];
  customers: (ScopeRow & { partnerId: number })[];
  here: { mark: number; placeId: number; quantity: string }[];
}> {
  // Within a booking's transaction its own snapshot decides, and only SQL reads that.
  const cut = beyondTime ? { clocks: 'ignore' as const } : {};
  const { marks, cleared, clearedMarks, balances } =
    'savepoint' in db
      ? await reachInTime(db as Tx, suspects, 'downstream', cut)
      : await reachedScope(db, suspects, cut);
  // What left before any of it came is with its customers, and they have none of it.
  const clear = new Set(cleared.map((end) => `${end.mark} ${end.event}`));
  const [customers, here] = await Promise.all([
    db<(ScopeRow & { partnerId: number })[]>`
      SELECT t.code AS partner, t.id AS "partnerId", s.mark_id AS mark, s.event_id AS event,
        p.unit, s.quantity, '0' AS back
      FROM sold s
        JOIN event e ON e.id = s.event_id
        JOIN partner t ON t.id = e.partner_id
        JOIN mark m ON m.id = s.mark_id
        JOIN product p ON p.id = m.product_id
      WHERE s.mark_id = ANY(${marks}) AND s.quantity > 0
      ORDER BY t.code, s.event_id, s.mark_id
    `,
    db<{ mark: number; placeId: number; quantity: string }[]>`
      SELECT mark_id AS mark, place_id AS "placeId", quantity
      FROM stock
      WHERE mark_id = ANY(${marks}) AND quantity > 0
      ORDER BY place_id, mark_id
    `
  ]);
  return {
    marks,
    balances,
    cleared: { marks: clearedMarks, customers: new Set(cleared.map((end) => end.partner)).size },
    customers: customers
      .filter((row) => !clear.has(`${row.mark} ${row.event}`))
      .map((row) => ({ ...row, quantity: trimZeros(row.quantity) })),
    here: here.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }))
  };
}
