import { microOf } from '../../../core/trace/packed/amounts.ts';
import { noRows, type BookedRows } from '../../../core/trace/packed/booked-rows.ts';
import { eventKindCode } from '../../../core/trace/packed/packed-ledger.ts';
import type { Db, Tx } from '../../kernel/db/client.ts';
import { readSnapshotText, type Snapshot } from './snapshot.ts';

/** Codes that answers name things by; those of what is new in a booking come with it. */
export interface Names {
  units: [product: number, unit: string][];
  places: [place: number, code: string][];
}
/**
 * The last event the index knows: where it is not in the database as it was, this is another
 * ledger.
 */
export interface Anchor {
  id: number;
  bookedAt: string;
  xid: string;
}
export interface Booked {
  snapshot: Snapshot;
  rows: BookedRows;
  names: Names;
  /** The transaction of each event. */ xids: Map<number, bigint>;
  /** The anchor now. */ anchor: Anchor | null;
}

/** The database is not the one the index was made of: a backup was put in its place. */
export class AnotherLedger extends Error {
  constructor() {
    super('The ledger is another one than the index was made of.');
  }
}

const KIND_CODES: Record<string, number> = { lot: 1, serial: 2, bulk: 3 };

/** Whether the ledger is the one the index was made of: the anchor is where it was. */
const isSame = (db: Db, packed: Snapshot, anchor: Anchor | null) =>
  anchor
    ? db`
      EXISTS (
        SELECT
        FROM event
        WHERE id = ${anchor.id}
          AND booked_at::text = ${anchor.bookedAt}
          AND booked_xid::text = ${anchor.xid}
      )
    `
    : db`
      NOT EXISTS (SELECT FROM event WHERE booked_xid < ${String(packed.xmin)}::xid8)
    `;

/** Whether an event (alias e) was seen in neither of two snapshots. */
const isUnseen = (db: Db, since: Snapshot, packed: Snapshot) => db`
  e.booked_xid >= ${String(since.xmin)}::xid8
    AND NOT pg_visible_in_snapshot(e.booked_xid, ${since.text}::pg_snapshot)
    AND NOT pg_visible_in_snapshot(e.booked_xid, ${packed.text}::pg_snapshot)
`;

/**
 * Whether anything was booked that two older snapshots did not see, as of now.
 * @throws AnotherLedger where the anchor is gone
 */
export async function isBookedSince(
  db: Db,
  since: Snapshot,
  packed: Snapshot,
  anchor: Anchor | null
): Promise<boolean> {
  const [now] = await db<{ same: boolean; more: boolean }[]>`
    SELECT ${isSame(db, packed, anchor)} AS same,
      EXISTS (SELECT FROM event e WHERE ${isUnseen(db, since, packed)}) AS more
  `;
  if (!now!.same) throw new AnotherLedger();
  return now!.more;
}

/**
 * Reads what this transaction's snapshot sees and neither of two older ones saw: every booking
 * committed since, in whatever order, and no other. One round trip where nothing was booked.
 * @param tx a repeatable-read transaction; where this is its first statement, its snapshot is taken
 * now
 * @param anchor null where the index knows no event
 * @throws AnotherLedger where the anchor is gone
 */
