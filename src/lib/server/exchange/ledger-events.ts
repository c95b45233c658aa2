import { groupBy } from '../../core/group-by.ts';
import type { NamedMark } from '../../core/exchange/identifiers.ts';
import type { LedgerEvent } from '../../core/exchange/write.ts';
import { firstZone, zoneOfEvent } from '../kernel/db/zones.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/**
 * Events of the ledger whole, in time order, with what they reverse, and the marks they name. One
 * statement per table, whatever the number of events.
 */
export async function readLedgerEvents(
  db: Db,
  ids: readonly number[]
): Promise<{ events: LedgerEvent[]; marks: Map<number, NamedMark> }> {
  const asked = ids as number[];
  type Head = Omit<
    LedgerEvent,
    | 'at'
    | 'bookedAt'
    | 'lines'
    | 'transformations'
    | 'packings'
    | 'units'
    | 'unitPlaces'
    | 'earlier'
    | 'tookBack'
    | 'changed'
    | 'reverses'
    | 'partner'
  > & {
    at: Date;
    booked_at: Date;
    reverses_id: number | null;
    partner: string | null;
    partner_name: string | null;
    gln: string | null;
  };
  const undone = db`
    SELECT x.reverses_id FROM event x WHERE x.id = ANY(${asked}) AND x.reverses_id IS NOT NULL
  `;
  const heads = await db<Head[]>`
    SELECT e.id, e.kind, e.document, paper_number(e.id) AS paper, e.happened_at AS at, e.booked_at, e.reason, o.number AS order,
      t.code AS partner, t.name AS partner_name, t.gln, e.reverses_id,
      coalesce(${zoneOfEvent(db)}, ${firstZone(db)}) AS zone
    FROM event e
      LEFT JOIN trade_order o ON o.id = e.order_id
      LEFT JOIN partner t ON t.id = e.partner_id
    WHERE e.id = ANY(
        ARRAY(
          SELECT unnest(${asked}::bigint[])
          UNION
          (${undone})
          -- and what was taken back of the same events before
          UNION
          SELECT b.id FROM event b WHERE b.reverses_id IN (${undone})
        )
      )
    ORDER BY e.happened_at, e.id
  `;
  const all = heads.map((head) => head.id);
  const [movements, inputs, outputs, packings, units, back, changes, fittings] = await Promise.all([
    db<{ event: number; mark: number; place: string; quantity: string }[]>`
      SELECT v.event_id AS event, v.mark_id AS mark, c.code AS place, v.quantity
      FROM movement v
        JOIN place c ON c.id = v.place_id
      WHERE v.event_id = ANY(${all})
      ORDER BY v.id
    `,
    db<{ event: number; t: number; mark: number; quantity: string }[]>`
      SELECT t.event_id AS event, t.id AS t, i.mark_id AS mark, i.quantity
      FROM transformation t
        JOIN transformation_input i ON i.transformation_id = t.id
      WHERE t.event_id = ANY(${all})
    `,
    db<{ event: number; t: number; mark: number; quantity: string }[]>`
      SELECT t.event_id AS event, t.id AS t, o.mark_id AS mark, o.quantity
      FROM transformation t
        JOIN transformation_output o ON o.transformation_id = t.id
      WHERE t.event_id = ANY(${all})
      ORDER BY t.id, o.mark_id
    `,
    db<
      { event: number; unit: string; mark: number | null; child: string | null; quantity: string }[]
    >`
      SELECT p.event_id AS event, u.sscc AS unit, p.mark_id AS mark, c.sscc AS child, p.quantity
      FROM packing p
        JOIN logistic_unit u ON u.id = p.unit_id
        LEFT JOIN logistic_unit c ON c.id = p.child_id
      WHERE p.event_id = ANY(${all})
      ORDER BY p.id
    `,
    db<{ event: number; sscc: string; place: string | null }[]>`
      SELECT s.event_id AS event, u.sscc,
        (
          SELECT c.code
          FROM unit_content x
            JOIN movement v ON v.event_id = s.event_id AND v.mark_id = x.mark_id
            JOIN place c ON c.id = v.place_id
          WHERE x.unit_id = u.id
            OR x.unit_id IN (SELECT child_id FROM unit_on_pallet WHERE pallet_id = u.id)
          ORDER BY v.id
          LIMIT 1
        ) AS place
      FROM unit_shipped s
        JOIN logistic_unit u ON u.id = s.unit_id
      WHERE s.event_id = ANY(${all})
      ORDER BY u.id
    `,
    db<{ event: number; t: number | null; sscc: string | null }[]>`
      SELECT event_id AS event, transformation_id AS t, NULL AS sscc
      FROM transformation_reversed
      WHERE event_id = ANY(${all})
      UNION ALL
      SELECT b.event_id, NULL, u.sscc
      FROM unit_back b
        JOIN logistic_unit u ON u.id = b.unit_id
      WHERE b.event_id = ANY(${all})
    `,
    db<{ event: number; mark: number }[]>`
      SELECT DISTINCT event_id AS event, mark_id AS mark
      FROM mark_change
      WHERE event_id = ANY(${all})
    `,
    db<{ event: number; host: number; mark: number; quantity: string; put: boolean }[]>`
      SELECT from_event AS event, host_id AS host, component_id AS mark, quantity, true AS put
      FROM fitting
      WHERE from_event = ANY(${all})
      UNION ALL
      SELECT event_id, host_id, component_id, quantity, false
      FROM removal
      WHERE event_id = ANY(${all})
      ORDER BY event, put, host, mark
    `
  ]);
  const of = <T extends { event: number }>(rows: readonly T[]) => {
    const map = groupBy(rows, (row) => row.event);
    return (id: number) => map.get(id) ?? [];
  };
  const moved = of(movements),
    packed = of(packings),
    shipped = of(units),
    tookBack = of(back),
    changed = of(changes),
    fitted = of(fittings),
    used = groupBy(inputs, (row) => row.t),
    made = of(outputs);
  const built = new Map<number, LedgerEvent>();
  for (const { booked_at, at, reverses_id: _, partner, partner_name, gln, ...head } of heads) {
    built.set(head.id, {
      ...head,
      at: at.toISOString(),
      bookedAt: booked_at.toISOString(),
      partner: partner === null ? null : { code: partner, name: partner_name!, gln },
      lines: moved(head.id).map(({ mark, place, quantity }) => ({
        mark,
        place,
        quantity: trimZeros(quantity)
      })),
      transformations: [...groupBy(made(head.id), (row) => row.t)].map(([id, rows]) => ({
        id,
        inputs: (used.get(id) ?? []).map(({ mark, quantity }) => ({
          mark,
          quantity: trimZeros(quantity)
        })),
        outputs: rows.map(({ mark, quantity }) => ({ mark, quantity: trimZeros(quantity) }))
      })),
      packings: packed(head.id).map(({ unit, mark, child, quantity }) => ({
        unit,
        mark,
        child,
        quantity: trimZeros(quantity)
      })),
      fittings: fitted(head.id).map(({ event: _, ...row }) => ({
        ...row,
        quantity: trimZeros(row.quantity)
      })),
      units: shipped(head.id).map((row) => row.sscc),
      unitPlaces: new Map(
        shipped(head.id).flatMap(({ sscc, place }) => (place === null ? [] : [[sscc, place]]))
      ),
      tookBack: {
        transformations: tookBack(head.id).flatMap((row) => row.t ?? []),
        units: tookBack(head.id).flatMap((row) => row.sscc ?? [])
      },
      earlier: [],
      changed: changed(head.id).map((row) => row.mark),
      reverses: null
    });
  }
  const reversals = heads.filter((head) => head.reverses_id !== null);
  for (const { id, reverses_id } of reversals) {
    const event = built.get(id)!;
    event.reverses = built.get(reverses_id!) ?? null;
    event.earlier = reversals
      .filter((other) => other.reverses_id === reverses_id && other.id < id)
      .map((other) => built.get(other.id)!);
  }
  const markIds = [
    ...new Set([
      ...movements.map((row) => row.mark),
      ...inputs.map((row) => row.mark),
      ...outputs.map((row) => row.mark),
      ...packings.flatMap((row) => row.mark ?? []),
      ...changes.map((row) => row.mark),
      ...fittings.flatMap((row) => [row.host, row.mark])
    ])
  ];
  const marks = await db<(NamedMark & { id: number })[]>`
    SELECT m.id, p.code AS product, p.gtin, m.kind, m.number, l.number AS lot, p.unit
    FROM mark m
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE m.id = ANY(${markIds})
  `;
  const wanted = new Set(ids);
  return {
    events: [...built.values()].filter((event) => wanted.has(event.id)),
    marks: new Map(marks.map(({ id, ...mark }) => [id, mark]))
  };
}
