import { groupBy } from '../../core/group-by.ts';
import type {
  KnownChange,
  KnownEvent,
  KnownFitting,
  KnownPacking,
  LaterEvent
} from '../../core/ledger/snapshot.ts';
import { quantity, type Quantity } from '../../core/quantity/quantity.ts';
import { idList } from '../kernel/db/id-list.ts';
import type { Tx } from '../kernel/db/client.ts';
import { toldCost } from '../kernel/db/what-counts.ts';

/** An event as a reversal needs it, and what must be read and locked with it. */
export interface EventRead {
  known: KnownEvent;
  marks: number[];
  /** Units that parts went into by it, or came out of. */
  hosts: number[];
  placeIds: number[];
  /** SSCCs of the cartons and pallets it touched. */
  packages: string[];
}

interface EventRow {
  id: number;
  kind: string;
  document: string;
  order_id: number | null;
  partner_id: number | null;
  undone: boolean;
}

/**
 * An event with all it moved, tied, changed and packed, and what touched its marks since; the event
 * itself is locked, so that two do not take it back at once.
 */
export async function readEvent(tx: Tx, id: number, lock: boolean): Promise<EventRead | null> {
  if (!Number.isSafeInteger(id)) return null;
  if (lock) await tx`SELECT pg_advisory_xact_lock(hashtextextended(${`reverse ${id}`}, 0))`;
  const [event] = await tx<EventRow[]>`
    SELECT id, kind, document, order_id, partner_id,
      EXISTS (SELECT FROM event b WHERE b.reverses_id = e.id) AS undone
    FROM event e
    WHERE id = ${id}
  `;
  if (!event) return null;
  const [movements, transformations, changes, packings, shipped, takenBack, fitted, costs] =
    await Promise.all([
      tx<{ mark: number; place: string; place_id: number; quantity: string }[]>`
      SELECT v.mark_id AS mark, p.code AS place, v.place_id, v.quantity
      FROM movement v
        JOIN place p ON p.id = v.place_id
      WHERE v.event_id = ${id}
      ORDER BY v.id
    `,
      readTies(tx, id),
      readChanges(tx, id),
      readPackings(tx, id),
      tx<{ sscc: string }[]>`
      SELECT u.sscc
      FROM unit_out s
        JOIN logistic_unit u ON u.id = s.unit_id
      WHERE s.event_id = ${id}
      ORDER BY u.id
    `,
      readTakenBack(tx, id),
      readFittings(tx, id),
      readCostsIn(tx, id)
    ]);
  const marks = [
    ...new Set([
      ...movements.map((row) => row.mark),
      ...changes.map((row) => row.mark),
      ...packings.flatMap((row) => row.mark ?? [])
    ])
  ];
  const hosts = [...fitted.fittings, ...fitted.removals].map((row) => row.host);
  const known: KnownEvent = {
    ...{ id, kind: event.kind, document: event.document, undone: event.undone },
    ...{ orderId: event.order_id, partnerId: event.partner_id },
    movements: movements.map((row) => ({ ...row, quantity: quantity(row.quantity) })),
    ...{ transformations, changes, packings, takenBack, costs },
    shipped: shipped.map((row) => row.sscc),
    ...fitted,
    later: await readLater(tx, id, [...marks, ...hosts]),
    fittedSince: await readFittedSince(tx, id, marks)
  };
  const placeIds = [...new Set(movements.map((row) => row.place_id))];
  return { known, marks, hosts, placeIds, packages: packagesOf(known) };
}

const packagesOf = ({ shipped, packings }: KnownEvent): string[] => [
  ...shipped,
  ...packings.flatMap(({ unit, child }) => (child === null ? [unit] : [unit, child]))
];

