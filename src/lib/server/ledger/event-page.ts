import type { ListedMark } from '../../core/catalogue/listed-mark.ts';
import { stands } from '../kernel/db/what-counts.ts';
import { MAKING } from '../../core/ledger/taking-back/made.ts';
import type { MarkKind } from '../../core/catalogue/marking.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface EventPage {
  id: number;
  kind: string;
  document: string;
  /** The number its paper goes by: of a part delivery its own. */
  paper: string;
  reference: string | null;
  partner: string | null;
  at: string;
  bookedAt: string;
  who: string;
  /** The token it came by, and who had made that; null where somebody was at a screen. */
  token: { name: string; madeBy: string | null } | null;
  reason: string | null;
  order: { kind: string; number: string } | null;
  /** What this event took back, and what took this one back. */
  reverses: { id: number; kind: string; document: string } | null;
  reversedBy: number[];
  /** For a step on the floor: which unit, where, and what it became. */
  step: { unit: string; product: string; station: string; state: string } | null;
  /** Marks of which what it did can still be taken back: what it made, moved or changed. */
  open: { mark: number; product: string; kind: MarkKind; number: string | null }[];
  /** How many there are; no more than five hundred are listed. */
  openCount: number;
  /** Parts that went into units by it, or came out of them. */
  fittings: {
    put: boolean;
    part: number;
    product: string;
    number: string | null;
    host: number;
    hostProduct: string;
    hostNumber: string;
    position: string | null;
    quantity: string;
  }[];
  /** What was put into or taken out of cartons and pallets. */
  packings: {
    unit: string;
    product: string | null;
    number: string | null;
    child: string | null;
    quantity: string;
  }[];
  lines: (ListedMark & {
    mark: number;
    place: string | null;
    quantity: string | null;
    change: string | null;
  })[];
  lineCount: number;
  /** The versions of the plans it was decided by. */
  plans: { product: string; plan: string; name: string; version: number }[];
  /** Faults it went on in spite of. */
  remarks: {
    code: string;
    number: string | null;
    message: string;
    reason: string | null;
    /** Who let it pass with their password. */
    approvedBy: string | null;
  }[];
}

const LISTED = 500;

/** One event with its lines; at most five hundred are listed. Null where there is no such event. */
export async function readEventPage(db: Db, id: number): Promise<EventPage | null> {
  const [row] = await db<
    (Omit<
      EventPage,
      | 'at'
      | 'bookedAt'
      | 'order'
      | 'reverses'
      | 'reversedBy'
      | 'step'
      | 'open'
      | 'openCount'
      | 'packings'
      | 'fittings'
      | 'lines'
      | 'lineCount'
      | 'plans'
      | 'remarks'
    > & {
      at: Date;
      booked_at: Date;
      order_kind: string | null;
      order_number: string | null;
      count: number;
      reverses_id: number | null;
    })[]
  >`
    SELECT e.id, e.kind, e.document, paper_number(e.id) AS paper, e.reference, t.name AS partner, e.happened_at AS at,
      e.booked_at, w.name AS who, e.reason, o.kind AS order_kind, o.number AS order_number,
      e.reverses_id,
      CASE WHEN k.id IS NOT NULL
        THEN json_build_object('name', k.name, 'madeBy', (SELECT name FROM person WHERE id = k.made_by))
      END AS token,
      (SELECT count(*) FROM movement v WHERE v.event_id = e.id) + (
        SELECT count(*) FROM mark_change c WHERE c.event_id = e.id
      ) AS count
    FROM event e
      JOIN person w ON w.id = e.booked_by
      LEFT JOIN api_token k ON k.id = e.token_id
      LEFT JOIN partner t ON t.id = e.partner_id
      LEFT JOIN trade_order o ON o.id = e.order_id
    WHERE e.id = ${id}
  `;
  if (!row) return null;
  const lines = await db<EventPage['lines']>`
    SELECT *
    FROM (
      SELECT m.id AS mark, m.kind, m.number, p.code AS product, p.name, p.unit, m.state,
        c.code AS place, v.quantity::text AS quantity, NULL AS change
      FROM movement v
        JOIN mark m ON m.id = v.mark_id
        JOIN product p ON p.id = m.product_id
        JOIN place c ON c.id = v.place_id
      WHERE v.event_id = ${id}
      UNION ALL
      SELECT m.id, m.kind, m.number, p.code, p.name, p.unit, m.state, NULL, NULL,
        coalesce(
          x.fact, replace(x.field, '_', ' ')
        ) || ': ' || coalesce(x.old_value, 'none') || ' → ' || coalesce(x.new_value, 'none')
      FROM mark_change x
        JOIN mark m ON m.id = x.mark_id
        JOIN product p ON p.id = m.product_id
      WHERE x.event_id = ${id}
    ) both_kinds
    ORDER BY (quantity LIKE '-%') NULLS FIRST, product, number
    LIMIT ${LISTED}
  `;
  const plans = await db<EventPage['plans']>`
    SELECT p.code AS product, m.code AS plan, m.name, v.version
    FROM event_plan x
      JOIN product p ON p.id = x.product_id
      JOIN marking_plan_version v ON v.id = x.version_id
      JOIN marking_plan m ON m.id = v.plan_id
    WHERE x.event_id = ${id}
    ORDER BY p.code
  `;
  const remarks = await db<EventPage['remarks']>`
    SELECT r.code, r.number, r.message, r.reason, p.name AS "approvedBy"
    FROM booking_remark r
      LEFT JOIN approval a ON a.id = r.approval_id
      LEFT JOIN person p ON p.id = a.approved_by
    WHERE r.event_id = ${id}
    ORDER BY r.id
    LIMIT ${LISTED}
  `;
  const all = await readOpen(db, id, row.kind);
  const open = all.slice(0, LISTED);
  const openCount = all[0]?.count ?? 0;
  const [undone] =
    row.reverses_id === null
      ? []
      : await db<
          NonNullable<EventPage['reverses']>[]
        >`SELECT id, kind, document FROM event WHERE id = ${row.reverses_id}`;
  const [step] =
    row.kind !== 'station'
      ? []
      : await db<NonNullable<EventPage['step']>[]>`
        SELECT n.number AS unit, p.code AS product, t.name AS station, s.state
        FROM station_step s
          JOIN planned_output n ON n.id = s.unit_id
          JOIN product p ON p.id = n.product_id
          JOIN station t ON t.id = s.station_id
        WHERE s.event_id = ${id}
      `;
  const undoing = await db<
    { id: number }[]
  >`SELECT id FROM event WHERE reverses_id = ${id} ORDER BY id`;
  const packings = ['pack', 'unpack'].includes(row.kind)
    ? await db<EventPage['packings']>`
      SELECT u.sscc AS unit, p.code AS product, m.number, c.sscc AS child,
        abs(k.quantity) AS quantity
      FROM packing k
        JOIN logistic_unit u ON u.id = k.unit_id
        LEFT JOIN mark m ON m.id = k.mark_id
        LEFT JOIN product p ON p.id = m.product_id
        LEFT JOIN logistic_unit c ON c.id = k.child_id
      WHERE k.event_id = ${id}
      ORDER BY k.id
      LIMIT ${LISTED}
    `
    : [];
  const { order_kind, order_number, booked_at, count, at, reverses_id: _, ...event } = row;
  return {
    ...event,
    plans,
    remarks,
    open,
    openCount,
    packings: packings.map((one) => ({ ...one, quantity: trimZeros(one.quantity) })),
    fittings: await readFittings(db, id),
    reverses: undone ?? null,
    step: step ?? null,
    reversedBy: undoing.map((one) => one.id),
    at: at.toISOString(),
    bookedAt: booked_at.toISOString(),
    lineCount: count,
    order: order_kind ? { kind: order_kind, number: order_number! } : null,
    lines: lines.map((line) => ({
      ...line,
      quantity: line.quantity === null ? null : trimZeros(line.quantity)
    }))
  };
}

