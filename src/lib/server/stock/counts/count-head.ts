import type { CountScope } from '../../../core/stock/count-entries.ts';
import { numberKey } from '../../../core/numbers/number.ts';
import type { Db } from '../../kernel/db/client.ts';
import { notFound } from '../../kernel/problem.ts';

export type CountState = 'open' | 'approved' | 'cancelled';

/** A count without its lines. */
export interface CountHead {
  id: number;
  document: string;
  blind: boolean;
  state: CountState;
  openedAt: string;
  openedBy: string;
  endedAt: string | null;
  endedBy: string | null;
  reason: string | null;
  event: number | null;
  places: {
    id: number;
    code: string;
    name: string;
    siteName: string;
    doneAt: string | null;
    doneBy: string | null;
  }[];
  /** Products it counts, or lots of them; empty where it counts all. */
  products: { id: number; code: string; lotId: number | null; lot: string | null }[];
}

/** The state of a count `k`. */
export const stateOf = (db: Db) => db`
  CASE
    WHEN k.approved_at IS NOT NULL THEN 'approved'
    WHEN k.cancelled_at IS NOT NULL THEN 'cancelled'
    ELSE 'open'
  END
`;

/** Whether the figures of the ledger are kept from who counts. */
export const isHidden = ({ blind, state }: CountHead): boolean => blind && state === 'open';

/** A count by its document. @throws Problem 404 */
export async function readCountHead(db: Db, document: string): Promise<CountHead> {
  const [row] = await db<CountHead[]>`
    SELECT k.id, k.document, k.blind, ${stateOf(db)} AS state,
      to_json(k.opened_at) #>> '{}' AS "openedAt", o.name AS "openedBy",
      to_json(coalesce(k.approved_at, k.cancelled_at)) #>> '{}' AS "endedAt",
      n.name AS "endedBy", k.reason, k.approved_event AS event,
      (
        SELECT json_agg(
          json_build_object(
            'id', c.id, 'code', c.code, 'name', c.name, 'siteName', t.name,
            'doneAt', p.done_at, 'doneBy', d.name
          ) ORDER BY c.code
        )
        FROM count_place p
          JOIN place c ON c.id = p.place_id
          JOIN site t ON t.id = c.site_id
          LEFT JOIN person d ON d.id = p.done_by
        WHERE p.count_id = k.id
      ) AS places,
      coalesce(
        (
          SELECT json_agg(
            json_build_object(
              'id', q.id, 'code', q.code, 'lotId', l.id, 'lot', l.number
            ) ORDER BY q.code, l.number
          )
          FROM count_product w
            JOIN product q ON q.id = w.product_id
            LEFT JOIN mark l ON l.id = w.lot_id
          WHERE w.count_id = k.id
        ),
          '[]'
      ) AS products
    FROM stock_count k
      JOIN person o ON o.id = k.opened_by
      LEFT JOIN person n ON n.id = coalesce(k.approved_by, k.cancelled_by)
    WHERE upper(k.document) = ${numberKey(document)}
  `;
  return row ?? notFound('count', document);
}

/** What a count counts, as entries are read by it. */
export function scopeOf({ document, places, products }: CountHead): CountScope {
  const lots = new Map<number, Set<number> | 'all'>();
  for (const { id, lotId } of products) {
    const there = lots.get(id);
    if (lotId === null || there === 'all') lots.set(id, 'all');
    else lots.set(id, (there ?? new Set()).add(lotId));
  }
  return { document, places: new Set(places.map((place) => place.id)), products: lots };
}
