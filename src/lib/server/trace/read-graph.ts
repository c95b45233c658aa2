import { groupBy } from '../../core/group-by.ts';
import type { Direction, Fitting, Graph, MadeMark, UsedMark } from '../../core/trace/graph.ts';
import type { TraceCut } from '../../core/trace/trace-answer.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { stands } from '../kernel/db/what-counts.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

type Column = ReturnType<Db>;

/** Whether an event had happened by the instant a trace is cut at. */
const happened = (db: Db, event: Column, { until }: TraceCut) =>
  until
    ? db`AND EXISTS (SELECT FROM event b WHERE b.id = ${event} AND b.happened_at <= ${until})`
    : db``;

/**
 * Whether a transformation holds and is gone through: not taken back by then, and of a kind and
 * time that count.
 */
export function holds(db: Db, id: Column, { until, withoutKinds }: TraceCut) {
  const reversed = until
    ? db`
      NOT EXISTS (
        SELECT
        FROM transformation_reversed x
          JOIN event r ON r.id = x.event_id
        WHERE x.transformation_id = ${id} AND r.happened_at <= ${until}
      )
    `
    : stands(db, id);
  if (!until && !withoutKinds?.length) return reversed;
  return db`
    ${reversed}
      AND EXISTS (
        SELECT
        FROM transformation t
          JOIN event e ON e.id = t.event_id
        WHERE t.id = ${id}
          ${until ? db`AND e.happened_at <= ${until}` : db``}
          ${withoutKinds?.length ? db`AND e.kind <> ALL(${withoutKinds as string[]})` : db``}
      )
  `;
}

/**
 * Whether a mark is gone into. A lot and the serials within it are of one product: what holds for
 * the one holds for the others.
 */
const goesInto = (db: Db, mark: Column, { withoutProducts }: TraceCut) =>
  withoutProducts?.length
    ? db`
      AND NOT EXISTS (
        SELECT
        FROM mark k
          JOIN product q ON q.id = k.product_id
        WHERE k.id = ${mark} AND upper(q.code) = ANY(${withoutProducts.map(numberKey)})
      )
    `
    : db``;

/**
 * All that is tied to marks, whatever the clocks say: marks as they are and transformations
 * negated, the walk in SQL, as a set. Distances, clocks and the rest are worked out by the core on
 * what was read.
 */
export async function reach(
  db: Db,
  roots: number | readonly number[],
  direction: Direction,
  cut: TraceCut = {}
): Promise<{ marks: number[]; transformations: number[] }> {
  const start = (typeof roots === 'number' ? [roots] : roots) as number[];
  const rows = await (direction === 'downstream' ? reachDown : reachUp)(db, start, cut);
  const marks: number[] = [],
    transformations: number[] = [];
  for (const { node } of rows) (node > 0 ? marks : transformations).push(Math.abs(node));
  return { marks, transformations };
}

const reachDown = async (db: Db, start: number[], cut: TraceCut): Promise<{ node: number }[]> =>
  await db<{ node: number }[]>`
        WITH RECURSIVE reach (node) AS (
          SELECT unnest(${start}::bigint[])
          UNION
          SELECT n.node
          FROM reach r
            CROSS JOIN LATERAL (
              SELECT -i.transformation_id AS node
              FROM transformation_input i
              WHERE r.node > 0 AND i.mark_id = r.node AND ${holds(db, db`i.transformation_id`, cut)}
              UNION ALL
              SELECT o.mark_id
              FROM transformation_output o
              WHERE r.node < 0 AND o.transformation_id = -r.node ${goesInto(db, db`o.mark_id`, cut)}
              UNION ALL
              SELECT m.id
              FROM mark m
              WHERE r.node > 0 AND m.lot_id = r.node ${happened(db, db`m.birth_event`, cut)}
              UNION ALL
              SELECT f.host_id
              FROM fitting f
              WHERE r.node > 0
                AND f.component_id = r.node
                ${happened(db, db`f.from_event`, cut)} ${goesInto(db, db`f.host_id`, cut)}
              UNION ALL
              SELECT v.component_id
              FROM removal v
              WHERE r.node > 0
                AND v.host_id = r.node
                ${happened(db, db`v.event_id`, cut)} ${goesInto(db, db`v.component_id`, cut)}
            ) n
        )
        SELECT node
        FROM reach
      `;

