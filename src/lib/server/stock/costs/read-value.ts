import type { MarkKind } from '../../../core/catalogue/marking.ts';
import { numberKey } from '../../../core/numbers/number.ts';
import type { Db, Sql } from '../../kernel/db/client.ts';
import { dayIsOver } from '../../kernel/db/days.ts';
import { costNow } from '../../kernel/db/what-counts.ts';
import { listed } from '../../kernel/db/listed.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { carryCosts } from './carry-costs.ts';

/** What the value is asked of. */
export interface ValueAsked {
  /** As it stood at the end of a day, `YYYY-MM-DD`, by what was told until then; now where left out. */
  day?: string | undefined;
  /** Codes of a product and a place; all where left out. */
  product?: string | undefined;
  place?: string | undefined;
  /** A lot, with the serials within it, or a serial. */
  number?: string | undefined;
}

/** What is ours of a mark at a place, and what it is worth; null where its cost is not known. */
export interface ValueRow {
  product: string;
  name: string;
  unit: string;
  mark: { id: number; kind: MarkKind; number: string | null; lot: string | null };
  place: string;
  quantity: string;
  unitCost: string | null;
  value: string | null;
}

/** Sums over everything: what has no cost is counted, and never worth nothing. */
export interface ValueSums {
  total: string;
  /** Rows of unknown cost. */
  unknown: number;
}

export interface Value extends ValueSums {
  rows: ValueRow[];
  /** How many rows there are; only the first are listed. */
  count: number;
}

/**
 * What is ours and what one of it costs, as a fragment: `mark_id`, `place_id`, `quantity`,
 * `unit_cost`. A customer’s unit that is here for service is not ours.
 */
function valued(db: Db, { day, product }: ValueAsked) {
  if (day === undefined)
    return db`
      SELECT s.mark_id, s.place_id, s.quantity, c.unit_cost
      FROM stock s
        ${product ? costOfEach(db) : costsOfAll(db)}
      WHERE s.quantity > 0
        ${product ? db`AND s.product_id = (SELECT id FROM product WHERE upper(code) = ${numberKey(product)})` : db``}
        AND NOT EXISTS (
          SELECT FROM in_service i WHERE i.mark_id = s.mark_id AND i.until IS NULL
        )
    `;
  const until = dayIsOver(db, day);
  return db`
    SELECT s.mark_id, s.place_id, s.quantity, c.unit_cost
    FROM (
        SELECT v.mark_id, v.place_id, sum(v.quantity) AS quantity
        FROM movement v
          JOIN event e ON e.id = v.event_id
        WHERE e.happened_at < ${until}
        GROUP BY v.mark_id, v.place_id
        HAVING sum(v.quantity) > 0
      ) s
      LEFT JOIN (
        SELECT DISTINCT ON (k.mark_id) k.mark_id, k.unit_cost
        FROM mark_cost k
          JOIN event e ON e.id = k.event_id
          JOIN event t ON t.id = k.told_by
        WHERE e.happened_at < ${until} AND t.happened_at < ${until}
        ORDER BY k.mark_id, k.event_id DESC, k.told_by DESC
      ) c ON c.mark_id = s.mark_id
    WHERE NOT EXISTS (
      SELECT
      FROM in_service i
      WHERE i.mark_id = s.mark_id
        AND i.since < ${until}
        AND coalesce(i.until, 'infinity') >= ${until}
    )
  `;
}

/** What each costs, in one pass over all costs: for all there is. */
const costsOfAll = (db: Db) => db`
  LEFT JOIN (
    SELECT DISTINCT ON (mark_id) mark_id, unit_cost
    FROM mark_cost
    ORDER BY mark_id, event_id DESC, told_by DESC
  ) c ON c.mark_id = s.mark_id
`;

/** What each costs, looked up one by one: for those of one product. */
const costOfEach = (db: Db) => db`
  LEFT JOIN LATERAL (SELECT ${costNow(db, db`s.mark_id`)} AS unit_cost) c ON true
`;

/**
 * The same with what is asked for of it, and what is shown: aliases v, m, p, c and, where lots are
 * asked for, l: of a million marks that is a million look-ups. A place is there for every row; it is
 * joined as if it might not be, since the planner else takes few to be left and looks marks up one
 * by one.
 */
