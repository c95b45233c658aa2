import type { Db } from '../kernel/db/client.ts';
import { tagOf } from './station-read.ts';

/** The stations of all routes that are still there, in their order. */
export const listStations = (db: Db): Promise<{ code: string; name: string }[]> =>
  db`
    SELECT code, name
    FROM station
    WHERE NOT gone
    ORDER BY position
  `;

/** A station by its code in any case, with the route it stands in; null where there is none. */
export async function findStation(
  db: Db,
  code: string
): Promise<{ code: string; name: string; route: string } | null> {
  const [station] = await db<{ code: string; name: string; route: string }[]>`
    SELECT s.code, s.name, r.code AS route
    FROM station s
      JOIN route r ON r.id = s.route_id
    WHERE upper(s.code) = upper(${code}) AND NOT s.gone
  `;
  return station ?? null;
}

/**
 * What the tags of planned outputs carry, by output id; null where the product has no GTIN and its
 * units’ tags cannot carry a code.
 */
export async function tagsOf(
  db: Db,
  units: readonly { id: number; product: string }[]
): Promise<Map<number, string | null>> {
  const products = [...new Set(units.map((unit) => unit.product))];
  const rows = await db<{ code: string; gtin: string | null }[]>`
    SELECT code, gtin
    FROM product
    WHERE code = ANY(${products})
  `;
  const gtins = new Map(rows.map((row) => [row.code, row.gtin]));
  const tag = (unit: { id: number; product: string }): string | null => {
    const gtin = gtins.get(unit.product);
    return gtin ? tagOf(gtin, unit.id) : null;
  };
  return new Map(units.map((unit) => [unit.id, tag(unit)]));
}
