import { rankSources, type RankedSource, type Source } from '../../core/common-source/rank.ts';
import type { MarkKind, MarkState } from '../../core/ledger/snapshot.ts';
import { Problem } from '../booking/problem.ts';
import type { Sql, Tx } from '../db/client.ts';

/** The units everything is compared with: all of the same products, or only those that were shipped; or a list of their own. */
export type Population = 'product' | 'shipped' | readonly number[];

export interface SharedSource extends RankedSource { /** For a mark: what it is. */ mark: { id: number; kind: MarkKind; number: string | null; product: string; name: string; state: MarkState } | null }
export interface CommonSources { troubled: number; population: number; sources: SharedSource[]; standsOut: number; looked: number }

/** Most sources that are looked at; those most troubled units share come first. */
const MOST_SOURCES = 2000;
const LISTED = 60;

/**
 * What troubled units share upstream, ranked by how surprising the sharing is beside the population: lots and serials through all levels, suppliers, and of their own making the place,
 * person, day and stations.
 * @param units ids of the troubled units
 * @throws Problem 422 where fewer than two are named
 */
export async function readCommonSources(sql: Sql, units: readonly number[], population: Population): Promise<CommonSources> {
  if (new Set(units).size < 2) throw new Problem(422, 'Too few to share anything', [{ code: 'mark.missing', path: 'units', message: 'Name at least two units in trouble: one alone shares nothing.' }]);
  return await sql.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', async (tx) => {
    const troubled = [...new Set(units)];
    const all = await readPopulation(tx, troubled, population);
    const [marks, suppliers, own] = await Promise.all([sharedMarks(tx, troubled, all), sharedSuppliers(tx, troubled, all), ownMaking(tx, troubled, all)]);
    const ranked = rankSources([...marks, ...suppliers, ...own], troubled.length, all.length);
    const listed = ranked.slice(0, LISTED);
    const named = new Map((await tx<NonNullable<SharedSource['mark']>[]>`SELECT m.id, m.kind, m.number, p.code AS product, p.name, m.state FROM mark m JOIN product p ON p.id = m.product_id WHERE m.id = ANY(${listed.flatMap((one) => (one.kind === 'mark' ? [Number(one.key.slice(5))] : []))})`).map((row) => [row.id, row]));
    return { troubled: troubled.length, population: all.length, looked: ranked.length, standsOut: ranked.filter((one) => one.standsOut).length, sources: listed.map((one) => { const mark = one.kind === 'mark' ? (named.get(Number(one.key.slice(5))) ?? null) : null; return { ...one, mark, says: mark ? `${mark.number ?? 'unmarked'} of ${mark.product}` : one.says }; }) };
  }) as CommonSources;
}

async function readPopulation(tx: Tx, troubled: readonly number[], population: Population): Promise<number[]> {
  if (typeof population !== 'string') return [...new Set([...population, ...troubled])];
  const rows = await tx<{ id: number }[]>`
    SELECT m.id FROM mark m WHERE m.kind <> 'bulk' AND (m.product_id, m.kind) IN (SELECT product_id, kind FROM mark WHERE id = ANY(${troubled as number[]}))
      ${population === 'shipped' ? tx`AND EXISTS (SELECT FROM movement v JOIN event e ON e.id = v.event_id AND e.kind = 'ship' WHERE v.mark_id = m.id)` : tx``}`;
  return [...new Set([...rows.map((row) => row.id), ...troubled])];
}

