import { numberKey } from '../../core/numbers/number.ts';
import { readPlace, type PlaceRecord } from '../catalogue/partners-places.ts';
import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { readExactness, type PlaceExactness } from './counts/list-counts.ts';

/** What lies at a place of one product. */
export interface LyingThere {
  product: string;
  name: string;
  unit: string;
  quantity: string;
  marks: number;
}

export interface PlacePage {
  place: PlaceRecord;
  /** What lies there, product by product, that of most lots and serials first. */
  there: Listed<LyingThere>;
  /** How exact it was found when it was counted. */
  exactness: PlaceExactness | null;
  /** Work orders that wait and are made there. */
  orders: number;
}

/** Most products that are named. */
const MOST = 100;

/** A place with what lies there and depends on it; null where there is none of that code. */
export async function readPlacePage(db: Db, code: string): Promise<PlacePage | null> {
  const place = await readPlace(db, code);
  if (!place || place.kind === 'transit') return null;
  const id: ReturnType<Db> = db`(
    SELECT id FROM place WHERE upper(code) = ${numberKey(place.code)}
  )`;
  const [there, exactness, [orders]] = await Promise.all([
    readThere(db, id),
    readExactness(db, place.code),
    db<{ waiting: number }[]>`
      SELECT count(*)::int AS waiting
      FROM waiting_order w
        JOIN trade_order o ON o.id = w.order_id
      WHERE o.place_id = ${id}
    `
  ]);
  return {
    ...{ place, there },
    exactness: exactness.rows[0] ?? null,
    orders: orders!.waiting
  };
}

async function readThere(db: Db, place: ReturnType<Db>): Promise<Listed<LyingThere>> {
  const rows = await db<(LyingThere & { total: number })[]>`
    SELECT p.code AS product, p.name, p.unit, sum(s.quantity) AS quantity,
      count(*)::int AS marks, count(*) OVER ()::int AS total
    FROM stock s
      JOIN product p ON p.id = s.product_id
    WHERE s.place_id = ${place} AND s.quantity > 0
    GROUP BY p.id
    ORDER BY count(*) DESC, p.code
    LIMIT ${MOST}
  `;
  return mapListed(listed(rows), (row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}
