import type { Db, Sql } from '../kernel/db/client.ts';

/** A message as a mail server takes it. */
export interface Mail {
  from: string;
  to: string;
  subject: string;
  text: string;
}

/** Tries of one message; then somebody has to look. */
export const MOST_TRIES = 5;
/** Messages of one round. */
const AT_ONCE = 50;

interface Waiting {
  id: number;
  address: string;
  subject: string;
  body: string;
}

/**
 * Sends what waits in the outbox, each message once: while somebody sends nobody else does. What is refused keeps why, and is tried again, five times in all.
 * @param send hands one mail to the server; throws where it is refused
 * @returns how many were sent
 */
export async function deliverMessages(
  sql: Sql,
  from: string,
  send: (mail: Mail) => Promise<unknown>
): Promise<number> {
  let sent = 0;
  for (let n = 0; n < AT_ONCE; n++) {
    const went = await deliverNext(sql, from, send);
    if (went === null) break;
    if (went) sent++;
  }
  return sent;
}

/** @returns null where nothing waits, or whether it was taken */
async function deliverNext(
  sql: Sql,
  from: string,
  send: (mail: Mail) => Promise<unknown>
): Promise<boolean | null> {
  return sql.begin(async (tx) => {
    const [turn] = await tx<[{ mine: boolean }]>`
      SELECT pg_try_advisory_xact_lock(hashtextextended('mail', 0)) AS mine
    `;
    if (!turn.mine) return null;
    const [waiting] = await tx<Waiting[]>`
      SELECT m.id, m.address, m.subject, m.body
      FROM service_message m
      WHERE NOT EXISTS (
          SELECT FROM service_delivery d WHERE d.message_id = m.id AND d.refused IS NULL
        )
        AND (SELECT count(*) FROM service_delivery d WHERE d.message_id = m.id) < ${MOST_TRIES}
        AND NOT EXISTS (
          SELECT
          FROM service_delivery d
          WHERE d.message_id = m.id AND d.at > clock_timestamp() - interval '1 minute'
        )
      ORDER BY m.id
      LIMIT 1
    `;
    if (!waiting) return null;
    const { id, address, subject, body } = waiting;
    let refused: string | null = null;
    try {
      await send({ from, to: address, subject, text: body });
    } catch (error) {
      refused = (error as Error).message.slice(0, 500);
    }
    await tx`INSERT INTO service_delivery (message_id, refused) VALUES (${id}, ${refused})`;
    return refused === null;
  });
}

/** What became of the messages of a job, by their ids: sent, refused with why, or waiting. */
export async function readDeliveries(
  db: Db,
  job: number
): Promise<Map<number, { sent: boolean; refused: string | null }>> {
  const rows = await db<{ message: number; refused: string | null }[]>`
    SELECT DISTINCT ON (d.message_id) d.message_id AS message, d.refused
    FROM service_delivery d
      JOIN service_message m ON m.id = d.message_id
    WHERE m.job_id = ${job}
    ORDER BY d.message_id, d.id DESC
  `;
  return new Map(
    rows.map(({ message, refused }) => [message, { sent: refused === null, refused }])
  );
}
