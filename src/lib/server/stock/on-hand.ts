import { expiryOf, stateOf } from '../kernel/db/what-counts.ts';
import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { stockHolding } from './holds-text.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface OnHandRow {
  id: number;
  product: string;
  kind: MarkKind;
  number: string;
  lot: string | null;
  quantity: string;
  expires: string | null;
  since: string;
  state: MarkState;
  place: string;
  /** It lies in quarantine: free for nothing. */
  quarantine: boolean;
  site: string;
}

interface Asked {
  /** Only these codes, or all. */
  products?: readonly string[];
  /** Only where product, number, lot or place holds it. */
  text?: string | undefined;
}

/**
 * The rows of stock (s) that are on hand and asked for, as a fragment: with their number (m), the lot
 * it is within (l), place (c), site (t) and product (p).
 */
function stockAsked(db: Db, { products, text }: Asked) {
  const ids = (codes: readonly string[]) =>
    db`ARRAY(SELECT id FROM product WHERE upper(code) = ANY(${codes.map(numberKey)}))`;
  return db`
    FROM ${text ? stockHolding(db, text) : db`stock`} s
      JOIN mark m ON m.id = s.mark_id
      JOIN place c ON c.id = s.place_id
      JOIN site t ON t.id = c.site_id
      LEFT JOIN mark l ON l.id = m.lot_id
      JOIN product p ON p.id = s.product_id
    WHERE s.quantity > 0
      AND c.kind <> 'transit'
      ${products ? db`AND s.product_id = ANY(${ids(products)})` : db``}
  `;
}

/** Most rows of one product that are listed. */
const MOST_OF_PRODUCT = 2000;

/**
 * What is on hand, mark by mark and place by place, soonest expiry first: of each product the first
 * so many.
 */
export async function readOnHand(
  db: Db,
  { most = MOST_OF_PRODUCT, ...asked }: Asked & { most?: number }
): Promise<OnHandRow[]> {
  const rows = await db<OnHandRow[]>`
    SELECT id, product, kind, number, lot, quantity, expires, since, state, place, quarantine, site
    FROM (
      SELECT m.id, p.code AS product, m.kind, coalesce(m.number, p.code) AS number,
        l.number AS lot, s.quantity, ${expiryOf(db)} AS expires,
        (SELECT e.happened_at::date FROM event e WHERE e.id = m.birth_event) AS since,
        ${stateOf(db)} AS state, c.code AS place, c.kind = 'quarantine' AS quarantine,
        t.code AS site,
        row_number() OVER (
          PARTITION BY p.id ORDER BY ${expiryOf(db)} NULLS LAST, l.number NULLS FIRST, m.number
        ) AS at
      ${stockAsked(db, asked)}
    ) r
    WHERE at <= ${most}
    ORDER BY product, at
  `;
  return rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}

export interface Available {
  /** By product code, soonest expiry first: the first so many of each. */
  marks: Record<string, OnHandRow[]>;
  /** What of each product may be used on a day, over all of it. */
  usable: Record<string, string>;
  /** What of each product is there, over all of it. */
  onHand: Record<string, string>;
}

/** Most rows of all products together. */
const MOST_AT_ONCE = 20_000;
const LEAST_OF_PRODUCT = 200;

/** What is there of products, for the margin of a working sheet. @param day `YYYY-MM-DD` */
export async function readAvailable(
  db: Db,
  products: readonly string[],
  day: string
): Promise<Available> {
  const marks: Available['marks'] = Object.fromEntries(products.map((code) => [code, []]));
  const share = Math.floor(MOST_AT_ONCE / Math.max(1, products.length));
  const most = Math.min(MOST_OF_PRODUCT, Math.max(LEAST_OF_PRODUCT, share));
  const [rows, sums] = await Promise.all([
    readOnHand(db, { products, most }),
    db<{ code: string; quantity: string; all: string }[]>`
      SELECT p.code, sum(s.quantity) AS all,
        coalesce(
          sum(s.quantity) FILTER (
            WHERE ${stateOf(db)} = 'usable'
              AND c.kind NOT IN ('quarantine', 'transit')
              AND coalesce(${expiryOf(db)}, 'infinity') >= ${day}
          ),
            0
        ) AS quantity
      ${stockAsked(db, { products })}
      GROUP BY p.code
    `
  ]);
  for (const row of rows) (marks[row.product] ??= []).push(row);
  const usable = Object.fromEntries(sums.map((one) => [one.code, trimZeros(one.quantity)]));
  const onHand = Object.fromEntries(sums.map((one) => [one.code, trimZeros(one.all)]));
  return { marks, usable, onHand };
}

/** How many lots, serials and unnumbered stocks are on transfers: ours, and on hand nowhere. */
export async function countUnderWay(db: Db): Promise<number> {
  const [row] = await db<[{ count: number }]>`
    SELECT count(*)::int AS count
    FROM place c
      JOIN stock s ON s.place_id = c.id AND s.quantity > 0
    WHERE c.kind = 'transit'
  `;
  return row.count;
}
