import type { Direction } from '../../core/trace/graph.ts';
import {
  traceFindings,
  type PartnerEnd,
  type TraceFindings,
  type TraceMaterial
} from '../../core/trace/trace.ts';
import { groupBy } from '../../core/group-by.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { inSnapshot } from '../kernel/db/in-snapshot.ts';
import { asMarkRecord, type MarkRecordRow } from '../ledger/mark-record.ts';
import { type MarkRecord } from '../../core/ledger/mark-record.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import type { TraceCut, TraceDrawing } from '../../core/trace/trace-answer.ts';
import { holds, reach, readGraph, readHosts } from './read-graph.ts';

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
  return inSnapshot(sql, async (tx) => {
    const material = await readMaterial(tx, roots, direction, cut);
    if (!material) return null;
    const findings = traceFindings({ ...material, content: !cut.withoutProducts?.length });
    // Where products are left out, nobody can say what part of a batch went into the rest.
    const { content } = findings;
    const recordOf = new Map(material.records.map((record) => [record.id, record]));
    const byId = (a: MarkRecord, b: MarkRecord) => a.id - b.id;
    const marks = material.records
      .filter((record) => findings.levels.has(record.id))
      .map((record) => ({
        ...record,
        level: findings.levels.get(record.id)!,
        ...(content ? { content: content.get(record.id) ?? '0' } : {})
      }))
      .sort((a, b) => a.level - b.level || byId(a, b));
    const { events, ends, balances, cleared } = findings;
    const { mark: _, causes: __, ...balance } = balances[0]!;
    return {
      root: recordOf.get(material.roots[0]!)!,
      roots: material.roots.map((root) => recordOf.get(root)!),
      direction,
      marks,
      graph: findings.graph,
      events,
      ends,
      balance,
      balances,
      cleared: {
        marks: cleared.marks.map((mark) => recordOf.get(mark)!).sort(byId),
        customers: cleared.customers
      },
      ...(content ? { contentBy: findings.contentBy! } : {})
    };
  });
}

/** What a recall needs of a trace. */
export interface ReachedScope {
  marks: number[];
  /** Who got of it before any of that came, and how many marks time cleared. */
  cleared: PartnerEnd[];
  clearedMarks: number;
  balances: TraceFindings['balances'];
}
export const NOTHING_REACHED: ReachedScope = {
  marks: [],
  cleared: [],
  clearedMarks: 0,
  balances: []
};

/**
 * What a trace reaches within a transaction, as its own snapshot sees it, and who got of it before
 * any of that came: for a decision that must not see more than it books.
 */
export async function reachInTime(
  tx: Tx,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut = {}
): Promise<ReachedScope> {
  const material = await readMaterial(tx, roots, direction, cut);
  if (!material) return NOTHING_REACHED;
  const { levels, cleared, balances } = traceFindings(material);
  return {
    marks: [...levels.keys()],
    cleared: cleared.customers,
    clearedMarks: cleared.marks.length,
    balances
  };
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
  const [marks, movements, changes, events, stock, used, hosts] = await Promise.all([
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
        undone: number | null;
        happened: string;
      }[]
    >`
      SELECT e.id, e.kind, e.document, t.code AS partner, e.happened_at AS at, w.name AS by,
        (SELECT u.kind FROM event u WHERE u.id = e.reverses_id) AS undoes,
        e.reverses_id AS undone,
        (extract(epoch FROM e.happened_at) * 1000000)::bigint::text AS happened
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
        UNION
        SELECT event_id
        FROM transformation
        WHERE id = ANY(${transformationIds})
        UNION
        SELECT birth_event
        FROM mark
        WHERE id = ANY(${ids})
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
        UNION ALL SELECT m.lot_id, m.id FROM mark m WHERE m.lot_id = ANY(${wanted as number[]}::bigint[]) AND NOT EXISTS (SELECT FROM transformation_output o JOIN transformation_input x USING (transformation_id) WHERE o.mark_id = m.id AND x.mark_id = m.lot_id AND ${holds(tx, tx`o.transformation_id`, { ...(until ? { until } : {}) })}) ${until ? tx`AND EXISTS (SELECT FROM event b WHERE b.id = m.birth_event AND b.happened_at <= ${until})` : tx``}
      ) w JOIN transformation_input i ON i.mark_id = w.mark WHERE ${holds(tx, tx`i.transformation_id`, { ...(until ? { until } : {}) })} GROUP BY w.root`,
    readHosts(tx, ids, cut)
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
    graph: await readGraph(tx, marks, transformationIds, cut),
    hosts,
    content: false,
    clocks: cut.clocks ?? 'obey',
    from: cut.from ? new Set(cut.from) : null,
    marks: marks.map(({ id, kind, unit }) => ({ id, kind, unit })),
    events: events.map((event) => ({
      ...event,
      at: event.at.toISOString(),
      happened: Number(event.happened)
    })),
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
