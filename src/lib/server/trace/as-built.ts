import { expiryOf, stands, stateOf } from '../kernel/db/what-counts.ts';
import { asBuilt, type AsBuilt, type BuiltMark, type Making } from '../../core/making/as-built.ts';
import {
  countingMakings,
  type AskedParts,
  type PartChange,
  type UnitHistory
} from '../../core/making/life-of-unit.ts';
import { groupBy } from '../../core/group-by.ts';
import { billById, readBill } from '../catalogue/bills.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { firstZone } from '../kernel/db/zones.ts';
import { inSnapshot } from '../kernel/db/in-snapshot.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { reach } from './read-graph.ts';

export interface AsBuiltAnswer extends AsBuilt {
  mark: BuiltMark;
  onHand: string;
  zone: string;
}

/** What is asked: as it was built, as it is now, or as it was on a day. */
export interface AskedRecord {
  as: AskedParts;
  /** `YYYY-MM-DD`; its end, in the zone of the record. */
  day?: string;
}

/**
 * The record of a mark's parts, read in one snapshot of the database; null where there is no such
 * mark.
 */
export async function readAsBuilt(
  sql: Sql,
  id: number,
  { as, day }: AskedRecord = { as: 'built' }
): Promise<AsBuiltAnswer | null> {
  return inSnapshot(sql, async (tx) => {
    const [more] = await tx<[{ on_hand: string; zone: string }]>`
      SELECT coalesce((SELECT sum(quantity) FROM stock WHERE mark_id = ${id}), 0) AS on_hand,
        ${firstZone(tx)} AS zone
    `;
    const until = day === undefined ? null : await endOfDay(tx, day, more.zone);
    const { marks: ids, transformations } = await reach(tx, id, 'upstream');
    const [marks, makings, changes, apart] = await Promise.all([
      readMarks(tx, ids),
      readMakings(tx, transformations, until),
      readPartChanges(tx, ids, until),
      readApart(tx, ids, until)
    ]);
    const byId = new Map(marks.map((mark) => [mark.id, mark]));
    const mark = byId.get(id);
    if (!mark) return null;
    const history: UnitHistory = {
      ...{ makings, changes, apart },
      single: (one) => byId.get(one)?.kind === 'serial',
      birthOf: (one) => byId.get(one)?.birth ?? 0
    };
    const record = asBuilt(id, byId, countingMakings(history, as));
    return { mark, onHand: trimZeros(more.on_hand), zone: more.zone, ...record };
  });
}

/** The instant a day ends in a zone. */
async function endOfDay(tx: Tx, day: string, zone: string): Promise<Date> {
  const [row] = await tx<[{ at: Date }]>`
    SELECT (${day}::date + 1)::timestamp AT TIME ZONE ${zone} - interval '1 microsecond' AS at
  `;
  return row.at;
}

const upTo = (tx: Tx, until: Date | null) =>
  until === null ? tx`` : tx`AND e.happened_at <= ${until}`;

const readMarks = (tx: Tx, ids: readonly number[]) => tx<(BuiltMark & { birth: number })[]>`
  SELECT m.id, p.code AS product, p.name, p.unit, m.kind, m.number, l.number AS lot,
    m.birth_event AS birth,
    ${expiryOf(tx)} AS expires,
    ${stateOf(tx)} AS state,
    coalesce(m.supplier_number, l.supplier_number) AS "supplierNumber",
    (
      SELECT t.name
      FROM movement v
        JOIN event e ON e.id = v.event_id
        JOIN partner t ON t.id = e.partner_id
      WHERE v.mark_id = m.id AND e.kind = 'receive' AND NOT is_taken_back(e.id, m.id)
      ORDER BY v.id
      LIMIT 1
    ) AS supplier
  FROM mark m
    JOIN product p ON p.id = m.product_id
    LEFT JOIN mark l ON l.id = m.lot_id
  WHERE m.id = ANY(${ids as number[]})
`;

interface MakingRow {
  id: number;
  event: number;
  document: string;
  at: Date;
  who: string;
  kind: string;
  bill_id: number | null;
  day: string;
  shared: boolean;
}

