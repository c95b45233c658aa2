import type { z } from 'zod';
import {
  decideTransferOrder,
  type OrderedProduct
} from '../../../core/stock/decide-transfer-order.ts';
import { numberKey } from '../../../core/numbers/number.ts';
import type { Actor } from '../../kernel/actor.ts';
import { within, type Sql, type Tx } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { requireRight } from '../../kernel/rights.ts';
import { openTransfer } from './open-transfer.ts';
import type { TransferOrder } from './schemas.ts';
import { readTransferHead, type TransferHead } from './transfer-head.ts';

/**
 * Orders a transfer before anything of it leaves, or changes such an order that nothing has left
 * on.
 * @returns its document, and whether it was new
 * @throws Problem 403, 409 where something has left, 422 with everything that is wrong
 */
export async function orderTransfer(
  sql: Sql,
  actor: Actor,
  document: string,
  given: z.infer<typeof TransferOrder>
): Promise<{ document: string; created: boolean }> {
  requireRight(actor, 'book.move');
  return within(sql, async (tx) => {
    const head = await openTransfer(tx, actor, { document, from: given.from, to: given.to });
    await mustNotHaveLeft(tx, head);
    const products = await readProducts(tx, given.lines);
    const { lines, faults } = decideTransferOrder(given.lines, products);
    if (faults.length > 0)
      throw new Problem(422, 'The transfer cannot be ordered like this', faults);
    const created = await keepOrder(tx, actor, head, given);
    await tx`DELETE FROM transfer_line WHERE transfer_id = ${head.id}`;
    await tx`
      INSERT INTO transfer_line (transfer_id, line, product_id, quantity)
      SELECT ${head.id}::bigint, *
      FROM unnest(
        ${lines.map((_, index) => index + 1)}::int[],
          ${lines.map((line) => line.productId)}::bigint[],
          ${lines.map((line) => line.quantity)}::numeric[]
      )
    `;
    return { document: head.document, created };
  });
}

/**
 * Ends an order whose rest will not be sent, or opens it again. What left stands as it is.
 * @throws Problem 403, 404 where nothing was ordered
 */
export async function closeTransferOrder(
  sql: Sql,
  actor: Actor,
  document: string,
  closed: boolean
): Promise<void> {
  requireRight(actor, 'book.move');
  const head = await readTransferHead(sql, document);
  const [row] = await sql`
    UPDATE transfer_order
    SET closed_at = ${closed ? new Date() : null}
    WHERE transfer_id = ${head.id}
    RETURNING transfer_id
  `;
  if (row) return;
  const message = `${head.document} was sent without an order: there is nothing to close.`;
  throw new Problem(404, 'Nothing was ordered', [
    { code: 'transfer.unknown', path: 'document', number: head.document, message }
  ]);
}

async function mustNotHaveLeft(tx: Tx, head: TransferHead): Promise<void> {
  const [left] = await tx`
    SELECT FROM transfer_progress WHERE transfer_id = ${head.id} AND gone > 0 LIMIT 1
  `;
  if (!left) return;
  const message = `Something has left on ${head.document}, so what was ordered stands. Close it, and order the rest under another number.`;
  throw new Problem(409, 'Something has left on it', [
    { code: 'order.closed', path: 'document', number: head.document, message }
  ]);
}

/** @returns whether it was ordered for the first time */
async function keepOrder(
  tx: Tx,
  actor: Actor,
  { id }: TransferHead,
  { due, note }: z.infer<typeof TransferOrder>
): Promise<boolean> {
  const said = { due_on: due ?? null, note };
  const [changed] = await tx`
    UPDATE transfer_order SET ${tx(said)} WHERE transfer_id = ${id} RETURNING transfer_id
  `;
  if (changed) return false;
  await tx`
    INSERT INTO transfer_order ${tx({ ...said, transfer_id: id, ordered_by: actor.personId })}
  `;
  return true;
}

async function readProducts(
  tx: Tx,
  lines: readonly { product: string }[]
): Promise<Map<string, OrderedProduct>> {
  const rows = await tx<OrderedProduct[]>`
    SELECT id, code, unit, decimals
    FROM product
    WHERE upper(code) = ANY(${lines.map((line) => numberKey(line.product))})
  `;
  return new Map(rows.map((row) => [numberKey(row.code), row]));
}
