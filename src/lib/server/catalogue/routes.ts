import type { z } from 'zod';
import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Route } from './schemas.ts';
import { Problem, type FormError } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { cleanCode } from '../kernel/code.ts';

export interface RouteRecord {
  code: string;
  name: string;
  stations: { code: string; name: string; units: number }[];
  products: string[];
}

/** All routes with their stations in order and the products that take them. */
export async function readRoutes(db: Db): Promise<RouteRecord[]> {
  const routes = await db<{ id: number; code: string; name: string; products: string[] }[]>`
    SELECT r.id, r.code, r.name,
      ARRAY(SELECT p.code::text FROM product p WHERE p.route_id = r.id ORDER BY p.code) AS products
    FROM route r
    ORDER BY r.code
  `;
  const stations = await db<{ route_id: number; code: string; name: string; units: number }[]>`
    SELECT s.route_id, s.code, s.name,
      (SELECT count(DISTINCT x.unit_id)::int FROM station_step x WHERE x.station_id = s.id) AS units
    FROM station s
    WHERE NOT s.gone
    ORDER BY s.route_id, s.position
  `;
  return routes.map(({ id, ...route }) => ({
    ...route,
    stations: stations
      .filter((station) => station.route_id === id)
      .map(({ route_id: _, ...station }) => station)
  }));
}

/** A route by its code; null where there is none. */
export const readRoute = async (db: Db, code: string): Promise<RouteRecord | null> =>
  (await readRoutes(db)).find((one) => numberKey(one.code) === numberKey(code)) ?? null;

/** What of a route is changed together: how many units went through a station is not. */
export const changeableRoute = ({ code, name, stations, products }: RouteRecord): object => ({
  ...{ code, name, products },
  stations: stations.map((station) => ({ code: station.code, name: station.name }))
});

/** The same of a route by its code; null where there is none. */
export async function readChangeableRoute(db: Db, code: string): Promise<object | null> {
  const route = await readRoute(db, code);
  return route && changeableRoute(route);
}

/**
 * Sets a route up or changes it: its stations in their order, and the products that take it. A
 * station left out is gone from the route; what went through it stays.
 * @throws Problem 422 naming what is wrong
 */
export async function putRoute(
  sql: Sql | Tx,
  pathCode: string,
  given: z.infer<typeof Route>
): Promise<{ route: RouteRecord; created: boolean }> {
  const code = cleanCode(pathCode, 'route');
  return await within(sql, async (tx) => {
    const errors: FormError[] = [];
    const keys = given.stations.map((station) => numberKey(station.code));
    keys.forEach((key, index) => {
      if (keys.indexOf(key) !== index)
        errors.push({
          code: 'mark.duplicate',
          path: `stations[${index}].code`,
          number: given.stations[index]!.code,
          message: `Station ${given.stations[index]!.code} stands twice. Take one out.`
        });
    });
    const products = await tx<
      { id: number; code: string; gtin: string | null }[]
    >`SELECT id, code, gtin FROM product WHERE upper(code) = ANY(${given.products.map(numberKey)})`;
    given.products.forEach((product, index) => {
      const known = products.find((one) => numberKey(one.code) === numberKey(product));
      if (!known)
        errors.push({
          code: 'product.unknown',
          path: `products[${index}]`,
          number: shown(product),
          message: `There is no product ${shown(product)}.`
        });
      else if (known.gtin === null)
        errors.push({
          code: 'number.malformed',
          path: `products[${index}]`,
          number: known.code,
          message: `${known.code} has no GTIN, so its units’ tags cannot carry a code. Give it one first.`
        });
    });
    const [before] = await tx<
      { id: number }[]
    >`SELECT id FROM route WHERE upper(code) = ${numberKey(code)} FOR UPDATE`;
    const elsewhere = await tx<{ code: string; route: string }[]>`
      SELECT s.code, r.code AS route
      FROM station s
        JOIN route r ON r.id = s.route_id
      WHERE upper(s.code) = ANY(${keys}) AND s.route_id IS DISTINCT FROM ${before?.id ?? null}
    `;
    for (const one of elsewhere)
      errors.push({
        code: 'mark.duplicate',
        path: `stations[${keys.indexOf(numberKey(one.code))}].code`,
        number: one.code,
        message: `Station ${one.code} is on route ${one.route}. Give this one another code.`
      });
    if (errors.length > 0)
      throw new Problem(422, 'The route cannot be kept like this', errors, 'Nothing was changed.');
    const [route] = before
      ? await tx<
          { id: number }[]
        >`UPDATE route SET name = ${given.name} WHERE id = ${before.id} RETURNING id`
      : await tx<
          { id: number }[]
        >`INSERT INTO route (code, name) VALUES (${code}, ${given.name}) RETURNING id`;
    await tx`
      UPDATE station
      SET gone = true
      WHERE route_id = ${route!.id} AND NOT upper(code) = ANY(${keys})
    `;
    for (const [index, station] of given.stations.entries()) {
      await tx`
        INSERT INTO station (route_id, position, code, name)
        VALUES (${route!.id}, ${index + 1}, ${station.code}, ${station.name})
        ON CONFLICT (upper(code)) DO UPDATE SET position = excluded.position, name = excluded.name,
          gone = false
      `;
    }
    await tx`
      UPDATE product
      SET route_id = NULL
      WHERE route_id = ${route!.id} AND NOT id = ANY(${products.map((one) => one.id)})
    `;
    await tx`
      UPDATE product SET route_id = ${route!.id} WHERE id = ANY(${products.map((one) => one.id)})
    `;
    return {
      route: (await readRoute(tx, code))!,
      created: !before
    };
  });
}
