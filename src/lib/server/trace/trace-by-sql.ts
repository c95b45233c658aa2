import { stands } from '../kernel/db/what-counts.ts';
import type { Direction, Graph, MadeMark, UsedMark } from '../../core/trace/graph.ts';
import { traceFindings, type TraceMaterial } from '../../core/trace/trace.ts';
import { groupBy } from '../../core/group-by.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { asMarkRecord, type MarkRecordRow } from '../ledger/mark-record.ts';
import { type MarkRecord } from '../../core/ledger/mark-record.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import type { TraceCut, TraceDrawing } from '../../core/trace/trace-answer.ts';

/**
 * Traces marks through the ledger by SQL, as it stands in one snapshot of the database: where there
 * is no index, and the judge of what the index answers. Null where none of the marks is there.
 */
export async function traceBySql(
  sql: Sql,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut = {}
): Promise<TraceDrawing | null> {
  return (await sql.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', async (tx) => {
    const material = await readMaterial(tx, roots, direction, cut);
    if (!material) return null;
    const findings = traceFindings(material);
    // Where products are left out, nobody can say what part of a batch went into the rest.
    const content = cut.withoutProducts?.length ? null : findings.content;
    const recordOf = new Map(material.records.map((record) => [record.id, record]));
    const marks = material.records
      .map((record) => ({
        ...record,
        level: findings.levels.get(record.id)!,
        ...(content ? { content: content.get(record.id) ?? '0' } : {})
      }))
      .sort((a, b) => a.level - b.level || a.id - b.id);
    const { events, ends, balances } = findings;
    const { mark: _, causes: __, ...balance } = balances[0]!;
    return {
      root: recordOf.get(material.roots[0]!)!,
      roots: material.roots.map((root) => recordOf.get(root)!),
      direction,
      marks,
      graph: material.graph,
      events,
      ends,
      balance,
      balances
    };
  })) as TraceDrawing | null;
}

/**
 * Whether a transformation holds and is gone through: not taken back by then, and of a kind and
 * time that count.
 */