const reachUp = async (db: Db, start: number[], cut: TraceCut): Promise<{ node: number }[]> =>
  await db<{ node: number }[]>`
        WITH RECURSIVE reach (node) AS (
          SELECT node
          FROM (
            SELECT unnest(${start}::bigint[])
            UNION
            SELECT m.id
            FROM mark m
            WHERE m.lot_id = ANY(${start}::bigint[]) ${happened(db, db`m.birth_event`, cut)}
          ) AS start (node)
          UNION
          SELECT n.node
          FROM reach r
            CROSS JOIN LATERAL (
              SELECT -o.transformation_id AS node
              FROM transformation_output o
              WHERE r.node > 0 AND o.mark_id = r.node AND ${holds(db, db`o.transformation_id`, cut)}
              UNION ALL
              SELECT i.mark_id
              FROM transformation_input i
              WHERE r.node < 0 AND i.transformation_id = -r.node ${goesInto(db, db`i.mark_id`, cut)}
              UNION ALL
              SELECT m.lot_id
              FROM mark m
              WHERE r.node > 0 AND m.id = r.node AND m.lot_id IS NOT NULL
                ${happened(db, db`m.birth_event`, cut)}
              UNION ALL
              SELECT f.component_id
              FROM fitting f
              WHERE r.node > 0
                AND f.host_id = r.node
                ${happened(db, db`f.from_event`, cut)} ${goesInto(db, db`f.component_id`, cut)}
              UNION ALL
              SELECT v.host_id
              FROM removal v
              WHERE r.node > 0
                AND v.component_id = r.node
                ${happened(db, db`v.event_id`, cut)} ${goesInto(db, db`v.host_id`, cut)}
            ) n
        )
        SELECT node
        FROM reach
      `;

/** A mark as the genealogy knows it. */
export interface TiedMark {
  id: number;
  lot_id: number | null;
  birth_event: number;
}

/** Reads what ties marks together, of the transformations that were reached. */
export async function readGraph(
  db: Db,
  marks: readonly TiedMark[],
  transformations: readonly number[],
  cut: TraceCut
): Promise<Graph> {
  const ids = marks.map((mark) => mark.id);
  const [ties, fittings, removals] = await Promise.all([
    readTransformations(db, transformations),
    db<Fitting[]>`
      SELECT f.component_id AS component, f.host_id AS host, f.quantity, f.from_event AS event
      FROM fitting f
      WHERE f.component_id = ANY(${ids})
        AND f.host_id = ANY(${ids})
        ${happened(db, db`f.from_event`, cut)}
    `,
    db<Fitting[]>`
      SELECT v.component_id AS component, v.host_id AS host, v.quantity, v.event_id AS event
      FROM removal v
      WHERE v.component_id = ANY(${ids})
        AND v.host_id = ANY(${ids})
        ${happened(db, db`v.event_id`, cut)}
    `
  ]);
  const reached = new Set(ids);
  const within = ties.map((tie) => ({
    ...tie,
    inputs: tie.inputs.filter((row) => reached.has(row.mark)),
    outputs: tie.outputs.filter((row) => reached.has(row.mark))
  }));
  // One of which a cut left only the one side passes nothing on.
  const whole = within.filter((tie) => tie.inputs.length > 0 && tie.outputs.length > 0);
  return {
    transformations: whole,
    members: membersOf(marks, within),
    fittings: fittings.map(trimmed),
    removals: removals.map(trimmed)
  };
}

const trimmed = (row: Fitting): Fitting => ({ ...row, quantity: trimZeros(row.quantity) });

/**
 * A serial that was given its number out of its lot's own stock came by that transformation; it is
 * not counted as a member as well.
 */
