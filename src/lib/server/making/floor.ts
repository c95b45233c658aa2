import { stationFigures, type StationFigures } from '../../core/making/station-figures.ts';
import type { StationState } from '../../core/making/step.ts';
import type { Db } from '../kernel/db/client.ts';

export interface FloorUnit {
  id: number;
  number: string;
  product: string;
  order: string;
  station: number | null;
  state: StationState | null;
  since: string | null;
  who: string | null;
  made: boolean;
}
export interface FloorStation {
  id: number;
  code: string;
  name: string;
  figures: Omit<StationFigures, 'station'>;
}
export interface Floor {
  route: { code: string; name: string } | null;
  routes: { code: string; name: string }[];
  stations: FloorStation[];
  /** Longest where they are first: the first so many. */ units: FloorUnit[];
  /** How many stand where, listed or not. */ counts: FloorCount[];
}

/** How many units stand at a station in a state; at none where they have not begun. */
export interface FloorCount {
  station: number | null;
  state: StationState | null;
  count: number;
}

const DAYS = 90;

/**
 * The floor as it is now: every unit of open orders on a route with where it stands, and what the
 * stations did in the last ninety days.
 */
export async function readFloor(db: Db, routeCode: string | null): Promise<Floor> {
  const routes = await db<
    { id: number; code: string; name: string }[]
  >`SELECT id, code, name FROM route ORDER BY code`;
  const route =
    routes.find((one) => one.code.toUpperCase() === routeCode?.toUpperCase()) ?? routes[0];
  const names = routes.map(({ code, name }) => ({ code, name }));
  if (!route) return { route: null, routes: names, stations: [], units: [], counts: [] };
  const [stations, units, counts, steps] = await Promise.all([
    db<{ id: number; code: string; name: string }[]>`
      SELECT id, code, name FROM station WHERE route_id = ${route.id} AND NOT gone ORDER BY position
    `,
    db<(Omit<FloorUnit, 'since'> & { since: Date | null })[]>`
      SELECT n.id, n.number, p.code AS product, o.number AS order, s.station_id AS station, s.state,
        e.happened_at AS since, w.name AS who,
        EXISTS (
          SELECT
          FROM mark m
            JOIN stock t ON t.mark_id = m.id AND t.quantity > 0
          WHERE m.product_id = n.product_id AND m.number_key = n.number_key
        ) AS made
      ${unitsOnFloor(db, route.id)}
      ORDER BY e.happened_at NULLS LAST, n.id
      LIMIT 2000
    `,
    db<FloorCount[]>`
      SELECT s.station_id AS station, s.state, count(*)::int AS count
      ${unitsOnFloor(db, route.id)}
      GROUP BY s.station_id, s.state
    `,
    db<{ unit: number; station: number; action: string; state: StationState; at: number }[]>`
      SELECT x.unit_id AS unit, x.station_id AS station, x.action, x.state,
        (extract(epoch FROM e.happened_at) * 1000)::float8 AS at
      FROM station_step x
        JOIN event e ON e.id = x.event_id
        JOIN station s ON s.id = x.station_id
      WHERE s.route_id = ${route.id} AND e.happened_at > now() - make_interval(days => ${DAYS})
      ORDER BY x.event_id DESC
      LIMIT 50000
    `
  ]);
  const figures = new Map(stationFigures(steps).map(({ station, ...rest }) => [station, rest]));
  return {
    route: { code: route.code, name: route.name },
    routes: names,
    stations: stations.map((station) => ({
      ...station,
      figures: figures.get(station.id) ?? { finished: 0, firstPass: 0, minutes: null }
    })),
    counts: [...counts],
    units: units.map((unit) => ({ ...unit, since: unit.since?.toISOString() ?? null }))
  };
}

/** Units (n) of open orders on a route, with the last step (s) of each, who took it (w) and when (e). */
const unitsOnFloor = (db: Db, route: number) => db`
  FROM planned_output n
    JOIN product p ON p.id = n.product_id AND p.route_id = ${route}
    JOIN trade_order o ON o.id = n.order_id
    LEFT JOIN LATERAL (
      SELECT * FROM station_step x WHERE x.unit_id = n.id ORDER BY x.event_id DESC LIMIT 1
    ) s ON true
    LEFT JOIN event e ON e.id = s.event_id
    LEFT JOIN person w ON w.id = e.booked_by
  WHERE o.closed_at IS NULL
    AND (
      s.state IS DISTINCT FROM 'finished'
        OR s.station_id <> (
          SELECT z.id
          FROM station z
          WHERE z.route_id = ${route} AND NOT z.gone
          ORDER BY z.position DESC
          LIMIT 1
        )
        OR e.happened_at > now() - interval '1 day'
    )
    AND (
      s.state IS NOT NULL
        OR NOT EXISTS (
          SELECT FROM mark m WHERE m.product_id = n.product_id AND m.number_key = n.number_key
        )
    )
`;