/** What one of each cost that came in by an event: as told last, where it was corrected. */
async function readCostsIn(tx: Tx, id: number): Promise<Map<number, Quantity | null>> {
  const rows = await tx<{ mark: number; cost: string | null }[]>`
    SELECT v.mark_id AS mark,
      coalesce(
        ${toldCost(tx, tx`v.mark_id`, tx`${id}`)},
        CASE WHEN bool_and(v.unit_cost IS NOT NULL) THEN
          sum(v.quantity * v.unit_cost) / sum(v.quantity) END
      )::text AS cost
    FROM movement v
    WHERE v.event_id = ${id} AND v.quantity > 0
    GROUP BY v.mark_id
  `;
  return new Map(rows.map(({ mark, cost }) => [mark, cost === null ? null : quantity(cost)]));
}

/** Its transformations, and those that a reversal of part of it left standing anew. */
async function readTies(tx: Tx, id: number): Promise<KnownEvent['transformations']> {
  const ofEvent = tx`
    (t.event_id = ${id} OR t.event_id IN (SELECT e.id FROM event e WHERE e.reverses_id = ${id}))
  `;
  const [transformations, inputs, outputs] = await Promise.all([
    tx<{ id: number; reversed: boolean; shared: boolean }[]>`
      SELECT t.id, t.shared,
        EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id) AS reversed
      FROM transformation t
      WHERE ${ofEvent}
      ORDER BY t.id
    `,
    tx<{ t: number; mark: number; quantity: string }[]>`
      SELECT transformation_id AS t, mark_id AS mark, i.quantity
      FROM transformation_input i
        JOIN transformation t ON t.id = i.transformation_id
      WHERE ${ofEvent}
    `,
    tx<{ t: number; mark: number; quantity: string }[]>`
      SELECT transformation_id AS t, mark_id AS mark, o.quantity
      FROM transformation_output o
        JOIN transformation t ON t.id = o.transformation_id
      WHERE ${ofEvent}
    `
  ]);
  const inOf = groupBy(inputs, (row) => row.t);
  const outOf = groupBy(outputs, (row) => row.t);
  const exact = (rows: readonly { mark: number; quantity: string }[] | undefined) =>
    (rows ?? []).map((row) => ({ mark: row.mark, quantity: quantity(row.quantity) }));
  return transformations.map((row) => ({
    ...row,
    inputs: exact(inOf.get(row.id)),
    outputs: exact(outOf.get(row.id))
  }));
}

/** What it changed of marks, with what those fields say now. */
const readChanges = (tx: Tx, id: number): Promise<KnownChange[]> =>
  tx<KnownChange[]>`
    SELECT c.mark_id AS mark, c.field, c.fact, c.old_value AS from, c.new_value AS to,
      CASE c.field
        WHEN 'state' THEN m.state
        WHEN 'number' THEN m.number::text
        WHEN 'expires_on' THEN m.expires_on::text
        WHEN 'made_on' THEN m.made_on::text
        WHEN 'retest_on' THEN m.retest_on::text
        WHEN 'supplier_number' THEN m.supplier_number
        WHEN 'fact' THEN m.facts -> c.fact ->> 'value'
      END AS now,
      c.field <> 'number' OR NOT EXISTS (
        SELECT
        FROM mark x
        WHERE x.product_id = m.product_id
          AND x.kind = m.kind
          AND x.number_key = upper(c.old_value)
          AND x.id <> m.id
      ) AS free
    FROM mark_change c
      JOIN mark m ON m.id = c.mark_id
    WHERE c.event_id = ${id}
    ORDER BY c.id
  `.then((rows) => [...rows]);

async function readPackings(tx: Tx, id: number): Promise<KnownPacking[]> {
  const rows = await tx<(Omit<KnownPacking, 'quantity'> & { quantity: string })[]>`
    SELECT u.sscc AS unit, u.id AS "unitId", p.mark_id AS mark, c.sscc AS child,
      c.id AS "childId", p.quantity
    FROM packing p
      JOIN logistic_unit u ON u.id = p.unit_id
      LEFT JOIN logistic_unit c ON c.id = p.child_id
    WHERE p.event_id = ${id}
    ORDER BY p.id
  `;
  return rows.map((row) => ({ ...row, quantity: quantity(row.quantity) }));
}