export async function readBooked(
  tx: Tx,
  since: Snapshot,
  packed: Snapshot,
  anchor: Anchor | null
): Promise<Booked> {
  const [[now], events] = await Promise.all([
    tx<{ snapshot: string; same: boolean }[]>`
      SELECT pg_current_snapshot()::text AS snapshot, ${isSame(tx, packed, anchor)} AS same
    `.execute(),
    tx<
      {
        id: number;
        kind: string;
        undoes: string | null;
        undone: number;
        at: string;
        partner: number;
        person: number;
        xid: string;
        bookedAt: string;
      }[]
    >`
      SELECT e.id, e.kind, (SELECT u.kind FROM event u WHERE u.id = e.reverses_id) AS undoes,
        coalesce(e.reverses_id, 0) AS undone,
        (
          extract(epoch FROM e.happened_at - '2000-01-01 00:00:00+00'::timestamptz) * 1000000
        )::bigint::text AS at,
        coalesce(e.partner_id, 0) AS partner, e.booked_by AS person, e.booked_xid::text AS xid,
        e.booked_at::text AS "bookedAt"
      FROM event e
      WHERE ${isUnseen(tx, since, packed)}
      ORDER BY e.id
    `.execute()
  ]);
  if (!now!.same) throw new AnotherLedger();
  const snapshot = readSnapshotText(now!.snapshot);
  if (events.length === 0)
    return { snapshot, rows: noRows(), names: { units: [], places: [] }, xids: new Map(), anchor };
  const { id, bookedAt, xid } = events.at(-1)!;
  const ids = events.map((event) => event.id);
  const [
    marks,
    ties,
    inputs,
    outputs,
    fittings,
    removals,
    movements,
    changes,
    takenBack,
    units,
    places
  ] = await Promise.all([
    tx<{ id: number; product: number; kind: string; lot: number; birth: number }[]>`
        SELECT id, product_id AS product, kind, coalesce(lot_id, 0) AS lot, birth_event AS birth
        FROM mark
        WHERE birth_event = ANY(${ids})
      `,
    tx<
      { id: number; event: number; shared: boolean }[]
    >`SELECT id, event_id AS event, shared FROM transformation WHERE event_id = ANY(${ids}) ORDER BY id`,
    tx<{ tie: number; mark: number; quantity: string }[]>`
        SELECT transformation_id AS tie, mark_id AS mark, quantity
        FROM transformation_input
        WHERE transformation_id = ANY(
          ARRAY(SELECT id FROM transformation WHERE event_id = ANY(${ids}))
        )
        ORDER BY transformation_id, mark_id
      `,
    tx<{ tie: number; mark: number; quantity: string; share: string | null }[]>`
        SELECT transformation_id AS tie, mark_id AS mark, quantity,
          (share * 1000000000000)::bigint::text AS share
        FROM transformation_output
        WHERE transformation_id = ANY(
          ARRAY(SELECT id FROM transformation WHERE event_id = ANY(${ids}))
        )
        ORDER BY transformation_id, mark_id
      `,
    tx<{ component: number; host: number; quantity: string; event: number }[]>`
        SELECT component_id AS component, host_id AS host, quantity, from_event AS event
        FROM fitting
        WHERE from_event = ANY(${ids})
      `,
    tx<{ component: number; host: number; quantity: string; event: number }[]>`
        SELECT component_id AS component, host_id AS host, quantity, event_id AS event
        FROM removal
        WHERE event_id = ANY(${ids})
      `,
    tx<{ event: number; mark: number; place: number; quantity: string }[]>`
        SELECT event_id AS event, mark_id AS mark, place_id AS place, quantity
        FROM movement
        WHERE event_id = ANY(${ids})
        ORDER BY id
      `,
    tx<{ event: number; mark: number }[]>`
        SELECT DISTINCT event_id AS event, mark_id AS mark
        FROM mark_change
        WHERE event_id = ANY(${ids})
      `,
    tx<{ transformation: number; event: number }[]>`
        SELECT transformation_id AS transformation, event_id AS event
        FROM transformation_reversed
        WHERE event_id = ANY(${ids})
      `,
    tx<{ id: number; unit: string }[]>`
        SELECT id, unit
        FROM product
        WHERE id IN (SELECT product_id FROM mark WHERE birth_event = ANY(${ids}))
      `,
    tx<{ id: number; code: string }[]>`
        SELECT id, code
        FROM place
        WHERE id IN (SELECT place_id FROM movement WHERE event_id = ANY(${ids}))
      `
  ]);
  const tieOf = new Map(
    ties.map((tie) => [
      tie.id,
      {
        ...tie,
        inputs: [] as BookedRows['transformations'][number]['inputs'],
        outputs: [] as BookedRows['transformations'][number]['outputs']
      }
    ])
  );
  for (const row of inputs)
    tieOf.get(row.tie)!.inputs.push({ mark: row.mark, quantity: microOf(row.quantity) });
  for (const row of outputs)
    tieOf.get(row.tie)!.outputs.push({
      mark: row.mark,
      quantity: microOf(row.quantity),
      share: row.share === null ? null : BigInt(row.share)
    });
  return {
    snapshot,
    anchor: { id, bookedAt, xid },
    xids: new Map(events.map((event) => [event.id, BigInt(event.xid)])),
    names: {
      units: units.map((row) => [row.id, row.unit]),
      places: places.map((row) => [row.id, row.code])
    },
    rows: {
      events: events.map((event) => ({
        id: event.id,
        kind: eventKindCode(event.kind),
        undoes: event.undoes === null ? 0 : eventKindCode(event.undoes),
        undone: event.undone,
        at: Number(event.at),
        partner: event.partner,
        person: event.person
      })),
      marks: marks.map((mark) => ({ ...mark, kind: KIND_CODES[mark.kind]! })),
      transformations: [...tieOf.values()],
      fittings: fittings.map((row) => ({ ...row, quantity: microOf(row.quantity) })),
      removals: removals.map((row) => ({ ...row, quantity: microOf(row.quantity) })),
      movements: [
        ...movements.map((row) => ({ ...row, quantity: microOf(row.quantity) })),
        ...changes.map((row) => ({ ...row, place: 0, quantity: 0n }))
      ],
      takenBack: [...takenBack]
    }
  };
}
