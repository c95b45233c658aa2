import { formatQuantity, type Quantity } from '../../../core/quantity/quantity.ts';
import type { CostEntry, CostRow } from '../../../core/stock/costs/replay.ts';
import type { Tx } from '../../kernel/db/client.ts';
import { idList } from '../../kernel/db/id-list.ts';

const texts = (list: readonly (Quantity | null)[]) =>
  list.map((one) => (one === null ? null : formatQuantity(one)));

/** Costs as an event tells them. */
export async function writeCosts(
  tx: Tx,
  rows: readonly (CostRow & { toldBy: number })[]
): Promise<void> {
  if (rows.length === 0) return;
  await tx`
    INSERT INTO mark_cost (mark_id, event_id, told_by, unit_cost)
    SELECT *
    FROM unnest(
      ${idList(rows.map((row) => row.mark))}::text::bigint[],
        ${idList(rows.map((row) => row.event))}::text::bigint[],
        ${idList(rows.map((row) => row.toldBy))}::text::bigint[],
        ${texts(rows.map((row) => row.cost))}::numeric[]
    )
  `;
}

/** Value that changed while the goods stayed. */
export async function writeEntries(
  tx: Tx,
  event: number,
  entries: readonly CostEntry[]
): Promise<void> {
  if (entries.length === 0) return;
  await tx`
    INSERT INTO cost_entry (event_id, mark_id, cost_before, cost_after, lying, here, gone)
    SELECT ${event}::bigint, *
    FROM unnest(
      ${idList(entries.map((one) => one.mark))}::text::bigint[],
        ${texts(entries.map((one) => one.before))}::numeric[],
        ${texts(entries.map((one) => one.after))}::numeric[],
        ${texts(entries.map((one) => one.lying))}::numeric[],
        ${texts(entries.map((one) => one.here))}::numeric[],
        ${texts(entries.map((one) => one.gone))}::numeric[]
    )
  `;
}
