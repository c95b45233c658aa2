import type { TransferLine } from '../../../core/stock/transfer-line.ts';
import type { Db } from '../../kernel/db/client.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import type { TransferHead } from './transfer-head.ts';

/** What was ordered ahead of a transfer. */
export interface OrderedTransfer {
  due: string | null;
  note: string;
  closed: boolean;
  lines: TransferLine[];
}

/** What was ordered of a transfer; null where it was sent without an order. */
export async function readTransferOrder(
  db: Db,
  { id }: TransferHead
): Promise<OrderedTransfer | null> {
  const [order] = await db<Omit<OrderedTransfer, 'lines'>[]>`
    SELECT due_on AS due, note, closed_at IS NOT NULL AS closed
    FROM transfer_order
    WHERE transfer_id = ${id}
  `;
  if (!order) return null;
  const lines = await db<TransferLine[]>`
    SELECT n.line, p.code AS product, p.name, p.unit, n.quantity,
      coalesce(g.gone, 0) AS gone, coalesce(g.arrived, 0) AS arrived,
      greatest(n.quantity - coalesce(g.gone, 0), 0) AS left
    FROM transfer_line n
      JOIN product p ON p.id = n.product_id
      LEFT JOIN transfer_progress g
        ON g.transfer_id = n.transfer_id AND g.product_id = n.product_id
    WHERE n.transfer_id = ${id}
    ORDER BY n.line
  `;
  return { ...order, lines: lines.map(trimmed) };
}

const trimmed = (line: TransferLine): TransferLine => ({
  ...line,
  quantity: trimZeros(line.quantity),
  gone: trimZeros(line.gone),
  arrived: trimZeros(line.arrived),
  left: trimZeros(line.left)
});
