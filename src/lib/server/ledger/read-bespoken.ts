import { groupBy } from '../../core/group-by.ts';
import type { Wants } from '../../core/ledger/request.ts';
import { type Snapshot } from '../../core/ledger/snapshot.ts';
import { quantity } from '../../core/quantity/quantity.ts';
import type { Tx } from '../kernel/db/client.ts';
import { idList } from '../kernel/db/id-list.ts';
import { together } from '../kernel/db/together.ts';

/**
 * What of these marks is promised to orders and still counts, and what of them is in cartons that
 * have not left.
 */
export async function readBespoken(
  tx: Tx,
  ids: readonly number[],
  wants: Wants,
  at: Date
): Promise<Pick<Snapshot, 'promised' | 'packed'>> {
  const list = idList(ids);
  const rows =
    ids.length === 0
      ? { promised: [], packed: [] }
      : await together<{
          promised: { mark: number; order: string; partner: string | null; quantity: string };
          packed: { mark: number; sscc: string; quantity: string };
        }>(tx, {
          promised: !wants.promises
            ? null
            : tx`
              SELECT r.mark_id AS mark, o.number AS order, t.name AS partner, r.quantity::text
              FROM reservation r
                JOIN trade_order o ON o.id = r.order_id
                LEFT JOIN partner t ON t.id = o.partner_id
              WHERE r.mark_id = ANY(${list}::text::bigint[])
                AND o.closed_at IS NULL
                AND coalesce(r.until, 'infinity') >= ${at}::date
            `,
          packed: !wants.packed
            ? null
            : tx`
              SELECT c.mark_id AS mark, u.sscc, c.quantity::text
              FROM unit_content c
                JOIN logistic_unit u ON u.id = c.unit_id
              WHERE c.mark_id = ANY(${list}::text::bigint[]) AND c.quantity > 0 AND NOT c.shipped
              ORDER BY u.id
            `
        });
  const exact = <T extends { mark: number; quantity: string }>(of: readonly T[]) =>
    new Map(
      [...groupBy(of, (row) => row.mark)].map(([mark, some]) => [
        mark,
        some.map(({ mark: _, quantity: amount, ...row }) => ({
          ...row,
          quantity: quantity(amount)
        }))
      ])
    );
  return { promised: exact(rows.promised), packed: exact(rows.packed) };
}
