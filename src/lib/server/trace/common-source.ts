import { stands } from '../kernel/db/what-counts.ts';
import type { PackedSource } from '../../core/trace/packed-sources.ts';
import { rankSources, type RankedSource, type Source } from '../../core/trace/rank.ts';
import { NoIndex, type TraceEngine } from './engine/engine.ts';
import { engineOf } from './engine/engines.ts';
import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import { Problem } from '../kernel/problem.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';

/**
 * The units everything is compared with: all of the same products, or only those that were shipped;
 * or a list of their own.
 */
export type Population = 'product' | 'shipped' | readonly number[];

export interface SharedSource extends RankedSource {
  /** For a mark: what it is. */ mark: {
    id: number;
    kind: MarkKind;
    number: string | null;
    product: string;
    name: string;
    state: MarkState;
  } | null;
}
export interface CommonSources {
  troubled: number;
  population: number;
  sources: SharedSource[];
  standsOut: number;
  looked: number;
}

/** Most sources that are looked at; those most troubled units share come first. */
const MOST_SOURCES = 2000;
const LISTED = 60;

/**
 * What troubled units share upstream, ranked by how surprising the sharing is beside the
 * population: lots and serials through all levels, suppliers, and of their own making the place,
 * person, day and stations.
 * @param units ids of the troubled units
 * @throws Problem 422 where fewer than two are named
 */
export async function readCommonSources(
  sql: Sql,
  units: readonly number[],
  population: Population
): Promise<CommonSources> {
  if (new Set(units).size < 2)
    throw new Problem(422, 'Too few to share anything', [
      {
        code: 'mark.missing',
        path: 'units',
        message: 'Name at least two units in trouble: one alone shares nothing.'
      }
    ]);
  const engine = engineOf(sql);
  if (engine)
    try {
      return await read(sql, units, population, (tx, troubled) =>
        sourcesByIndex(tx, engine, troubled, population)
      );
    } catch (error) {
      if (!(error instanceof NoIndex)) throw error;
    }
  return await readBySql(sql, units, population);
}

/** The same from the database alone: where there is no index, and its judge. */
export const readBySql = (
  sql: Sql,
  units: readonly number[],
  population: Population
): Promise<CommonSources> =>
  read(sql, units, population, async (tx, troubled) => {
    const all = await readPopulation(tx, troubled, population);
    return {
      population: all.length,
      sources: (
        await Promise.all([
          sharedMarks(tx, troubled, all),
          sharedSuppliers(tx, troubled, all),
          ownMaking(tx, troubled, all)
        ])
      ).flat()
    };
  });

async function read(
  sql: Sql,
  units: readonly number[],
  population: Population,
  find: (tx: Tx, troubled: number[]) => Promise<{ population: number; sources: Source[] }>
): Promise<CommonSources> {
  return (await sql.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', async (tx) => {
    const troubled = [...new Set(units)];
    const found = await find(tx, troubled);
    const ranked = rankSources(
      [...found.sources, ...(await sharedStations(tx, troubled, population))],
      troubled.length,
      found.population
    );
    const listed = ranked.slice(0, LISTED);
    const named = new Map(
      (
        await tx<NonNullable<SharedSource['mark']>[]>`
          SELECT m.id, m.kind, m.number, p.code AS product, p.name, m.state
          FROM mark m
            JOIN product p ON p.id = m.product_id
          WHERE m.id = ANY(
            ${listed.flatMap((one) => (one.kind === 'mark' ? [Number(one.key.slice(5))] : []))}
          )
        `
      ).map((row) => [row.id, row])
    );
    return {
      troubled: troubled.length,
      population: found.population,
      looked: ranked.length,
      standsOut: ranked.filter((one) => one.standsOut).length,
      sources: listed.map((one) => {
        const mark = one.kind === 'mark' ? (named.get(Number(one.key.slice(5))) ?? null) : null;
        return {
          ...one,
          mark,
          says: mark ? `${mark.number ?? 'unmarked'} of ${mark.product}` : one.says
        };
      })
    };
  })) as CommonSources;
}

async function readPopulation(
  tx: Tx,
  troubled: readonly number[],
  population: Population
): Promise<number[]> {
  if (typeof population !== 'string') return [...new Set([...population, ...troubled])];
  return (
    await tx<
      { id: number }[]
    >`SELECT m.id FROM mark m WHERE ${inPopulation(tx, tx`m`, troubled, population)}`
  ).map((row) => row.id);
}

/** Whether a mark is one of those everything is compared with. */
function inPopulation(
  tx: Tx,
  mark: ReturnType<Tx>,
  troubled: readonly number[],
  population: Population
) {
  if (typeof population !== 'string')
    return tx`${mark}.id = ANY(${[...new Set([...population, ...troubled])]})`;
  return tx`
    (
      ${mark}.kind <> 'bulk'
        AND (${mark}.product_id, ${mark}.kind) IN (
          SELECT product_id, kind FROM mark WHERE id = ANY(${troubled as number[]})
        ) ${
          population === 'shipped'
            ? tx`
          AND EXISTS (
            SELECT
            FROM movement v
              JOIN event e ON e.id = v.event_id AND e.kind = 'ship'
            WHERE v.mark_id = ${mark}.id
          )
        `
            : tx``
        }
        OR ${mark}.id = ANY(${troubled as number[]})
    )
  `;
}

