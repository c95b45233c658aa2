import type { Db } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { tagOf } from './station-read.ts';

/**
 * The code on the tag of a unit a work order named ahead.
 * @param number the unit’s number, in any case; of several orders that named it, the latest
 * @throws Problem 422 where no order named it, or its product has no GTIN
 */
export async function tagOfUnit(db: Db, number: string): Promise<string> {
  const [unit] = await db<{ id: number; gtin: string | null; product: string }[]>`
    SELECT n.id, p.gtin, p.code AS product
    FROM planned_output n
      JOIN product p ON p.id = n.product_id
    WHERE n.number_key = upper(${number})
    ORDER BY n.id DESC
    LIMIT 1
  `;
  if (!unit)
    throw new Problem(422, 'There is no such unit', [
      {
        code: 'mark.unknown',
        path: 'place',
        number,
        message: `${number} is named on no work order, so it has no tag.`
      }
    ]);
  if (unit.gtin === null)
    throw new Problem(422, 'The unit has no tag', [
      {
        code: 'number.malformed',
        path: 'place',
        number,
        message: `${unit.product} has no GTIN, so its units’ tags cannot carry a code.`
      }
    ]);
  return tagOf(unit.gtin, unit.id);
}
