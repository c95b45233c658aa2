import type { Result } from '../../core/quality/spec.ts';
import { numberKey } from '../../core/numbers/number.ts';
import { codeOrNameHolds } from '../kernel/db/like.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { readPage, type Page, type PageAsked } from '../kernel/db/page.ts';
import type { Db } from '../kernel/db/client.ts';

export interface WaitingTest {
  id: number;
  mark: number;
  kind: 'lot' | 'serial';
  number: string;
  product: string;
  takenAt: string;
  who: string;
  instrument: string;
  results: Result[];
  own: boolean;
}

/** Tests that wait for a second person's signature, oldest first. */
export async function readUnsigned(db: Db, personId: number): Promise<Listed<WaitingTest>> {
  const rows = await db<(Omit<WaitingTest, 'takenAt'> & { takenAt: Date; total: number })[]>`
    SELECT t.id, m.id AS mark, m.kind, m.number, p.code AS product, t.taken_at AS "takenAt",
      w.name AS who, t.instrument, t.results, t.tested_by = ${personId} AS own,
      (SELECT count(*)::int FROM unsigned_test) AS total
    FROM (SELECT test_id FROM unsigned_test ORDER BY test_id LIMIT 100) u
      JOIN quality_test t ON t.id = u.test_id
      JOIN mark m ON m.id = t.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN person w ON w.id = t.tested_by
    ORDER BY t.id
  `;
  return mapListed(listed(rows), (row) => ({ ...row, takenAt: row.takenAt.toISOString() }));
}

export interface Retest {
  id: number;
  kind: 'lot' | 'serial';
  number: string;
  product: string;
  retest: string;
}

/** Marks on hand whose retest is due within so many days, soonest first. */
export async function readRetests(db: Db, today: string, days: number): Promise<Listed<Retest>> {
  const rows = await db<(Retest & { total: number })[]>`
    SELECT m.id, m.kind, m.number, p.code AS product, m.retest_on AS retest,
      count(*) OVER ()::int AS total
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.retest_on <= ${today}::date + ${days}::int
      AND EXISTS (
        SELECT
        FROM stock s
        WHERE s.quantity > 0
          AND (s.mark_id = m.id OR s.mark_id IN (SELECT x.id FROM mark x WHERE x.lot_id = m.id))
      )
    ORDER BY m.retest_on, m.number
    LIMIT 50
  `;
  return listed(rows);
}

export interface SpeccedProduct {
  code: string;
  name: string;
  limits: number;
  customers: number;
  tests: number;
}

/** Products of a page of specs. */
const SPECS = 50;

/**
 * A page of the products that have a spec, by code, and how many limits each has; of those that hold
 * a text all, as one may want to give one a spec.
 */
export const readSpecced = (
  db: Db,
  { q = '', after = '' }: PageAsked
): Promise<Page<SpeccedProduct>> =>
  readPage(db, {
    columns: db`
      p.code, p.name,
      coalesce(
        (
          SELECT jsonb_array_length(s.body -> 'limits')
          FROM spec s
          WHERE s.product_id = p.id AND s.partner_id IS NULL
          ORDER BY s.version DESC
          LIMIT 1
        ),
          0
      ) AS limits,
      (SELECT count(DISTINCT s.partner_id)::int FROM spec s WHERE s.product_id = p.id) AS customers,
      (
        SELECT count(*)::int
        FROM quality_test t
          JOIN mark m ON m.id = t.mark_id
        WHERE m.product_id = p.id
      ) AS tests
    `,
    from: db`product p`,
    where:
      q === '' ? db`EXISTS (SELECT FROM spec s WHERE s.product_id = p.id)` : codeOrNameHolds(db, q),
    after,
    most: SPECS
  });

export interface TestPoint {
  test: number;
  mark: number;
  number: string;
  takenAt: string;
  results: Result[];
  signed: boolean;
}

/**
 * The latest tests of a product's marks, oldest first: for the chart of a characteristic over lots.
 */
export async function readTestsOf(db: Db, product: string): Promise<Listed<TestPoint>> {
  const rows = await db<(Omit<TestPoint, 'takenAt'> & { takenAt: Date; total: number })[]>`
    SELECT t.id AS test, m.id AS mark, m.number, t.taken_at AS "takenAt", t.results,
      EXISTS (SELECT FROM test_signature s WHERE s.test_id = t.id) AS signed,
      count(*) OVER ()::int AS total
    FROM quality_test t
      JOIN mark m ON m.id = t.mark_id
      JOIN product p ON p.id = m.product_id
    WHERE upper(p.code) = ${numberKey(product)}
    ORDER BY t.taken_at DESC, t.id DESC
    LIMIT 2000
  `;
  return mapListed(listed([...rows].reverse()), (row) => ({
    ...row,
    takenAt: row.takenAt.toISOString()
  }));
}
