import type { Marking } from '../../core/catalogue/marking.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { keptCount } from '../kernel/db/kept-count.ts';
import { countList, rowsOfPage, type ListOf } from '../kernel/db/page.ts';
import { isOnHand, notUsableOf } from '../kernel/db/what-counts.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { stockHolding } from './holds-text.ts';

/** What is on hand of a product, over all its marks and places. */
export interface OnHandProduct {
  code: string;
  name: string;
  unit: string;
  marking: Marking;
  quantity: string;
  /** How many lots, serials or unnumbered stocks; at how many places. */
  marks: number;
  places: number;
  /** The first of its places. */
  placesNamed: string[];
  /** Soonest expiry. */
  soonest: string | null;
  /** Held or rejected. */
  held: string;
}

export interface OnHandPage {
  /** The codes of its products. */
  codes: string[];
  /** Whether more come after them. */
  more: boolean;
}

/**
 * Products of which something is on hand, by code: a page of them, without adding anything up. How
 * many there are on all pages is asked beside (`countOnHandProducts`).
 * @param text only those with something on hand that holds it
 * @param after the last code of the page before; empty for the first page
 */
export async function readOnHandPage(
  db: Db,
  text: string | undefined,
  after: string,
  most: number
): Promise<OnHandPage> {
  const { rows, more } = await rowsOfPage<{ code: string }>(db, {
    columns: db`p.code`,
    ...productsAsked(db, text),
    after,
    most
  });
  return { codes: rows.map(({ code }) => code), more };
}

/** Of how many products something is on hand; of all of them a second old at most. */
export const countOnHandProducts = (db: Db, text: string | undefined): Promise<number> => {
  const count = () => countList(db, productsAsked(db, text));
  return text ? count() : keptCount(db, 'products on hand', count);
};

const productsAsked = (db: Db, text: string | undefined): ListOf => ({
  from: db`product p`,
  where: text ? db`p.id IN (${productsHolding(db, text)})` : isSomewhere(db)
});

/**
 * Whether anything of a product (p) is on hand: one look into an index each. As a value and not as
 * EXISTS, which would be turned into a join over all products, whatever the page needs.
 */
const isSomewhere = (db: Db): ReturnType<Db> => db`
  (
    SELECT true
    FROM stock s
    WHERE s.product_id = p.id AND s.quantity > 0 AND ${isOnHand(db, db`s.place_id`)}
    LIMIT 1
  )
`;

const productsHolding = (db: Db, text: string) => db`
  SELECT s.product_id
  FROM ${stockHolding(db, text)} s
  WHERE s.quantity > 0 AND ${isOnHand(db, db`s.place_id`)}
`;

/**
 * What is on hand of products: figures over everything, whatever a list shows of it. Marks are not
 * looked up one by one: those that are held are few, and only a serial without a date of its own
 * expires with its lot.
 * @param codes of these products
 * @param text only of what holds it
 */
export async function readOnHandProducts(
  db: Db,
  codes: readonly string[],
  text?: string
): Promise<OnHandProduct[]> {
  const rows = await db<OnHandProduct[]>`
    WITH asked AS MATERIALIZED (
      SELECT id, code, name, unit, marking
      FROM product
      WHERE upper(code) = ANY(${codes.map(numberKey)})
    ),
    not_usable AS MATERIALIZED (${notUsableOf(db, db`SELECT id FROM asked`)})
    SELECT p.code, p.name, p.unit, p.marking, sum(s.quantity) AS quantity,
      count(DISTINCT s.mark_id)::int AS marks,
      count(DISTINCT s.place_id)::int AS places,
      (array_agg(DISTINCT c.code::text ORDER BY c.code::text))[1:3] AS "placesNamed",
      min(coalesce(s.expires_on, l.expires_on)) AS soonest,
      coalesce(
        sum(s.quantity) FILTER (WHERE s.mark_id IN (SELECT id FROM not_usable)),
        0
      ) AS held
    FROM ${text ? stockHolding(db, text) : db`stock`} s
      JOIN asked p ON p.id = s.product_id
      JOIN place c ON c.id = s.place_id
      LEFT JOIN mark m ON m.id = ${undatedSerial(db)}
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE s.product_id = ANY(ARRAY(SELECT id FROM asked))
      AND s.quantity > 0
      AND c.kind <> 'transit'
    GROUP BY p.id, p.code, p.name, p.unit, p.marking
    ORDER BY p.code
  `;
  return rows.map((row) => ({
    ...row,
    quantity: trimZeros(row.quantity),
    held: trimZeros(row.held)
  }));
}

/** The serial of stock (s) where it has no date of its own; of all else nothing is looked up. */
const undatedSerial = (db: Db) =>
  db`CASE WHEN s.mark_kind = 'serial' AND s.expires_on IS NULL THEN s.mark_id END`;