/**
 * Lots and serials upstream that two or more of the troubled share, with how many of the population
 * hold them.
 */
async function sharedMarks(
  tx: Tx,
  troubled: readonly number[],
  all: readonly number[]
): Promise<Source[]> {
  const shared = await tx<{ node: number; troubled: number }[]>`
    WITH RECURSIVE up (unit, node) AS (
      SELECT u, u
      FROM unnest(${troubled as number[]}::bigint[]) u
      UNION
      SELECT r.unit, n.node
      FROM up r
        CROSS JOIN LATERAL (
          SELECT -o.transformation_id AS node
          FROM transformation_output o
          WHERE r.node > 0
            AND o.mark_id = r.node
            AND ${stands(tx, tx`o.transformation_id`)}
          UNION ALL
          SELECT i.mark_id
          FROM transformation_input i
          WHERE r.node < 0 AND i.transformation_id = -r.node
          UNION ALL
          SELECT m.lot_id
          FROM mark m
          WHERE r.node > 0 AND m.id = r.node AND m.lot_id IS NOT NULL
          UNION ALL
          SELECT f.component_id
          FROM fitting f
          WHERE r.node > 0 AND f.host_id = r.node
        ) n
    )
    SELECT u.node, count(*)::int AS troubled
    FROM up u
      JOIN mark m ON m.id = u.node AND m.kind <> 'bulk'
    WHERE u.node > 0 AND u.node <> u.unit
    GROUP BY u.node
    HAVING count(*) >= 2
    ORDER BY 2 DESC, 1
    LIMIT ${MOST_SOURCES}
  `;
  if (shared.length === 0) return [];
  const holding = await tx<{ source: number; count: number }[]>`
    WITH RECURSIVE down (source, node) AS (
      SELECT s, s
      FROM unnest(${shared.map((row) => row.node)}::bigint[]) s
      UNION
      SELECT r.source, n.node
      FROM down r
        CROSS JOIN LATERAL (
          SELECT -i.transformation_id AS node
          FROM transformation_input i
          WHERE r.node > 0
            AND i.mark_id = r.node
            AND ${stands(tx, tx`i.transformation_id`)}
          UNION ALL
          SELECT o.mark_id
          FROM transformation_output o
          WHERE r.node < 0 AND o.transformation_id = -r.node
          UNION ALL
          SELECT m.id
          FROM mark m
          WHERE r.node > 0 AND m.lot_id = r.node
          UNION ALL
          SELECT f.host_id
          FROM fitting f
          WHERE r.node > 0 AND f.component_id = r.node
        ) n
    )
    SELECT d.source, count(*)::int AS count
    FROM down d
      JOIN unnest(${all as number[]}::bigint[]) AS p (id) ON p.id = d.node
    GROUP BY d.source
  `;
  const countOf = new Map(holding.map((row) => [row.source, row.count]));
  return shared.map((row) => ({
    key: `mark ${row.node}`,
    kind: 'mark',
    says: '',
    troubled: row.troubled,
    population: Math.max(row.troubled, countOf.get(row.node) ?? 0)
  }));
}

/** Suppliers of anything within the units. */
async function sharedSuppliers(
  tx: Tx,
  troubled: readonly number[],
  all: readonly number[]
): Promise<Source[]> {
  const rows = await tx<{ code: string; name: string; unit: number }[]>`
    WITH RECURSIVE down (supplier, node) AS (
      SELECT DISTINCT e.partner_id, v.mark_id
      FROM event e
        JOIN movement v ON v.event_id = e.id
      WHERE e.kind = 'receive' AND e.partner_id IS NOT NULL
      UNION
      SELECT r.supplier, n.node
      FROM down r
        CROSS JOIN LATERAL (
          SELECT -i.transformation_id AS node
          FROM transformation_input i
          WHERE r.node > 0
            AND i.mark_id = r.node
            AND ${stands(tx, tx`i.transformation_id`)}
          UNION ALL
          SELECT o.mark_id
          FROM transformation_output o
          WHERE r.node < 0 AND o.transformation_id = -r.node
          UNION ALL
          SELECT m.id
          FROM mark m
          WHERE r.node > 0 AND m.lot_id = r.node
          UNION ALL
          SELECT f.host_id
          FROM fitting f
          WHERE r.node > 0 AND f.component_id = r.node
        ) n
    )
    SELECT t.code, t.name, d.node AS unit
    FROM down d
      JOIN unnest(${all as number[]}::bigint[]) AS p (id) ON p.id = d.node
      JOIN partner t ON t.id = d.supplier
  `;
  return counted(
    rows.map((row) => ({
      key: `supplier ${row.code}`,
      kind: 'supplier',
      says: row.name,
      unit: row.unit
    })),
    troubled
  );
}