/** What made the marks and still holds, the oldest first, with the bill it was made by. */
async function readMakings(
  tx: Tx,
  transformations: readonly number[],
  until: Date | null
): Promise<Making[]> {
  const ids = transformations as number[];
  const [rows, inputs, outputs] = await Promise.all([
    tx<MakingRow[]>`
      SELECT t.id, t.shared, e.id AS event, e.document, e.happened_at AS at,
        e.happened_at::date AS day, w.name AS who, e.kind, o.bill_id
      FROM transformation t
        JOIN event e ON e.id = t.event_id
        JOIN person w ON w.id = e.booked_by
        LEFT JOIN trade_order o ON o.id = e.order_id
      WHERE t.id = ANY(${ids}) ${upTo(tx, until)}
      ORDER BY e.happened_at, t.id
    `,
    tx<{ t: number; mark: number; quantity: string; position: string | null }[]>`
      SELECT transformation_id AS t, mark_id AS mark, quantity, position
      FROM transformation_input
      WHERE transformation_id = ANY(${ids})
    `,
    tx<{ t: number; mark: number; quantity: string; product: string }[]>`
      SELECT o.transformation_id AS t, o.mark_id AS mark, o.quantity, p.code AS product
      FROM transformation_output o
        JOIN mark m ON m.id = o.mark_id
        JOIN product p ON p.id = m.product_id
      WHERE o.transformation_id = ANY(${ids})
    `
  ]);
  const inOf = groupBy(inputs, (row) => row.t);
  const outOf = groupBy(outputs, (row) => row.t);
  const billOf = billsOnce(tx);
  return Promise.all(
    rows.map(async ({ at, bill_id, day, ...row }): Promise<Making> => {
      const made = outOf.get(row.id) ?? [];
      const bill = row.kind === 'build' ? await billOf(made[0]?.product ?? '', bill_id, day) : null;
      // A bill that is for another product than was made (rework under a foreign order) says
      // nothing here.
      const own = made.some((output) => output.product === bill?.product);
      return {
        ...row,
        at: at.toISOString(),
        bill: own ? bill : null,
        inputs: (inOf.get(row.id) ?? []).map(({ t: _, ...input }) => ({
          ...input,
          quantity: trimZeros(input.quantity)
        })),
        outputs: made.map(({ mark, quantity }) => ({ mark, quantity: trimZeros(quantity) }))
      };
    })
  );
}

/** Each bill is read once: that of the order, or that of the day. */
function billsOnce(tx: Tx) {
  const bills = new Map<string, Promise<Making['bill']>>();
  return (product: string, id: number | null, day: string): Promise<Making['bill']> => {
    const key = id === null ? `${product} ${day}` : String(id);
    const known = bills.get(key);
    if (known) return known;
    const read = id === null ? readBill(tx, product, { day }) : billById(tx, id);
    bills.set(key, read);
    return read;
  };
}

/** What was put into the marks, and taken out of them, the oldest first. */
async function readPartChanges(
  tx: Tx,
  ids: readonly number[],
  until: Date | null
): Promise<PartChange[]> {
  const rows = await tx<(Omit<PartChange, 'at'> & { at: Date })[]>`
    SELECT c.host, c.part, c.quantity::text, c.position, e.id AS event, e.document,
      e.happened_at AS at, w.name AS who, e.kind
    FROM (
      SELECT host_id AS host, component_id AS part, quantity, position, from_event AS event
      FROM fitting
      WHERE host_id = ANY(${ids as number[]})
      UNION ALL
      SELECT host_id, component_id, -quantity, NULL, event_id
      FROM removal
      WHERE host_id = ANY(${ids as number[]})
    ) c
      JOIN event e ON e.id = c.event
      JOIN person w ON w.id = e.booked_by
    WHERE true ${upTo(tx, until)}
    ORDER BY e.id, c.quantity
  `;
  return rows.map((row) => ({
    ...row,
    at: row.at.toISOString(),
    quantity: trimZeros(row.quantity)
  }));
}

/** The teardowns of the marks that stand, the earliest first. */
async function readApart(
  tx: Tx,
  ids: readonly number[],
  until: Date | null
): Promise<Map<number, number[]>> {
  const rows = await tx<{ mark: number; event: number }[]>`
    SELECT i.mark_id AS mark, e.id AS event
    FROM transformation_input i
      JOIN transformation t ON t.id = i.transformation_id
      JOIN event e ON e.id = t.event_id AND e.kind = 'teardown'
    WHERE i.mark_id = ANY(${ids as number[]})
      AND ${stands(tx, tx`t.id`)} ${upTo(tx, until)}
    ORDER BY e.id
  `;
  return new Map(
    [...groupBy(rows, (row) => row.mark)].map(([mark, of]) => [mark, of.map((row) => row.event)])
  );
}