async function readFittings(db: Db, id: number): Promise<EventPage['fittings']> {
  const rows = await db<EventPage['fittings']>`
    SELECT f.put, f.part, p.code AS product, m.number, f.host, q.code AS "hostProduct",
      h.number AS "hostNumber", f.position, f.quantity::text
    FROM (
      SELECT id, true AS put, component_id AS part, host_id AS host, position, quantity
      FROM fitting
      WHERE from_event = ${id}
      UNION ALL
      SELECT id, false, component_id, host_id, position, quantity
      FROM removal
      WHERE event_id = ${id}
    ) f
      JOIN mark m ON m.id = f.part
      JOIN product p ON p.id = m.product_id
      JOIN mark h ON h.id = f.host
      JOIN product q ON q.id = h.product_id
    ORDER BY f.host, f.put, f.id
    LIMIT ${LISTED}
  `;
  return rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}

interface OpenMark {
  mark: number;
  product: string;
  kind: MarkKind;
  number: string | null;
  count: number;
}

/** Marks of which what an event did stands: what it made, or what it moved and changed. */
async function readOpen(db: Db, id: number, kind: string): Promise<OpenMark[]> {
  const marks = MAKING.has(kind)
    ? db`
      SELECT o.mark_id
      FROM transformation t
        JOIN transformation_output o ON o.transformation_id = t.id
      WHERE (t.event_id = ${id} OR t.event_id IN (SELECT b.id FROM event b WHERE b.reverses_id = ${id}))
        AND ${stands(db, db`t.id`)}
    `
    : db`
      SELECT v.mark_id FROM movement v WHERE v.event_id = ${id}
      UNION
      SELECT c.mark_id FROM mark_change c WHERE c.event_id = ${id}
      EXCEPT
      SELECT v.mark_id
      FROM event b
        JOIN movement v ON v.event_id = b.id
      WHERE b.reverses_id = ${id}
      EXCEPT
      SELECT c.mark_id
      FROM event b
        JOIN mark_change c ON c.event_id = b.id
      WHERE b.reverses_id = ${id}
    `;
  return db<OpenMark[]>`
    SELECT m.id AS mark, p.code AS product, m.kind, m.number,
      count(*) OVER ()::int AS count
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.id IN (${marks})
    ORDER BY p.code, m.number
    LIMIT ${LISTED}
  `;
}
