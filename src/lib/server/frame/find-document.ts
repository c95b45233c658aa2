import { numberKey, readNumber } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { SCREEN_OF_ORDER } from './find.ts';

/**
 * Where the document of exactly this number is seen: an order, a service job, or an event by its
 * document. A sheet
 * that takes scans asks it, so that a document typed over a sheet opens and is not taken as a
 * serial. Null where the text names none, and where a mark bears it too: then it means the mark.
 */
export async function findDocument(db: Db, text: string): Promise<{ href: string } | null> {
  if (!readNumber(text).ok) return null;
  const key = numberKey(text);
  const [[order], [job], [event], [mark]] = await Promise.all([
    db<{ kind: string; number: string }[]>`
      SELECT kind, number
      FROM trade_order
      WHERE upper(number) = ${key}
      LIMIT 1
    `,
    db<{ number: string }[]>`SELECT number FROM service_job WHERE upper(number) = ${key}`,
    db<{ id: number }[]>`
      SELECT id
      FROM event
      WHERE upper(document) = ${key}
      ORDER BY id DESC
      LIMIT 1
    `,
    db`
      SELECT
      FROM mark
      WHERE number_key = ${key}
      LIMIT 1
    `
  ]);
  if (mark) return null;
  if (order) return { href: `${SCREEN_OF_ORDER[order.kind]}/${encodeURIComponent(order.number)}` };
  if (job) return { href: `/service/${encodeURIComponent(job.number)}` };
  return event ? { href: `/events/${event.id}` } : null;
}
