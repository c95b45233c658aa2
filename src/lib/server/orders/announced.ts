import type { z } from 'zod';
import type { Marking } from '../../core/catalogue/marking.ts';
import { hasSerials } from '../../core/catalogue/plan.ts';
import { numberKey, readNumber, shown } from '../../core/numbers/number.ts';
import { parseQuantity } from '../../core/quantity/quantity.ts';
import type { Actor } from '../kernel/actor.ts';
import { requireOrderRight } from './order-right.ts';
import { lockOpenOrder } from './lock-order.ts';
import type { Announcement } from './schemas.ts';
import { Problem, type FormError } from '../kernel/problem.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

type Lines = z.infer<typeof Announcement>['lines'];

/**
 * Keeps the numbers a supplier announced ahead for an order, in place of those announced before.
 * They are no marks yet: they become marks when they arrive and are ticked off.
 * @throws Problem 403, 404, 409 for an order that is closed, 422 with everything that is wrong
 */
export async function announce(
  sql: Sql,
  actor: Actor,
  number: string,
  { lines }: z.infer<typeof Announcement>
): Promise<{ announced: number }> {
  requireOrderRight(actor, 'purchase');
  return (await sql.begin(async (tx) => {
    const order = await lockOpenOrder(tx, 'purchase', number, 'numbers are announced for it');
    await keepAnnounced(tx, order.id, lines);
    return { announced: lines.reduce((sum, line) => sum + line.marks.length, 0) };
  })) as { announced: number };
}

/** The same within an order's own entry. @throws Problem 422 */
export async function keepAnnounced(tx: Tx, orderId: number, lines: Lines): Promise<void> {
  const known = new Map(
    (
      await tx<{ line: number; marking: Marking; code: string }[]>`
        SELECT l.line, p.marking, p.code
        FROM order_line l
          JOIN product p ON p.id = l.product_id
        WHERE l.order_id = ${orderId}
      `
    ).map((row) => [row.line, row])
  );
  const errors: FormError[] = [];
  const seen = new Set<string>();
  const rows = lines.flatMap(({ line, marks }, at) => {
    const product = known.get(line);
    if (!product) {
      errors.push({
        code: 'mark.unknown',
        path: `lines[${at}].line`,
        message: `The order has no line ${line}.`
      });
      return [];
    }
    return marks.map((mark, index) => {
      const path = `lines[${at}].marks[${index}]`;
      const number = hasSerials(product.marking) ? (mark.serial ?? mark.lot) : mark.lot;
      const reading = readNumber(number ?? '');
      const key = `${product.code} ${numberKey(number ?? '')}`;
      if (!reading.ok)
        errors.push({
          code: 'number.malformed',
          path,
          number: shown(number ?? ''),
          message: `An announced number of ${product.code} cannot be used: ${reading.why}.`
        });
      else if (seen.has(key))
        errors.push({
          code: 'mark.duplicate',
          path,
          number: reading.number,
          message: `${reading.number} of ${product.code} is announced twice. Take one out.`
        });
      seen.add(key);
      const amount = mark.quantity === undefined ? null : parseQuantity(mark.quantity);
      if (mark.quantity !== undefined && (amount === null || amount.lte(0)))
        errors.push({
          code: 'quantity.mismatch',
          path,
          number: shown(mark.quantity),
          message: `“${shown(mark.quantity)}” is no quantity above zero.`
        });
      return {
        line,
        lot: mark.lot?.trim() || null,
        serial: mark.serial?.trim() || null,
        quantity: amount?.toFixed() ?? null,
        expires: mark.expires ?? null,
        supplier: mark.supplierNumber || null
      };
    });
  });
  if (errors.length > 0)
    throw new Problem(422, 'The announced numbers cannot be kept like this', errors);
  await tx`DELETE FROM announced_number WHERE order_id = ${orderId}`;
  if (rows.length === 0) return;
  await tx`
    INSERT INTO announced_number (
      order_id, line, lot, serial, quantity, expires_on, supplier_number
    )
    SELECT ${orderId}::bigint, *
    FROM unnest(
      ${rows.map((row) => row.line)}::int[], ${rows.map((row) => row.lot)}::text[],
        ${rows.map((row) => row.serial)}::text[], ${rows.map((row) => row.quantity)}::numeric[],
        ${rows.map((row) => row.expires)}::date[], ${rows.map((row) => row.supplier)}::text[]
    )
  `;
}

interface Announced {
  line: number;
  lot: string | null;
  serial: string | null;
  quantity: string | null;
  expires: string | null;
  supplierNumber: string | null;
  arrived: boolean;
}

/**
 * What was announced for an order, in the order of announcing; arrived once a receipt of this order
 * brought the number in.
 */
export async function readAnnounced(db: Db, orderId: number): Promise<Announced[]> {
  const rows = await db<Announced[]>`
    SELECT a.line, a.lot, a.serial, a.quantity, a.expires_on AS expires,
      a.supplier_number AS "supplierNumber",
      EXISTS (
        SELECT
        FROM mark m
          JOIN movement v ON v.mark_id = m.id
          JOIN event e ON e.id = v.event_id
        WHERE m.product_id = l.product_id AND m.kind = CASE
          WHEN a.serial IS NULL THEN 'lot'
          ELSE 'serial'
          END AND m.number_key = upper(coalesce(a.serial, a.lot)) AND e.order_id = a.order_id
      ) AS arrived
    FROM announced_number a
      JOIN order_line l USING (order_id, line)
    WHERE a.order_id = ${orderId}
    ORDER BY a.id
  `;
  return rows.map((row) => ({
    ...row,
    quantity: row.quantity === null ? null : trimZeros(row.quantity)
  }));
}
