import { numberKey } from '../../core/numbers/number.ts';
import type { Lying } from '../../core/stock/lying.ts';
import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { expiryOf, stateOf } from '../kernel/db/what-counts.ts';

/** What lies somewhere, with the day it expires. */
export interface LyingRow extends Lying {
  expires: string | null;
}

/** Most rows that are answered: what one booking takes. */
const MOST_LYING = 20_000;

/** What is asked for: numbers, or all that lies at a place. */
export interface LyingAsked {
  numbers?: readonly string[] | undefined;
  place?: string | undefined;
}

/**
 * Where things lie: those of these numbers, or all at a place; what lies nowhere is left out. What
 * has no number is found by its product’s code. The first twenty thousand, and how many there are.
 */
export async function readLying(
  db: Db,
  { numbers = [], place }: LyingAsked
): Promise<Listed<LyingRow>> {
  const keys = [...new Set(numbers.map(numberKey))];
  const rows = await db<(LyingRow & { total: number })[]>`
    SELECT m.id AS mark, m.kind, m.number, l.number AS lot, p.code AS product, p.name, p.unit,
      ${stateOf(db)} AS state, ${expiryOf(db)} AS expires, c.code AS from,
      t.name || ', ' || c.name AS "fromName", s.quantity,
      count(*) OVER ()::int AS total
    FROM stock s
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN place c ON c.id = s.place_id
      JOIN site t ON t.id = c.site_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE s.quantity > 0 AND ${
      place === undefined
        ? db`
          m.id IN (
            SELECT n.id FROM mark n WHERE n.number_key = ANY(${keys})
            UNION ALL
            SELECT b.id
            FROM product q
              JOIN mark b ON b.product_id = q.id AND b.kind = 'bulk'
            WHERE upper(q.code) = ANY(${keys})
          )
        `
        : db`c.id = (SELECT id FROM place WHERE upper(code) = ${numberKey(place)})`
    }
    ORDER BY p.code, l.number_key NULLS FIRST, m.number_key, c.code
    LIMIT ${MOST_LYING}
  `;
  return mapListed(listed(rows), (row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}
