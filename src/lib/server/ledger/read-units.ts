import { groupBy } from '../../core/group-by.ts';
import { readSscc } from '../../core/gs1/sscc.ts';
import type { KnownUnit, Sale } from '../../core/ledger/snapshot.ts';
import { quantity } from '../../core/quantity/quantity.ts';
import type { Tx } from '../kernel/db/client.ts';

/** Cartons are locked by a part of their number: thousands of locks are more than the database has. */
const LOCKS = 256;

/**
 * Cartons and pallets by SSCC with what is in them, those on a pallet named included. Locked in the
 * order of their ids, so that two who pack or ship the same unit wait for each other.
 */
export async function readUnits(
  tx: Tx,
  named: readonly string[],
  lock: boolean
): Promise<Map<string, KnownUnit>> {
  const ssccs = [...new Set(named.flatMap((text) => readSscc(text) ?? []))];
  if (ssccs.length === 0) return new Map();
  const ids = (
    await tx<{ id: number }[]>`
      SELECT id
      FROM logistic_unit
      WHERE sscc = ANY(${ssccs})
      UNION
      SELECT p.child_id
      FROM unit_on_pallet p
        JOIN logistic_unit u ON u.id = p.pallet_id
      WHERE u.sscc = ANY(${ssccs})
      ORDER BY 1
    `
  ).map((row) => row.id);
  if (lock)
    await tx`
      SELECT pg_advisory_xact_lock(hashtextextended('unit ' || bucket, 0))
      FROM (
        SELECT DISTINCT id % ${LOCKS} AS bucket FROM unnest(${ids}::bigint[]) AS id ORDER BY 1
      ) u
    `;
  const [units, contents] = await Promise.all([
    tx<
      {
        id: number;
        sscc: string;
        kind: KnownUnit['kind'];
        order: string | null;
        shipped: string | null;
        pallet: string | null;
        cartons: string[];
      }[]
    >`
      SELECT u.id, u.sscc, u.kind, o.number AS order, e.document AS shipped, b.sscc AS pallet,
        ARRAY(
          SELECT c.sscc
          FROM unit_on_pallet x
            JOIN logistic_unit c ON c.id = x.child_id
          WHERE x.pallet_id = u.id
          ORDER BY c.id
        ) AS cartons
      FROM logistic_unit u
        LEFT JOIN trade_order o ON o.id = u.order_id
        LEFT JOIN unit_out s ON s.unit_id = u.id
        LEFT JOIN event e ON e.id = s.event_id
        LEFT JOIN unit_on_pallet p ON p.child_id = u.id
        LEFT JOIN logistic_unit b ON b.id = p.pallet_id
      WHERE u.id = ANY(${ids})
    `,
    tx<{ unit: number; mark: number; quantity: string }[]>`
      SELECT unit_id AS unit, mark_id AS mark, quantity
      FROM unit_content
      WHERE unit_id = ANY(${ids}) AND quantity > 0
      ORDER BY mark_id
    `
  ]);
  const inside = groupBy(contents, (row) => row.unit);
  return new Map(
    units.map((unit) => [
      unit.sscc,
      {
        ...unit,
        contents: new Map(
          (inside.get(unit.id) ?? []).map((row) => [row.mark, quantity(row.quantity)])
        )
      }
    ])
  );
}

/**
 * To whom these marks were shipped and how much of it they still have, the latest shipment first.
 */
export async function readSales(tx: Tx, ids: readonly number[]): Promise<Map<number, Sale[]>> {
  if (ids.length === 0) return new Map();
  const rows = await tx<
    {
      mark: number;
      event: number;
      document: string;
      day: string;
      partner: string | null;
      partner_id: number | null;
      quantity: string;
    }[]
  >`
    SELECT s.mark_id AS mark, s.event_id AS event, e.document, e.happened_at::date AS day,
      t.name AS partner, e.partner_id, s.quantity
    FROM sold s
      JOIN event e ON e.id = s.event_id
      LEFT JOIN partner t ON t.id = e.partner_id
    WHERE s.mark_id = ANY(${ids as number[]})
    ORDER BY e.happened_at DESC, e.id DESC
  `;
  return new Map(
    [...groupBy(rows, (row) => row.mark)].map(([mark, list]) => [
      mark,
      list.map((row) => ({
        event: row.event,
        document: row.document,
        day: row.day,
        partner: row.partner,
        partnerId: row.partner_id,
        quantity: quantity(row.quantity)
      }))
    ])
  );
}