function holds(db: Db, id: ReturnType<Db>, { until, withoutKinds }: TraceCut) {
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
        WHERE t.id = ${id} ${until ? db`AND e.happened_at <= ${until}` : db``} ${withoutKinds?.length ? db`AND e.kind <> ALL(${withoutKinds as string[]})` : db``}
      )
  `;
}

/**
 * Whether a mark is gone into. A lot and the serials within it are of one product: what holds for
 * the one holds for the others.
 */
const goesInto = (db: Db, mark: ReturnType<Db>, { withoutProducts }: TraceCut) =>
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
const bornBy = (db: Db, { until }: TraceCut) =>
  until
    ? db`AND EXISTS (SELECT FROM event b WHERE b.id = m.birth_event AND b.happened_at <= ${until})`
    : db``;

/**
 * The ids reached, marks as they are and transformations negated: the walk in SQL, as a set.
 * Distances and the rest are worked out by the core on what was read.
 */
export async function reach(
  db: Db,
  roots: number | readonly number[],
  direction: Direction,
  cut: TraceCut = {}
): Promise<{ marks: number[]; transformations: number[] }> {
  const start = (typeof roots === 'number' ? [roots] : roots) as number[];
  const rows =
    direction === 'downstream'
      ? await db<{ node: number }[]>`
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
              WHERE r.node > 0 AND m.lot_id = r.node ${bornBy(db, cut)}
              UNION ALL
              SELECT f.host_id
              FROM fitting f
              WHERE r.node > 0 AND f.component_id = r.node ${goesInto(db, db`f.host_id`, cut)}
            ) n
        )
        SELECT node
        FROM reach
      `
      : await db<{ node: number }[]>`
        WITH RECURSIVE reach (node) AS (
          SELECT node
          FROM (
            SELECT unnest(${start}::bigint[])
            UNION
            SELECT m.id
            FROM mark m
            WHERE m.lot_id = ANY(${start}::bigint[]) ${bornBy(db, cut)}
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
              UNION ALL
              SELECT f.component_id
              FROM fitting f
              WHERE r.node > 0 AND f.host_id = r.node ${goesInto(db, db`f.component_id`, cut)}
            ) n
        )
        SELECT node
        FROM reach
      `;
  const marks: number[] = [],
    transformations: number[] = [];
  for (const { node } of rows) (node > 0 ? marks : transformations).push(Math.abs(node));
  return { marks, transformations };
}

async function readMaterial(
  tx: Tx,
  wanted: readonly number[],
  direction: Direction,
  cut: TraceCut
): Promise<(TraceMaterial & { records: MarkRecord[] }) | null> {
  const { marks: ids, transformations: transformationIds } = await reach(
    tx,
    wanted,
    direction,
    cut
  );
  const { until } = cut;
  const by = (column: ReturnType<Db>) => (until ? tx`AND ${column} <= ${until}` : tx``);
  // Sent one behind the other without waiting: the database works on the next while this process
  // reads the last.
  const [
    marks,
    transformations,
    inputs,
    outputs,
    fittings,
    movements,
    changes,
    events,
    stock,
    used
  ] = await Promise.all([
    tx<(MarkRecordRow & { unit: string; lot_id: number | null; birth_event: number })[]>`
      SELECT m.id, p.code AS product, p.unit, m.kind, m.number, l.number AS lot, m.lot_id,
        m.supplier_number, m.expires_on, m.birth_event, ${
          until
            ? tx`
              coalesce(
                (
                  SELECT c.old_value
                  FROM mark_change c
                    JOIN event e ON e.id = c.event_id
                  WHERE c.mark_id = m.id AND c.field = 'state' AND e.happened_at > ${until}
                  ORDER BY c.id
                  LIMIT 1
                ),
                  m.state
              ) AS state,
                coalesce(
                  (
                    SELECT sum(v.quantity)
                    FROM movement v
                      JOIN event e ON e.id = v.event_id
                    WHERE v.mark_id = m.id AND e.happened_at <= ${until}
                  ),
                    0
                ) AS on_hand
            `
            : tx`
              m.state,
                coalesce(
                  (SELECT sum(s.quantity) FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0), 0
                ) AS on_hand
            `
        }
      FROM mark m
        JOIN product p ON p.id = m.product_id
        LEFT JOIN mark l ON l.id = m.lot_id
      WHERE m.id = ANY(${ids})
    `,
    tx<
      { id: number; event: number }[]
    >`SELECT id, event_id AS event FROM transformation WHERE id = ANY(${transformationIds})`,
    tx<{ t: number; mark: number; quantity: string }[]>`
      SELECT transformation_id AS t, mark_id AS mark, quantity
      FROM transformation_input
      WHERE transformation_id = ANY(${transformationIds})
    `,
    tx<{ t: number; mark: number; quantity: string; share: string | null }[]>`
      SELECT transformation_id AS t, mark_id AS mark, quantity, share
      FROM transformation_output
      WHERE transformation_id = ANY(${transformationIds})
    `,
    tx<Graph['fittings'][number][]>`
      SELECT component_id AS component, host_id AS host, quantity, from_event AS event
      FROM fitting
      WHERE component_id = ANY(${ids}) AND host_id = ANY(${ids})
    `,
    tx<{ event: number; mark: number; place: string; quantity: string }[]>`
      SELECT v.event_id AS event, v.mark_id AS mark, p.code AS place, v.quantity
      FROM movement v
        JOIN place p ON p.id = v.place_id ${until ? tx`JOIN event e ON e.id = v.event_id` : tx``}
      WHERE v.mark_id = ANY(${ids}) ${by(tx`e.happened_at`)}
      ORDER BY v.id
    `,
    tx<{ event: number; mark: number }[]>`
      SELECT DISTINCT c.event_id AS event, c.mark_id AS mark
      FROM mark_change c ${until ? tx`JOIN event e ON e.id = c.event_id` : tx``}
      WHERE c.mark_id = ANY(${ids}) ${by(tx`e.happened_at`)}
    `,
    tx<
      {
        id: number;
        kind: string;
        document: string;
        partner: string | null;
        at: Date;
        by: string;
        undoes: string | null;
      }[]
    >`
      SELECT e.id, e.kind, e.document, t.code AS partner, e.happened_at AS at, w.name AS by,
        (SELECT u.kind FROM event u WHERE u.id = e.reverses_id) AS undoes
      FROM event e
        JOIN person w ON w.id = e.booked_by
        LEFT JOIN partner t ON t.id = e.partner_id
      WHERE e.id IN (
        SELECT event_id
        FROM movement
        WHERE mark_id = ANY(${ids})
        UNION
        SELECT event_id
        FROM mark_change
        WHERE mark_id = ANY(${ids})
      ) ${by(tx`e.happened_at`)}
    `,
    until
      ? tx<{ mark: number; place: string; quantity: string }[]>`
        SELECT v.mark_id AS mark, p.code AS place, sum(v.quantity) AS quantity
        FROM movement v
          JOIN event e ON e.id = v.event_id
          JOIN place p ON p.id = v.place_id
        WHERE v.mark_id = ANY(${ids}) AND e.happened_at <= ${until}
        GROUP BY v.mark_id, p.code
        HAVING sum(v.quantity) > 0
        ORDER BY v.mark_id, p.code
      `
      : tx<{ mark: number; place: string; quantity: string }[]>`
        SELECT s.mark_id AS mark, p.code AS place, s.quantity
        FROM stock s
          JOIN place p ON p.id = s.place_id
        WHERE s.mark_id = ANY(${ids}) AND s.quantity > 0
        ORDER BY s.mark_id, p.code
      `,
    tx<{ root: number; used: string }[]>`
      -- A serial that was given its number out of the lot's own stock is no member here: what it took is what the lot used.
      SELECT w.root, sum(i.quantity) AS used FROM (
        SELECT r AS root, r AS mark FROM unnest(${wanted as number[]}::bigint[]) r
        UNION ALL SELECT m.lot_id, m.id FROM mark m WHERE m.lot_id = ANY(${wanted as number[]}::bigint[]) AND NOT EXISTS (SELECT FROM transformation_output o JOIN transformation_input x USING (transformation_id) WHERE o.mark_id = m.id AND x.mark_id = m.lot_id AND ${holds(tx, tx`o.transformation_id`, { ...(until ? { until } : {}) })}) ${bornBy(tx, { ...(until ? { until } : {}) })}
      ) w JOIN transformation_input i ON i.mark_id = w.mark WHERE ${holds(tx, tx`i.transformation_id`, { ...(until ? { until } : {}) })} GROUP BY w.root`
  ]);
  if (marks.length === 0) return null;
  for (const row of movements) row.quantity = trimZeros(row.quantity);
  for (const row of stock) row.quantity = trimZeros(row.quantity);
  const there = new Set(marks.map((mark) => mark.id));
  return {
    direction,
    roots: [...new Set(wanted)].filter((root) => there.has(root)),
    movements,
    changes,
    stock,
    graph: graphOf(new Set(ids), marks, transformations, inputs, outputs, fittings),
    marks: marks.map(({ id, kind, unit }) => ({ id, kind, unit })),
    events: events.map((event) => ({ ...event, at: event.at.toISOString() })),
    rootUsed: new Map(used.map((row) => [row.root, row.used])),
    rootSerials: groupSerials(marks, new Set(wanted)),
    records: marks.map(asMarkRecord)
  };
}

function groupSerials(
  marks: readonly { id: number; lot_id: number | null }[],
  roots: ReadonlySet<number>
): Map<number, number[]> {
  const within = marks.filter((mark) => mark.lot_id !== null && roots.has(mark.lot_id));
  return new Map(
    [...groupBy(within, (mark) => mark.lot_id!)].map(([lot, serials]) => [
      lot,
      serials.map((mark) => mark.id)
    ])
  );
}

/**
 * Puts the rows of the genealogy together; what was used or made outside the trace stays out of it.
 */
function graphOf(
  reached: ReadonlySet<number>,
  marks: readonly { id: number; lot_id: number | null; birth_event: number }[],
  rows: readonly { id: number; event: number }[],
  inputs: readonly { t: number; mark: number; quantity: string }[],
  outputs: readonly { t: number; mark: number; quantity: string; share: string | null }[],
  fittings: Graph['fittings']
): Graph {
  const transformations = new Map(
    rows.map(({ id, event }) => [
      id,
      { id, event, inputs: [] as UsedMark[], outputs: [] as MadeMark[] }
    ])
  );
  for (const { t, mark, quantity } of inputs)
    if (reached.has(mark))
      transformations.get(t)!.inputs.push({ mark, quantity: trimZeros(quantity) });
  for (const { t, mark, quantity, share } of outputs)
    if (reached.has(mark))
      transformations.get(t)!.outputs.push({ mark, quantity: trimZeros(quantity), share });
  // A serial that was given its number out of its lot's own stock came by that transformation; it
  // is not counted as a member as well.
  const lotOf = new Map(marks.map((mark) => [mark.id, mark.lot_id]));
  const numbered = new Set<number>();
  for (const { inputs: from, outputs: to } of transformations.values())
    for (const { mark } of to)
      if (from.some((input) => input.mark === lotOf.get(mark))) numbered.add(mark);
  const members = marks.flatMap((mark) =>
    mark.lot_id !== null && reached.has(mark.lot_id) && !numbered.has(mark.id)
      ? [{ lot: mark.lot_id, serial: mark.id, event: mark.birth_event }]
      : []
  );
  // One of which a cut left only the one side passes nothing on.
  return {
    transformations: [...transformations.values()].filter(
      (one) => one.inputs.length > 0 && one.outputs.length > 0
    ),
    members,
    fittings
  };
}