async function readFittings(
  tx: Tx,
  id: number
): Promise<{ fittings: KnownFitting[]; removals: KnownFitting[] }> {
  type Row = Omit<KnownFitting, 'quantity'> & { quantity: string };
  const exact = (rows: Row[]) => rows.map((row) => ({ ...row, quantity: quantity(row.quantity) }));
  const [fittings, removals] = await Promise.all([
    tx<Row[]>`
      SELECT component_id AS part, host_id AS host, position, quantity
      FROM fitting
      WHERE from_event = ${id}
      ORDER BY id
    `,
    tx<Row[]>`
      SELECT component_id AS part, host_id AS host, position, quantity
      FROM removal
      WHERE event_id = ${id}
      ORDER BY id
    `
  ]);
  return { fittings: exact(fittings), removals: exact(removals) };
}

/** The last event that changed the parts of each unit since, of those that were not taken back. */
async function readFittedSince(
  tx: Tx,
  id: number,
  marks: readonly number[]
): Promise<Map<number, LaterEvent>> {
  const rows = await tx<(LaterEvent & { host: number })[]>`
    SELECT DISTINCT ON (f.host) f.host, e.id AS event, e.kind, e.document,
      e.happened_at::date AS day
    FROM (
      SELECT host_id AS host, from_event AS event
      FROM fitting
      WHERE host_id = ANY(${idList(marks)}::text::bigint[])
      UNION ALL
      SELECT host_id, event_id
      FROM removal
      WHERE host_id = ANY(${idList(marks)}::text::bigint[])
    ) f
      JOIN event e ON e.id = f.event AND e.kind <> 'reversal'
    WHERE f.event > ${id} AND NOT EXISTS (SELECT FROM event b WHERE b.reverses_id = e.id)
    ORDER BY f.host, e.id DESC
  `;
  return new Map(rows.map(({ host, ...since }) => [host, since]));
}

/** Marks of which what it did was taken back by an earlier reversal. */
async function readTakenBack(tx: Tx, id: number): Promise<Set<number>> {
  const rows = await tx<{ mark: number }[]>`
    SELECT v.mark_id AS mark
    FROM event b
      JOIN movement v ON v.event_id = b.id
    WHERE b.reverses_id = ${id}
    UNION
    SELECT c.mark_id
    FROM event b
      JOIN mark_change c ON c.event_id = b.id
    WHERE b.reverses_id = ${id}
  `;
  return new Set(rows.map((row) => row.mark));
}

/** The last event that touched each mark since, of those that were not taken back. */
async function readLater(
  tx: Tx,
  id: number,
  marks: readonly number[]
): Promise<Map<number, LaterEvent>> {
  if (marks.length === 0) return new Map();
  const rows = await tx<(LaterEvent & { mark: number })[]>`
    SELECT w.id AS mark, e.id AS event, e.kind, e.document, e.happened_at::date AS day
    FROM unnest(${idList(marks)}::text::bigint[]) AS w (id)
      CROSS JOIN LATERAL (
        SELECT max(l.event_id) AS event_id
        FROM (
          (
            SELECT v.event_id
            FROM movement v
              JOIN event x ON x.id = v.event_id AND x.kind <> 'reversal'
            WHERE v.mark_id = w.id
              AND v.event_id > ${id}
              AND NOT EXISTS (SELECT FROM event b WHERE b.reverses_id = v.event_id)
            ORDER BY v.event_id DESC
            LIMIT 1
          )
          UNION ALL
          (
            SELECT c.event_id
            FROM mark_change c
              JOIN event x ON x.id = c.event_id AND x.kind <> 'reversal'
            WHERE c.mark_id = w.id
              AND c.event_id > ${id}
              AND NOT EXISTS (SELECT FROM event b WHERE b.reverses_id = c.event_id)
            ORDER BY c.event_id DESC
            LIMIT 1
          )
        ) l
      ) l
      JOIN event e ON e.id = l.event_id
  `;
  return new Map(rows.map(({ mark, ...later }) => [mark, later]));
}
