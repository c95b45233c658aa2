import type { PackedSource } from '../../core/trace/packed-sources.ts';
import { rankSources, type RankedSource, type Source } from '../../core/trace/rank.ts';
import { NoIndex, type TraceEngine } from './engine/engine.ts';
import { engineOf } from './engine/engines.ts';
import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import { Problem } from '../kernel/problem.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { inSnapshot } from '../kernel/db/in-snapshot.ts';
import { groupBy } from '../../core/group-by.ts';
import type { Graph } from '../../core/trace/graph.ts';
import { prepareWalk, walkInTime } from '../../core/trace/walk-in-time.ts';
import { readClocks } from './read-clocks.ts';
import { reach, readGraph, readHosts, type TiedMark } from './read-graph.ts';

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
        await Promise.all([sharedUpstream(tx, troubled, all), ownMaking(tx, troubled, all)])
      ).flat()
    };
  });

async function read(
  sql: Sql,
  units: readonly number[],
  population: Population,
  find: (tx: Tx, troubled: number[]) => Promise<{ population: number; sources: Source[] }>
): Promise<CommonSources> {
  return inSnapshot(sql, async (tx) => {
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
  });
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
            WHERE v.mark_id = ${mark}.id AND NOT is_taken_back(e.id, v.mark_id)
          )
        `
            : tx``
        }
        OR ${mark}.id = ANY(${troubled as number[]})
    )
  `;
}

/**
 * Lots and serials upstream that two or more of the troubled share, and suppliers of anything
 * within, with how many of the population have them: by a walk from every unit, by both clocks.
 */
async function sharedUpstream(
  tx: Tx,
  troubled: readonly number[],
  all: readonly number[]
): Promise<Source[]> {
  const { walkUp, isBulk, receiptsOf } = await readUpstream(tx, all);
  const ill = new Set(troubled);
  const marks = new Map<number, { troubled: number; population: number }>();
  const suppliers: { key: string; kind: 'supplier'; says: string; unit: number }[] = [];
  for (const unit of all) {
    const { levels, counts } = walkUp(unit);
    const from = new Map<string, string>();
    for (const mark of levels.keys()) {
      const sum = marks.get(mark) ?? { troubled: 0, population: 0 };
      marks.set(mark, sum);
      sum.population++;
      if (ill.has(unit) && mark !== unit) sum.troubled++;
      for (const receipt of receiptsOf(mark))
        if (counts(mark, receipt.event)) from.set(receipt.code, receipt.name);
    }
    for (const [code, name] of from)
      suppliers.push({ key: `supplier ${code}`, kind: 'supplier', says: name, unit });
  }
  const shared = [...marks]
    .filter(([mark, sum]) => sum.troubled >= 2 && !isBulk(mark))
    .sort(([a, one], [b, other]) => other.troubled - one.troubled || a - b)
    .slice(0, MOST_SOURCES)
    .map(([mark, sum]): Source => ({ key: `mark ${mark}`, kind: 'mark', says: '', ...sum }));
  return [...shared, ...counted(suppliers, troubled)];
}

/** All that lies upstream of units, read once to be walked from each of them. */
async function readUpstream(tx: Tx, units: readonly number[]) {
  const { marks: ids, transformations } = await reach(tx, units, 'upstream');
  const marks = await tx<(TiedMark & { kind: MarkKind })[]>`
    SELECT id, lot_id, birth_event, kind FROM mark WHERE id = ANY(${ids})
  `;
  const [graph, hosts, receipts] = await Promise.all([
    readGraph(tx, marks, transformations, {}),
    readHosts(tx, ids, {}),
    tx<{ mark: number; event: number; code: string; name: string }[]>`
      SELECT DISTINCT v.mark_id AS mark, e.id AS event, t.code, t.name
      FROM movement v
        JOIN event e ON e.id = v.event_id
        JOIN partner t ON t.id = e.partner_id
      WHERE v.mark_id = ANY(${ids})
        AND e.kind = 'receive'
        AND NOT is_taken_back(e.id, v.mark_id)
    `
  ]);
  const clocks = await readClocks(tx, [
    ...eventsOf(graph),
    ...eventsOf(hosts),
    ...receipts.map((row) => row.event)
  ]);
  const kinds = new Map(marks.map((mark) => [mark.id, mark.kind]));
  const single = (mark: number) => kinds.get(mark) === 'serial';
  const prepared = prepareWalk(graph, hosts, 'upstream', single);
  const received = groupBy(receipts, (row) => row.mark);
  return {
    isBulk: (mark: number) => kinds.get(mark) === 'bulk',
    receiptsOf: (mark: number) => received.get(mark) ?? [],
    walkUp: (unit: number) =>
      walkInTime({
        graph,
        hosts,
        prepared,
        roots: [unit],
        direction: 'upstream',
        clockOf: (event) => clocks.get(event)!,
        start: new Map(),
        single,
        pullIn: false
      })
  };
}

const eventsOf = ({ transformations, members, fittings, removals }: Graph): number[] =>
  [transformations, members, fittings, removals ?? []].flatMap((rows) =>
    rows.map((row) => row.event)
  );

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
