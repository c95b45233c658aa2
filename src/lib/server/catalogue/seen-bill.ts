import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { inForce } from './bills.ts';

/**
 * What whoever changes a product's bill has seen of it: which version was in force and which was
 * the last; null where there is no version yet. Its entity tag is made of it.
 * @param day `YYYY-MM-DD` of today
 */
export async function seenOfBill(db: Db, product: string, day: string): Promise<object | null> {
  const [seen] = await db<{ inForce: number; last: number }[]>`
    SELECT f.version AS "inForce", (
        SELECT max(b.version) FROM bill b WHERE b.product_id = p.id
      ) AS last
    FROM product p
      JOIN bill f ON f.id = ${inForce(db, db`p.id`, day)}
    WHERE upper(p.code) = ${numberKey(product)}
  `;
  return seen ?? null;
}
