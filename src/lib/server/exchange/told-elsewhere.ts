import type { EpcRole } from '../../core/exchange/read.ts';
import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { canonical, marksOfEpcs } from './capture.ts';
import { namedSenders } from './senders.ts';

/** An event of another firm that names certain goods. */
export interface ToldElsewhere {
  id: number;
  type: string;
  at: string;
  bizStep: string | null;
  location: string | null;
  sender: string;
  names: { role: EpcRole; epc: string; quantity: string | null; mark: number | null }[];
}

interface Row extends Omit<ToldElsewhere, 'at' | 'names'> {
  at: Date;
  names: Omit<ToldElsewhere['names'][number], 'mark'>[];
  total: number;
}

/**
 * What other firms told of goods, the earliest first: the first two hundred events, and how many
 * there are. Goods of ours that they name lead to their marks.
 * @param epc an identifier, in any form the standard has for it
 */
export async function readToldElsewhere(db: Db, epc: string): Promise<Listed<ToldElsewhere>> {
  const rows = await db<Row[]>`
    SELECT e.id, e.type, e.event_time AS at, e.biz_step AS "bizStep",
      coalesce(e.biz_location, e.read_point) AS location, e.sender,
      count(*) OVER ()::int AS total,
      (
        SELECT json_agg(
          json_build_object('role', x.role, 'epc', x.epc, 'quantity', x.quantity::text)
          ORDER BY x.role, x.epc
        )
        FROM (SELECT * FROM foreign_epc x WHERE x.foreign_id = e.id ORDER BY role, epc LIMIT 50) x
      ) AS names
    FROM foreign_event e
    WHERE e.id IN (SELECT f.foreign_id FROM foreign_epc f WHERE f.epc = ${canonical(epc)})
    ORDER BY e.event_time, e.id
    LIMIT 200
  `;
  const named = await namedSenders(db);
  const epcs = [...new Set(rows.flatMap((row) => row.names.map((one) => one.epc)))];
  const marks = await marksOfEpcs(db, epcs);
  return mapListed(listed(rows), ({ at, sender, names, ...row }) => ({
    ...row,
    at: at.toISOString(),
    sender: named(sender),
    names: names.map((one) => ({ ...one, mark: marks.get(one.epc) ?? null }))
  }));
}
