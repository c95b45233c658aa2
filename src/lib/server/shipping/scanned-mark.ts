import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Pickable, PickRecord } from '../../core/shipping/pick-record.ts';
import { readPickScan, sayNotNamed, type PickScanned } from '../../core/shipping/read-pick-scan.ts';
import type { Tx } from '../kernel/db/client.ts';
import { expiryOf, stateOf } from '../kernel/db/what-counts.ts';
import { notPicked } from './not-picked.ts';

/**
 * The mark a scan means, of those this order can want; by symbol or by its bare number. Goods
 * without number are meant by their product's code or GTIN.
 * @throws Problem 422 where it cannot be read, or names nothing there is
 */
export async function scannedMark(
  tx: Tx,
  scan: string,
  picks: readonly PickRecord[],
  day: string
): Promise<Pickable> {
  const named = readPickScan(scan, day);
  if ('why' in named) return notPicked('number.malformed', named.why);
  const found = (await unnumbered(tx, named, picks)) ?? (await numbered(tx, named, picks));
  return found ?? notPicked('mark.unknown', sayNotNamed(named), shown(named.number));
}

/** Goods of the list that are fetched by quantity, where the scan names their product. */
async function unnumbered(
  tx: Tx,
  { number, gtin }: PickScanned,
  picks: readonly PickRecord[]
): Promise<Pickable | undefined> {
  const marks = picks.flatMap((pick) => (pick.kind === 'bulk' ? (pick.mark ?? []) : []));
  if (marks.length === 0) return undefined;
  const [found] = await tx<Pickable[]>`
    ${pickables(tx)}
    WHERE m.id = ANY(${marks})
      AND (upper(p.code) = ${numberKey(number)} OR (${number} = '' AND ${hasGtin(tx, gtin)}))
    LIMIT 1
  `;
  return found;
}

async function numbered(
  tx: Tx,
  { number, gtin }: PickScanned,
  picks: readonly PickRecord[]
): Promise<Pickable | undefined> {
  if (number === '') return undefined;
  const rows = await tx<Pickable[]>`
    ${pickables(tx)}
    WHERE m.number_key = ${numberKey(number)}
      AND (${gtin === null} OR ${hasGtin(tx, gtin)})
    ORDER BY (p.code = ANY(${picks.map((pick) => pick.product)})) DESC, m.kind DESC
    LIMIT 2
  `;
  const wanted = new Set(picks.map((pick) => pick.product));
  return rows.find((row) => wanted.has(row.product)) ?? rows[0];
}

/** Whether the product, or one of its other units, has the GTIN. */
const hasGtin = (tx: Tx, gtin: string | null) => tx`
  (
    p.gtin = ${gtin ?? ''}
      OR EXISTS (
        SELECT FROM product_unit u WHERE u.product_id = p.id AND u.gtin = ${gtin ?? ''}
      )
  )
`;

const pickables = (tx: Tx) => tx`
  SELECT m.id, m.kind, coalesce(m.number, p.code) AS number, p.code AS product, p.name, p.unit,
    p.id AS "productId", ${stateOf(tx)} AS state, ${expiryOf(tx)} AS expires,
    (
      SELECT json_agg(
        json_build_object(
          'id', c.id, 'code', c.code, 'quantity', s.quantity::text
        ) ORDER BY c.code
      )
      FROM stock s
        JOIN place c ON c.id = s.place_id AND c.kind NOT IN ('quarantine', 'transit')
      WHERE s.mark_id = m.id AND s.quantity > 0
    ) AS places
  FROM mark m
    JOIN product p ON p.id = m.product_id
    LEFT JOIN mark l ON l.id = m.lot_id
`;
