import { LedgerPacker } from '../../../core/trace/packed/pack-ledger.ts';
import { eventKindCode, type PackedLedger } from '../../../core/trace/packed/packed-ledger.ts';
import type { Sql, Tx } from '../../kernel/db/client.ts';
import { inSnapshot } from '../../kernel/db/in-snapshot.ts';
import { copyRows } from './copy-rows.ts';
import type { Anchor, Names } from './read-booked.ts';

export interface LoadedLedger {
  ledger: PackedLedger;
  names: Names;
  /** `pg_current_snapshot()` it was read in. */ snapshot: string;
  anchor: Anchor | null;
}

/** The ledger would take more than it may. */
export class TooLarge extends Error {}

/**
 * Rows of the tables that a packed ledger needs, as they are copied; also what a bench compares a
 * start with.
 */
export const LEDGER_QUERIES = {
  event: `SELECT e.id::int4, e.kind, CASE WHEN e.reverses_id IS NULL THEN '' ELSE (SELECT u.kind FROM event u WHERE u.id = e.reverses_id) END, e.happened_at, coalesce(e.partner_id, 0)::int4, e.booked_by::int4, coalesce(e.reverses_id, 0)::int4 FROM event e`,
  mark: `SELECT id::int4, product_id::int4, kind, coalesce(lot_id, 0)::int4, birth_event::int4 FROM mark`,
  transformation: `SELECT id::int4, event_id::int4, shared::int4 FROM transformation`,
  input: `SELECT transformation_id::int4, mark_id::int4, quantity FROM transformation_input ORDER BY transformation_id, mark_id`,
  output: `SELECT transformation_id::int4, mark_id::int4, quantity, share FROM transformation_output ORDER BY transformation_id, mark_id`,
  fitting: `SELECT component_id::int4, host_id::int4, quantity, from_event::int4 FROM fitting ORDER BY id`,
  removal: `SELECT component_id::int4, host_id::int4, quantity, event_id::int4 FROM removal ORDER BY id`,
  movement: `SELECT event_id::int4, mark_id::int4, place_id::int4, quantity FROM movement ORDER BY id`,
  change: `SELECT DISTINCT event_id::int4, mark_id::int4 FROM mark_change`,
  takenBack: `SELECT transformation_id::int4, event_id::int4 FROM transformation_reversed`
} as const;

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes);

/**
 * Reads the whole ledger in one snapshot and packs it into arrays that threads share.
 * @param limit most bytes the packed ledger may take
 * @throws TooLarge where it would take more
 */
export async function loadLedger(sql: Sql, limit: number): Promise<LoadedLedger> {
  return inSnapshot(sql, async (tx) => {
    const [{ snapshot }] = await tx<
      [{ snapshot: string }]
    >`SELECT pg_current_snapshot()::text AS snapshot`;
    await tx`SET LOCAL work_mem = '128MB'`;
    const least = await leastBytes(tx);
    if (least > limit)
      throw new TooLarge(
        `The ledger needs at least ${Math.ceil(least / 1_048_576)} MB as an index; ${Math.floor(limit / 1_048_576)} MB are allowed.`
      );
    const packer = new LedgerPacker();
    const kinds = new Map<string, number>([['', 0]]);
    const kindOf = (kind: string): number => {
      let code = kinds.get(kind);
      if (code === undefined) kinds.set(kind, (code = eventKindCode(kind)));
      return code;
    };
    await copyRows(tx, LEDGER_QUERIES.event, (row) =>
      packer.bookedEvent(
        row.int(0),
        kindOf(row.text(1)),
        kindOf(row.text(2)),
        row.long(3),
        row.int(4),
        row.int(5),
        row.int(6)
      )
    );
    // lot, serial, bulk by their first letters.
    await copyRows(tx, LEDGER_QUERIES.mark, (row) =>
      packer.mark(
        row.int(0),
        row.int(1),
        row.letter(2) === 108 ? 1 : row.letter(2) === 115 ? 2 : 3,
        row.int(3),
        row.int(4)
      )
    );
    await copyRows(tx, LEDGER_QUERIES.transformation, (row) =>
      packer.transformation(row.int(0), row.int(1), row.int(2) === 1)
    );
    await copyRows(tx, LEDGER_QUERIES.input, (row) =>
      packer.input(row.int(0), row.int(1), row.numeric(2, 6))
    );
    await copyRows(tx, LEDGER_QUERIES.output, (row) =>
      packer.output(
        row.int(0),
        row.int(1),
        row.numeric(2, 6),
        row.isNull(3) ? null : row.numeric(3, 12)
      )
    );
    await copyRows(tx, LEDGER_QUERIES.fitting, (row) =>
      packer.fitting(row.int(0), row.int(1), row.numeric(2, 6), row.int(3))
    );
    await copyRows(tx, LEDGER_QUERIES.removal, (row) =>
      packer.removal(row.int(0), row.int(1), row.numeric(2, 6), row.int(3))
    );
    await copyRows(tx, LEDGER_QUERIES.movement, (row) =>
      packer.movement(row.int(0), row.int(1), row.int(2), row.numeric(3, 6))
    );
    await copyRows(tx, LEDGER_QUERIES.change, (row) => packer.change(row.int(0), row.int(1)));
    await copyRows(tx, LEDGER_QUERIES.takenBack, (row) => packer.takenBack(row.int(0), row.int(1)));
    const [units, places, [anchor]] = await Promise.all([
      tx<{ id: number; unit: string }[]>`SELECT id, unit FROM product`,
      tx<{ id: number; code: string }[]>`SELECT id, code FROM place`,
      tx<Anchor[]>`
        SELECT id, booked_at::text AS "bookedAt", booked_xid::text AS xid
        FROM event
        ORDER BY id DESC
        LIMIT 1
      `
    ]);
    return {
      ledger: packer.finish(shared),
      names: {
        units: units.map((row) => [row.id, row.unit]),
        places: places.map((row) => [row.id, row.code])
      },
      snapshot,
      anchor: anchor ?? null
    };
  });
}

/**
 * What the arrays found by ids take at the least, whatever is in them: 16 bytes a mark, 16 a
 * transformation, 18 an event.
 */
async function leastBytes(tx: Tx): Promise<number> {
  const [row] = await tx<{ bytes: string }[]>`
    SELECT coalesce((SELECT max(id) FROM mark), 0) * 16 + coalesce(
      (SELECT max(id) FROM transformation), 0
    ) * 16 + coalesce((SELECT max(id) FROM event), 0) * 18 AS bytes
  `;
  return Number(row!.bytes);
}