/** Lots and serials upstream that two or more of the troubled share, with how many of the population hold them. */
async function sharedMarks(tx: Tx, troubled: readonly number[], all: readonly number[]): Promise<Source[]> {
  const shared = await tx<{ node: number; troubled: number }[]>`
    WITH RECURSIVE up (unit, node) AS (
      SELECT u, u FROM unnest(${troubled as number[]}::bigint[]) u
      UNION
      SELECT r.unit, n.node FROM up r CROSS JOIN LATERAL (
        SELECT -o.transformation_id AS node FROM transformation_output o WHERE r.node > 0 AND o.mark_id = r.node AND NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = o.transformation_id)
        UNION ALL SELECT i.mark_id FROM transformation_input i WHERE r.node < 0 AND i.transformation_id = -r.node
        UNION ALL SELECT m.lot_id FROM mark m WHERE r.node > 0 AND m.id = r.node AND m.lot_id IS NOT NULL
        UNION ALL SELECT f.component_id FROM fitting f WHERE r.node > 0 AND f.host_id = r.node) n)
    SELECT u.node, count(*)::int AS troubled FROM up u JOIN mark m ON m.id = u.node AND m.kind <> 'bulk' WHERE u.node > 0 AND u.node <> u.unit GROUP BY u.node HAVING count(*) >= 2 ORDER BY 2 DESC, 1 LIMIT ${MOST_SOURCES}`;
  if (shared.length === 0) return [];
  const holding = await tx<{ source: number; count: number }[]>`
    WITH RECURSIVE down (source, node) AS (
      SELECT s, s FROM unnest(${shared.map((row) => row.node)}::bigint[]) s
      UNION
      SELECT r.source, n.node FROM down r CROSS JOIN LATERAL (
        SELECT -i.transformation_id AS node FROM transformation_input i WHERE r.node > 0 AND i.mark_id = r.node AND NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = i.transformation_id)
        UNION ALL SELECT o.mark_id FROM transformation_output o WHERE r.node < 0 AND o.transformation_id = -r.node
        UNION ALL SELECT m.id FROM mark m WHERE r.node > 0 AND m.lot_id = r.node
        UNION ALL SELECT f.host_id FROM fitting f WHERE r.node > 0 AND f.component_id = r.node) n)
    SELECT d.source, count(*)::int AS count FROM down d JOIN unnest(${all as number[]}::bigint[]) AS p (id) ON p.id = d.node GROUP BY d.source`;
  const countOf = new Map(holding.map((row) => [row.source, row.count]));
  return shared.map((row) => ({ key: `mark ${row.node}`, kind: 'mark', says: '', troubled: row.troubled, population: Math.max(row.troubled, countOf.get(row.node) ?? 0) }));
}

/** Suppliers of anything within the units. */
async function sharedSuppliers(tx: Tx, troubled: readonly number[], all: readonly number[]): Promise<Source[]> {
  const rows = await tx<{ code: string; name: string; unit: number }[]>`
    WITH RECURSIVE down (supplier, node) AS (
      SELECT DISTINCT e.partner_id, v.mark_id FROM event e JOIN movement v ON v.event_id = e.id WHERE e.kind = 'receive' AND e.partner_id IS NOT NULL
      UNION
      SELECT r.supplier, n.node FROM down r CROSS JOIN LATERAL (
        SELECT -i.transformation_id AS node FROM transformation_input i WHERE r.node > 0 AND i.mark_id = r.node AND NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = i.transformation_id)
        UNION ALL SELECT o.mark_id FROM transformation_output o WHERE r.node < 0 AND o.transformation_id = -r.node
        UNION ALL SELECT m.id FROM mark m WHERE r.node > 0 AND m.lot_id = r.node) n)
    SELECT t.code, t.name, d.node AS unit FROM down d JOIN unnest(${all as number[]}::bigint[]) AS p (id) ON p.id = d.node JOIN partner t ON t.id = d.supplier`;
  return counted(rows.map((row) => ({ key: `supplier ${row.code}`, kind: 'supplier', says: row.name, unit: row.unit })), troubled);
}

/** Where, by whom, when and over which stations the units themselves were made. */
async function ownMaking(tx: Tx, troubled: readonly number[], all: readonly number[]): Promise<Source[]> {
  const [made, stations] = await Promise.all([
    tx<{ unit: number; place: string; placeName: string; person: string; login: string; day: string }[]>`
      SELECT m.id AS unit, c.code AS place, c.name AS "placeName", w.name AS person, w.login, e.happened_at::date AS day FROM unnest(${all as number[]}::bigint[]) AS u (id) JOIN mark m ON m.id = u.id JOIN event e ON e.id = m.birth_event JOIN person w ON w.id = e.booked_by
        JOIN LATERAL (SELECT v.place_id FROM movement v WHERE v.event_id = e.id AND v.mark_id = m.id LIMIT 1) v ON true JOIN place c ON c.id = v.place_id`,
    tx<{ unit: number; code: string; name: string }[]>`
      SELECT DISTINCT m.id AS unit, t.code, t.name FROM unnest(${all as number[]}::bigint[]) AS u (id) JOIN mark m ON m.id = u.id JOIN planned_output n ON n.product_id = m.product_id AND n.number_key = m.number_key JOIN station_step s ON s.unit_id = n.id JOIN station t ON t.id = s.station_id`
  ]);
  return counted([
    ...made.flatMap((row) => [{ key: `place ${row.place}`, kind: 'place' as const, says: row.placeName, unit: row.unit }, { key: `person ${row.login}`, kind: 'person' as const, says: row.person, unit: row.unit }, { key: `day ${row.day}`, kind: 'day' as const, says: row.day, unit: row.unit }]),
    ...stations.map((row) => ({ key: `station ${row.code}`, kind: 'station' as const, says: row.name, unit: row.unit }))
  ], troubled);
}

/** Counts units by what they have; what fewer than two of the troubled have is left out. */
function counted(rows: readonly { key: string; kind: Source['kind']; says: string; unit: number }[], troubled: readonly number[]): Source[] {
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

