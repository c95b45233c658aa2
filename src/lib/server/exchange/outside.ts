import type { OutsideEvent } from '../../core/exchange/outside-event.ts';
import type { Direction } from '../../core/trace/graph.ts';
import type { Db } from '../kernel/db/client.ts';
import { epcsOfMarks } from './capture.ts';
import { namedSenders } from './senders.ts';

const MOST = 500,
  MOST_MARKS = 5000;

/**
 * What other firms told of these marks and, along their own transformations and packings, of what
 * theirs were made of or became: as far as their events reach.
 */
export async function readOutside(
  db: Db,
  marks: readonly number[],
  direction: Direction
): Promise<OutsideEvent[]> {
  const [any] = await db`SELECT FROM foreign_event LIMIT 1`;
  if (!any || marks.length === 0) return [];
  const epcs = await epcsOfMarks(db, marks.slice(0, MOST_MARKS));
  const markOf = new Map([...epcs].map(([mark, epc]) => [epc, mark]));
  // Upstream from what came out of an event to what went in, downstream the other way; what an
  // event only observes goes through it unchanged.
  const [from, to] =
    direction === 'upstream'
      ? [
          ['output', 'epc', 'parent', 'child'],
          ['input', 'epc', 'parent', 'child']
        ]
      : [
          ['input', 'epc', 'parent', 'child'],
          ['output', 'epc', 'parent', 'child']
        ];
  const rows = await db<
    {
      id: number;
      type: string;
      at: Date;
      bizStep: string | null;
      location: string | null;
      sender: string;
      names: OutsideEvent['names'];
    }[]
  >`
    WITH RECURSIVE along (epc) AS (
      SELECT unnest(${[...epcs.values()]}::text[])
      UNION
      SELECT n.epc
      FROM along a
        JOIN foreign_epc f ON f.epc = a.epc AND f.role = ANY(${from})
        JOIN foreign_epc n ON n.foreign_id = f.foreign_id
          AND n.role = ANY(${to})
          AND (n.role IN ('input', 'output') OR f.role <> n.role)
    )
    SELECT e.id, e.type, e.event_time AS at, e.biz_step AS "bizStep",
      coalesce(e.biz_location, e.read_point) AS location, e.sender,
      (
        SELECT json_agg(
          json_build_object(
            'role', x.role, 'epc', x.epc, 'quantity', x.quantity::text, 'uom', x.uom
          ) ORDER BY x.role,
            x.epc
        )
        FROM (SELECT * FROM foreign_epc x WHERE x.foreign_id = e.id LIMIT 50) x
      ) AS names
    FROM foreign_event e
    WHERE e.id IN (SELECT f.foreign_id FROM along a JOIN foreign_epc f ON f.epc = a.epc)
    ORDER BY e.event_time, e.id
    LIMIT ${MOST}
  `;
  const named = await namedSenders(db);
  return rows.map(({ at, sender, ...row }) => ({
    ...row,
    sender: named(sender),
    at: at.toISOString(),
    ours: [...new Set(row.names.flatMap((one) => markOf.get(one.epc) ?? []))]
  }));
}
