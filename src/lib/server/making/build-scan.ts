import { expiryOf, stands, stateOf } from '../kernel/db/what-counts.ts';
import {
  placeScan,
  type Placed,
  type ScannedMark,
  type UnitInHand
} from '../../core/making/place-scan.ts';
import { looksLikeSymbol, readElementString } from '../../core/gs1/element-string.ts';
import { revisionOf, type FactValues } from '../../core/catalogue/facts.ts';
import { keyOfNumber, shown } from '../../core/numbers/number.ts';
import { sayGone } from '../../core/ledger/use-mark.ts';
import type { Component } from '../../core/catalogue/positions.ts';
import { componentsAsJson, componentsOf, readBill } from '../catalogue/bills.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import { notFound } from '../kernel/problem.ts';
import type { Db } from '../kernel/db/client.ts';

interface Row extends Omit<ScannedMark, 'onHand' | 'gone' | 'revision'> {
  id: number;
  on_hand: boolean;
  facts: FactValues;
  lot_facts: FactValues | null;
  gone_kind: string | null;
  gone_document: string;
  gone_day: string;
  gone_partner: string | null;
  gone_into: string | null;
}

interface OrderRow {
  number: string;
  bill_id: number | null;
  product: string;
  marking: Marking;
  placed: string;
  named_on_order: number;
  named: { order: string; made: boolean }[] | null;
  drafts: { number: string; who: string }[] | null;
  components: Component[] | null;
}

/**
 * What a scan at the bench of a work order means for the unit in hand.
 * @param today `YYYY-MM-DD`
 * @returns where it belongs or why it does not, and whose open sheet has the same part
 * @throws Problem 404 for an unknown order
 */
export async function readScan(
  db: Db,
  personId: number,
  orderNumber: string,
  text: string,
  unit: UnitInHand,
  today: string
): Promise<Placed & { alsoWith: string[] }> {
  const scan = looksLikeSymbol(text) ? readElementString(text, today) : null;
  if (scan && !scan.ok)
    return { is: 'refused', says: `That symbol cannot be read: ${scan.why}.`, alsoWith: [] };
  const number = scan ? (scan.symbol.serial ?? scan.symbol.lot ?? null) : text.trim();
  const gtin = scan?.symbol.gtin ?? null;
  const key = number === null ? null : keyOfNumber(number);
  if (number === null || key === null)
    return {
      is: 'refused',
      says:
        number === null
          ? 'That symbol names a product but no lot or serial. Scan the one on the part itself.'
          : `${shown(text)} is no number that could stand on a part.`,
      alsoWith: []
    };
  const ending = ` serial ${key}`;
  // Two statements side by side: a person with a part in hand waits for one answer, not for five.
  const [[order], marks] = await Promise.all([
    db<OrderRow[]>`
      SELECT o.number, o.bill_id, p.code AS product, p.marking, o.placed_on AS placed,
        (SELECT count(*)::int FROM planned_output n WHERE n.order_id = o.id) AS named_on_order,
        (
          SELECT json_agg(
            json_build_object(
              'order', w.number, 'made',
                EXISTS (
                  SELECT
                  FROM mark m
                    JOIN stock s ON s.mark_id = m.id
                  WHERE m.product_id = n.product_id
                    AND m.number_key = n.number_key
                    AND s.quantity > 0
                )
                  OR EXISTS (
                    SELECT
                    FROM mark m
                      JOIN transformation_output x ON x.mark_id = m.id
                    WHERE m.product_id = n.product_id
                      AND m.number_key = n.number_key
                      AND ${stands(db, db`x.transformation_id`)}
                  )
            )
          )
          FROM planned_output n
            JOIN trade_order w ON w.id = n.order_id
          WHERE n.number_key = ${key}
        ) AS named,
        (
          SELECT json_agg(DISTINCT jsonb_build_object('number', n.number, 'who', w.name))
          FROM draft d
            JOIN person w ON w.id = d.person_id
            CROSS JOIN LATERAL unnest(d.numbers) AS n (number)
          WHERE d.person_id <> ${personId}
            AND d.numbers <> '{}'
            AND d.kept_at > now() - interval '3 days'
            AND right(n.number, ${ending.length}) = ${ending}
        ) AS drafts,
        ${componentsAsJson(db, db`o.bill_id`)} AS components
      FROM trade_order o
        JOIN order_line l ON l.order_id = o.id
        JOIN product p ON p.id = l.product_id
      WHERE o.kind = 'work' AND upper(o.number) = upper(${orderNumber})
      ORDER BY l.line
      LIMIT 1
    `,
    db<Row[]>`
      SELECT m.id, p.code AS product, m.kind, m.number,
        ${stateOf(db)} AS state,
        ${expiryOf(db)} AS expires, l.number AS lot, m.facts,
        l.facts AS lot_facts,
        EXISTS (SELECT FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0) AS on_hand,
        e.kind AS gone_kind, e.document AS gone_document, e.happened_at::date AS gone_day,
        t.name AS gone_partner,
        (
          SELECT q.code || ' ' || x.number
          FROM transformation r
            JOIN transformation_input i ON i.transformation_id = r.id AND i.mark_id = m.id
            JOIN transformation_output o ON o.transformation_id = r.id
            JOIN mark x ON x.id = o.mark_id
            JOIN product q ON q.id = x.product_id
          WHERE r.event_id = e.id AND x.number IS NOT NULL
          LIMIT 1
        ) AS gone_into
      FROM mark m
        JOIN product p ON p.id = m.product_id
        LEFT JOIN mark l ON l.id = m.lot_id
        LEFT JOIN LATERAL (
          SELECT v.event_id
          FROM movement v
          WHERE v.mark_id = m.id AND m.kind = 'serial'
          ORDER BY v.event_id DESC, v.id DESC
          LIMIT 1
        ) last ON true
        LEFT JOIN event e ON e.id = last.event_id
        LEFT JOIN partner t ON t.id = e.partner_id
      WHERE m.number_key = ${key}
        AND (
          ${gtin}::text IS NULL
            OR p.gtin = ${gtin}
            OR EXISTS (SELECT FROM product_unit u WHERE u.product_id = p.id AND u.gtin = ${gtin})
        )
      LIMIT 20
    `
  ]);
  if (!order) notFound('order', orderNumber);
  const components =
    order.bill_id === null
      ? await componentsOf(db, await readBill(db, order.product, { day: order.placed }))
      : (order.components ?? []);
  const placed = placeScan(
    {
      order: order.number,
      made: { product: order.product, marking: order.marking },
      components,
      number,
      named: order.named ?? [],
      namedOnOrder: order.named_on_order,
      day: today,
      marks: marks.map((row) => ({
        product: row.product,
        kind: row.kind,
        number: row.number,
        state: row.state,
        expires: row.expires,
        lot: row.lot,
        onHand: row.on_hand,
        revision: revisionOf(row.facts) ?? revisionOf(row.lot_facts ?? {}),
        gone:
          row.on_hand || row.gone_kind === null
            ? null
            : sayGone({
                kind: row.gone_kind,
                document: row.gone_document,
                day: row.gone_day,
                partner: row.gone_partner,
                into: row.gone_into
              })
      }))
    },
    unit
  );
  const own =
    placed.is === 'part' && placed.serial ? `${placed.product.toUpperCase()}${ending}` : null;
  return {
    ...placed,
    alsoWith: [
      ...new Set(
        (order.drafts ?? []).filter((draft) => draft.number === own).map((draft) => draft.who)
      )
    ]
  };
}
