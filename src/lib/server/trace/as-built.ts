import { expiryOf, stateOf } from '../kernel/db/what-counts.ts';
import { asBuilt, type AsBuilt, type BuiltMark, type Making } from '../../core/making/as-built.ts';
import { groupBy } from '../../core/group-by.ts';
import { billById, readBill } from '../catalogue/bills.ts';
import type { Sql } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { reach } from './read-graph.ts';

export interface AsBuiltAnswer extends AsBuilt {
  mark: BuiltMark;
  onHand: string;
  zone: string;
}

/**
 * The as-built record of a mark, read in one snapshot of the database; null where there is no such
 * mark.
 */
export async function readAsBuilt(sql: Sql, id: number): Promise<AsBuiltAnswer | null> {
  return (await sql.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', async (tx) => {
    const { marks: ids, transformations } = await reach(tx, id, 'upstream');
    const [marks, rows, inputs, outputs, [more]] = await Promise.all([
      tx<BuiltMark[]>`
        SELECT m.id, p.code AS product, p.name, p.unit, m.kind, m.number, l.number AS lot,
          ${expiryOf(tx)} AS expires,
          ${stateOf(tx)} AS state,
          coalesce(m.supplier_number, l.supplier_number) AS "supplierNumber",
          (
            SELECT t.name
            FROM movement v
              JOIN event e ON e.id = v.event_id
              JOIN partner t ON t.id = e.partner_id
            WHERE v.mark_id = m.id
              AND e.kind = 'receive'
              AND NOT is_taken_back(e.id, m.id)
            ORDER BY v.id
            LIMIT 1
          ) AS supplier
        FROM mark m
          JOIN product p ON p.id = m.product_id
          LEFT JOIN mark l ON l.id = m.lot_id
        WHERE m.id = ANY(${ids})
      `,
      tx<
        {
          id: number;
          event: number;
          document: string;
          at: Date;
          who: string;
          kind: string;
          bill_id: number | null;
          day: string;
          shared: boolean;
        }[]
      >`
        SELECT t.id, t.shared, e.id AS event, e.document, e.happened_at AS at,
          e.happened_at::date AS day, w.name AS who, e.kind, o.bill_id
        FROM transformation t
          JOIN event e ON e.id = t.event_id
          JOIN person w ON w.id = e.booked_by
          LEFT JOIN trade_order o ON o.id = e.order_id
        WHERE t.id = ANY(${transformations})
        ORDER BY e.happened_at, t.id
      `,
      tx<{ t: number; mark: number; quantity: string; position: string | null }[]>`
        SELECT transformation_id AS t, mark_id AS mark, quantity, position
        FROM transformation_input
        WHERE transformation_id = ANY(${transformations})
      `,
      tx<{ t: number; mark: number; quantity: string; product: string }[]>`
        SELECT o.transformation_id AS t, o.mark_id AS mark, o.quantity, p.code AS product
        FROM transformation_output o
          JOIN mark m ON m.id = o.mark_id
          JOIN product p ON p.id = m.product_id
        WHERE o.transformation_id = ANY(${transformations})
      `,
      tx<{ on_hand: string; zone: string }[]>`
        SELECT coalesce((SELECT sum(quantity) FROM stock WHERE mark_id = ${id}), 0) AS on_hand,
          coalesce((SELECT zone FROM site ORDER BY id LIMIT 1), 'UTC') AS zone
      `
    ]);
    const byId = new Map(marks.map((mark) => [mark.id, mark]));
    const mark = byId.get(id);
    if (!mark) return null;
    const inOf = groupBy(inputs, (row) => row.t),
      outOf = groupBy(outputs, (row) => row.t);
    const bills = new Map<string, Promise<Making['bill']>>();
    const billOf = (row: (typeof rows)[number]): Promise<Making['bill']> => {
      const product = outOf.get(row.id)?.[0]?.product ?? '';
      const key = row.bill_id === null ? `${product} ${row.day}` : String(row.bill_id);
      if (!bills.has(key))
        bills.set(
          key,
          row.bill_id === null ? readBill(tx, product, { day: row.day }) : billById(tx, row.bill_id)
        );
      return bills.get(key)!;
    };
    const makings = await Promise.all(
      rows.map(async (row): Promise<Making> => ({
        id: row.id,
        shared: row.shared,
        event: row.event,
        document: row.document,
        at: row.at.toISOString(),
        who: row.who,
        kind: row.kind,
        bill: row.kind === 'build' ? await billOf(row) : null,
        inputs: (inOf.get(row.id) ?? []).map(({ t: _, ...input }) => ({
          ...input,
          quantity: trimZeros(input.quantity)
        })),
        outputs: (outOf.get(row.id) ?? []).map((output) => ({
          mark: output.mark,
          quantity: trimZeros(output.quantity)
        }))
      }))
    );
    // A bill that is for another product than was made (rework under a foreign order) says nothing
    // here.
    const own = makings.map((making) =>
      making.bill && outOf.get(making.id)?.some((output) => output.product === making.bill!.product)
        ? making
        : { ...making, bill: null }
    );
    return { mark, onHand: trimZeros(more!.on_hand), zone: more!.zone, ...asBuilt(id, byId, own) };
  })) as AsBuiltAnswer | null;
}
