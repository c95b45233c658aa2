import type { Gone, KnownMark, Snapshot } from '../../core/ledger/snapshot.ts';
import type { Tx } from '../kernel/db/client.ts';
import { idList } from '../kernel/db/id-list.ts';

/**
 * Where marks went that lie nowhere: their last movement and what they went into by it. Of a lot or
 * of goods without number only where an event is taken back.
 * @param stock what of the marks lies anywhere
 */
export async function readGone(
  tx: Tx,
  marks: Iterable<KnownMark>,
  stock: Snapshot['stock'],
  event: unknown
): Promise<Map<number, Gone>> {
  const ids = [...marks]
    .filter((mark) => (mark.kind === 'serial' || event !== null) && !stock.has(mark.id))
    .map((mark) => mark.id);
  if (ids.length === 0) return new Map();
  const rows = await tx<(Gone & { mark: number })[]>`
    SELECT w.id AS mark, e.kind, e.document, e.happened_at::date AS day, t.name AS partner,
      (
        SELECT p.code || ' ' || x.number
        FROM transformation r
          JOIN transformation_input i ON i.transformation_id = r.id AND i.mark_id = w.id
          JOIN transformation_output o ON o.transformation_id = r.id
          JOIN mark x ON x.id = o.mark_id
          JOIN product p ON p.id = x.product_id
        WHERE r.event_id = e.id AND x.number IS NOT NULL
        UNION ALL
        SELECT p.code || ' ' || x.number
        -- By the part, which few hosts ever had, and not by the event, which may have fitted thousands.
        FROM (SELECT host_id, from_event FROM fitting WHERE component_id = w.id OFFSET 0) f
          JOIN mark x ON x.id = f.host_id
          JOIN product p ON p.id = x.product_id
        WHERE f.from_event = e.id
        LIMIT 1
      ) AS into
    FROM unnest(${idList(ids)}::text::bigint[]) AS w (id)
      CROSS JOIN LATERAL (
        SELECT v.event_id
        FROM movement v
        WHERE v.mark_id = w.id
        ORDER BY v.event_id DESC, v.id DESC
        LIMIT 1
      ) l
      JOIN event e ON e.id = l.event_id
      LEFT JOIN partner t ON t.id = e.partner_id
  `;
  return new Map(rows.map(({ mark, ...gone }) => [mark, gone]));
}