/** Where, by whom and when the units were first brought in: made or received. */
async function ownMaking(
  tx: Tx,
  troubled: readonly number[],
  all: readonly number[]
): Promise<Source[]> {
  const made = await tx<
    { unit: number; place: string; placeName: string; person: string; login: string; day: string }[]
  >`
    SELECT u.id AS unit, c.code AS place, c.name AS "placeName", w.name AS person, w.login,
      e.happened_at::date AS day
    FROM unnest(${all as number[]}::bigint[]) AS u (id)
      JOIN LATERAL (
        SELECT v.place_id, v.event_id
        FROM movement v
        WHERE v.mark_id = u.id AND v.quantity > 0
        ORDER BY v.id
        LIMIT 1
      ) v ON true
      JOIN event e ON e.id = v.event_id
      JOIN person w ON w.id = e.booked_by
      JOIN place c ON c.id = v.place_id
  `;
  return counted(
    made.flatMap((row) => [
      { key: `place ${row.place}`, kind: 'place' as const, says: row.placeName, unit: row.unit },
      { key: `person ${row.login}`, kind: 'person' as const, says: row.person, unit: row.unit },
      { key: `day ${row.day}`, kind: 'day' as const, says: row.day, unit: row.unit }
    ]),
    troubled
  );
}

/**
 * The stations the units went over, counted in the database: there are steps of those units alone
 * that went over any.
 */
async function sharedStations(
  tx: Tx,
  troubled: readonly number[],
  population: Population
): Promise<Source[]> {
  const rows = await tx<{ code: string; name: string; troubled: number; population: number }[]>`
    SELECT t.code, t.name,
      count(DISTINCT m.id) FILTER (WHERE m.id = ANY(${troubled as number[]}))::int AS troubled,
      count(DISTINCT m.id)::int AS population
    FROM station_step s
      JOIN station t ON t.id = s.station_id
      JOIN planned_output n ON n.id = s.unit_id
      JOIN mark m ON m.product_id = n.product_id AND m.number_key = n.number_key
    WHERE ${inPopulation(tx, tx`m`, troubled, population)}
    GROUP BY t.code, t.name
    HAVING count(DISTINCT m.id) FILTER (WHERE m.id = ANY(${troubled as number[]})) >= 2
  `;
  return rows.map((row) => ({
    key: `station ${row.code}`,
    kind: 'station',
    says: row.name,
    troubled: row.troubled,
    population: row.population
  }));
}

/** From the index, with what its ids are called. */
async function sourcesByIndex(
  tx: Tx,
  engine: TraceEngine,
  troubled: number[],
  population: Population
): Promise<{ population: number; sources: Source[] }> {
  const found = await (
    await engine.ask(tx, {
      about: 'sources',
      troubled,
      population: typeof population === 'string' ? population : [...population],
      most: MOST_SOURCES
    })
  ).reply;
  const idsOf = (kind: PackedSource['kind']) =>
    found.sources.filter((one) => one.kind === kind).map((one) => one.id);
  const [suppliers, places, people] = await Promise.all([
    tx<
      { id: number; key: string; name: string }[]
    >`SELECT id, code AS key, name FROM partner WHERE id = ANY(${idsOf('supplier')})`,
    tx<
      { id: number; key: string; name: string }[]
    >`SELECT id, code AS key, name FROM place WHERE id = ANY(${idsOf('place')})`,
    tx<
      { id: number; key: string; name: string }[]
    >`SELECT id, login AS key, name FROM person WHERE id = ANY(${idsOf('person')})`
  ]);
  const named = {
    supplier: new Map(suppliers.map((row) => [row.id, row])),
    place: new Map(places.map((row) => [row.id, row])),
    person: new Map(people.map((row) => [row.id, row]))
  };
  return {
    population: found.population,
    sources: found.sources.map(({ kind, id, ...counts }): Source => {
      if (kind === 'mark') return { key: `mark ${id}`, kind, says: '', ...counts };
      if (kind === 'day') {
        const day = new Date(Date.UTC(2000, 0, 1 + id)).toISOString().slice(0, 10);
        return { key: `day ${day}`, kind, says: day, ...counts };
      }
      const { key, name } = named[kind].get(id)!;
      return { key: `${kind} ${key}`, kind, says: name, ...counts };
    })
  };
}

/** Counts units by what they have; what fewer than two of the troubled have is left out. */
function counted(
  rows: readonly { key: string; kind: Source['kind']; says: string; unit: number }[],
  troubled: readonly number[]
): Source[] {
  const ill = new Set(troubled);
  const sources = new Map<string, Source>();
  for (const { key, kind, says, unit } of rows) {
    const source = sources.get(key) ?? { key, kind, says, troubled: 0, population: 0 };
    source.population++;
    if (ill.has(unit)) source.troubled++;
    sources.set(key, source);
  }
  return [...sources.values()].filter((source) => source.troubled >= 2);
}
