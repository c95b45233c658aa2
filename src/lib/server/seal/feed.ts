import type { Db } from '../kernel/db/client.ts';

/** A lot or serial, or goods without number, by the names it goes by now. */
interface NamedMark {
  product: string;
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
}
type Amount = NamedMark & { quantity: string };

/** An event as other systems are told it, with its rows. Quantities are signed decimal strings. */
export interface FedEvent {
  id: number;
  kind: string;
  document: string;
  reference: string | null;
  partner: string | null;
  order: { kind: string; number: string } | null;
  at: string;
  bookedAt: string;
  bookedBy: string;
  reason: string | null;
  /** The event it takes back. */
  reverses: number | null;
  movements: (Amount & { place: string })[];
  transformations: { inputs: Amount[]; outputs: Amount[] }[];
  fittings: (Amount & { host: NamedMark; position: string | null; out: boolean })[];
  changes: (NamedMark & { field: string; from: string | null; to: string | null })[];
}

const NAMED = `'product', p.code, 'kind', m.kind, 'number', m.number`;
const MARK = (on: string): string =>
  `JOIN mark m ON m.id = ${on} JOIN product p ON p.id = m.product_id`;
const listOf = (row: string, from: string, order: string): string => `coalesce((
    SELECT jsonb_agg(jsonb_build_object(${row}) ORDER BY ${order}) FROM ${from}
  ), '[]')`;

const side = (table: string): string =>
  listOf(
    `${NAMED}, 'quantity', trim_scale(x.quantity)::text`,
    `${table} x ${MARK('x.mark_id')} WHERE x.transformation_id = t.id`,
    'm.id'
  );
const fitting = (table: string, event: string, isOut: boolean): string => `
  SELECT x.id, jsonb_build_object(
    ${NAMED}, 'quantity', trim_scale(x.quantity)::text, 'position', x.position, 'out', ${isOut},
    'host', jsonb_build_object('product', hp.code, 'kind', h.kind, 'number', h.number)
  ) AS row
  FROM ${table} x ${MARK('x.component_id')}
    JOIN mark h ON h.id = x.host_id
    JOIN product hp ON hp.id = h.product_id
  WHERE x.${event} = e.id`;

/** An event with its rows, of what follows. */
const EVENT = `
  jsonb_build_object(
    'id', e.id, 'kind', e.kind, 'document', e.document, 'reference', e.reference,
    'partner', t.code,
    'order', CASE WHEN o.id IS NOT NULL THEN jsonb_build_object('kind', o.kind, 'number', o.number) END,
    'at', e.happened_at, 'bookedAt', e.booked_at, 'bookedBy', w.login, 'reason', e.reason,
    'reverses', e.reverses_id,
    'movements', ${listOf(
      `${NAMED}, 'place', c.code, 'quantity', trim_scale(x.quantity)::text`,
      `movement x ${MARK('x.mark_id')} JOIN place c ON c.id = x.place_id WHERE x.event_id = e.id`,
      'x.id'
    )},
    'transformations', ${listOf(
      `'inputs', ${side('transformation_input')}, 'outputs', ${side('transformation_output')}`,
      `transformation t WHERE t.event_id = e.id`,
      't.id'
    )},
    'fittings', coalesce((
      SELECT jsonb_agg(f.row ORDER BY f.id) FROM (
        ${fitting('removal', 'event_id', true)} UNION ALL ${fitting('fitting', 'from_event', false)}
      ) f
    ), '[]'),
    'changes', ${listOf(
      `${NAMED}, 'field', coalesce(x.fact, x.field), 'from', x.old_value, 'to', x.new_value`,
      `mark_change x ${MARK('x.mark_id')} WHERE x.event_id = e.id`,
      'x.id'
    )}
  ) AS event`;
const WITH_NAMES = `
  JOIN person w ON w.id = e.booked_by
  LEFT JOIN partner t ON t.id = e.partner_id
  LEFT JOIN trade_order o ON o.id = e.order_id`;

const FROM_POSITION = `
  SELECT l.position, ${EVENT}
  FROM seal_leaf l
    JOIN event e ON e.id = l.event_id
    ${WITH_NAMES}
  WHERE l.position >= $1
  ORDER BY l.position
  LIMIT $2`;

const BY_ID = `SELECT ${EVENT} FROM event e ${WITH_NAMES} WHERE e.id = ANY($1) ORDER BY e.id`;

/** Events by their ids, as other systems are told them. */
export async function readFed(db: Db, ids: readonly number[]): Promise<FedEvent[]> {
  const rows = await db.unsafe<{ event: FedEvent }[]>(BY_ID, [ids as number[]]);
  return rows.map(({ event }) => event);
}

/**
 * The events of the ledger in the order it was sealed in, which none is added to but at its end: who
 * reads on from where they were misses nothing, however late it was committed.
 * @param after what `next` was the last time; from the beginning where left out
 * @param limit events at most
 * @returns `next` to go on with, which is absent where there was nothing more
 */
export async function readFeed(
  db: Db,
  after: number | undefined,
  limit: number
): Promise<{ events: FedEvent[]; next?: string }> {
  const rows = await db.unsafe<{ position: number; event: FedEvent }[]>(FROM_POSITION, [
    after ?? 0,
    limit
  ]);
  const last = rows.at(-1);
  return {
    events: rows.map((row) => row.event),
    ...(last ? { next: String(last.position + 1) } : {})
  };
}
