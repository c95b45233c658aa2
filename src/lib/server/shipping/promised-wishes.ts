import { Faults, type Reasons, type Remark } from '../../core/faults/fault.ts';
import { codeKey, type KnownProduct } from '../../core/ledger/snapshot.ts';
import { tellWishes, type Going } from '../../core/shipping/tell-wishes.ts';
import { limitsFor, readSpecs } from '../catalogue/specs.ts';
import { readVerdicts } from '../catalogue/verdicts.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Tx } from '../kernel/db/client.ts';
import { expiryOf } from '../kernel/db/what-counts.ts';
import { readProducts } from '../ledger/read-products.ts';
import { readWishesOf } from '../ledger/read-wishes.ts';
import { readApproved, readGrantedBefore } from '../people/approvals.ts';

/** A mark that is to be promised to a line of an order. */
interface Promised {
  path: string;
  mark: number;
  number: string;
  /** Code of its product. */
  product: string;
}

interface GoingOn {
  day: string;
  reasons?: Reasons | undefined;
  approvals?: readonly string[] | undefined;
}

/**
 * What of a promise the customer does not wish, each answered by its plan.
 * @returns the faults that stop it, and what it went on in spite of
 */
export async function checkWishes(
  tx: Tx,
  actor: Actor,
  order: { id: number; number: string },
  rows: readonly Promised[],
  { day, reasons, approvals }: GoingOn
): Promise<Faults> {
  const [partner] = await tx<{ code: string }[]>`
    SELECT t.code
    FROM trade_order o
      JOIN partner t ON t.id = o.partner_id
    WHERE o.id = ${order.id}
  `;
  if (!partner || rows.length === 0) return new Faults();
  const products = await readProducts(
    tx,
    rows.map((row) => row.product)
  );
  const wishes = await readWishesOf(tx, partner.code, products);
  if (wishes.size === 0) return new Faults();
  const [going, before, approved] = await Promise.all([
    readGoing(tx, rows, products, partner.code),
    readGrantedBefore(tx, order.id),
    readApproved(tx, actor, { document: order.number, approvals: approvals ?? [] }, true)
  ]);
  const faults = new Faults(reasons, [...before, ...approved]);
  tellWishes(going, wishes, day, faults);
  return faults;
}

async function readGoing(
  tx: Tx,
  rows: readonly Promised[],
  products: ReadonlyMap<string, KnownProduct>,
  customer: string
): Promise<Going[]> {
  const ids = rows.map((row) => row.mark);
  const [marks, specs] = await Promise.all([
    tx<{ id: number; serial: boolean; lot: string | null; expires: string | null }[]>`
      SELECT m.id, m.kind = 'serial' AS serial,
        CASE WHEN m.kind = 'lot' THEN m.number ELSE l.number END AS lot,
        ${expiryOf(tx)} AS expires
      FROM mark m
        LEFT JOIN mark l ON l.id = m.lot_id
      WHERE m.id = ANY(${ids})
    `,
    readSpecs(
      tx,
      rows.map((row) => row.product)
    )
  ]);
  const verdicts = await readVerdicts(
    tx,
    rows.map((row) => ({ id: row.mark, spec: limitsFor(specs, row.product, customer) }))
  );
  const byId = new Map(marks.map((mark) => [mark.id, mark]));
  return rows.map((row): Going => {
    const mark = byId.get(row.mark)!;
    return {
      product: products.get(codeKey(row.product))!,
      name: `${mark.serial ? 'Serial' : 'Lot'} ${row.number}`,
      number: row.number,
      lot: mark.lot,
      expires: mark.expires,
      untested: verdicts.get(row.mark)?.verdict === 'untested',
      path: row.path
    };
  });
}

/** Keeps what a promise went on in spite of: what is booked for the order later goes on by it. */
export async function keepRemarks(
  tx: Tx,
  actor: Actor,
  orderId: number,
  remarks: readonly Remark[]
): Promise<void> {
  if (remarks.length === 0) return;
  const column = <K extends keyof Remark>(name: K) => remarks.map((remark) => remark[name]);
  await tx`
    INSERT INTO promise_remark (
      order_id, promised_by, code, answer, number, message, reason, approval_id
    )
    SELECT ${orderId}::bigint, ${actor.personId}::bigint, t.*
    FROM unnest(
      ${column('code')}::text[], ${column('answer')}::text[], ${column('number')}::text[],
        ${column('message')}::text[], ${column('reason')}::text[], ${column('approval')}::bigint[]
    ) AS t (code, answer, number, message, reason, approval_id)
    WHERE NOT EXISTS (
      SELECT
      FROM promise_remark r
      WHERE r.order_id = ${orderId}
        AND (r.code, r.answer, r.number, r.message, r.reason, r.approval_id)
          IS NOT DISTINCT FROM (t.code, t.answer, t.number, t.message, t.reason, t.approval_id)
    )
  `;
}
