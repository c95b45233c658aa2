import type { MarkKind } from '../../core/catalogue/marking.ts';
import { readSscc } from '../../core/gs1/sscc.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/** A carton or pallet with what is in it and what became of it. */
export interface UnitPage {
  sscc: string;
  kind: 'carton' | 'pallet';
  order: string | null;
  partnerName: string | null;
  pallet: string | null;
  madeAt: string;
  shipped: { event: number; document: string; at: string } | null;
  cartons: { sscc: string; goods: string }[];
  contents: {
    mark: number;
    kind: MarkKind;
    number: string | null;
    product: string;
    name: string;
    unit: string;
    lot: string | null;
    expires: string | null;
    quantity: string;
  }[];
  /** What is in it altogether, cartons on it included. */
  summary: { product: string; name: string; unit: string; quantity: string }[];
}

/** Cartons and pallets by SSCC, or all of an order, pallets first. */
export async function readUnitPages(
  db: Db,
  of: { ssccs: readonly string[] } | { order: string }
): Promise<UnitPage[]> {
  const rows = await db<
    (Omit<UnitPage, 'madeAt' | 'shipped' | 'cartons' | 'contents' | 'summary'> & {
      made_at: Date;
      event: number | null;
      document: string | null;
      at: Date | null;
      cartons: UnitPage['cartons'] | null;
      contents: UnitPage['contents'] | null;
      summary: UnitPage['summary'] | null;
    })[]
  >`
    SELECT u.sscc, u.kind, o.number AS order, t.name AS "partnerName", b.sscc AS pallet,
      m.booked_at AS made_at, e.id AS event, e.document, e.happened_at AS at,
      (
        SELECT json_agg(
          json_build_object(
            'sscc', c.sscc, 'goods',
              coalesce(
                (
                  SELECT string_agg(trim_scale(q)::text || ' ' || code, ', ' ORDER BY code)
                  FROM (
                    SELECT p.code, sum(x.quantity) AS q
                    FROM unit_content x
                      JOIN mark k ON k.id = x.mark_id
                      JOIN product p ON p.id = k.product_id
                    WHERE x.unit_id = c.id AND x.quantity > 0
                    GROUP BY p.code
                  ) g
                ),
                  'empty'
              )
          ) ORDER BY c.id
        )
        FROM unit_on_pallet x
          JOIN logistic_unit c ON c.id = x.child_id
        WHERE x.pallet_id = u.id
      ) AS cartons,
      (
        SELECT json_agg(
          json_build_object(
            'mark', k.id, 'kind', k.kind, 'number', k.number, 'product', p.code, 'name', p.name,
              'unit', p.unit, 'lot', l.number, 'expires', coalesce(k.expires_on, l.expires_on),
              'quantity', trim_scale(x.quantity)::text
          ) ORDER BY p.code,
            k.number_key
        )
        FROM unit_content x
          JOIN mark k ON k.id = x.mark_id
          JOIN product p ON p.id = k.product_id
          LEFT JOIN mark l ON l.id = k.lot_id
        WHERE x.unit_id = u.id AND x.quantity > 0
      ) AS contents,
      (
        SELECT json_agg(
          json_build_object(
            'product', s.code, 'name', s.name, 'unit', s.unit, 'quantity', trim_scale(s.q)::text
          ) ORDER BY s.code
        )
        FROM (
          SELECT p.code, p.name, p.unit, sum(x.quantity) AS q
          FROM unit_content x
            JOIN mark k ON k.id = x.mark_id
            JOIN product p ON p.id = k.product_id
          WHERE x.quantity > 0
            AND (
              x.unit_id = u.id
                OR x.unit_id IN (SELECT y.child_id FROM unit_on_pallet y WHERE y.pallet_id = u.id)
            )
          GROUP BY p.code, p.name, p.unit
        ) s
      ) AS summary
    FROM logistic_unit u
      JOIN event m ON m.id = u.event_id
      LEFT JOIN trade_order o ON o.id = u.order_id
      LEFT JOIN partner t ON t.id = o.partner_id
      LEFT JOIN unit_on_pallet z ON z.child_id = u.id
      LEFT JOIN logistic_unit b ON b.id = z.pallet_id
      LEFT JOIN unit_out s ON s.unit_id = u.id
      LEFT JOIN event e ON e.id = s.event_id
    WHERE ${
      'ssccs' in of
        ? db`u.sscc = ANY(${of.ssccs as string[]})`
        : db`
      u.order_id = (SELECT id FROM trade_order WHERE kind = 'sales' AND number = ${of.order})
    `
    }
    ORDER BY u.kind DESC, u.id
  `;
  return rows.map(({ made_at, event, document, at, cartons, contents, summary, ...row }) => ({
    ...row,
    madeAt: made_at.toISOString(),
    shipped: event === null ? null : { event, document: document!, at: at!.toISOString() },
    cartons: cartons ?? [],
    contents: (contents ?? []).map((one) => ({ ...one, quantity: trimZeros(one.quantity) })),
    summary: summary ?? []
  }));
}

/** One carton or pallet; null where the text is no SSCC of ours. */
export async function readUnitPage(db: Db, text: string): Promise<UnitPage | null> {
  const sscc = readSscc(text);
  return sscc === null ? null : ((await readUnitPages(db, { ssccs: [sscc] }))[0] ?? null);
}