const asked = (db: Db, given: ValueAsked, withLots: boolean) => {
  const number = given.number && numberKey(given.number);
  return db`
    FROM (${valued(db, given)}) v
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN place c ON c.id = v.place_id
      ${withLots || number ? db`LEFT JOIN mark l ON l.id = m.lot_id` : db``}
    WHERE true
      ${given.product ? db`AND upper(p.code) = ${numberKey(given.product)}` : db``}
      ${given.place ? db`AND upper(c.code) = ${numberKey(given.place)}` : db``}
      ${number ? db`AND (m.number_key = ${number} OR l.number_key = ${number})` : db``}
  `;
};

/** Most rows that are answered at once. */
export const MOST_VALUED = 20_000;

/** The value of stock, mark by mark and place by place: the first rows, and sums over all. */
export async function readValue(sql: Sql, given: ValueAsked, most = MOST_VALUED): Promise<Value> {
  await carryCosts(sql);
  const rows = await sql<(ValueRow & { total: number; sum: string | null; unknown: number })[]>`
    SELECT p.code AS product, p.name, p.unit,
      json_build_object('id', m.id, 'kind', m.kind, 'number', m.number, 'lot', l.number) AS mark,
      c.code AS place, v.quantity, v.unit_cost AS "unitCost",
      v.quantity * v.unit_cost AS value,
      count(*) OVER ()::int AS total,
      sum(v.quantity * v.unit_cost) OVER () AS sum,
      count(*) FILTER (WHERE v.unit_cost IS NULL) OVER ()::int AS unknown
    ${asked(sql, given, true)}
    ORDER BY p.code, l.number_key NULLS FIRST, m.number_key, c.code
    LIMIT ${most}
  `;
  const { rows: list, total: count } = listed(rows);
  return {
    rows: list.map(({ sum: _, unknown: __, ...row }) => ({
      ...row,
      quantity: trimZeros(row.quantity),
      unitCost: row.unitCost && trimZeros(row.unitCost),
      value: row.value && trimZeros(row.value)
    })),
    count,
    total: trimZeros(rows[0]?.sum ?? '0'),
    unknown: rows[0]?.unknown ?? 0
  };
}

export const VALUED_BY = ['product', 'place', 'lot'] as const;
export type ValuedBy = (typeof VALUED_BY)[number];

/** The value of a product, a place or a lot. */
export interface ValueGroup extends ValueSums {
  code: string;
  name: string;
  /** Of a product or lot; null where unlike things are added up. */
  quantity: string | null;
  unit: string | null;
  /** Lots, serials and unnumbered stocks, each at each of its places. */
  marks: number;
}

/** The value of stock by product, place or lot (a serial within none stands for itself). */
export async function readValueBy(
  sql: Sql,
  by: ValuedBy,
  given: ValueAsked
): Promise<ValueGroup[]> {
  await carryCosts(sql);
  const lot = sql`coalesce(l.number, m.number, 'no number')`;
  const columns = {
    product: sql`p.code AS code, p.name AS name, p.unit AS unit, sum(v.quantity) AS quantity`,
    place: sql`c.code AS code, c.name AS name, NULL AS unit, NULL AS quantity`,
    lot: sql`${lot} AS code, p.code || ' ' || p.name AS name, p.unit AS unit, sum(v.quantity) AS quantity`
  }[by];
  const groups = {
    product: sql`p.code, p.name, p.unit`,
    place: sql`c.code, c.name`,
    lot: sql`${lot}, p.code, p.name, p.unit`
  }[by];
  const rows = await sql<ValueGroup[]>`
    SELECT ${columns}, count(*)::int AS marks,
      coalesce(sum(v.quantity * v.unit_cost), 0) AS total,
      count(*) FILTER (WHERE v.unit_cost IS NULL)::int AS unknown
    ${asked(sql, given, by === 'lot')}
    GROUP BY ${groups}
    ORDER BY total DESC, code
  `;
  return rows.map((row) => ({
    ...row,
    quantity: row.quantity && trimZeros(row.quantity),
    total: trimZeros(row.total)
  }));
}
