import type { FactAsked } from '../../core/catalogue/plan.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import type { Db } from '../kernel/db/client.ts';
import { codeOrNameHolds, holding } from '../kernel/db/like.ts';
import { readPage, type Page, type PageAsked } from '../kernel/db/page.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import {
  partnerColumns,
  placeColumns,
  type PartnerRecord,
  type PlaceRecord
} from './partners-places.ts';
import { presentPlan } from './present-plan.ts';

export interface ProductRow {
  code: string;
  name: string;
  unit: string;
  decimals: number;
  made: boolean;
  marking: Marking;
  plan: string | null;
  gtin: string | null;
  onHand: string;
  marks: number;
}

/** Rows of a page of Setup. */
const PAGE = 100;

/** A page of products with what is on hand of each. */
export async function listProducts(
  db: Db,
  { q = '', after = '' }: PageAsked
): Promise<Page<ProductRow>> {
  const page = await readPage<ProductRow>(db, {
    columns: db`
      p.code, p.name, p.unit, p.decimals, p.made, p.marking,
      (SELECT m.code FROM marking_plan m WHERE m.id = p.plan_id) AS plan, p.gtin,
      coalesce(
        (SELECT sum(s.quantity) FROM stock s WHERE s.product_id = p.id AND s.quantity > 0), 0
      ) AS "onHand",
      (SELECT count(*) FROM mark m WHERE m.product_id = p.id) AS marks
    `,
    from: db`product p`,
    where: codeOrNameHolds(db, q),
    after,
    most: PAGE
  });
  return { ...page, rows: page.rows.map((row) => ({ ...row, onHand: trimZeros(row.onHand) })) };
}

/** Up to fifty products whose code or name holds the text. */
export async function searchProducts(
  db: Db,
  text: string
): Promise<
  {
    code: string;
    name: string;
    unit: string;
    made: boolean;
    marking: Marking;
    decimals: number;
    units: string[];
  }[]
> {
  const pattern = holding(text);
  return db`
    SELECT code, name, unit, made, marking, decimals,
      ARRAY(
        SELECT u.name FROM product_unit u WHERE u.product_id = product.id ORDER BY u.holds
      ) AS units
    FROM product
    WHERE code ILIKE ${pattern} OR name ILIKE ${pattern}
    ORDER BY code
    LIMIT 50
  `;
}

/** All partners by name, to choose one of. */
export const listPartners = (db: Db): Promise<PartnerRecord[]> => db`
  SELECT ${partnerColumns(db)} FROM partner p ORDER BY p.name
`;

/** A page of partners by code, with how many events name each. */
export const pageOfPartners = (
  db: Db,
  { q = '', after = '' }: PageAsked
): Promise<Page<PartnerRecord & { events: number }>> =>
  readPage(db, {
    columns: db`
      ${partnerColumns(db)},
      (SELECT count(*)::int FROM event e WHERE e.partner_id = p.id) AS events
    `,
    from: db`partner p`,
    where: codeOrNameHolds(db, q),
    after,
    most: PAGE
  });

/** All places by site and code, to choose one of. */
export const listPlaces = (db: Db): Promise<PlaceRecord[]> => db`
  SELECT ${placeColumns(db)}
  FROM place p
    JOIN site s ON s.id = p.site_id
  WHERE p.kind <> 'transit'
  ORDER BY s.code, p.code
`;

/** Sites by their code, and what each is called. */
export const listSites = (db: Db): Promise<{ code: string; name: string }[]> => db`
  SELECT code, name FROM site ORDER BY code
`;

/** A page of places by code, with how many marks lie at each. */
export const pageOfPlaces = (
  db: Db,
  { q = '', after = '' }: PageAsked
): Promise<Page<PlaceRecord & { marks: number }>> =>
  readPage(db, {
    columns: db`
      ${placeColumns(db)},
      (SELECT count(*)::int FROM stock t WHERE t.place_id = p.id AND t.quantity > 0) AS marks
    `,
    from: db`place p JOIN site s ON s.id = p.site_id`,
    where: db`p.kind <> 'transit' AND (${codeOrNameHolds(db, q)} OR s.name ILIKE ${holding(q)})`,
    after,
    most: PAGE
  });

/**
 * Names only, for screens that say who, what and where: no counting, as this is read with every
 * trace.
 */
export async function readNames(db: Db): Promise<{
  products: Record<string, { name: string; unit: string; marking: Marking }>;
  partners: Record<string, string>;
  places: Record<string, string>;
}> {
  const [products, partners, places] = await Promise.all([
    db<
      { code: string; name: string; unit: string; marking: Marking }[]
    >`SELECT code, name, unit, marking FROM product`,
    db<{ code: string; name: string }[]>`SELECT code, name FROM partner`,
    db<
      { code: string; name: string }[]
    >`SELECT p.code, s.name || ', ' || p.name AS name FROM place p JOIN site s ON s.id = p.site_id`
  ]);
  const byCode = (rows: readonly { code: string; name: string }[]) =>
    Object.fromEntries(rows.map(({ code, name }) => [code, name]));
  return {
    products: Object.fromEntries(products.map(({ code, ...rest }) => [code, rest])),
    partners: byCode(partners),
    places: byCode(places)
  };
}

/** A product by its code in any case; null where there is none. */
export async function findProduct(
  db: Db,
  code: string
): Promise<{ code: string; name: string } | null> {
  const [product] = await db<{ code: string; name: string }[]>`
    SELECT code, name
    FROM product
    WHERE upper(code) = upper(${code})
  `;
  return product ?? null;
}

/** The facts plans ask for on a mark, by the codes of products whose plan asks for any. */
export async function readFactsAsked(db: Db): Promise<Record<string, readonly FactAsked[]>> {
  const rows = await db<{ code: string; facts: FactAsked[] }[]>`
    SELECT p.code, v.body -> 'facts' AS facts
    FROM product p
      CROSS JOIN LATERAL (SELECT ${presentPlan(db)} AS body) v
    WHERE jsonb_array_length(v.body -> 'facts') > 0
  `;
  return Object.fromEntries(rows.map(({ code, facts }) => [code, facts]));
}

/** How products are marked, by code. */
export async function readMarkings(
  db: Db,
  codes: readonly string[]
): Promise<Record<string, Marking>> {
  const rows = await db<{ code: string; marking: Marking }[]>`
    SELECT code, marking
    FROM product
    WHERE code = ANY(${codes as string[]})
  `;
  return Object.fromEntries(rows.map((row) => [row.code, row.marking]));
}