function membersOf(
  marks: readonly TiedMark[],
  transformations: Graph['transformations']
): Graph['members'][number][] {
  const reached = new Set(marks.map((mark) => mark.id)),
    lotOf = new Map(marks.map((mark) => [mark.id, mark.lot_id]));
  const numbered = new Set<number>();
  for (const { inputs, outputs } of transformations)
    for (const { mark } of outputs)
      if (inputs.some((input) => input.mark === lotOf.get(mark))) numbered.add(mark);
  return marks.flatMap((mark) =>
    mark.lot_id !== null && reached.has(mark.lot_id) && !numbered.has(mark.id)
      ? [{ lot: mark.lot_id, serial: mark.id, event: mark.birth_event }]
      : []
  );
}

async function readTransformations(
  db: Db,
  ids: readonly number[]
): Promise<Graph['transformations'][number][]> {
  const list = ids as number[];
  const [rows, inputs, outputs] = await Promise.all([
    db<{ id: number; event: number; shared: boolean; separates: boolean }[]>`
      SELECT t.id, t.event_id AS event, t.shared, e.kind = 'teardown' AS separates
      FROM transformation t
        JOIN event e ON e.id = t.event_id
      WHERE t.id = ANY(${list})
    `,
    db<({ t: number } & UsedMark)[]>`
      SELECT transformation_id AS t, mark_id AS mark, quantity
      FROM transformation_input
      WHERE transformation_id = ANY(${list})
    `,
    db<({ t: number } & MadeMark)[]>`
      SELECT transformation_id AS t, mark_id AS mark, quantity, share
      FROM transformation_output
      WHERE transformation_id = ANY(${list})
    `
  ]);
  const inOf = groupBy(inputs, (row) => row.t),
    outOf = groupBy(outputs, (row) => row.t);
  return rows.map((row) => ({
    ...row,
    inputs: (inOf.get(row.id) ?? []).map(({ mark, quantity }) => ({
      mark,
      quantity: trimZeros(quantity)
    })),
    outputs: (outOf.get(row.id) ?? []).map(({ mark, quantity, share }) => ({
      mark,
      quantity: trimZeros(quantity),
      share
    }))
  }));
}

/** All that stands of hosts that something was taken out of, on either side of them. */
export async function readHosts(
  db: Db,
  marks: readonly number[],
  { until }: TraceCut
): Promise<Graph> {
  const ids = marks as number[],
    cut = until ? { until } : {};
  const hosts = (
    await db<{ id: number }[]>`
      SELECT DISTINCT i.mark_id AS id
      FROM transformation_input i
        JOIN transformation t ON t.id = i.transformation_id
        JOIN event e ON e.id = t.event_id
      WHERE i.mark_id = ANY(${ids}) AND e.kind = 'teardown'
      UNION
      SELECT v.host_id
      FROM removal v
      WHERE v.host_id = ANY(${ids})
    `
  ).map((row) => row.id);
  if (hosts.length === 0) return { transformations: [], members: [], fittings: [], removals: [] };
  const [ties, fittings, removals] = await Promise.all([
    db<{ id: number }[]>`
      SELECT DISTINCT s.id
      FROM (
        SELECT transformation_id AS id FROM transformation_input WHERE mark_id = ANY(${hosts})
        UNION
        SELECT transformation_id FROM transformation_output WHERE mark_id = ANY(${hosts})
      ) s
      WHERE ${holds(db, db`s.id`, cut)}
    `,
    db<Fitting[]>`
      SELECT f.component_id AS component, f.host_id AS host, f.quantity, f.from_event AS event
      FROM fitting f
      WHERE (f.host_id = ANY(${hosts}) OR f.component_id = ANY(${hosts}))
        ${happened(db, db`f.from_event`, cut)}
    `,
    db<Fitting[]>`
      SELECT v.component_id AS component, v.host_id AS host, v.quantity, v.event_id AS event
      FROM removal v
      WHERE (v.host_id = ANY(${hosts}) OR v.component_id = ANY(${hosts}))
        ${happened(db, db`v.event_id`, cut)}
    `
  ]);
  return {
    transformations: await readTransformations(
      db,
      ties.map((tie) => tie.id)
    ),
    members: [],
    fittings: fittings.map(trimmed),
    removals: removals.map(trimmed)
  };
}
