import { isFreePlace, stateOf } from '../kernel/db/what-counts.ts';
import { explode } from '../../core/catalogue/explode.ts';
import { formatQuantity, parseQuantity, quantity } from '../../core/quantity/quantity.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import { readBillTree } from './bills.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface ExplosionLine {
  level: number;
  path: readonly string[];
  product: string;
  name: string;
  unit: string;
  quantity: string;
  per: 'unit' | 'batch';
  follow: 'unit' | 'batch' | 'drawn';
  positions: readonly string[];
  alternates: readonly string[];
  revision: string | null;
  scrapPercent: string;
  net: string;
  planned: string;
  made: boolean;
}
export interface ExplosionAnswer {
  product: string;
  quantity: string;
  day: string;
  lines: ExplosionLine[];
  /** What is needed of each product in sum over all levels, and what of it is usable on hand. */
  needs: {
    product: string;
    name: string;
    unit: string;
    net: string;
    planned: string;
    onHand: string;
    short: string;
    made: boolean;
  }[];
}

/**
 * What so much of a product takes, through all levels of the bills in force on a day. @throws
 * Problem 404, 422 for a bad quantity or a loop
 */
export async function readExplosion(
  db: Db,
  code: string,
  text: string,
  day: string
): Promise<ExplosionAnswer> {
  const wanted = parseQuantity(text);
  if (wanted === null || wanted.lte(0))
    throw new Problem(422, 'The quantity cannot be used', [
      {
        code: 'quantity.mismatch',
        path: 'quantity',
        message: `“${text}” is no quantity above zero.`
      }
    ]);
  const bills = await readBillTree(db, code, day);
  const root =
    [...bills.keys()].find((one) => one.toUpperCase() === code.toUpperCase()) ??
    notFound('bill', code);
  const explosion = explode(root, wanted, (product) => bills.get(product) ?? null);
  if (!explosion.ok)
    throw new Problem(422, 'The bill goes into itself', [
      {
        code: 'balance.open',
        path: 'parts',
        number: root,
        message: `${root} goes into itself: ${explosion.loop.join(' → ')}. Mend one of these bills.`
      }
    ]);
  const rows = await db<{ code: string; name: string; unit: string; on_hand: string }[]>`
    SELECT p.code, p.name, p.unit,
      coalesce(
        (
          SELECT sum(s.quantity)
          FROM stock s
            JOIN mark m ON m.id = s.mark_id
            LEFT JOIN mark l ON l.id = m.lot_id
          WHERE m.product_id = p.id
            AND s.quantity > 0
            AND ${isFreePlace(db, db`s.place_id`)}
            AND ${stateOf(db)} = 'usable'
            AND coalesce(m.expires_on, l.expires_on, 'infinity') >= ${day}
        ),
          0
      ) AS on_hand
    FROM product p
    WHERE p.code = ANY(${[...explosion.totals.keys()]})
  `;
  const known = new Map(rows.map((row) => [row.code, row]));
  return {
    product: root,
    quantity: formatQuantity(wanted),
    day,
    lines: explosion.lines.map(({ part, ...line }) => ({
      ...line,
      product: part.product,
      name: known.get(part.product)!.name,
      unit: known.get(part.product)!.unit,
      quantity: part.quantity,
      per: part.per,
      follow: part.follow,
      positions: part.positions,
      alternates: part.alternates,
      revision: part.revision,
      scrapPercent: part.scrapPercent
    })),
    needs: [...explosion.totals].map(([product, { net, planned }]) => {
      const { name, unit, on_hand } = known.get(product)!;
      const short = planned.minus(quantity(on_hand));
      return {
        product,
        name,
        unit,
        net: formatQuantity(net),
        planned: formatQuantity(planned.toDecimalPlaces(6)),
        onHand: trimZeros(on_hand),
        short: short.gt(0) ? formatQuantity(short.toDecimalPlaces(6)) : '0',
        made: bills.has(product)
      };
    })
  };
}
