import { continueNumbers } from '../../core/numbers/continue.ts';
import type { Db } from '../kernel/db/client.ts';

const FIRST = { purchase: 'PO-1001', work: 'WO-1001', sales: 'SO-1001' } as const;

/**
 * A proposal for the next order's number: the one after the latest entered. Only a proposal; the
 * number itself must be new.
 */
export async function nextOrderNumber(db: Db, kind: keyof typeof FIRST): Promise<string> {
  const [latest] = await db<
    { number: string }[]
  >`SELECT number FROM trade_order WHERE kind = ${kind} ORDER BY id DESC LIMIT 1`;
  return (latest && continueNumbers(latest.number, 1)[0]) ?? FIRST[kind];
}
