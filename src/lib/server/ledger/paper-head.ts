import type { Language } from '../../core/papers/language.ts';
import type { Db } from '../kernel/db/client.ts';
import { zoneOfEvent } from '../kernel/db/zones.ts';

/** What stands at the head of a paper of one event with a partner. */
export interface PaperHead {
  event: number;
  document: string;
  /** Their paper. */
  reference: string | null;
  partner: string;
  partnerCode: string;
  /** Where it goes, and to whom; empty where nobody said. */
  toAddress: string;
  contact: string;
  /** The one they read. */
  language: Language;
  at: Date;
  bookedAt: Date;
  who: string;
  zone: string;
}

/** The head of an event's paper; undefined where the event is of another kind or has no partner. */
export async function readPaperHead(
  db: Db,
  event: number,
  kind: 'ship' | 'receive'
): Promise<PaperHead | undefined> {
  const [head] = await db<PaperHead[]>`
    SELECT e.id AS event, paper_number(e.id) AS document, e.reference, t.name AS partner,
      t.code AS "partnerCode", t.address AS "toAddress", t.contact, t.language,
      e.happened_at AS at, e.booked_at AS "bookedAt", w.name AS who,
      coalesce(${zoneOfEvent(db)}, 'UTC') AS zone
    FROM event e
      JOIN person w ON w.id = e.booked_by
      JOIN partner t ON t.id = e.partner_id
    WHERE e.id = ${event} AND e.kind = ${kind}
  `;
  return head;
}
