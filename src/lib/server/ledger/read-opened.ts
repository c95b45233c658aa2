import type { Db } from '../kernel/db/client.ts';
import type { Snapshot } from '../../core/ledger/snapshot.ts';

/** What of these marks came in as opening stock and stands, by place. */
export async function readOpened(tx: Db, ids: readonly number[]): Promise<Snapshot['opened']> {
  const opened = new Map<number, { place: number; document: string; quantity: string }[]>();
  if (ids.length === 0) return opened;
  const rows = await tx<{ mark: number; place: number; document: string; quantity: string }[]>`
    SELECT v.mark_id AS mark, v.place_id AS place, e.document, v.quantity
    FROM movement v
      JOIN event e ON e.id = v.event_id AND e.kind = 'opening'
    WHERE v.mark_id = ANY(${[...ids]}) AND NOT is_taken_back(e.id, v.mark_id)
  `;
  for (const { mark, ...one } of rows) opened.set(mark, [...(opened.get(mark) ?? []), one]);
  return opened;
}
