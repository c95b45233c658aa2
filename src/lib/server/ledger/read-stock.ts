import { ONE, quantity, type Quantity } from '../../core/quantity/quantity.ts';
import type { Tx } from '../kernel/db/client.ts';
import { idList } from '../kernel/db/id-list.ts';
import { inColumns } from '../kernel/db/in-columns.ts';
import { isFreePlace } from '../kernel/db/what-counts.ts';
import { distinctCodes } from './named-codes.ts';

/**
 * Stock by mark and place. Serials lie one at a place: those of one place share what says so, and
 * ten thousand of them make one map.
 */
export function stockByMark(
  stock: readonly { mark_id: number; place_id: number; quantity: string }[],
  codeById: ReadonlyMap<number, string>
): Map<number, ReadonlyMap<string, Quantity>> {
  const byMark = new Map<number, ReadonlyMap<string, Quantity>>(),
    oneAt = new Map<number, ReadonlyMap<string, Quantity>>();
  for (const row of stock) {
    const code = codeById.get(row.place_id)!,
      before = byMark.get(row.mark_id);
    if (!before && row.quantity === '1.000000') {
      let one = oneAt.get(row.place_id);
      if (!one) oneAt.set(row.place_id, (one = new Map([[code, ONE]])));
      byMark.set(row.mark_id, one);
    } else byMark.set(row.mark_id, new Map(before ?? []).set(code, quantity(row.quantity)));
  }
  return byMark;
}

/** On hand of a mark at a place, and when anything of it last moved there, where that is still to come. */
interface StockRow {
  mark_id: number;
  place_id: number;
  quantity: string;
  latest: Date | null;
}

/** A clock that is a little behind another's does not put what happens now before what did. */
const MOST_BEHIND_MS = 60_000;

/** Now, behind the lock: whoever had it before happened before. */
export function nowAfter(lying: readonly StockRow[]): Date {
  const now = Date.now();
  const latest = lying.reduce((most, { latest: at }) => Math.max(most, at?.getTime() ?? 0), now);
  return new Date(latest <= now + MOST_BEHIND_MS ? latest : now);
}

/** @param since when the booking happens: what moved before it needs no look */
export async function readStock(
  tx: Tx,
  ids: readonly number[],
  lock: boolean,
  since: Date
): Promise<StockRow[]> {
  if (ids.length === 0) return [];
  const read = await inColumns<Omit<StockRow, 'latest'> & { latest: string | null }>(
    tx,
    ['mark_id', 'place_id', 'quantity', 'latest'],
    tx`
      SELECT mark_id, place_id, quantity::text,
        CASE WHEN latest > ${since} THEN latest END AS latest
      FROM stock
      WHERE mark_id = ANY(${idList(ids)}::text::bigint[])
      ORDER BY mark_id, place_id ${lock ? tx`FOR UPDATE` : tx``}
    `
  );
  return read.mark_id.map((mark_id, at) => ({
    mark_id,
    place_id: read.place_id[at]!,
    quantity: read.quantity[at]!,
    latest: read.latest[at] ? new Date(read.latest[at]) : null
  }));
}

/** The lots of these products that lie anywhere. */
export async function lotsOnHand(tx: Tx, codes: readonly string[]): Promise<number[]> {
  const rows = await tx<{ id: number }[]>`
    SELECT m.id
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE upper(p.code) = ANY(${distinctCodes(codes)})
      AND m.kind = 'lot'
      AND EXISTS (
        SELECT
        FROM stock s
        WHERE s.mark_id = m.id AND s.quantity > 0 AND ${isFreePlace(tx, tx`s.place_id`)}
      )
  `;
  return rows.map((row) => row.id);
}
