import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { expiryOf, stateOf } from '../kernel/db/what-counts.ts';

/** A mark at one place it lies at. */
export interface LyingRow {
  mark: number;
  kind: MarkKind;
  number: string | null;
  lot: string | null;
  product: string;
  name: string;
  unit: string;
  state: MarkState;
  expires: string | null;
  from: string;
  fromName: string;
  quantity: string;
}

/** Most rows that are answered: what one booking takes. */
export const MOST_LYING = 20_000;

/** What is asked for: numbers, or all that lies at a place. */
export interface LyingAsked {
  numbers?: readonly string[] | undefined;
  place?: string | undefined;
}

/**
 * Where things lie: those of these numbers, or all at a place; what lies nowhere is left out. What
 * has no number is found by its product’s code.
 */
export async function readLying(db: Db, { numbers = [], place }: LyingAsked): Promise<LyingRow[]> {
  const keys = [...new Set(numbers.map(numberKey))];
  const rows = await db<LyingRow[]>`
    SELECT m.id AS mark, m.kind, m.number, l.number AS lot, p.code AS product, p.name, p.unit,
      ${stateOf(db)} AS state, ${expiryOf(db)} AS expires, c.code AS from,
      t.name || ', ' || c.name AS "fromName", s.quantity
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
  return rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}
