import { numberKey } from '../../../core/numbers/number.ts';
import type { Db } from '../../kernel/db/client.ts';
import { notFound } from '../../kernel/problem.ts';

/** A transfer without its goods; sites by code and name. */
export interface TransferHead {
  id: number;
  document: string;
  from: string;
  fromName: string;
  to: string;
  toName: string;
  /** Code of its own place, where what is under way stands. */
  way: string;
  openedAt: string;
  openedBy: string;
}

/** A transfer by its document; null where there is none. */
export async function findTransfer(db: Db, document: string): Promise<TransferHead | null> {
  const [row] = await db<TransferHead[]>`
    SELECT t.id, t.document, a.code AS from, a.name AS "fromName", b.code AS to,
      b.name AS "toName", c.code AS way, to_json(t.opened_at) #>> '{}' AS "openedAt",
      p.name AS "openedBy"
    FROM transfer t
      JOIN site a ON a.id = t.from_site_id
      JOIN site b ON b.id = t.to_site_id
      JOIN place c ON c.id = t.place_id
      JOIN person p ON p.id = t.opened_by
    WHERE upper(t.document) = ${numberKey(document)}
  `;
  return row ?? null;
}

/** @throws Problem 404 */
export const readTransferHead = async (db: Db, document: string): Promise<TransferHead> =>
  (await findTransfer(db, document)) ?? notFound('transfer', document);
